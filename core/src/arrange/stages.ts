/**
 * The stages, in their order: what each reads of the decisions, which facts it needs, and what it gives. A new
 * capability is a slice (`decisions.ts`), a line here, and a pure function in its folder; see
 * docs/adding-a-capability.md.
 */
import {
  bowTuneWithWays,
  countsOf,
  slurredInto,
  travelOf,
  type BowPlanner,
  type Bowing,
  type Counts,
  type Travelling,
} from '../bow/index.ts';
import { analyseForm, formLike, isTooLongToPart, layoutOf, type Form } from '../form/index.ts';
import { breachesOf, checkOf, limitsOf, type Breach, type Change, type Check } from '../grade/index.ts';
import { companionLine, type CompanionLine } from '../ensemble/index.ts';
import { handFor, type Hand, type Fingering } from '../hand/index.ts';
import { keyStage, type Instrument, type TensionReport, type Tuning } from '../instrument/index.ts';
import { signedTune, workingTempo, type Bpm, type Tune } from '../music/index.ts';
import { stageOf } from '../stage/index.ts';
import type { Decisions } from './decisions.ts';
import { handLimitsOf } from '../version/index.ts';
import { asFingered } from './staff.ts';
import { bowUnder } from '../version/index.ts';
import { versionOf, type GradedFacts, type Round } from '../version/index.ts';

/** What there is before anything is worked out. */
export interface Given {
  /** The tune as it was brought in. */
  readonly source: Tune;
  /** Which time round is looked at, from 1: phrases may change when they come again. */
  readonly timeRound: number;
}

/** Everything that is worked out for an arrangement, and what it is worked out from. */
export interface Facts extends Given {
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tension: TensionReport;
  /** The whole tune in its key. */
  readonly inKey: Tune;
  /** In its key and version. */
  readonly plain: Tune;
  /** With the accents and length signs that were decided as well. */
  readonly tune: Tune;
  /** What the bare version leaves out. */
  readonly changes: readonly Change[];
  /** What a grade's version changes, and how much of the tune it is; null where no grade was asked for. */
  readonly graded: GradedFacts | null;
  /** What goes with the tune in its place; null where it is the tune that is played. */
  readonly line: CompanionLine | null;
  /** The first and each other time round, where phrases change when they come again; none where they do not. */
  readonly rounds: readonly Round[];
  /** What the arrangement, as it is fingered and bowed, breaks of its grade's contract. */
  readonly breaches: readonly Breach[];
  readonly form: Form;
  readonly tempo: Bpm;
  /** What is said on each note and rest. */
  readonly counts: Counts;
  readonly bowing: Bowing;
  /** Written notes that are on the stroke of the one before: all that the left hand asks of the bow. */
  readonly slurred: ReadonlySet<string>;
  /** The bow, open to questions. */
  readonly planner: BowPlanner;
  /** The left hand, open to questions. */
  readonly hand: Hand;
  readonly fingering: Fingering;
  /** The tune as the staff shows it: another only where strings are retuned and it is written as fingered. */
  readonly staff: Tune;
  /** Where on the hair each stroke lies: worked out when it is first asked for, and once. */
  readonly travel: () => Travelling;
  /** Notes that cannot be played as they are written. */
  readonly check: Check;
}

const stage = stageOf<Decisions, Facts>();

/** The plan costs more than everything else of a change, and most changes are made where nobody looks at it. */
function once<Value>(work: () => Value): () => Value {
  let known: { readonly value: Value } | null = null;
  return () => (known ??= { value: work() }).value;
}

/** A pattern sets no accent where the teacher has set the signs of the note. */
function withoutAccents(bowing: Bowing, { strokeSigns }: Decisions['signs']): Bowing {
  const kept = [...bowing.accents].filter((note) => strokeSigns[note] === undefined);
  return kept.length === bowing.accents.size ? bowing : { ...bowing, accents: new Set(kept) };
}

const NO_BREACHES: readonly Breach[] = [];
const NO_CHANGES: readonly Change[] = [];
const NO_ROUNDS: readonly Round[] = [];
export const STAGES = [
  stage('key', ['key'], ['source'], ({ key }, { source }) => keyStage(key, source)),
  stage('pace', ['pace'], ['source'], ({ pace }, { source }) => ({ tempo: workingTempo(source, pace.tempo) })),
  stage(
    'version',
    ['version'],
    ['inKey', 'instrument', 'tuning', 'tempo', 'timeRound'],
    ({ version }, { inKey, instrument, tuning, tempo, timeRound }) => {
      const context = { tune: inKey, instrument, tuning, tempo };
      const limits = limitsOf(version, instrument.hand);
      if (!version.line || !limits) return { ...versionOf(version, context, timeRound), line: null };
      const line = companionLine(version.line, { ...context, limits }, version.chosen);
      return { plain: line.tune, changes: NO_CHANGES, graded: null, rounds: NO_ROUNDS, line };
    },
  ),
  stage('signs', ['signs'], ['plain'], ({ signs }, { plain }) => ({ tune: signedTune(plain, signs) })),
  // A version has the phrases of its tune, however little of them it keeps. Held phrases are in the tune itself.
  stage('form', [], ['inKey', 'plain'], (_, { inKey, plain }) => ({
    form: plain === inKey || isTooLongToPart(plain) ? analyseForm(plain) : formLike(plain, layoutOf(inKey)),
  })),
  stage('counts', ['bow'], ['tune'], ({ bow }, { tune }) => ({ counts: countsOf(tune, bow.counting) }), ['counts']),
  // Before the hand: a slur that is chosen changes fingers.
  stage(
    'strokes',
    ['bow', 'signs', 'version'],
    ['tune', 'form', 'tempo', 'instrument'],
    ({ bow, signs, version }, { tune, form, tempo, instrument }) => {
      const limits = limitsOf(version, instrument.hand);
      const { bowing, planner } = bowTuneWithWays(tune, form, limits ? bowUnder(bow, limits) : bow, tempo);
      return { bowing: withoutAccents(bowing, signs), planner, slurred: slurredInto(bowing) };
    },
    ['slurred'],
  ),
  stage(
    'hand',
    ['hand', 'version'],
    ['tune', 'form', 'slurred', 'instrument', 'tuning', 'tempo'],
    ({ hand: decided, version }, { tune, form, slurred, instrument, tuning, tempo }) => {
      const limits = limitsOf(version, instrument.hand);
      const hand = handFor(tune, form, {
        ...decided,
        instrument,
        tuning,
        tempo,
        ...(limits && { grade: { by: 'grade', name: `grade ${version.grade}`, limits: handLimitsOf(limits) } }),
        slurred,
      });
      return { hand, fingering: hand.fingering };
    },
  ),
  stage(
    'staff',
    ['staff'],
    ['tune', 'fingering', 'instrument', 'tuning'],
    ({ staff }, { tune, fingering, instrument, tuning }) => ({
      staff: staff.pitch === 'fingered' ? asFingered(tune, { fingering, instrument, tuning }) : tune,
    }),
  ),
  stage(
    'travel',
    ['bow'],
    ['bowing', 'tune', 'form', 'tempo', 'instrument'],
    ({ bow }, { bowing, tune, form, tempo, instrument }) => ({
      travel: once(() => travelOf(bowing, tune, form, tempo, instrument, bow)),
    }),
  ),
  stage(
    'check',
    ['version'],
    ['fingering', 'tune', 'form', 'bowing', 'tempo', 'tuning', 'instrument'],
    ({ version }, { fingering, tune, form, bowing, tempo, tuning, instrument }) => {
      const limits = limitsOf(version, instrument.hand);
      return {
        check: checkOf(fingering),
        breaches: limits ? breachesOf({ tune, form, fingering, bowing, tempo, tuning }, limits) : NO_BREACHES,
      };
    },
  ),
] as const;
export type StageName =
  | 'key'
  | 'version'
  | 'signs'
  | 'form'
  | 'pace'
  | 'counts'
  | 'strokes'
  | 'hand'
  | 'staff'
  | 'travel'
  | 'check';

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
import { checkOf, versionStage, type Change, type Check } from '../grade/index.ts';
import { Hand, type Fingering } from '../hand/index.ts';
import { keyStage, type Instrument, type TensionReport, type Tuning } from '../instrument/index.ts';
import { signedTune, workingTempo, type Bpm, type Tune } from '../music/index.ts';
import { stageOf } from '../stage/index.ts';
import type { Decisions } from './decisions.ts';

/** Everything that is worked out for an arrangement, and the tune as it was brought in. */
export interface Facts {
  readonly source: Tune;
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tension: TensionReport;
  /** The whole tune in its key. */
  readonly inKey: Tune;
  /** In its key and version. */
  readonly plain: Tune;
  /** With the accents and length signs that were decided as well. */
  readonly tune: Tune;
  /** What the version leaves out. */
  readonly changes: readonly Change[];
  readonly form: Form;
  readonly tempo: Bpm;
  /** What is said on each note and rest. */
  readonly counts: Counts;
  readonly bowing: Bowing;
  /** The bow, open to questions. */
  readonly planner: BowPlanner;
  /** The left hand, open to questions. */
  readonly hand: Hand;
  readonly fingering: Fingering;
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

export const STAGES = [
  stage('key', ['key'], ['source'], ({ key }, { source }) => keyStage(key, source)),
  stage('version', ['version'], ['inKey'], ({ version }, { inKey }) => {
    const { tune: plain, changes } = versionStage(version, inKey);
    return { plain, changes };
  }),
  stage('signs', ['signs'], ['plain'], ({ signs }, { plain }) => ({ tune: signedTune(plain, signs) })),
  // A version has the phrases of its tune, however little of them it keeps. Held phrases are in the tune itself.
  stage('form', [], ['inKey', 'plain'], (_, { inKey, plain }) => ({
    form: plain === inKey || isTooLongToPart(plain) ? analyseForm(plain) : formLike(plain, layoutOf(inKey)),
  })),
  stage('pace', ['pace'], ['source'], ({ pace }, { source }) => ({ tempo: workingTempo(source, pace.tempo) })),
  stage('counts', ['bow'], ['tune'], ({ bow }, { tune }) => ({ counts: countsOf(tune, bow.counting) })),
  // Before the hand: a slur that is chosen changes fingers.
  stage('strokes', ['bow', 'signs'], ['tune', 'form', 'tempo'], ({ bow, signs }, { tune, form, tempo }) => {
    const { bowing, planner } = bowTuneWithWays(tune, form, bow, tempo);
    return { bowing: withoutAccents(bowing, signs), planner };
  }),
  stage(
    'hand',
    ['hand'],
    ['tune', 'form', 'bowing', 'instrument', 'tuning', 'tempo'],
    ({ hand: decided }, { tune, form, bowing, instrument, tuning, tempo }) => {
      const hand = new Hand(tune, form, { ...decided, instrument, tuning, tempo, slurred: slurredInto(bowing) });
      return { hand, fingering: hand.fingering };
    },
  ),
  stage(
    'travel',
    ['bow'],
    ['bowing', 'tune', 'form', 'tempo', 'instrument'],
    ({ bow }, { bowing, tune, form, tempo, instrument }) => ({
      travel: once(() => travelOf(bowing, tune, form, tempo, instrument, bow)),
    }),
  ),
  stage('check', [], ['fingering'], (_, { fingering }) => ({ check: checkOf(fingering) })),
] as const;
export type StageName =
  'key' | 'version' | 'signs' | 'form' | 'pace' | 'counts' | 'strokes' | 'hand' | 'travel' | 'check';

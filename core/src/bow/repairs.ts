/**
 * What brings the bow back where it runs out or a stroke sticks out: a pattern in the second half of the bars, a stop
 * in each dotted figure, shorter strokes, a slur, a lift. Each is tried out, and only what works is offered. Section 5 of the domain.
 */
import type { Bpm, Tune } from '../music/index.ts';
import type { Instrument } from '../instrument/index.ts';
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import type { BowDecisions } from './slice.ts';
import { bowTune, type Bowing } from './strokes.ts';
import { driftOf, travelOf, type TravelFlag } from './travel.ts';
import { finished } from '../stage/index.ts';

export const REPAIRS = ['pattern', 'stop', 'shorter', 'slur', 'lift'] as const;
export type RepairKind = (typeof REPAIRS)[number];

export interface BowRepair {
  readonly kind: RepairKind;
  /** For a pattern, its id. */
  readonly pattern: string | null;
  /** For shorter strokes, the share of their natural length. */
  readonly share: number | null;
  /** Where the slur or the lift is. */
  readonly note: string | null;
  /** It reaches over the whole tune; else over the phrase of the warning. */
  readonly everywhere: boolean;
  readonly change: Partial<BowDecisions>;
}

export interface RepairContext {
  readonly tune: Tune;
  readonly form: Form;
  readonly tempo: Bpm;
  readonly instrument: Pick<Instrument, 'hair'>;
}

/** Shorter strokes that are tried, the longest first. */
const SHARES = [0.75, 0.6, 0.5, 0.4];
/** Patterns that are tried, the usual first. */
const PATTERNS_TRIED = ['one-and-three', 'pairs', 'pairs-across', 'two-and-one', 'two-and-two', 'three-and-one'];
/** Slurs that are tried, the nearest before the warning first. */
const SLURS_TRIED = 16;
/** Beginnings of phrases at which a lift is tried, the nearest first. */
const LIFTS_TRIED = 8;

/**
 * Repairs for a warning of the travel, each proved to work: the bow no longer runs out up to the end of the phrase;
 * the stroke no longer sticks out, and no other does that did not.
 * @example bowRepairs({ ...facts, tempo: 120 }, facts.decisions.bow, { kind: 'sticks-out', note: 'n1', time: 1 }) // []
 */
export function bowRepairs(context: RepairContext, decided: BowDecisions, flag: TravelFlag): readonly BowRepair[] {
  return finished(bowRepairSteps(context, decided, flag));
}

/**
 * The same in steps, as in a long tune it takes a while; each gives the share that is done.
 * @example bowRepairSteps({ ...facts, tempo: 120 }, facts.decisions.bow, { kind: 'sticks-out', note: 'n1', time: 1 }).next().done // true
 */
export function* bowRepairSteps(
  context: RepairContext,
  decided: BowDecisions,
  flag: TravelFlag,
): Generator<number, readonly BowRepair[]> {
  const phrase = phrasesOf(context.form).find(({ notes }) => notes.includes(flag.note));
  const works = phrase && judgeOf(context, decided, flag, phrase);
  if (!works) return [];
  const families = familiesOf(context, decided, flag, phrase);
  const helped = new Set<readonly BowRepair[]>();
  const found: BowRepair[] = [];
  for (const [index, { candidates, insteadOf }] of families.entries()) {
    if (insteadOf && helped.has(insteadOf)) continue;
    for (const repair of candidates) {
      yield index / families.length;
      if (!works(repair.change)) continue;
      found.push(repair);
      helped.add(candidates);
      break;
    }
  }
  return found;
}

/** Repairs of one kind, the usual first: of each the first that works is offered. */
interface Family {
  readonly candidates: readonly BowRepair[];
  /** Tried only where these do not help. */
  readonly insteadOf?: readonly BowRepair[];
}

function familiesOf(
  { tune, form }: RepairContext,
  decided: BowDecisions,
  flag: TravelFlag,
  phrase: Phrase,
): readonly Family[] {
  const stretches = [
    { everywhere: false, from: phrase.notes[0]!, to: phrase.notes.at(-1)! },
    { everywhere: true, ...wholeOf(tune) },
  ];
  const spread = stretches.flatMap(({ everywhere, from, to }): Family[] => {
    const base = { pattern: null, share: null, note: null, everywhere };
    const patterns = PATTERNS_TRIED.map((id): BowRepair => ({
      ...base,
      kind: 'pattern',
      pattern: id,
      change: { laid: [...decided.laid, { from, to, pattern: id, secondHalf: true }] },
    }));
    const shorts = dottedShorts(tune, from, to).filter((note) => decided.slurs[note] === undefined);
    const joints = { ...decided.joints, ...Object.fromEntries(shorts.map((note) => [note, 'stop' as const])) };
    const stops: readonly BowRepair[] = shorts.length > 0 ? [{ ...base, kind: 'stop', change: { joints } }] : [];
    const shorter = (one: BowRepair, shares: readonly number[]) =>
      shares.map((share) => ({
        ...one,
        share,
        change: { ...one.change, lengths: [...decided.lengths, { from, to, share }] },
      }));
    // Where one alone does not help, with strokes a little shorter as well.
    const both = (candidates: readonly BowRepair[]): Family => ({
      candidates: candidates.flatMap((one) => shorter(one, SHARES.slice(0, 2))),
      insteadOf: candidates,
    });
    return [
      { candidates: patterns },
      { candidates: stops },
      { candidates: shorter({ ...base, kind: 'shorter', change: {} }, SHARES) },
      both(patterns),
      both(stops),
    ];
  });
  const base = { pattern: null, share: null, everywhere: false };
  const slurs = notesBefore(phrase, flag.note)
    .filter((note) => decided.slurs[note] === undefined && decided.turns[note] === undefined)
    .slice(0, SLURS_TRIED)
    .map((note): BowRepair => ({
      ...base,
      kind: 'slur',
      note,
      change: { slurs: { ...decided.slurs, [note]: 'joined' } },
    }));
  const phrases = phrasesOf(form);
  const lifts = phrases
    .slice(0, phrases.indexOf(phrase) + 1)
    .slice(-LIFTS_TRIED)
    .flatMap(({ notes }) => notes.slice(0, 1))
    .reverse()
    .map((note): BowRepair => ({
      ...base,
      kind: 'lift',
      note,
      change: { joints: { ...decided.joints, [note]: 'lift' } },
    }));
  return [...spread, { candidates: slurs }, { candidates: lifts }];
}

function wholeOf({ bars }: Tune): { readonly from: string; readonly to: string } {
  const notes = bars.flatMap(({ events }) => events).filter(({ kind }) => kind === 'note');
  return { from: notes[0]!.id, to: notes.at(-1)!.id };
}

/** Short notes that follow one three times as long, within a bar. */
function dottedShorts({ bars }: Tune, from: string, to: string): readonly string[] {
  let inside = false;
  return bars.flatMap(({ events }) =>
    events.flatMap((event, index) => {
      if (event.id === from) inside = true;
      const before = events[index - 1];
      const found =
        inside && event.kind === 'note' && before?.kind === 'note' && before.duration === 3 * event.duration;
      if (event.id === to) inside = false;
      return found ? [event.id] : [];
    }),
  );
}

/** Notes of a phrase up to one, the nearest first; then those after it. */
function notesBefore({ notes }: Phrase, note: string): readonly string[] {
  const at = notes.indexOf(note);
  return [...notes.slice(1, at + 1).reverse(), ...notes.slice(at + 1)];
}

/** Whether a change of the decisions removes the warning and brings no worse; null where there is nothing to remove. */
function judgeOf(
  { tune, form, tempo, instrument }: RepairContext,
  decided: BowDecisions,
  flag: TravelFlag,
  phrase: Phrase,
): ((change: Partial<BowDecisions>) => boolean) | null {
  const { hair } = instrument;
  const under = (change: Partial<BowDecisions>) => {
    const next = { ...decided, ...change };
    const bowing = bowTune(tune, form, next, tempo);
    return { bowing, next, noTime: bowing.flags.filter(({ kind }) => kind === 'no-time').length };
  };
  const before = under({});
  if (flag.kind === 'out-of-bow') {
    const runsOut = ({ bowing, next }: ReturnType<typeof under>) =>
      isOut(bowing, driftOf(bowing, tune, tempo, hair, next), hair, phrase, flag.time);
    if (!runsOut(before)) return null;
    return (change) => {
      const after = under(change);
      return after.noTime <= before.noTime && !runsOut(after);
    };
  }
  const stick = ({ bowing, next }: ReturnType<typeof under>) =>
    travelOf(bowing, tune, form, tempo, instrument, next).flags.filter(({ kind }) => kind === 'sticks-out');
  const known = stick(before);
  if (!known.some(({ note, time }) => note === flag.note && time === flag.time)) return null;
  return (change) => {
    const after = under(change);
    if (after.noTime > before.noTime) return false;
    const left = stick(after);
    return left.length < known.length && !left.some(({ note, time }) => note === flag.note && time === flag.time);
  };
}

/** Whether the bow is off the hair within a phrase, the time round that the warning is about. */
function isOut(
  { strokes }: Pick<Bowing, 'strokes'>,
  drift: ReturnType<typeof driftOf>,
  hair: number,
  phrase: Phrase,
  time: number,
): boolean {
  const inPhrase = new Set(phrase.notes);
  return strokes.some((stroke, index) => {
    const { end } = drift[index]!;
    const off = end < -1e-9 || end > hair + 1e-9;
    return off && stroke.time === time && stroke.notes.some((note) => inPhrase.has(note));
  });
}

/**
 * Phrase by phrase: how it lies an octave up or down, and whether it echoes on the other pair of strings. Where two
 * pairs are tuned an octave apart, what stays on one of them is played on the other with the same fingers.
 */
import { analyseForm, phrasesOf, type Phrase } from '../form/index.ts';
import { POSITIONS, fingerTune, levelOf, type FingeredNote, type HandSetup, type Locks } from '../hand/index.ts';
import { slurredInto } from '../bow/index.ts';
import {
  echoId,
  endsOf,
  midi,
  octaveAway,
  withEcho,
  type NoEcho,
  type Pitch,
  type Semitones,
  type Tune,
} from '../music/index.ts';
import { phraseLine, type Arrangement } from '../arrange/index.ts';

const OCTAVE: Semitones = 12;

/** Two neighbouring strings and the two that sound an octave above them, by number from the lowest. */
export interface StringPairs {
  readonly low: readonly [number, number];
  readonly high: readonly [number, number];
}

/**
 * @returns null where no two pairs lie an octave apart
 * @example pairsOf(['A3', 'E4', 'A4', 'E5'].map(pitch)).high // [2, 3]
 */
export function pairsOf(pitches: readonly Pitch[]): StringPairs | null {
  const at = pitches.map(midi);
  const low = at.findIndex(
    (own, string) => at[string + 2] === own + OCTAVE && at[string + 3] === at[string + 1]! + OCTAVE,
  );
  return low < 0 ? null : { low: [low, low + 1], high: [low + 2, low + 3] };
}

/** Why a phrase does not echo on the other pair; notes by their pitch, each once. */
export type NoPairEcho =
  | { readonly why: 'no-pairs' }
  /** Below the lower string of the upper pair, and above what the lower pair reaches. */
  | { readonly why: 'crosses'; readonly low: readonly Pitch[]; readonly high: readonly Pitch[] }
  | { readonly why: 'double-stop' };

export interface PairEcho {
  /** Up where the phrase lies on the lower pair, down where it lies on the upper one. */
  readonly octaves: 1 | -1;
  /** String and finger of each note on its own pair, by its id. */
  readonly stops: Readonly<
    Record<
      string,
      readonly {
        readonly string: number;
        readonly finger: FingeredNote['stops'][number]['finger'];
        readonly midi: number;
      }[]
    >
  >;
  /** What leads from a string to its partner. */
  readonly strings: 2 | -2;
}

/** How a phrase lies in an octave. */
export interface PhraseOctave {
  /** From where it is in the key that is decided. */
  readonly by: -1 | 0 | 1;
  readonly fits: boolean;
  /** By the plain price list, of the phrase by itself. */
  readonly effort: number;
}

export interface PhrasePlace {
  readonly id: string;
  readonly label: string;
  /** Its first and last note or rest: what its decision goes by. */
  readonly first: string;
  readonly last: string;
  /** Down, as it is, up. */
  readonly octaves: readonly PhraseOctave[];
  readonly echo: PairEcho | NoPairEcho;
  /** Why it cannot be played once more at once, whatever the strings; null where it can. */
  readonly noEcho: NoEcho | null;
}

/** @example isEcho({ why: 'no-pairs' }) // false */
export const isEcho = (echo: PhrasePlace['echo']): echo is PairEcho => 'octaves' in echo;

/**
 * Each phrase of the arrangement, echoes that it has already left out. Gives the share that is done.
 * @example finished(phrasePlaces(arrangement)).length // 2
 */
export function* phrasePlaces(arrangement: Arrangement): Generator<number, readonly PhrasePlace[]> {
  const { inKey: tune, form, instrument, tuning, tempo, bowing, decisions } = arrangement;
  const setup: HandSetup = { ...decisions.hand, locks: {}, instrument, tuning, tempo, slurred: slurredInto(bowing) };
  const pairs = pairsOf(tuning.pitches);
  const phrases = phrasesOf(form).filter(({ notes }) => !notes.some((id) => id.startsWith(echoId(''))));
  const places: PhrasePlace[] = [];
  for (const phrase of phrases) {
    const ends = endsOf(tune, phrase);
    if (!ends) continue;
    const octaves = ([-1, 0, 1] as const).map((by) => octaveOf(octaveAway(tune, phrase, by), phrase, setup, by));
    const echo = pairs ? echoOn(pairs, phraseLine(tune, phrase), within(arrangement, phrase, setup)) : NO_PAIRS;
    const joined = withEcho(tune, phrase, -1);
    const noEcho = joined.ok ? null : joined.why;
    places.push({ id: phrase.id, label: phrase.label, ...ends, octaves, echo, noEcho });
    yield places.length / phrases.length;
  }
  return places;
}

const NO_PAIRS: NoPairEcho = { why: 'no-pairs' };

/** No further up the strings than the phrase is played anyway: a pair is not made to serve by climbing on it. */
function within({ fingering }: Arrangement, { notes }: Phrase, setup: HandSetup): HandSetup {
  const own = new Set(notes);
  const levels = fingering.notes.flatMap(({ of, position }) => (own.has(of) && position ? [levelOf(position)] : []));
  const maxPosition = POSITIONS[Math.max(POSITIONS.indexOf('I'), ...levels)]!;
  return { ...setup, limits: { ...setup.limits, maxPosition } };
}

function octaveOf(tune: Tune, phrase: Phrase, setup: HandSetup, by: PhraseOctave['by']): PhraseOctave {
  const line = phraseLine(tune, phrase);
  const { notes, totals } = fingerTune(line, analyseForm(line), setup);
  return { by, fits: notes.every(({ stops, pitches }) => stops.length === pitches.length), effort: totals.effort };
}

function echoOn(pairs: StringPairs, line: Tune, setup: HandSetup): PairEcho | NoPairEcho {
  const form = analyseForm(line);
  const on = ([first, second]: readonly [number, number]) => {
    const { instrument, tuning } = setup;
    const strings = [instrument.strings[first]!, instrument.strings[second]!];
    const pitches = [tuning.pitches[first]!, tuning.pitches[second]!];
    // An instrument of two strings: whatever can be played there stays on the pair.
    return fingerTune(line, form, {
      ...setup,
      instrument: { ...instrument, strings, tunings: [] },
      tuning: { ...tuning, pitches },
    }).notes;
  };
  const plays = (notes: readonly FingeredNote[]) =>
    notes.every(({ stops, pitches }) => stops.length === pitches.length);
  const [high, low] = [on(pairs.high), on(pairs.low)];
  if (plays(high) && high.length > 0) return { octaves: -1, strings: -2, stops: stopsOn(high, pairs.high) };
  if (plays(low) && low.length > 0) return { octaves: 1, strings: 2, stops: stopsOn(low, pairs.low) };
  const missing = (notes: readonly FingeredNote[]) =>
    distinct(notes.flatMap(({ stops, pitches }) => (pitches.length === 1 && stops.length === 0 ? pitches : [])));
  const crossing = { why: 'crosses', low: missing(high), high: missing(low) } as const;
  return crossing.low.length > 0 && crossing.high.length > 0 ? crossing : { why: 'double-stop' };
}

const stopsOn = (notes: readonly FingeredNote[], pair: readonly [number, number]): PairEcho['stops'] =>
  Object.fromEntries(
    notes.map(({ id, stops }) => [
      id,
      stops.map(({ string, finger, pitch }) => ({ string: pair[string]!, finger, midi: midi(pitch) })),
    ]),
  );

const distinct = (pitches: readonly Pitch[]): readonly Pitch[] =>
  [...new Map(pitches.map((pitch) => [midi(pitch), pitch])).values()].sort((a, b) => midi(a) - midi(b));

/**
 * What a tune of call and answer is made of: each phrase that echoes on the other pair, with its echo, both held to
 * their strings and fingers.
 * @example echoVersion(arrangement, []).phrases // {}
 */
export function echoVersion(
  { instrument, decisions }: Pick<Arrangement, 'instrument' | 'decisions'>,
  places: readonly PhrasePlace[],
): { readonly phrases: Arrangement['decisions']['key']['phrases']; readonly locks: Locks } {
  const phrases = { ...decisions.key.phrases };
  const locks: Record<string, Locks[string]> = { ...decisions.hand.locks };
  for (const { first, last, echo, noEcho } of places) {
    if (!isEcho(echo) || noEcho) continue;
    phrases[first] = { last, octaves: phrases[first]?.octaves ?? 0, echo: echo.octaves };
    for (const [id, stops] of Object.entries(echo.stops)) {
      const by = OCTAVE * echo.octaves;
      locks[id] = { instrument: instrument.id, stops };
      locks[echoId(id)] = {
        instrument: instrument.id,
        stops: stops.map(({ string, finger, midi: pitch }) => ({
          string: string + echo.strings,
          finger,
          midi: pitch + by,
        })),
      };
    }
  }
  return { phrases, locks };
}

/**
 * As sung or as played: a tune with words follows its syllables; a version may loosen that for strings. Dotted pairs
 * become even, and notes that are repeated only for another syllable are joined or varied, each change with its place.
 */
import {
  barNumbers,
  barStarts,
  beatLength,
  diatonicStep,
  isCompound,
  isStrongBeat,
  midi,
  step,
  valueOf,
  type Bar,
  type Note,
  type Pitch,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { joinWords } from './bare.ts';
import type { GradeChange, GradeChangeKind } from './changes.ts';
import { chordAt, harmonyOf, type Harmony } from '../harmony/index.ts';
import type { VersionDecisions } from './version.ts';

/** @example hasWords(reel) // false */
export const hasWords = ({ bars }: Pick<Tune, 'bars'>): boolean =>
  bars.some(({ events }) => events.some((event) => event.kind === 'note' && event.words?.some(Boolean)));

export interface Loosened {
  readonly tune: Tune;
  readonly changes: readonly GradeChange[];
}

/** A note longer than this many beats is joined no further. */
const LONGEST_JOINED = 2;

/** What can be done with two neighbours of a bar. */
interface Pair {
  readonly bar: Bar;
  readonly start: Ticks;
  readonly first: Note;
  readonly second: Note;
  readonly next: Note | null;
}

/**
 * The tune as it is played rather than sung; the very same tune where nothing is wished or nothing is sung.
 * @param kept changes that are not wanted, by their ids
 * @example loosened(reel, form, { rhythm: 'played', repeated: 'joined', kept: [] }).tune === reel // true
 */
export function loosened(
  tune: Tune,
  form: Form,
  { rhythm, repeated, kept }: Pick<VersionDecisions, 'rhythm' | 'repeated' | 'kept'>,
): Loosened {
  if ((rhythm === 'sung' && repeated === 'as-sung') || !hasWords(tune)) return { tune, changes: [] };
  const starts = barStarts(tune.bars);
  const numbers = barNumbers(tune.bars);
  const phrases = phrasesOf(form);
  const lasts = new Set(phrases.map(({ notes }) => notes.at(-1)));
  const firsts = new Set(phrases.map(({ notes }) => notes[0]));
  const harmony = harmonyOf(tune);
  const changes: GradeChange[] = [];
  const slurEnds = new Set(tune.slurs.flatMap(({ from, to }) => [from, to]));

  const bars = tune.bars.map((bar, index) => {
    const start = starts[index]!;
    const events: TuneEvent[] = [];
    const told = (kind: GradeChangeKind, id: string, pair: Pair, is: readonly Pitch[]): void => {
      const at = bar.offset + pair.first.at;
      changes.push({
        id,
        kind,
        direction: kind === 'varied' ? 'richer' : 'easier',
        rules: [],
        bar: numbers[index]!,
        beat: Math.floor(at / beatLength(bar.metre)) + 1,
        notes: [pair.first.id, pair.second.id],
        was: [topPitch(pair.first), topPitch(pair.second)],
        is,
      });
    };
    for (const [place, event] of bar.events.entries()) {
      const first = events.at(-1);
      const after = bar.events[place + 1];
      if (event.kind !== 'note' || first?.kind !== 'note' || !areFree(first, event)) {
        events.push(event);
        continue;
      }
      const pair: Pair = { bar, start, first, second: event, next: after?.kind === 'note' ? after : null };
      const id = `${bar.id}@${bar.offset + event.at}:`;
      const inOnePhrase = !lasts.has(first.id) && !firsts.has(event.id);
      const same = midi(topPitch(first)) === midi(topPitch(event));
      const joined = repeated === 'joined' && same && inOnePhrase && !slurEnds.has(event.id) ? join(pair) : null;
      const tone = repeated === 'varied' && same && inOnePhrase ? variation(pair, harmony, lasts) : null;
      const even = rhythm === 'played' && inOnePhrase ? evened(pair) : null;
      if (joined && !kept.includes(`${id}joined`)) {
        events.splice(-1, 1, joined);
        told('joined', `${id}joined`, pair, [topPitch(first)]);
      } else if (tone && !kept.includes(`${id}varied`)) {
        events.push({ ...event, heads: [{ pitch: tone }] });
        told('varied', `${id}varied`, pair, [tone]);
      } else if (even && !kept.includes(`${id}even`)) {
        events.splice(-1, 1, even[0]);
        events.push(even[1]);
        told('even', `${id}even`, pair, [topPitch(first), topPitch(event)]);
      } else events.push(event);
    }
    return { ...bar, events };
  });
  return changes.length > 0 ? { tune: { ...tune, bars }, changes } : { tune, changes };
}

const topPitch = ({ heads }: Note): Pitch => heads.at(-1)!.pitch;

/** Single notes, not tied, of no tuplet, one right after the other. */
const areFree = (first: Note, second: Note): boolean =>
  [first, second].every(({ heads, tuplet }) => heads.length === 1 && !heads[0]!.tied && !tuplet) &&
  first.at + first.duration === second.at &&
  Boolean(second.words?.some(Boolean));

/** One note in the place of two, where it can be written plainly and does not cross into the middle of a bar. */
function join({ bar, first, second }: Pair): Note | null {
  const duration = first.duration + second.duration;
  const value = valueOf(duration);
  const beat = beatLength(bar.metre);
  const at = bar.offset + first.at;
  const onBeat = at % beat === 0;
  const inBeat = Math.floor(at / beat) === Math.floor((at + duration - 1) / beat);
  const crossesMiddle = isStrongBeat(bar.offset + second.at, bar.metre) && !isStrongBeat(at, bar.metre);
  if (!value || value.dots > 1 || duration > LONGEST_JOINED * beat || crossesMiddle || !(onBeat || inBeat)) return null;
  const words = joinWords([first, second]);
  return { ...first, duration, value, ...(words.length > 0 && { words }), ...(second.lineEnd && { lineEnd: true }) };
}

/** Three to one becomes one to one, in simple time. */
function evened({ bar, first, second }: Pair): readonly [Note, Note] | null {
  const both = first.duration + second.duration;
  const value = valueOf(both / 2);
  const isDotted = first.duration === 3 * second.duration || second.duration === 3 * first.duration;
  if (!isDotted || isCompound(bar.metre) || !value || value.dots > 0) return null;
  const half = both / 2;
  return [
    { ...first, duration: half, value },
    { ...second, at: first.at + half, duration: half, value },
  ];
}

/** Another tone for the second of two equal notes: on a weak beat, of the chord or on the way, and near what follows. */
function variation(
  { bar, start, second, next }: Pair,
  harmony: readonly Harmony[],
  lasts: ReadonlySet<string | undefined>,
) {
  if (isStrongBeat(bar.offset + second.at, bar.metre) || lasts.has(second.id) || !next) return null;
  const tones = chordAt(harmony, start + second.at)?.tones ?? [];
  const own = topPitch(second);
  const to = topPitch(next);
  const near = (pitch: Pitch | null): pitch is Pitch => pitch !== null && Math.abs(step(pitch) - step(to)) <= 2;
  const found = [2, -2, 1, -1].map((steps) => diatonicStep(own, steps, bar.key.signature)).filter(near);
  const inChord = found.find((pitch) => tones.includes(midi(pitch) % 12) && midi(pitch) !== midi(to));
  return inChord ?? found.find((pitch) => Math.abs(step(pitch) - step(own)) === 1 && midi(pitch) !== midi(to)) ?? null;
}

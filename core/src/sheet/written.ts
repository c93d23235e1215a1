/** What is written in a phrase, note by note and rest by rest: what rhythm, words and chords are drawn from. */
import { dequal } from 'dequal';
import {
  barStarts,
  beatLength,
  isSameMetre,
  type Barline,
  type Key,
  type Metre,
  type NoteValue,
  type Pitch,
  type Syllable,
  type Ticks,
  type Tune,
  type Tuplet,
} from '../music/index.ts';
import type { Phrase } from '../form/index.ts';

export interface WrittenEvent {
  readonly id: string;
  readonly rest: boolean;
  readonly value: NoteValue;
  /** Which beat of which bar it begins in: what is beamed together. */
  readonly beat: string;
  readonly bar: number;
  /** Tied to the next note. */
  readonly tied: boolean;
  readonly tuplet: Tuplet | null;
  readonly words: readonly (Syllable | null)[];
  readonly chord: string | null;
  /** As they stand on the staff, low to high; none for a rest. */
  readonly pitches: readonly Pitch[];
}

/**
 * Events that begin in a stretch, in their order.
 * @example writtenIn(reel, { from: 0, to: 13440 }).length // 7
 */
export function writtenIn(tune: Tune, { from, to }: Pick<Phrase, 'from' | 'to'>): readonly WrittenEvent[] {
  return writtenOf(tune).flatMap(([at, event]) => (at >= from && at < to ? [event] : []));
}

/** What stands at the bar lines of a bar. */
export interface BarMark {
  /** Its number among the bars of the tune, from 0. */
  readonly bar: number;
  /** It begins in the stretch, not before it. */
  readonly opens: boolean;
  /** It ends with the stretch or within it: there is a line at its end. */
  readonly closes: boolean;
  readonly repeatStart: boolean;
  readonly repeatEnd: boolean;
  /** Of an ending that begins with it: "1.", "2.". */
  readonly ending: string | null;
  /** Where it begins in the stretch with another metre, or in another key, than the bar before it. */
  readonly metre: Metre | null;
  readonly key: Key | null;
  /** The line at its end, where nothing is repeated. */
  readonly line: Barline;
}

/**
 * The bars of a stretch, those that it only begins or ends in too.
 * @example barMarksIn(reel, { from: 0, to: 13440 }).length // 1
 */
export function barMarksIn(
  { bars }: Pick<Tune, 'bars'>,
  { from, to }: Pick<Phrase, 'from' | 'to'>,
): readonly BarMark[] {
  const starts = barStarts(bars);
  return bars.flatMap((bar, index): BarMark[] => {
    const [start, end] = [starts[index]!, starts[index]! + bar.length];
    if (start >= to || end <= from) return [];
    const before = start >= from ? bars[index - 1] : undefined;
    return [
      {
        bar: index,
        metre: before && !isSameMetre(before.metre, bar.metre) ? bar.metre : null,
        key: before && !dequal(before.key, bar.key) ? bar.key : null,
        opens: start >= from,
        closes: end <= to,
        repeatStart: Boolean(bar.repeatStart) && start >= from,
        repeatEnd: Boolean(bar.repeatEnd) && end <= to,
        ending: bar.endings && start >= from ? `${bar.endings.join(', ')}.` : null,
        line: end <= to && !bar.repeatEnd ? (bar.barline ?? 'single') : 'single',
      },
    ];
  });
}

type Timed = readonly [at: Ticks, event: WrittenEvent];
/** Phrase after phrase asks for the same tune. */
const known = new WeakMap<Tune, readonly Timed[]>();

function writtenOf(tune: Tune): readonly Timed[] {
  const before = known.get(tune);
  if (before) return before;
  const starts = barStarts(tune.bars);
  const found = tune.bars.flatMap((bar, index) =>
    bar.events.flatMap((event): Timed[] => {
      if (event.kind === 'rest' && event.invisible) return [];
      return [
        [
          starts[index]! + event.at,
          {
            id: event.id,
            rest: event.kind === 'rest',
            value: event.value,
            bar: index,
            beat: `${index} ${Math.floor((bar.offset + event.at) / beatLength(bar.metre))}`,
            tied: event.kind === 'note' && event.heads.some(({ tied }) => tied),
            tuplet: event.tuplet ?? null,
            words: (event.kind === 'note' && event.words) || [],
            chord: event.chordSymbol ?? null,
            pitches: event.kind === 'note' ? event.heads.map(({ pitch }) => pitch) : [],
          },
        ],
      ];
    }),
  );
  known.set(tune, found);
  return found;
}

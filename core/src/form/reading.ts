/** A tune laid out for analysis: sounds with their places, bars with what they hold. Made once, read by all. */
import {
  barIndexAt,
  barLength,
  barNumbers,
  barStarts,
  beatLength,
  isPickup,
  midi,
  soundingNotes,
  step,
  type Bar,
  type Midi,
  type Note,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import type { BarBeat } from './model.ts';

/** One attack, ties joined. */
export interface Sound {
  readonly note: Note;
  /** The note that its tie ends with; the same where nothing is tied. */
  readonly last: Note;
  /** All written notes of the tie, in order. */
  readonly ids: readonly string[];
  readonly onset: Ticks;
  readonly duration: Ticks;
  readonly barIndex: number;
  /** From the nominal bar line; a pickup's sounds stand late in their bar. */
  readonly place: Ticks;
  readonly pitches: readonly Midi[];
  /** Highest pitch, which carries the tune. */
  readonly top: Midi;
  /** Staff step of the highest pitch. */
  readonly step: number;
}

export interface Reading {
  readonly tune: Tune;
  readonly bars: readonly Bar[];
  readonly numbers: readonly number[];
  /** Written ticks of each bar line; one more than there are bars. */
  readonly starts: readonly Ticks[];
  readonly sounds: readonly Sound[];
  /** The chord symbol that holds at each sound; null where none was written before it. */
  readonly symbols: readonly (string | null)[];
  /** Index of the first sound of each bar, and at the end the number of sounds. */
  readonly firstSound: readonly number[];
  /** For each bar a number: equal where pitches and rhythm are. */
  readonly contents: readonly number[];
  /** The same for rhythm alone. */
  readonly rhythms: readonly number[];
  /** Length of the pickup that the tune begins with. */
  readonly pickup: Ticks;
  /** For each bar the index of the bar that opens its ending; null outside endings. */
  readonly endings: readonly (number | null)[];
}

/** @example readForForm(reel).sounds.length // 22 */
export function readForForm(tune: Tune): Reading {
  const { bars } = tune;
  const starts = barStarts(bars);
  const sounds = soundingNotes(tune).map(({ note, chain, barIndex, onset, duration }): Sound => {
    const pitches = note.heads.map(({ pitch }) => midi(pitch));
    return {
      note,
      last: chain.at(-1)!,
      ids: chain.map(({ id }) => id),
      onset,
      duration,
      barIndex,
      place: onset - starts[barIndex]! + bars[barIndex]!.offset,
      pitches,
      top: pitches.at(-1)!,
      step: step(note.heads.at(-1)!.pitch),
    };
  });
  let symbol: string | null = null;
  const symbols = sounds.map(({ note }) => (symbol = note.chordSymbol ?? symbol));
  const firstSound: number[] = [];
  let next = 0;
  for (let bar = 0; bar <= bars.length; bar += 1) {
    while (next < sounds.length && sounds[next]!.barIndex < bar) next += 1;
    firstSound.push(next);
  }
  const contents = interned();
  const rhythms = interned();
  const inBar = (bar: number) => sounds.slice(firstSound[bar], firstSound[bar + 1]);
  return {
    tune,
    bars,
    starts,
    sounds,
    symbols,
    firstSound,
    numbers: barNumbers(bars),
    contents: bars.map((bar, index) => contents(`${bar.length}|${contentText(inBar(index))}`)),
    rhythms: bars.map((bar, index) => rhythms(`${bar.length}|${rhythmText(inBar(index))}`)),
    pickup: bars[0] && isPickup(bars, 0) ? bars[0].length : 0,
    endings: endingsOf(bars),
  };
}

function endingsOf(bars: readonly Bar[]): readonly (number | null)[] {
  let open: number | null = null;
  return bars.map(({ endings, endingStop, repeatEnd }, index) => {
    if (endings) open = index;
    const own = open;
    if (endingStop || repeatEnd) open = null;
    return own;
  });
}

/** Numbers for texts, the same for the same. */
export function interned(): (text: string) => number {
  const known = new Map<string, number>();
  return (text) => {
    const found = known.get(text) ?? known.size;
    known.set(text, found);
    return found;
  };
}

const contentText = (sounds: readonly Sound[]) =>
  sounds.map(({ place, duration, pitches }) => `${place}:${duration}:${pitches.join('+')}`).join(' ');
const rhythmText = (sounds: readonly Sound[]) => sounds.map(({ place, duration }) => `${place}:${duration}`).join(' ');

/** Index of the bar that holds a moment. */
export const barAt = ({ starts }: Pick<Reading, 'starts'>, at: Ticks): number => barIndexAt(starts, at);

const round = (value: number) => Math.round(value * 1000) / 1000;

export function barBeatAt(reading: Reading, at: Ticks): BarBeat {
  const index = barAt(reading, at);
  const bar = reading.bars[index]!;
  return {
    bar: reading.numbers[index]!,
    beat: round(1 + (bar.offset + at - reading.starts[index]!) / beatLength(bar.metre)),
  };
}

/** Index of the first sound at or after a moment. */
export function soundFrom({ sounds }: Pick<Reading, 'sounds'>, at: Ticks): number {
  let low = 0;
  let high = sounds.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sounds[middle]!.onset < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * The bar line that a phrase leads to. What sounds before it is its pickup: up to half a bar, or as much
 * as the tune itself begins with. A phrase that begins later in the bar's first half, or half a bar after a note that
 * was held over its line, counts from the bar line before.
 */
export function downbeatOf(reading: Reading, from: Ticks, to: Ticks): Ticks {
  const { bars, starts, pickup, sounds } = reading;
  const index = barAt(reading, from);
  const bar = bars[index]!;
  if (from === starts[index] && !isPickup(bars, index)) return from;
  const end = starts[index + 1]!;
  const before = sounds[soundFrom(reading, from) - 1];
  const late = before !== undefined && before.onset < starts[index]! && before.onset + before.duration > starts[index]!;
  const half = barLength(bar.metre) / 2;
  const isLead = end - from === pickup || end - from < half || (end - from === half && !late);
  return end < to && (isPickup(bars, index) || isLead) ? end : starts[index]!;
}

/** Where, in a bar before a repeat sign, the part's pickup stands again; the bar's end where it does not. */
export function leadsBackFrom(reading: Reading, index: number): Ticks {
  const { bars, starts, sounds, firstSound } = reading;
  const bar = bars[index]!;
  const end = starts[index + 1]!;
  if (!bar.repeatEnd || bar.length < barLength(bar.metre)) return end;
  const start = bars.slice(0, index + 1).findLastIndex(({ repeatStart }) => repeatStart);
  const opening = Math.max(0, start);
  const pickup = isPickup(bars, opening) ? bars[opening]!.length : reading.pickup;
  const at = end - pickup;
  const inside = sounds.slice(firstSound[index]! + 1, firstSound[index + 1]);
  return pickup > 0 && inside.some(({ onset }) => onset === at) ? at : end;
}

/** A few bars of a tune by themselves, as lists show them. */
import { barLength, transposeTune, type Tune } from '../music/index.ts';
import { FIRST_DECISIONS } from './decisions.ts';
import { openingOctave } from './arrange.ts';

/** Enough to know a tune by. */
const BARS = 2;

/**
 * Without words, chords, dynamics and tempo, at the octave where a violin plays it; a pickup is no bar of its own.
 * @param from index of the first bar
 * @example fewBars(reel).bars.length // 2
 */
export function fewBars(tune: Tune, from = 0): Tune {
  const first = tune.bars[from]!;
  const lead = first.length < barLength(first.metre) ? 1 : 0;
  const bars = tune.bars.slice(from, from + BARS + lead).map((bar) => ({
    ...bar,
    events: bar.events.map(({ chordSymbol: _, annotation: __, ...event }) =>
      'heads' in event ? { ...event, words: undefined, dynamic: undefined } : event,
    ),
  })) as Tune['bars'];
  const ids = new Set(bars.flatMap(({ events }) => events.map(({ id }) => id)));
  const slurs = tune.slurs.filter((slur) => ids.has(slur.from) && ids.has(slur.to));
  const shift = openingOctave(tune, FIRST_DECISIONS);
  return transposeTune({ ...tune, tempo: null, bars, slurs }, shift % 12 === 0 ? shift : 0);
}

/**
 * What a tune that is too long to part has instead of a form: four bars a phrase, and nothing said about what is
 * the same. It would take seconds, and nobody teaches so long a tune whole.
 */
import type { Tune } from '../music/index.ts';
import { EXACT } from './relate.ts';
import { barBeatAt, downbeatOf, soundFrom, type Reading } from './reading.ts';
import type { BarMaterial, Form, Phrase } from './model.ts';

/** Bars; a whole book of tunes one after the other stays below. */
const MOST_PARTED = 10_000;
const BARS_IN_PHRASE = 4;

/** @example isTooLongToPart(reel) // false */
export const isTooLongToPart = ({ bars }: Pick<Tune, 'bars'>): boolean => bars.length > MOST_PARTED;

/** @param reading of a tune with more than `MOST_PARTED` bars */
export function plainForm(reading: Reading): Form {
  const { bars, starts, numbers, sounds, tune } = reading;
  const froms = bars.flatMap((_, index) => (index % BARS_IN_PHRASE === 0 ? [index] : []));
  const phrases = froms.flatMap((first, index): Phrase[] => {
    const last = Math.min(first + BARS_IN_PHRASE, bars.length);
    const [from, to] = [starts[first]!, starts[last]!];
    const own = sounds.slice(soundFrom(reading, from), soundFrom(reading, to));
    return [
      {
        id: `p${index + 1}`,
        from,
        to,
        label: `A${index + 1}`,
        start: barBeatAt(reading, from),
        end: barBeatAt(reading, own.at(-1)?.onset ?? from),
        downbeat: downbeatOf(reading, from, to),
        bars: last - first,
        otherBars: [],
        closing: 'open',
        restsOn: null,
        relation: { kind: 'new', of: null, differs: EXACT, differences: [] },
        shares: [],
        motions: [],
        figures: [],
        held: false,
        named: false,
        notes: own.flatMap(({ ids }) => ids),
      },
    ];
  });
  const materials = bars.map((_, index): BarMaterial => ({
    number: numbers[index]!,
    material: index,
    phrase: phrases[Math.floor(index / BARS_IN_PHRASE)]!.id,
    counts: true,
    like: null,
  }));
  const ids = phrases.map(({ id }) => id);
  return {
    parts: [
      {
        label: 'A',
        bars: [numbers[0]!, numbers.at(-1)!],
        times: 1,
        like: null,
        beginning: false,
        length: bars.length,
        phrases,
      },
    ],
    played: [{ part: 0, whole: true }],
    bars: materials,
    licks: [],
    learn: {
      newBars: bars.length,
      totalBars: bars.length,
      share: 1,
      inOrder: ids,
      mostTuneFirst: ids,
      own: null,
      steps: phrases.map(({ id, bars: count }) => ({ phrase: id, newBars: count, covers: count })),
    },
    key: tune.bars[0]!.key,
    traits: [],
    tooLong: true,
  };
}

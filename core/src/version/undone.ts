/** Wishes about a version that an edit of its tune has undone: what they spoke of is not there any more. */
import { fillingsOf, windowsOf, type Limits, type VersionDecisions } from '../grade/index.ts';
import { phrasesOf } from '../form/index.ts';
import { barNumbers, transposeTune, type Semitones } from '../music/index.ts';
import { formOf, placesFor, type VersionContext } from './underContract.ts';

export interface UndoneWish {
  readonly kind: 'kept' | 'locked' | 'chosen' | 'slot';
  /** Of the window, the note, or the first note of the phrase. */
  readonly id: string;
  /** Where it was; null where the bar is gone. */
  readonly bar: number | null;
}

/**
 * What was kept, locked or chosen and is not to be found in the tune as it is now.
 * @example undoneWishes({ ...facts, tune: reel, hand: facts.decisions.hand, bow: facts.decisions.bow }, contractFor('violin', 1).limits, { kept: [], locked: ['gone'], chosen: {}, slots: {} }, 0).length // 1
 */
export function undoneWishes(
  { tune, instrument, tuning }: VersionContext,
  limits: Limits,
  { kept, locked, chosen, slots }: Pick<VersionDecisions, 'kept' | 'locked' | 'chosen' | 'slots'>,
  transpose: Semitones,
): readonly UndoneWish[] {
  const places = kept.filter((id) => id !== 'key' && id !== 'octave');
  const picked = Object.keys(chosen);
  const rounds = Object.keys(slots);
  if (places.length + locked.length + picked.length + rounds.length === 0) return [];
  const numbers = barNumbers(tune.bars);
  const barOf = new Map(tune.bars.map(({ id }, index) => [id, numbers[index]!]));
  const barAt = (id: string) => barOf.get(id.slice(0, id.lastIndexOf('@'))) ?? null;
  const notes = new Set(tune.bars.flatMap(({ events }) => events.map(({ id }) => id)));
  const begins = new Set(rounds.length > 0 ? phrasesOf(formOf(tune)).map((phrase) => phrase.notes[0]) : []);
  const source = transpose === 0 || picked.length === 0 ? tune : transposeTune(tune, transpose);
  const windows = new Map(picked.length > 0 ? windowsOf(source, formOf(source)).map((one) => [one.id, one]) : []);
  const can = picked.length > 0 ? placesFor(instrument, tuning, limits) : new Map();
  const fits = (id: string): boolean => {
    const window = windows.get(id);
    return (
      window !== undefined &&
      fillingsOf(source, window, limits, { playable: (pitch) => can.has(pitch), folds: [0], octaves: true }).some(
        ({ key }) => key === chosen[id],
      )
    );
  };
  return [
    ...places.filter((id) => barAt(id) === null).map((id) => ({ kind: 'kept' as const, id, bar: null })),
    ...locked.filter((id) => !notes.has(id)).map((id) => ({ kind: 'locked' as const, id, bar: null })),
    ...rounds.filter((id) => !begins.has(id)).map((id) => ({ kind: 'slot' as const, id, bar: null })),
    ...picked.filter((id) => !fits(id)).map((id) => ({ kind: 'chosen' as const, id, bar: barAt(id) })),
  ];
}

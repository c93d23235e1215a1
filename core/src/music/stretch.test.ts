/** Stretches moved by an octave and echoed: bars add up, signs enclose both, nothing else moves. */
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { tuneOf } from '../test/testing.ts';
import {
  barLength,
  barStarts,
  endsOf,
  midi,
  octaveAway,
  soundingNotes,
  stretchOf,
  withEcho,
  type Stretch,
  type Tune,
} from './index.ts';

const pitches = (tune: Tune) => soundingNotes(tune).map(({ note }) => midi(note.heads[0]!.pitch));
const echoed = (tune: Tune, stretch: Stretch, by = -1): Tune => {
  const made = withEcho(tune, stretch, by);
  if (!made.ok) throw new Error(made.why);
  return made.tune;
};
const barsOf = (tune: Tune, from: number, to: number): Stretch => {
  const starts = barStarts(tune.bars);
  return { from: starts[from]!, to: starts[to] ?? starts.at(-1)! };
};
/** Lengths of bars as shares of a full one. */
const fill = ({ bars }: Tune) => bars.map(({ length, metre }) => length / barLength(metre));

const PLAIN = tuneOf('|: A2B2 c4 | e8 | d2c2 B4 | A8 :|', { key: 'A' });
const PICKUP = tuneOf('E2 |: A2B2 c2E2 | A6 E2 | F2G2 A2E2 | A6 :|', { key: 'A' });

describe('an echo', () => {
  it('follows its phrase at once, an octave away, and the repeat encloses both', () => {
    const made = echoed(PLAIN, barsOf(PLAIN, 0, 2));
    expect(pitches(made)).toEqual([69, 71, 73, 76, 57, 59, 61, 64, 74, 73, 71, 69]);
    expect(made.bars.map(({ repeatStart, repeatEnd }) => [Boolean(repeatStart), repeatEnd ?? 0])).toEqual([
      [true, 0],
      [false, 0],
      [false, 0],
      [false, 0],
      [false, 0],
      [false, 2],
    ]);
    expect(fill(made)).toEqual([1, 1, 1, 1, 1, 1]);
  });

  it('of the last phrase takes the repeat sign with it', () => {
    const made = echoed(PLAIN, barsOf(PLAIN, 2, 4));
    expect(made.bars.map(({ repeatEnd }) => repeatEnd ?? 0)).toEqual([0, 0, 0, 0, 0, 2]);
    expect(pitches(made).slice(-4)).toEqual([62, 61, 59, 57]);
  });

  it('with a pickup keeps its pickup, and the bars stay whole', () => {
    // Each from its pickup to the third beat of its second bar.
    const [first, second] = [
      stretchOf(PICKUP, { first: 'n1', last: 'n6' })!,
      stretchOf(PICKUP, { first: 'n7', last: 'n12' })!,
    ];
    const made = echoed(PICKUP, first);
    expect(
      fill(made)
        .slice(1, -1)
        .every((share) => share === 1),
    ).toBe(true);
    expect(pitches(made).slice(0, 12)).toEqual([64, 69, 71, 73, 64, 69, 52, 57, 59, 61, 52, 57]);
    const both = echoed(made, stretchOf(made, endsOf(PICKUP, second)!)!);
    expect(fill(both)).toEqual([0.25, ...Array<number>(7).fill(1), 0.75]);
    expect(both.bars.at(-1)!.repeatEnd).toBe(2);
  });

  it('has ids of its own, every id once, slurs among its own notes', () => {
    const tune = tuneOf('(AB)(cd) e4 | e8 | d2c2 B4 | A8 |', { key: 'A' });
    const made = echoed(tune, barsOf(tune, 0, 2));
    const ids = made.bars.flatMap((bar) => [bar.id, ...bar.events.map(({ id }) => id)]);
    expect(new Set(ids).size).toBe(ids.length);
    expect(made.slurs).toHaveLength(4);
    expect(made.slurs.filter(({ from, to }) => from.startsWith('e.') && to.startsWith('e.'))).toHaveLength(2);
  });

  it('is a phrase, and so is what it answers', () => {
    const made = echoed(PLAIN, barsOf(PLAIN, 0, 2));
    const phrases = phrasesOf(analyseForm(made));
    expect(phrases.map(({ notes }) => notes.length)).toEqual([4, 4, 4]);
    expect(phrases[1]!.relation.kind).toBe('octave');
  });

  it.each([
    ['goes over a repeat sign', tuneOf('A8 :| B8 | c8 | d8 |'), 0, 2, 'repeat-inside'],
    ['ends on a held note', tuneOf('A8 | B8- | B8 | d8 |'), 0, 2, 'held-over'],
    ['begins within a held note', tuneOf('A8 | B8- | B8 | d8 |'), 2, 4, 'held-over'],
    ['runs into an ending', tuneOf('|: A8 | B8 | c8 |1 d8 :|2 e8 |]'), 2, 4, 'repeat-inside'],
  ] as const)('is refused where the phrase %s', (_, tune, from, to, why) => {
    expect(withEcho(tune, barsOf(tune, from, to), -1)).toEqual({ ok: false, why });
  });

  it('is refused where bars would not add up', () => {
    const [{ events }] = PLAIN.bars as [Tune['bars'][number]];
    const half = stretchOf(PLAIN, { first: events[0]!.id, last: events[1]!.id })!;
    expect(withEcho(PLAIN, half, 1)).toEqual({ ok: false, why: 'uneven' });
  });

  it('in triplets, with endings and in three-four adds up', () => {
    const tune = tuneOf('|: (3ABc d2 e2 | f6 |1 e2 d2 c2 | B6 :|2 e2 d2 c2 | A6 |]', { metre: '3/4' });
    for (const stretch of [barsOf(tune, 0, 2), barsOf(tune, 2, 4), barsOf(tune, 4, 6)]) {
      const made = echoed(tune, stretch);
      expect(fill(made)).toEqual(Array(8).fill(1));
      expect(made.bars.filter(({ endings }) => endings).length).toBe(2);
      expect(made.bars.filter(({ repeatEnd }) => repeatEnd).length).toBe(1);
    }
  });
});

describe('a stretch an octave away', () => {
  it('moves its notes and no others, and there and back is the same tune', () => {
    const stretch = barsOf(PLAIN, 1, 3);
    const up = octaveAway(PLAIN, stretch, 1);
    expect(pitches(up).map((pitch, index) => pitch - pitches(PLAIN)[index]!)).toEqual([0, 0, 0, 12, 12, 12, 12, 0]);
    expect(octaveAway(up, stretch, -1)).toEqual(PLAIN);
  });

  it('is found by its ends after an edit elsewhere, and rests where an end is gone', () => {
    const ends = endsOf(PLAIN, barsOf(PLAIN, 1, 3))!;
    expect(stretchOf(PLAIN, ends)).toEqual(barsOf(PLAIN, 1, 3));
    expect(stretchOf(PLAIN, { ...ends, last: 'gone' })).toBeNull();
    expect(stretchOf(PLAIN, { first: ends.last, last: ends.first })).toBeNull();
  });
});

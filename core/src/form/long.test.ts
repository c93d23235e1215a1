/** Tunes that are too long to part, and the time that they take. */
import { expect, it } from 'vitest';
import { placedNotes, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { analyseForm, formText, isTooLongToPart, phrasesOf } from './index.ts';

/** Bars that differ, so that each is compared with all. */
function longTune(bars: number): Tune {
  const seed = tuneOf('C2 D2 E2 F2 | G2 A2 B2 c2 | c2 E2 D2 A2 | F2 G2 E2 B2 |');
  return {
    ...seed,
    bars: Array.from({ length: bars }, (_, bar) => {
      const model = seed.bars[(bar * 7 + (bar >> 3)) % seed.bars.length]!;
      return { ...model, id: `b${bar}`, events: model.events.map((event) => ({ ...event, id: `${event.id}-${bar}` })) };
    }),
  };
}

it('a tune of many bars is not compared with itself, and says so', () => {
  const tune = longTune(12_000);
  expect(isTooLongToPart(tune)).toBe(true);
  const begin = performance.now();
  const form = analyseForm(tune);
  expect(performance.now() - begin).toBeLessThan(3_000);
  expect(form.tooLong).toBe(true);
  expect(formText(form)).toBe('A');
  const phrases = phrasesOf(form);
  expect(phrases).toHaveLength(3_000);
  expect(phrases.flatMap(({ notes }) => notes)).toEqual(placedNotes(tune).map(({ note }) => note.id));
  expect(phrases.at(-1)!.end.bar).toBe(12_000);
});

it('a long set of tunes is parted like every other', () => {
  const form = analyseForm(longTune(400));
  expect(form.tooLong).toBeUndefined();
  expect(form.licks.length).toBeGreaterThan(0);
});

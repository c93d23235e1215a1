import { expect, it } from 'vitest';
import { inTime } from './limit.ts';

it('gives back what comes in time, and throws what is thrown', () => {
  expect(inTime(() => 7)).toBe(7);
  expect(() =>
    inTime(() => {
      throw new Error('own');
    }),
  ).toThrow('own');
});

it('ends what never would', () => {
  const begin = performance.now();
  let turns = 0;
  const forever = () => {
    for (;;) turns += 1;
  };
  expect(inTime(forever, 50)).toBeNull();
  expect(turns).toBeGreaterThan(0);
  expect(performance.now() - begin).toBeLessThan(5_000);
});

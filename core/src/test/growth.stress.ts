/** Readers: twice the file takes at most two and a half times as long, from a thousand notes on. */
import { describe, expect, it } from 'vitest';
import type { readMidi } from '../formats/index.ts';
import { SHAPES, growthFault } from './growth.ts';

/** Notes of the largest files here; `npm run torture` goes to the limits. */
const MOST = 16_000;
/** Milliseconds until a shape is given up: every size is read many times, on a machine that may be busy. */
const GIVEN_UP = 300_000;

describe('the cost of reading grows with the file, not with its square', () => {
  it.each(SHAPES.map((shape) => [shape.name, shape] as const))(
    '%s',
    (_, shape) => {
      expect(growthFault(shape, MOST)).toBeNull();
    },
    GIVEN_UP,
  );
});

it('reads ten thousand notes of MIDI within a second, on a machine that does other things too', () => {
  const shape = SHAPES.find(({ name }) => name === 'MIDI: notes in a row')!;
  const run = shape.make(10_000);
  const begin = performance.now();
  expect((run() as ReturnType<typeof readMidi>).ok).toBe(true);
  expect(performance.now() - begin).toBeLessThan(3_000);
});

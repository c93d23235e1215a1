/** Readers against spoiled files: each is refused in words, or read soundly, and soon. */
import { expect, it } from 'vitest';
import { readerFault, spoiledFiles } from './fuzz.ts';

/** Files of a run; a night's run is `npm run torture`. */
const FILES = 20_000;
/** One in so many of what is read is held against the schema once more. */
const HELD = 10;
/** Milliseconds for one file on a busy machine. */
const SLOWEST = 5_000;
/** Times that a file which took too long is looked at again. */
const LOOKS = 2;

function read(file: Parameters<typeof readerFault>[0], held: boolean): { fault: string | null; ms: number } {
  const begin = performance.now();
  const fault = readerFault(file, held);
  return { fault, ms: performance.now() - begin };
}

it(`${FILES.toLocaleString('en')} spoiled files crash nothing, make no unsound tune, and keep nobody waiting`, () => {
  const files = spoiledFiles();
  const faults: string[] = [];
  let slowest = { number: -1, ms: 0 };
  for (let number = 0; number < FILES; number += 1) {
    const file = files.file(number);
    const { fault, ms: once } = read(file, number % HELD === 0);
    let ms = once;
    // What keeps a reader busy does so each time; a machine that stood still does not.
    for (let look = 0; look < LOOKS && ms >= SLOWEST; look += 1) ms = Math.min(ms, read(file, false).ms);
    if (fault) faults.push(`${number} (${file.name}): ${fault}`);
    if (ms > slowest.ms) slowest = { number, ms };
  }
  expect(faults).toEqual([]);
  expect(slowest.ms, `file ${slowest.number}`).toBeLessThan(SLOWEST);
}, 300_000);

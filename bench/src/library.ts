import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { listQuery } from '@nokta/api';
import { readAbc } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { openStore } from '../../server/src/db/open.ts';
import { listTunes } from '../../server/src/library/list.ts';
import { addBatch, fresh, openLibrary } from '../../server/src/library/tunes.ts';

const TUNES = 10_000;
const BATCH = 40;
const WORDS = [
  'lamp',
  'harbour',
  'kettle',
  'north',
  'barrel',
  'gull',
  'rope',
  'candle',
  'anchor',
  'slate',
  'tallow',
  'window',
];
const STYLES = ['reel', 'jig', 'polka', 'waltz', 'air', 'march'];
const KEYS = ['G', 'D', 'A', 'Em', 'Am', 'C', 'F', 'Bb'];

/** The same numbers each time, so that runs can be compared (a linear congruential generator). */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** A 32-bar tune of steps and small leaps, as ABC. */
export function madeUp(number: number): string {
  const next = numbers(number + 1);
  const letters = 'DEFGABcdefga';
  let at = 5;
  const bar = () =>
    Array.from({ length: 8 }, () => {
      at = Math.max(0, Math.min(letters.length - 1, at + next(5) - 2));
      return letters[at];
    }).join('');
  const part = Array.from({ length: 8 }, bar);
  const other = Array.from({ length: 8 }, bar);
  const title = `${WORDS[next(12)]} ${WORDS[next(12)]} ${number}`;
  return `X:${number}\nT:${title}\nR:${STYLES[next(6)]}\nM:4/4\nL:1/8\nK:${KEYS[next(8)]}\n|: ${part.join(' | ')} :|\n|: ${other.join(' | ')} :|\n`;
}

function read(text: string): Tune {
  const result = readAbc(text);
  if (!result.ok) throw new Error('A made-up tune does not read');
  return result.value.tune;
}

export interface LibraryFigures {
  /** Milliseconds a tune, reading the file not counted, for each stretch of the import. */
  readonly perTune: readonly {
    readonly from: number;
    readonly to: number;
    readonly ms: number;
    readonly residentMb: number;
  }[];
  find(name: 'words' | 'slip' | 'melody' | 'contour'): Promise<unknown>;
  close(): Promise<void>;
}

export async function fillLibrary(): Promise<LibraryFigures> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-bench-'));
  const store = await openStore(directory);
  const library = await openLibrary(store);
  const perTune: LibraryFigures['perTune'][number][] = [];
  let spent = 0;
  let from = 0;
  for (let start = 0; start < TUNES; start += BATCH) {
    const tunes = Array.from({ length: BATCH }, (_, index) => read(madeUp(start + index)));
    const began = performance.now();
    await addBatch(
      library,
      tunes.map((tune) => fresh(tune)),
    );
    spent += performance.now() - began;
    const done = start + BATCH;
    if ([120, 1_000, 5_000, TUNES].includes(done)) {
      const residentMb = Math.round(process.memoryUsage().rss / 1_000_000);
      perTune.push({ from, to: done, ms: spent / (done - from), residentMb });
      spent = 0;
      from = done;
    }
  }
  // What finding costs is measured by itself.
  await library.jobs.stop();
  const melody = /\|: (\w{8})/.exec(madeUp(7))![1]!.split('').join(' ');
  const queries = {
    words: { words: 'kettle harbour' },
    slip: { words: 'ketlte 77' },
    melody: { melody },
    contour: { melody: '+ + - + - - + +' },
  };
  return {
    perTune,
    find: (name) => listTunes(library, listQuery.parse(queries[name])),
    async close() {
      await store.close();
      await rm(directory, { recursive: true, force: true });
    },
  };
}

/** The demo's library: tunes composed for Nokta, each with an arrangement for its instrument. */
import { readFile, readdir } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { FIRST_DECISIONS, type Decisions } from '@nokta/core/arrange';
import type { Database } from '../db/open.ts';
import { addTune } from '../library.ts';

const TUNES = fileURLToPath(new URL('./tunes', import.meta.url));

/** Tunes that are not for the violin. */
const SET_FOR: Readonly<Record<string, Partial<Decisions>>> = {
  'deep-water-slow-oars.abc': { instrument: 'cello' },
  'four-barrels.abc': { instrument: 'bass' },
};

export async function loadDemo(db: Database): Promise<void> {
  for (const file of (await readdir(TUNES)).sort()) {
    const text = await readFile(`${TUNES}/${file}`, 'utf8');
    await addTune(db, { text, tune: 1, voice: 1 }, { ...FIRST_DECISIONS, ...SET_FOR[file] });
  }
}

/** Two servers on one folder: the second is turned away, and what the first has stays whole. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TuneList } from '@nokta/api';
import { tuneFrom } from '../test/harness.ts';
import { freePort, killAll, send, start } from '../test/program.ts';

const TUNE = tuneFrom('X:1\nT:Net Loft\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
const TRIES = 5;

export async function startTwice(): Promise<{ readonly refused: boolean }> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-twice-'));
  try {
    const port = await freePort();
    await start(directory, port);
    let refused = 0;
    for (let tune = 0; tune < TRIES; tune += 1) {
      await send(port, 'POST', '/tunes', { tune: TUNE });
      await start(directory, await freePort()).catch(() => (refused += 1));
    }
    const { total } = await send<TuneList>(port, 'GET', '/tunes');
    return { refused: refused === TRIES && total === TRIES };
  } finally {
    killAll();
    await rm(directory, { recursive: true, force: true });
  }
}

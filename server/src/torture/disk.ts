/** A disk that fills while tunes are kept, where one of its own can be mounted. */
import { spawnSync } from 'node:child_process';
import { mkdtemp, rm, rmdir, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TuneList } from '@nokta/api';
import { tuneFrom } from '../test/harness.ts';
import { freePort, kill, killAll, send, start } from '../test/program.ts';

export interface Filled {
  readonly skipped?: string;
  readonly words: string;
  readonly lost: boolean;
}

const SIZE = '260m';
const FILLING = 8_000_000;
const TUNE = tuneFrom('X:1\nT:Tar Barrel\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');

export async function fillDisk(): Promise<Filled> {
  const place = await mkdtemp(join(tmpdir(), 'nokta-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE}`, 'tmpfs', place]);
  if (mounted.status !== 0) {
    await rmdir(place);
    return { skipped: 'nothing can be mounted here', words: '', lost: false };
  }
  try {
    const data = join(place, 'data');
    const port = await freePort();
    const server = await start(data, port);
    let kept = 0;
    let words = '';
    for (let file = 0; words === '' && file < 200; file += 1) {
      await writeFile(join(place, `filling-${file}`), new Uint8Array(FILLING)).catch(() => undefined);
      const answer = await send<{ id?: string; error?: string }>(port, 'POST', '/tunes', { tune: TUNE });
      if (answer.id) kept += 1;
      else words = answer.error ?? 'no word';
      await new Promise((resolve) => setTimeout(resolve, 1_100));
    }
    const { total } = await send<TuneList>(port, 'GET', '/tunes');
    await kill(server);
    await rm(join(place, 'filling-0'), { force: true });
    await rm(join(place, 'filling-1'), { force: true });
    const again = await freePort();
    await start(data, again);
    const after = await send<TuneList>(again, 'GET', '/tunes');
    const lost = total !== kept || after.total !== kept;
    return { words: `${kept} kept, then “${words}”, ${after.total} there after a kill`, lost };
  } finally {
    killAll();
    await new Promise((resolve) => setTimeout(resolve, 300));
    spawnSync('umount', [place]);
    await rm(place, { recursive: true, force: true });
  }
}

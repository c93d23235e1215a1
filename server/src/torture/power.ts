/** The power goes at random moments of writes: of what was not flushed the disk keeps some, and forgets the rest. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TuneList, TuneRecord } from '@nokta/api';
import { tuneFrom } from '../test/harness.ts';
import { freePort, killAll, send, start } from '../test/program.ts';
import type { Span } from './span.ts';

export interface PowerCuts {
  readonly cuts: number;
  readonly acknowledged: number;
  readonly lost: readonly string[];
}

const TUNE = tuneFrom('X:1\nT:Net Loft\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
/** Writes to the disk until the power goes, at most: a tune takes some ten. */
const CUT_AFTER = '400';
const WRITERS = 3;

export async function powerCuts({ most = Infinity, untilMs = Infinity }: Span): Promise<PowerCuts> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-power-'));
  const begin = performance.now();
  const kept = new Map<string, string>();
  const lost: string[] = [];
  let cuts = 0;
  let made = 0;
  const look = async (port: number) => {
    const { total } = await send<TuneList>(port, 'GET', '/tunes?limit=1');
    if (total < kept.size) lost.push(`after cut ${cuts}: ${total} tunes of ${kept.size}`);
    for (const [id, title] of [...kept].slice(-20)) {
      const record = await send<Partial<TuneRecord>>(port, 'GET', `/tunes/${id}`);
      if (record.title !== title) lost.push(`after cut ${cuts}: ${title} is ${record.title}`);
    }
  };
  try {
    while (cuts < most && performance.now() - begin < untilMs) {
      const port = await freePort();
      const server = await start(directory, port, { odd: { CUT_AFTER } });
      await look(port);
      const gone = new Promise((resolve) => server.once('exit', resolve));
      server.kill('SIGUSR2');
      let alive = true;
      void gone.then(() => (alive = false));
      const writers = Array.from({ length: WRITERS }, async () => {
        while (alive) {
          const title = `Trial ${(made += 1)}`;
          const record = await send<TuneRecord>(port, 'POST', '/tunes', { tune: { ...TUNE, title } }).catch(() => null);
          if (record?.id) kept.set(record.id, title);
        }
      });
      await gone;
      await Promise.all(writers);
      cuts += 1;
    }
    const port = await freePort();
    await start(directory, port);
    await look(port);
  } finally {
    killAll();
    await rm(directory, { recursive: true, force: true });
  }
  return { cuts, acknowledged: kept.size, lost };
}

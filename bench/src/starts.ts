/** Whole processes of the built server: how soon the first answer comes, and how much memory is taken. */
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { cp, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ArrangementRecord, TuneList, TuneRecord } from '@nokta/api';

const PORT = '4196';
const URL_BASE = `http://127.0.0.1:${PORT}/api`;
const DIST = fileURLToPath(new URL('../../server/dist/', import.meta.url));
const POLL_MS = 5;

export type Begin = 'existing data' | 'new data' | 'demo data';
export const BEGINS: readonly Begin[] = ['existing data', 'new data', 'demo data'];

export interface Start {
  /** From the start of the process to the first answer of `/api/health`. */
  readonly ms: number;
  /** Resident memory in megabytes, when ready and with nothing to do; null where the system does not say. */
  readonly idleMb: number | null;
  /** The same after one sheet was drawn. */
  readonly drawnMb: number | null;
}

/** Starts the server once, and ends it. */
export async function start(begin: Begin): Promise<Start> {
  const data = await mkdtemp(join(tmpdir(), 'nokta-start-'));
  if (begin === 'existing data') await cp(join(DIST, 'templates', 'demo'), data, { recursive: true });
  const from = performance.now();
  const child = spawn(process.execPath, [join(DIST, 'main.js'), ...(begin === 'demo data' ? ['--demo'] : [])], {
    env: { ...process.env, PORT, NOKTA_DATA: data },
    stdio: 'ignore',
  });
  try {
    while (!(await answers())) {
      if (child.exitCode !== null) throw new Error(`The server ended with ${child.exitCode}.`);
      await pause(POLL_MS);
    }
    const ms = performance.now() - from;
    await pause(1000);
    const idleMb = await residentMb(child);
    if (begin === 'new data') return { ms, idleMb, drawnMb: null };
    await drawSheet();
    return { ms, idleMb, drawnMb: await residentMb(child) };
  } finally {
    child.kill('SIGTERM');
    if (child.exitCode === null) await once(child, 'exit');
    await rm(data, { recursive: true, force: true });
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

const answers = () =>
  fetch(`${URL_BASE}/health`).then(
    ({ ok }) => ok,
    () => false,
  );

async function drawSheet(): Promise<void> {
  const { tunes } = await json<TuneList>('/tunes');
  const { arrangements } = await json<TuneRecord>(`/tunes/${tunes[0]!.id}`);
  const [{ id }] = arrangements as [ArrangementRecord];
  await json(`/arrangements/${id}/sheet`);
}

async function json<Answer>(path: string): Promise<Answer> {
  const response = await fetch(`${URL_BASE}${path}`);
  if (!response.ok) throw new Error(`${path}: ${response.status}`);
  return (await response.json()) as Answer;
}

async function residentMb({ pid }: ChildProcess): Promise<number | null> {
  const status = await readFile(`/proc/${pid}/status`, 'utf8').catch(() => '');
  const kilobytes = /^VmRSS:\s+(\d+) kB$/m.exec(status)?.[1];
  return kilobytes ? Math.round(Number(kilobytes) / 1024) : null;
}

/** The server killed at random moments of mixed writes, and looked after each time. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ArrangementRecord, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { changeBetween } from '@nokta/core/edit';
import { tuneFrom } from '../test/harness.ts';
import { freePort, kill, killAll, send, start } from '../test/program.ts';

export interface Killed {
  readonly kills: number;
  readonly acknowledged: number;
  readonly lost: readonly string[];
}

/** What was acknowledged of a tune. */
interface Known {
  title: string;
  tags: readonly string[];
  tempo: number | null;
  arrangement: string;
  deleted: boolean;
}

const WRITERS = 4;
/** Tunes that are written to and looked after; with more, looking would take longer than living. */
const MOST_TUNES = 150;
/** Kills between two lines of what was found so far: a long run that is broken off has told something. */
const TELL = 25;
/** Milliseconds from a start to the next kill, at most. */
const LIFE_MS = 2_000;

export async function killServer({
  most = Infinity,
  untilMs = Infinity,
  tell = () => undefined,
}: {
  readonly most?: number;
  readonly untilMs?: number;
  readonly tell?: (found: Killed) => void;
}): Promise<Killed> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-torture-'));
  const begin = performance.now();
  const known = new Map<string, Known>();
  const lost: string[] = [];
  let kills = 0;
  let acknowledged = 0;
  try {
    while (kills < most && performance.now() - begin < untilMs) {
      const port = await freePort();
      const server = await start(directory, port);
      lost.push(...(await missing(port, known)).map((what) => `after kill ${kills}: ${what}`));
      let alive = true;
      const writers = Array.from({ length: WRITERS }, async () => {
        while (alive) {
          const done = await writeSomething(port, known);
          acknowledged += done;
          // A server that is gone is not asked without end.
          if (done === 0) await new Promise((resolve) => setTimeout(resolve, 5));
        }
      });
      await new Promise((resolve) => setTimeout(resolve, Math.random() * LIFE_MS));
      await kill(server);
      alive = false;
      await Promise.all(writers);
      kills += 1;
      if (kills % TELL === 0) tell({ kills, acknowledged, lost });
    }
    const port = await freePort();
    await start(directory, port);
    lost.push(...(await missing(port, known)).map((what) => `at the end: ${what}`));
  } finally {
    killAll();
    await rm(directory, { recursive: true, force: true });
  }
  return { kills, acknowledged, lost };
}

const TUNE = tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
let made = 0;
const busy = new Set<string>();

/** @returns 1 where it was acknowledged. What was not may have happened or not: its tune is not looked at further. */
async function writeSomething(port: number, known: Map<string, Known>): Promise<number> {
  const free = [...known.keys()].filter((id) => !busy.has(id));
  const isNew = free.length === 0 || (known.size < MOST_TUNES && Math.random() < 0.3);
  const id = isNew ? null : free[Math.floor(Math.random() * free.length)]!;
  if (id) busy.add(id);
  try {
    await (id ? changeTune(port, id, known.get(id)!) : addTune(port, known));
    return 1;
  } catch {
    if (id) known.delete(id);
    return 0;
  } finally {
    if (id) busy.delete(id);
  }
}

async function addTune(port: number, known: Map<string, Known>): Promise<void> {
  const title = `Trial ${(made += 1)}`;
  const record = await send<TuneRecord>(port, 'POST', '/tunes', { tune: { ...TUNE, title } });
  const [{ id: arrangement }] = record.arrangements as [ArrangementRecord];
  known.set(record.id, { title, tags: [], tempo: null, arrangement, deleted: false });
}

async function changeTune(port: number, id: string, of: Known): Promise<void> {
  const pick = Math.random();
  if (pick < 0.3) {
    const record = await send<ArrangementRecord>(port, 'GET', `/arrangements/${of.arrangement}`);
    const tempo = 40 + Math.floor(Math.random() * 100);
    const decisions = { ...record.decisions, pace: { ...record.decisions.pace, tempo } };
    const body = { revision: record.revision, decisions, label: 'tempo' };
    const after = await send<ArrangementRecord>(port, 'PUT', `/arrangements/${of.arrangement}`, body);
    of.tempo = after.decisions.pace.tempo;
  } else if (pick < 0.7) {
    const record = await send<TuneRecord>(port, 'GET', `/tunes/${id}`);
    const title = `Renamed ${(made += 1)}`;
    const change = changeBetween(record.tune, { ...record.tune, title });
    const after = await send<TuneState>(port, 'PATCH', `/tunes/${id}`, {
      revision: record.revision,
      change,
      label: 'rename',
    });
    of.title = after.tune.title;
  } else if (pick < 0.95) {
    const { tags } = await send<{ tags: string[] }>(port, 'PUT', `/tunes/${id}/tags`, { tags: [`t${(made += 1)}`] });
    of.tags = tags;
  } else {
    const response = await fetch(`http://127.0.0.1:${port}/api/tunes/${id}`, { method: 'DELETE' });
    if (response.status !== 204) throw new Error('not deleted');
    of.deleted = true;
    busy.add(id);
  }
}

/** What was acknowledged and is not there. Deleted tunes are cleared away by the start. */
async function missing(port: number, known: Map<string, Known>): Promise<readonly string[]> {
  const found: string[] = [];
  const { total } = await send<TuneList>(port, 'GET', '/tunes?limit=1');
  const alive = [...known].filter(([, { deleted }]) => !deleted);
  if (total < alive.length) found.push(`${total} tunes of ${alive.length}`);
  for (const [id, { title, tags, tempo, arrangement, deleted }] of known) {
    const record = await send<Partial<TuneRecord>>(port, 'GET', `/tunes/${id}`);
    if (deleted) {
      if (record.id) found.push(`${id} came back`);
      known.delete(id);
      busy.delete(id);
      continue;
    }
    const decisions = record.arrangements?.find((one) => one.id === arrangement)?.decisions;
    if (record.title !== title) found.push(`${id}: title ${record.title} for ${title}`);
    if (record.tags?.join() !== tags.join()) found.push(`${id}: tags ${record.tags?.join()} for ${tags.join()}`);
    if ((decisions?.pace.tempo ?? null) !== tempo) found.push(`${id}: tempo ${decisions?.pace.tempo} for ${tempo}`);
  }
  return found;
}

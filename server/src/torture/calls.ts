/** Nearly valid calls: the server answers each of them in words, and none with an error of its own. */
import { randomUUID } from 'node:crypto';
import type { ArrangementRecord, NewTune, TuneRecord } from '@nokta/api';
import { changeBetween } from '@nokta/core/edit';
import { melodyOf, packMelody } from '@nokta/core/search';
import { startHarness, tuneFrom } from '../test/harness.ts';
import { randomOf, spoil } from '../test/spoiled.ts';
import type { Span } from './span.ts';

export interface Called {
  readonly calls: number;
  /** Answers by their first digit. */
  readonly answers: Readonly<Record<string, number>>;
  readonly faults: readonly string[];
  readonly slowest: { readonly call: string; readonly ms: number };
}

const TUNE = tuneFrom(
  'X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\n|: "D"d2{e}d>A (3ABc d2 | [FA]4 !trill!(F2D2) :|\nw: brass and hinge\n',
);
const NOW = '2026-03-01T10:00:00Z';
/** A call that takes longer keeps others waiting. */
const MOST_MS = 2_000;

interface Call {
  readonly method: string;
  readonly path: string;
  readonly body?: unknown;
}

/** Calls as the application makes them. */
function calls(tune: TuneRecord): readonly Call[] {
  const [arrangement] = tune.arrangements as [ArrangementRecord];
  const { decisions, revision } = arrangement;
  const added: NewTune = {
    tune: TUNE,
    source: 'a.abc',
    instrument: 'violin',
    arrangements: [decisions],
    tags: ['supper'],
    versions: [{ name: 'First', madeAt: NOW, tune: TUNE }],
  };
  const change = changeBetween(TUNE, { ...TUNE, title: 'Other', style: 'reel', bars: TUNE.bars.slice(0, 1) });
  const hand = {
    id: randomUUID(),
    name: 'Ines',
    wishes: decisions.hand.wishes,
    limits: decisions.hand.limits,
    instrument: null,
  };
  const kept = {
    id: randomUUID(),
    kind: 'tuning',
    name: 'Low',
    value: { instrument: 'violin', pitches: ['A3', 'E4', 'A4', 'E5'] },
  };
  const restored = { ...added, id: randomUUID(), updatedAt: NOW, how: 'both' };
  const own = `/tunes/${tune.id}`;
  const set = `/arrangements/${arrangement.id}`;
  return [
    { method: 'POST', path: '/tunes', body: added },
    { method: 'POST', path: '/tunes/batch', body: { tunes: [added] } },
    { method: 'POST', path: '/tunes/alike', body: { melodies: [packMelody(melodyOf(TUNE))] } },
    { method: 'PATCH', path: own, body: { entry: randomUUID(), revision: tune.revision, change, label: 'rename' } },
    { method: 'POST', path: `${own}/undo`, body: { entry: randomUUID(), revision: tune.revision } },
    { method: 'PUT', path: `${own}/tags`, body: { tags: ['a', 'b'] } },
    { method: 'POST', path: `${own}/versions`, body: { name: 'First' } },
    { method: 'POST', path: `${own}/arrangements`, body: { decisions } },
    { method: 'PUT', path: set, body: { entry: randomUUID(), revision, decisions, label: 'tempo' } },
    {
      method: 'PUT',
      path: set,
      body: {
        entry: randomUUID(),
        revision,
        pieces: [{ slice: 'pace', field: 'tempo', before: null, after: 80 }],
        label: 'tempo',
      },
    },
    { method: 'POST', path: `${set}/redo`, body: { entry: randomUUID(), revision } },
    { method: 'POST', path: '/hands', body: hand },
    { method: 'PUT', path: `/hands/${hand.id}`, body: hand },
    { method: 'POST', path: '/kept', body: kept },
    { method: 'PUT', path: `/kept/${kept.id}`, body: kept },
    { method: 'POST', path: '/backup/compare', body: { tunes: [{ id: tune.id, updatedAt: NOW }] } },
    { method: 'POST', path: '/backup/restore', body: { madeAt: NOW, tunes: [restored] } },
    { method: 'GET', path: '/tunes?words=brass&melody=d+d+a&style=reel&sort=used&offset=0&limit=10' },
    { method: 'GET', path: `${own}/incipit?from=1&length=3` },
    { method: 'GET', path: `${set}/tune.abc?tab=true&round=1` },
    { method: 'GET', path: own },
    { method: 'DELETE', path: `/kept/${kept.id}` },
  ];
}

/** An address with a few signs of it turned into others. */
const spoiledPath = (path: string): string => {
  const at = 1 + Math.floor(Math.random() * (path.length - 1));
  return `${path.slice(0, at)}${randomOf(['%00', '%ff', '%F0%9D', '..', '/', '&', '-1', '1e999', '%22', '\u00e9', ''])}${path.slice(at + Math.floor(Math.random() * 3))}`;
};

export async function callServer({ most = Infinity, untilMs = Infinity }: Span): Promise<Called> {
  const server = await startHarness();
  const begin = performance.now();
  const answers: Record<string, number> = {};
  const faults: string[] = [];
  let slowest = { call: '', ms: 0 };
  let count = 0;
  const fresh = async () => (await server.call<TuneRecord>('POST', '/tunes', { tune: TUNE })).body;
  try {
    let tune = await fresh();
    while (count < most && performance.now() - begin < untilMs) {
      if (count % 200 === 0) tune = await fresh();
      const { method, path, body } = randomOf(calls(tune));
      const elsewhere = body === undefined || Math.random() < 0.1;
      const address = elsewhere ? spoiledPath(path) : path;
      const sent =
        body === undefined ? undefined : Array.from({ length: 1 + (count % 3) }).reduce<unknown>(spoil, body);
      const asked = performance.now();
      const response = await fetch(`${server.url}/api${address}`, {
        method,
        headers: { 'content-type': 'application/json' },
        ...(sent !== undefined && { body: JSON.stringify(sent) ?? 'null' }),
      });
      const text = await response.text();
      const ms = performance.now() - asked;
      count += 1;
      const kind = `${Math.floor(response.status / 100)}xx`;
      answers[kind] = (answers[kind] ?? 0) + 1;
      const told = `${method} ${address} ${JSON.stringify(sent)?.slice(0, 2_000)}`;
      if (response.status >= 500) faults.push(`${response.status}: ${told}`);
      else if (response.status >= 400 && !text.includes('"error"')) faults.push(`no words: ${told}`);
      if (ms > slowest.ms) slowest = { call: `${method} ${address}`, ms };
      if (ms > MOST_MS) faults.push(`${Math.round(ms)} ms: ${told}`);
    }
  } finally {
    await server.stop();
  }
  return { calls: count, answers, faults, slowest };
}

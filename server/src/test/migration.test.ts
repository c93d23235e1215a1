/** What older programs stored is there after the migration: histories step by step, and hands as learners. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { FIRST_DECISIONS, decided, type Decisions } from '@nokta/core/arrange';
import { changeBetween } from '@nokta/core/edit';
import { openStore, type Store } from '../db/open.ts';
import { arrangementKind, tuneKind } from '../library/kinds.ts';
import { learnerKind } from '../library/learners.ts';
import { openLibrary, openTune, purgeDeleted, type Library } from '../library/tunes.ts';
import { openRecord, walkRecord } from '../records/history.ts';
import { listShelf } from '../records/shelf.ts';
import { tuneFrom } from './harness.ts';
import { olderLibrary } from './older.ts';

const TUNE = tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
const RENAMED = { ...TUNE, title: 'Brass Latch' };
const [T1, A1, A2, L1] = [
  '11111111-1111-4111-8111-111111111111',
  '22222222-2222-4222-8222-222222222222',
  '33333333-3333-4333-8333-333333333333',
  '44444444-4444-4444-8444-444444444444',
] as const;
const at = (tempo: number): Decisions => decided(FIRST_DECISIONS, { pace: { tempo } });
/** As programs stored decisions once, all side by side. */
const FLAT = {
  instrument: 'viola',
  tuning: 'standard',
  transpose: -7,
  version: 'tune',
  tempo: 50,
  limits: {},
  locks: {},
};
const WITH_ADA: Decisions = decided(at(70), { hand: { learner: { name: 'Ada', limits: { noFourth: true } } } });

let directory = '';
let store: Store;
let library: Library;
beforeAll(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-migration-'));
  await olderLibrary(directory, '0006_sent', async (db) => {
    await db.query('insert into tunes (id, title, tune, revision, step) values ($1, $2, $3, 4, 1)', [
      T1,
      RENAMED.title,
      RENAMED,
    ]);
    const rename = changeBetween(TUNE, RENAMED);
    const back = changeBetween(RENAMED, { ...RENAMED, style: 'reel' });
    await db.query(
      "insert into tune_steps (tune_id, step, label, change, made_at) values ($1, 1, 'rename', $2, '2026-01-01T10:00:00Z'), ($1, 2, 'style', $3, '2026-01-01T10:00:03Z')",
      [T1, rename, back],
    );
    await db.query('insert into arrangements (id, tune_id, revision, step) values ($1, $2, 5, 2), ($3, $2, 1, 0)', [
      A1,
      T1,
      A2,
    ]);
    const states: readonly (readonly [string, number, string, unknown])[] = [
      [A1, 0, 'start', FLAT],
      [A1, 1, 'tempo', at(60)],
      [A1, 2, 'the hand of Ada', WITH_ADA],
      [A1, 3, 'tempo again', at(80)],
      [A2, 0, 'start', { key: 'a newer shape' }],
    ];
    for (const [id, step, label, decisions] of states)
      await db.query(
        "insert into decisions (arrangement_id, step, label, decisions, made_at) values ($1, $2, $3, $4, timestamptz '2026-01-01T10:00:00Z' + $5 * interval '1 second')",
        [id, step, label, decisions, step],
      );
    await db.query('insert into hands (id, name, wishes, limits) values ($1, $2, $3, $4)', [
      L1,
      'Ada',
      { preset: 'small-hands', name: 'Ada' },
      { noFourth: true },
    ]);
  });
  store = await openStore(directory);
  library = await openLibrary(store);
}, 60_000);
afterAll(async () => {
  await library.jobs.stop();
  await Promise.all([library.drawing.stop(), library.analysing.stop()]);
  await store.close();
  await rm(directory, { recursive: true, force: true });
});

it('keeps the present state, and sets aside what it could not read before', async () => {
  const opened = await openTune(library, T1);
  expect(opened).toMatchObject({ title: 'Brass Latch', revision: 4, undo: 'rename', redo: 'style', aside: 1 });
  expect(opened.arrangements).toHaveLength(1);
  expect(opened.arrangements[0]).toMatchObject({ id: A1, revision: 5, undo: 'the hand of Ada', redo: 'tempo again' });
});

it('makes each hand a learner, and knows it in the arrangements that named it', async () => {
  const { readable, aside } = await listShelf(store.db, learnerKind);
  expect(aside).toEqual([]);
  expect(readable.map(({ id, value }) => [id, value])).toEqual([
    [
      L1,
      {
        person: { name: 'Ada' },
        plays: { instrument: null },
        hand: { wishes: { preset: 'small-hands' }, limits: { noFourth: true } },
        paper: { style: null },
      },
    ],
  ]);
  const { decisions } = await openRecord(store.db, arrangementKind, A1);
  expect(decisions.hand.learner).toEqual({ id: L1, name: 'Ada', limits: { noFourth: true } });
});

it('walks along the history of both, through shapes of older programs', async () => {
  const walk = (revision: number, direction: 1 | -1) =>
    store.db.transaction((tx) => walkRecord(tx, arrangementKind, { id: A1, revision, entry: null }, direction));
  expect((await walk(5, 1)).decisions.pace.tempo).toBe(80);
  expect((await walk(6, -1)).decisions.pace.tempo).toBe(70);
  expect((await walk(7, -1)).decisions.pace.tempo).toBe(60);
  const first = await walk(8, -1);
  expect(first).toMatchObject({
    undo: null,
    redo: 'tempo',
    decisions: { pace: { tempo: 50 }, key: { instrument: 'viola' } },
  });
  await expect(walk(9, -1)).rejects.toThrow('nothing to undo');
  const undone = await store.db.transaction((tx) => walkRecord(tx, tuneKind, { id: T1, revision: 4, entry: null }, -1));
  expect(undone).toMatchObject({ undo: null, redo: 'rename', tune: { title: 'Brass Hinge' } });
  await purgeDeleted(store.db);
});

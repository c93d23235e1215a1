/** A change that is sent again is known by its id: it is made once, and nothing of others is written over. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { eq } from 'drizzle-orm';
import type { Answer, ApiError, ArrangementRecord, TuneRecord, TuneState } from '@nokta/api';
import type { Piece } from '@nokta/core/record';
import { changeBetween, movePitch } from '@nokta/core/edit';
import { pitchName } from '@nokta/core/music';
import { sent } from '../db/schema.ts';
import { forgetSent } from '../records/sent.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

let server: Harness;
beforeAll(async () => {
  server = await startHarness();
}, 60_000);
afterAll(() => server.stop());

const TUNE = tuneFrom('X:1\nT:Net Needle\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
const add = async () => (await server.call<TuneRecord>('POST', '/tunes', { tune: TUNE })).body;
const open = async (id: string) => (await server.call<TuneRecord>('GET', `/tunes/${id}`)).body;

const rename = ({ id, tune }: TuneRecord, title: string, revision: number, entry: string | null = null) =>
  server.call<Answer<TuneState> & ApiError>('PATCH', `/tunes/${id}`, {
    revision,
    change: changeBetween(tune, { ...tune, title }),
    label: 'rename',
    entry,
  });
const pace = ({ id, decisions }: ArrangementRecord, tempo: number, revision: number, entry: string | null = null) =>
  server.call<Answer<ArrangementRecord> & ApiError>('PUT', `/arrangements/${id}`, {
    revision,
    decisions: { ...decisions, pace: { tempo } },
    label: 'tempo',
    entry,
  });

it('makes a change of a tune once, however often it comes', async () => {
  const record = await add();
  const entry = randomUUID();
  const first = await rename(record, 'Other', 1, entry);
  expect(first.body).toMatchObject({ revision: 2, made: 2 });
  expect(first.body.others).toBe(false);
  expect((await rename(record, 'Other', 1, entry)).body).toEqual({ ...first.body, others: true });
  expect((await open(record.id)).revision).toBe(2);
  expect((await rename(record, 'Third', 1)).status).toBe(409);
});

it('answers a late copy with what is there now, and with what its sender may build on', async () => {
  const record = await add();
  const [arrangement] = record.arrangements as [ArrangementRecord];
  const entry = randomUUID();
  await pace(arrangement, 60, 1, entry);
  await pace(arrangement, 90, 2, randomUUID());
  const { status, body } = await pace(arrangement, 60, 1, entry);
  expect(status).toBe(200);
  expect(body).toMatchObject({ revision: 3, made: 2, decisions: { pace: { tempo: 90 } } });
  // What the sender made next does not know of the other: it is shown both.
  const next = await pace(arrangement, 61, body.made, randomUUID());
  expect(next.status).toBe(409);
  expect(next.body.current).toMatchObject({ decisions: { pace: { tempo: 90 } } });
});

it('makes two copies that come together once', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  const entry = randomUUID();
  const both = await Promise.all([pace(arrangement, 60, 1, entry), pace(arrangement, 60, 1, entry)]);
  expect(both.map(({ status, body }) => [status, body.revision])).toEqual([
    [200, 2],
    [200, 2],
  ]);
});

it('knows a change that was undone since, and does not make it again', async () => {
  const record = await add();
  const [arrangement] = record.arrangements as [ArrangementRecord];
  const [entry, step] = [randomUUID(), randomUUID()];
  await pace(arrangement, 60, 1, entry);
  const undo = (way: string, revision: number) =>
    server.call<Answer<ArrangementRecord>>('POST', `/arrangements/${arrangement.id}/${way}`, { revision, entry: step });
  expect((await undo('undo', 2)).body).toMatchObject({ revision: 3, undo: null });
  expect((await undo('undo', 2)).body).toMatchObject({ revision: 3, made: 3, undo: null });
  expect((await pace(arrangement, 60, 1, entry)).body).toMatchObject({
    revision: 3,
    decisions: { pace: { tempo: null } },
  });
  await rename(record, 'Other', 1);
  const back = randomUUID();
  const walk = () => server.call<Answer<TuneState>>('POST', `/tunes/${record.id}/undo`, { revision: 2, entry: back });
  expect((await walk()).body).toMatchObject({ revision: 3, made: 3 });
  expect((await walk()).body).toMatchObject({ revision: 3, made: 3 });
});

it('knows nothing of a change that was refused', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  const entry = randomUUID();
  expect((await pace(arrangement, 60, 5, entry)).status).toBe(409);
  expect((await pace(arrangement, 60, 1, entry)).body).toMatchObject({ revision: 2, made: 2 });
});

it('takes no change for one of another record, and none whose id is no id', async () => {
  const [one, other] = [await add(), await add()];
  const entry = randomUUID();
  await rename(one, 'Other', 1, entry);
  expect((await rename(other, 'Other', 1, entry)).status).toBe(422);
  expect((await rename(other, 'Other', 1, 'mine')).status).toBe(400);
});

it('forgets what nobody sends again', async () => {
  const record = await add();
  const entry = randomUUID();
  await rename(record, 'Other', 1, entry);
  await forgetSent(server.library.db);
  const known = () => server.library.db.select().from(sent).where(eq(sent.entry, entry));
  expect(await known()).toHaveLength(1);
  await server.library.db
    .update(sent)
    .set({ at: new Date('2020-01-01') })
    .where(eq(sent.entry, entry));
  await forgetSent(server.library.db);
  expect(await known()).toHaveLength(0);
});

it('gives back locks of many notes as they were sent, whatever order the store has for them', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  const locks = Object.fromEntries(
    ['n10', 'n2', 'n1'].map((id) => [id, { instrument: 'violin', stops: [{ string: 2, finger: 1, midi: 71 }] }]),
  );
  const hand = { ...arrangement.decisions.hand, locks };
  const entry = randomUUID();
  const send = () =>
    server.call<Answer<ArrangementRecord>>('PUT', `/arrangements/${arrangement.id}`, {
      revision: 1,
      decisions: { ...arrangement.decisions, hand },
      label: 'lock',
      entry,
    });
  const { status, body } = await send();
  if (status !== 200) throw new Error(JSON.stringify(body));
  expect((await send()).body).toEqual({ ...body, others: true });
  expect(body.decisions.hand.locks).toEqual(locks);
});

const pieces = ({ id }: ArrangementRecord, revision: number, list: readonly Piece[]) =>
  server.call<Answer<ArrangementRecord> & ApiError>('PUT', `/arrangements/${id}`, {
    revision,
    pieces: list,
    label: list.map(({ field, entry }) => entry ?? field).join(),
    entry: randomUUID(),
  });
const lock = (note: string, finger: number): Piece => ({
  slice: 'hand',
  field: 'locks',
  entry: note,
  before: null,
  after: { instrument: 'violin', stops: [{ string: 2, finger, midi: 71 }] },
});

it('lays decisions that do not touch each other together, made at two desks on one state', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  const tempo: Piece = { slice: 'pace', field: 'tempo', before: null, after: 60 };
  const turn: Piece = { slice: 'bow', field: 'turns', entry: 'n2', before: null, after: 'down' };
  const both = await Promise.all([
    pieces(arrangement, 1, [tempo]),
    pieces(arrangement, 1, [turn]),
    pieces(arrangement, 1, [lock('n1', 1)]),
    pieces(arrangement, 1, [lock('n2', 2)]),
  ]);
  expect(both.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
  const now = (await server.call<ArrangementRecord>('GET', `/arrangements/${arrangement.id}`)).body;
  expect(now).toMatchObject({ revision: 5, decisions: { pace: { tempo: 60 }, bow: { turns: { n2: 'down' } } } });
  expect(Object.keys(now.decisions.hand.locks).sort()).toEqual(['n1', 'n2']);
});

it('asks where the same piece was decided otherwise, and takes none of it', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  await pieces(arrangement, 1, [lock('n1', 1)]);
  const { status, body } = await pieces(arrangement, 1, [lock('n2', 2), lock('n1', 3)]);
  expect(status).toBe(409);
  expect(Object.keys((body.current as ArrangementRecord).decisions.hand.locks)).toEqual(['n1']);
  // The same by both is one decision, and no step of its own.
  // But there may be more than its sender knows, and it is told so.
  expect((await pieces(arrangement, 1, [lock('n1', 1)])).body).toMatchObject({ revision: 2, made: 2, others: true });
});

it('asks where pieces that touch nothing do not fit together', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  await pieces(arrangement, 1, [{ slice: 'key', field: 'instrument', before: 'violin', after: 'cello' }]);
  const tuning: Piece = { slice: 'key', field: 'tuning', before: 'standard', after: 'double-d' };
  expect((await pieces(arrangement, 1, [tuning])).status).toBe(409);
});

it('refuses pieces of no slice and of no sound value, and takes either pieces or the whole', async () => {
  const [arrangement] = (await add()).arrangements as [ArrangementRecord];
  const send = (body: object) =>
    server.call<ApiError>('PUT', `/arrangements/${arrangement.id}`, { revision: 1, label: 'x', ...body });
  const tempo = { slice: 'pace', field: 'tempo', before: null, after: 60 };
  expect((await send({ pieces: [{ ...tempo, slice: 'lute' }] })).status).toBe(400);
  expect((await send({ pieces: [tempo], decisions: arrangement.decisions })).status).toBe(400);
  expect((await send({})).status).toBe(400);
  for (const wrong of [
    { ...tempo, after: 'fast' },
    { ...tempo, field: '__proto__' },
    { ...tempo, field: 'speed' },
  ])
    expect((await send({ pieces: [wrong] })).status).toBeGreaterThanOrEqual(400);
  expect((await server.call<ArrangementRecord>('GET', `/arrangements/${arrangement.id}`)).body).toMatchObject({
    revision: 1,
  });
});

it('lays edits of a tune together that do not touch, and asks about those that do', async () => {
  const record = await add();
  const { id, tune } = record;
  const change = (next: typeof tune, label: string) =>
    server.call<Answer<TuneState> & ApiError>('PATCH', `/tunes/${id}`, {
      revision: 1,
      change: changeBetween(tune, next),
      label,
      entry: randomUUID(),
    });
  const first = tune.bars[0]!.events[0]!.id;
  const last = tune.bars[1]!.events[1]!.id;
  expect((await change(movePitch(tune, new Set([first]), 'step', 1), 'up')).status).toBe(200);
  expect((await change({ ...tune, title: 'Other' }, 'rename')).status).toBe(200);
  expect((await change(movePitch(tune, new Set([last]), 'step', -1), 'down')).status).toBe(200);
  const now = (await open(id)).tune;
  expect(now.title).toBe('Other');
  expect(
    now.bars.flatMap(({ events }) =>
      events.map((event) => (event.kind === 'note' ? pitchName(event.heads[0]!.pitch) : 'z')),
    ),
  ).toEqual(['E5', 'A4', 'F#4', 'C#4']);
  expect((await change(movePitch(tune, new Set([first]), 'octave', 1), 'up again')).status).toBe(409);
});

it('writes nothing over that its sender did not see, whatever count of changes it names', async () => {
  const { id, arrangements, revision } = (
    await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom('X:1\nT:Cask\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n') })
  ).body;
  const [one] = arrangements as [ArrangementRecord];
  const tempo = (before: number | null, after: number): Piece => ({ slice: 'pace', field: 'tempo', before, after });
  expect((await pieces(one, 1, [tempo(null, 60)])).status).toBe(200);
  expect((await pieces(one, 1, [tempo(null, 80)])).status).toBe(409);
  expect((await pieces(one, 2, [tempo(null, 80)])).status).toBe(422);
  const rename = (known: number, title: string) =>
    server.call<TuneState & ApiError>('PATCH', `/tunes/${id}`, {
      revision: known,
      label: 'rename',
      change: { fields: { before: { title: 'Cask' }, after: { title } } },
    });
  expect((await rename(revision, 'Cask and Hoop')).status).toBe(200);
  const late = await rename(revision, 'Barrel');
  expect(late.status).toBe(409);
  expect(late.body.current).toMatchObject({ tune: { title: 'Cask and Hoop' } });
  expect((await rename(revision + 1, 'Barrel')).status).toBe(422);
});

/** Records of any kind: kept, changed, merged, undone, removed, logged; and told to all who listen. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Answer, ApiError, ArrangementRecord, LogEntry, Notice, StoredRecord, TuneRecord } from '@nokta/api';
import { MAKES } from '@nokta/core/instrument';
import { openBackup } from '@nokta/core/files';
import { learnerNamed, learnerRecord, type Learner } from '@nokta/core/learner';
import { records } from '../db/schema.ts';
import { purgeDeleted } from '../library/tunes.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

let server: Harness;
beforeAll(async () => {
  server = await startHarness();
});
afterAll(() => server.stop());

type Told = StoredRecord<Learner>;
const ADA: Learner = {
  ...learnerNamed('Ada'),
  hand: { wishes: { preset: 'small-hands' }, limits: { noFourth: true } },
};

async function add(value: Learner = ADA, id = randomUUID()): Promise<Told> {
  const { status, body } = await server.call<Told>('POST', '/learners', { id, value });
  expect(status).toBe(201);
  return body;
}

const change = (one: Told, make: (now: Learner) => Learner, more: object = {}) =>
  server.call<Answer<Told> & ApiError>('PATCH', `/learners/${one.id}`, {
    revision: one.revision,
    label: 'change',
    change: learnerRecord.between(one.value, make(one.value)),
    ...more,
  });
const named =
  (name: string) =>
  (now: Learner): Learner => ({ ...now, person: { name } });
const limited = (now: Learner): Learner => ({ ...now, hand: { ...now.hand, limits: { maxPosition: 'III' } } });

describe('a learner', () => {
  it('is kept with what they play, changed, undone, done again, listed and removed', async () => {
    const instrument = { like: 'violin' as const, make: MAKES.violin[1]! };
    const one = await add({ ...ADA, plays: { instrument } });
    expect(one).toMatchObject({ revision: 1, undo: null });
    const { body } = await change(one, named('Ada May'));
    expect(body).toMatchObject({
      revision: 2,
      made: 2,
      others: false,
      undo: 'change',
      value: { person: { name: 'Ada May' } },
    });
    const undone = await server.call<Told>('POST', `/learners/${one.id}/undo`, { revision: 2 });
    expect(undone.body).toMatchObject({ revision: 3, undo: null, redo: 'change', value: one.value });
    const again = await server.call<Told>('POST', `/learners/${one.id}/redo`, { revision: 3 });
    expect(again.body).toMatchObject({ revision: 4, value: { person: { name: 'Ada May' }, plays: { instrument } } });
    const listed = (await server.call<Told[]>('GET', '/learners')).body;
    expect(listed.find(({ id }) => id === one.id)?.value).toEqual(again.body.value);
    expect((await server.call('DELETE', `/learners/${one.id}`)).status).toBe(204);
    expect((await change(one, named('B'))).status).toBe(404);
    expect((await server.call('POST', `/learners/${one.id}/restore`)).status).toBe(204);
    expect((await server.call<Told>('GET', `/learners/${one.id}`)).body.value).toEqual(again.body.value);
    await server.call('DELETE', `/learners/${one.id}`);
  });

  it('that is sent twice is there once', async () => {
    const id = randomUUID();
    await add(ADA, id);
    expect(await add(named('Other')(ADA), id)).toMatchObject({ id, revision: 1, value: ADA });
    await server.call('DELETE', `/learners/${id}`);
  });

  it('is refused without a name, or with a preset that there is not', async () => {
    const refused = async (value: object) =>
      (await server.call('POST', '/learners', { id: randomUUID(), value })).status;
    expect(await refused({ ...ADA, person: { name: ' ' } })).toBe(400);
    expect(await refused({ ...ADA, hand: { ...ADA.hand, wishes: { preset: 'telepathy' } } })).toBe(400);
    const one = await add();
    expect((await change(one, named(' '))).status).toBe(422);
    await server.call('DELETE', `/learners/${one.id}`);
  });

  it('takes what two desks change in it, and asks only where both changed the same', async () => {
    const one = await add();
    expect((await change(one, named('Ada May'))).body.revision).toBe(2);
    const merged = await change(one, limited);
    expect(merged.body).toMatchObject({ revision: 3, others: true });
    expect(merged.body.value).toMatchObject({ person: { name: 'Ada May' }, hand: { limits: { maxPosition: 'III' } } });
    const collides = await change(one, named('Adele'));
    expect(collides.status).toBe(409);
    expect(collides.body.current).toMatchObject({ revision: 3 });
    await server.call('DELETE', `/learners/${one.id}`);
  });

  it('has a log that two desks add to, each entry once', async () => {
    const one = await add();
    const entry = (at: string): LogEntry => ({ id: randomUUID(), at, value: { clean: true } });
    const [first, second] = [entry('2026-03-01T10:00:00.000Z'), entry('2026-03-02T10:00:00.000Z')];
    for (const each of [first, second, first])
      expect((await server.call('POST', `/learners/${one.id}/log`, each)).status).toBe(201);
    expect((await server.call('GET', `/learners/${one.id}/log`)).body).toEqual([second, first]);
    const other = await add(named('Other')(ADA));
    expect((await server.call('POST', `/learners/${other.id}/log`, first)).status).toBe(422);
    expect((await server.call('POST', `/learners/${randomUUID()}/log`, entry(first.at))).status).toBe(404);
    for (const { id } of [one, other]) await server.call('DELETE', `/learners/${id}`);
  });

  it('that was removed goes for good at the next start, with steps and log', async () => {
    const one = await add();
    await change(one, named('Ada May'));
    await server.call('DELETE', `/learners/${one.id}`);
    await purgeDeleted(server.library.db);
    expect((await server.call('POST', `/learners/${one.id}/restore`)).status).toBe(404);
  });

  it('comes along in a backup, and one that cannot be read stands aside', async () => {
    const one = await add();
    const odd = randomUUID();
    await server.library.db.insert(records).values({ id: odd, kind: 'learner', value: { person: 7 } });
    const response = await fetch(`${server.url}/api/backup`);
    const backup = openBackup(new Uint8Array(await response.arrayBuffer()));
    if (!backup?.ok) throw new Error('no backup');
    expect(backup.value.learners).toEqual([{ id: one.id, value: ADA }]);
    expect(backup.value.aside).toMatchObject([{ id: odd }]);
    await server.call('DELETE', `/learners/${one.id}`);
  });
});

describe('a notice', () => {
  /** What a desk hears while something is done. */
  async function heard(
    work: () => Promise<unknown>,
    until: (all: readonly Notice[]) => boolean,
  ): Promise<readonly Notice[]> {
    const control = new AbortController();
    const response = await fetch(`${server.url}/api/notices`, { signal: control.signal });
    const all: Notice[] = [];
    const reading = (async () => {
      const decoder = new TextDecoder();
      for await (const piece of response.body!) {
        for (const [, text] of decoder.decode(piece as Uint8Array).matchAll(/^data: (.*)$/gm))
          all.push(JSON.parse(text!) as Notice);
        if (until(all)) return;
      }
    })();
    await work();
    await Promise.race([reading, new Promise((_, reject) => setTimeout(() => reject(new Error('not told')), 2_000))]);
    control.abort();
    return all;
  }

  it('tells within a second which record changed, and by which change', async () => {
    const one = await add();
    const entry = randomUUID();
    const begun = performance.now();
    const all = await heard(
      () => change(one, named('Ada May'), { entry }),
      (told) => told.length === 1,
    );
    expect(performance.now() - begun).toBeLessThan(1_000);
    expect(all).toEqual([{ kind: 'learner', id: one.id, family: one.id, revision: 2, entry }]);
  });

  it('names a tune with its arrangements, and is not sent of what was refused', async () => {
    const tune = tuneFrom('X:1\nT:Wax and Wick\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
    const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune });
    const [{ id, decisions }] = body.arrangements as [ArrangementRecord];
    const decide = (revision: number, tempo: number) =>
      server.call('PUT', `/arrangements/${id}`, {
        revision,
        label: 'tempo',
        decisions: { ...decisions, pace: { tempo } },
      });
    const all = await heard(
      async () => {
        expect((await decide(7, 50)).status).toBe(409);
        await decide(1, 60);
      },
      (told) => told.length === 1,
    );
    expect(all).toEqual([{ kind: 'arrangement', id, family: body.id, revision: 2, entry: null }]);
  });
});

/** A backup over HTTP: made, compared with what is here, gone back to. */
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type {
  ApiError,
  ArrangementRecord,
  Compared,
  RestoreResult,
  TuneRecord,
  TuneState,
  VersionSummary,
} from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import { changeBetween, type TuneChange } from '@nokta/core/edit';
import { openBackup, openFile, readNokta } from '@nokta/core/files';
import type { Tune } from '@nokta/core/music';
import { arrangements, steps, tunes } from '../db/schema.ts';
import { purgeDeleted } from '../library/tunes.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';
import { OTHER, startWithTunes } from './threeTunes.ts';

let server: Harness;
let air: { readonly id: string };
beforeAll(async () => {
  ({ server, air } = await startWithTunes());
}, 60_000);
afterAll(() => server.stop());

describe('backup', () => {
  const backup = async (from: Harness) => new Uint8Array(await (await fetch(`${from.url}/api/backup`)).arrayBuffer());

  function contents(zip: Uint8Array) {
    const backup = openBackup(zip);
    if (!backup?.ok) throw new Error('no backup');
    return backup.value.tunes.map(({ id, updatedAt, file, arrangements: ids = [] }) => {
      const text = backup.value.text(file);
      const read = text.ok ? readNokta(text.value) : text;
      if (!read.ok) throw new Error('no tune');
      return { id, updatedAt, source: 'backup', instrument: null, arrangementIds: [...ids], ...read.value };
    });
  }

  const madeAt = '2026-03-01T10:00:00.000Z';
  const restore = (to: Harness, tunes: readonly unknown[]) =>
    to.call<RestoreResult>('POST', '/backup/restore', { madeAt, tunes });
  const entriesOf = (zip: Uint8Array) => {
    const backup = openBackup(zip);
    if (!backup?.ok) throw new Error('no backup');
    return backup.value.tunes.map(({ id, updatedAt, sha256 }) => ({ id, updatedAt, sha256 }));
  };
  const compare = async (at: Harness, zip: Uint8Array) =>
    (await at.call<Compared>('POST', '/backup/compare', { tunes: entriesOf(zip) })).body;

  it('goes into an empty library and comes out the same', async () => {
    const zip = await backup(server);
    const all = contents(zip);
    const other = await startHarness();
    expect(new Set(await compare(other, zip))).toEqual(new Set(['new']));
    expect((await restore(other, all)).body).toEqual({ restored: all.map(({ id }) => id), refused: [] });
    expect(new Set(await compare(other, zip))).toEqual(new Set(['same']));
    expect(contents(await backup(other))).toEqual(all);
    await other.stop();
  }, 60_000);

  it('tells as changed a tune that got a tag, a named version or a decision since', async () => {
    const zip = await backup(server);
    const place = entriesOf(zip).findIndex(({ id }) => id === air.id);
    expect((await compare(server, zip))[place]).toBe('same');
    await server.call('PUT', `/tunes/${air.id}/tags`, { tags: ['new tag'] });
    expect((await compare(server, zip))[place]).toBe('differs');
    const tagged = await backup(server);
    await server.call('POST', `/tunes/${air.id}/versions`, { name: 'since' });
    expect((await compare(server, tagged))[place]).toBe('differs');
  });

  describe('over a tune that was changed since', () => {
    let changed: TuneRecord;
    let backedUp: ReturnType<typeof contents>[number];
    beforeEach(async () => {
      changed = (await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(OTHER) })).body;
      await server.call('PUT', `/tunes/${changed.id}/tags`, { tags: ['before'] });
      backedUp = contents(await backup(server)).find(({ id }) => id === changed.id)!;
      const change = changeBetween(changed.tune, { ...changed.tune, title: 'Changed Since' });
      const label = 'rename';
      await server.call('PATCH', `/tunes/${changed.id}`, { revision: changed.revision, change, label });
      const [{ id, decisions }] = changed.arrangements as [ArrangementRecord];
      const tempo = { ...decisions, pace: { ...decisions.pace, tempo: 71 } };
      await server.call('PUT', `/arrangements/${id}`, { revision: 1, decisions: tempo, label: 'tempo' });
      await server.call('PUT', `/tunes/${changed.id}/tags`, { tags: ['since'] });
      await server.call('POST', `/tunes/${changed.id}/versions`, { name: 'named since' });
    });
    afterEach(() => server.call('DELETE', `/tunes/${changed.id}`));
    const now = async () => (await server.call<TuneRecord>('GET', `/tunes/${changed.id}`)).body;
    const versions = async () =>
      (await server.call<VersionSummary[]>('GET', `/tunes/${changed.id}/versions`)).body.map(({ name }) => name);

    it('goes back as steps that can be undone, and takes nothing away', async () => {
      await restore(server, [{ ...backedUp, how: 'backup' }]);
      const after = await now();
      expect(after).toMatchObject({ title: changed.title, undo: 'restore the backup of 2026-03-01' });
      expect(after.tags).toEqual(['since', 'before']);
      expect(await versions()).toEqual(['named since']);
      expect(after.arrangements[0]!.decisions).toEqual(changed.arrangements[0]!.decisions);
      const undone = await server.call<TuneState>('POST', `/tunes/${changed.id}/undo`, { revision: after.revision });
      expect(undone.body.tune.title).toBe('Changed Since');
      const [arrangement] = after.arrangements as [ArrangementRecord];
      expect(arrangement.undo).toBe('restore the backup of 2026-03-01');
      const { body } = await server.call<ArrangementRecord>('POST', `/arrangements/${arrangement.id}/undo`, {
        revision: arrangement.revision,
      });
      expect(body).toMatchObject({ undo: 'tempo', decisions: { pace: { tempo: 71 } } });
    });

    it('or stays as it is here, and takes in what only the backup has', async () => {
      const before = await now();
      await restore(server, [{ ...backedUp, how: 'both' }]);
      const after = await now();
      expect(after).toMatchObject({ title: 'Changed Since', revision: before.revision, tags: ['since', 'before'] });
      expect(after.arrangements).toEqual(before.arrangements);
      expect([...(await versions())].sort()).toEqual(['From the backup of 2026-03-01', 'named since']);
    });

    it('asks about what a window writes that was opened before, and takes what has nothing to do with it', async () => {
      const before = await now();
      await restore(server, [{ ...backedUp, how: 'backup' }]);
      const late = (next: Tune) =>
        server.call<TuneState>('PATCH', `/tunes/${changed.id}`, {
          revision: before.revision,
          change: changeBetween(before.tune, next),
          label: 'late',
        });
      expect((await late({ ...before.tune, title: 'Changed Again' })).status).toBe(409);
      const { status, body } = await late({ ...before.tune, style: 'waltz' });
      expect([status, body.tune.title, body.tune.style]).toEqual([200, changed.title, 'waltz']);
      expect(body.undo).toBe('late');
    });

    it('counts on from where it was, even where the tune was deleted and cleared away meanwhile', async () => {
      const before = await now();
      await server.call('DELETE', `/tunes/${changed.id}`);
      await purgeDeleted(server.library.db);
      await restore(server, [{ ...backedUp, how: 'backup' }]);
      expect((await now()).revision).toBeGreaterThan(before.revision);
    });

    it('knows an arrangement by its id, however like it another is', async () => {
      const [first] = (await now()).arrangements as [ArrangementRecord];
      const path = `/tunes/${changed.id}/arrangements`;
      const second = (await server.call<ArrangementRecord>('POST', path, { decisions: first.decisions })).body;
      const two = contents(await backup(server)).find(({ id }) => id === changed.id)!;
      const tempo = (of: ArrangementRecord, bpm: number) => ({
        ...of.decisions,
        pace: { ...of.decisions.pace, tempo: bpm },
      });
      await server.call('PUT', `/arrangements/${second.id}`, {
        revision: 1,
        decisions: tempo(second, 52),
        label: 'tempo',
      });
      // The second comes first in the backup: by likeness it would be taken for the first.
      const turned = {
        ...two,
        arrangements: [{ ...two.arrangements[1]!, pace: { ...two.arrangements[1]!.pace, tempo: 99 } }],
        arrangementIds: [two.arrangementIds[1]!],
      };
      await restore(server, [{ ...turned, how: 'backup' }]);
      const after = (await now()).arrangements;
      expect(after.map(({ id }) => id)).toEqual([first.id, second.id]);
      expect(after.map(({ decisions }) => decisions.pace.tempo)).toEqual([71, 99]);
    });

    it('gives arrangements their ids back where they are free, and others where they are not', async () => {
      const other = await startHarness();
      await restore(other, [backedUp]);
      const here = (await other.call<TuneRecord>('GET', `/tunes/${changed.id}`)).body;
      expect(here.arrangements.map(({ id }) => id)).toEqual(backedUp.arrangementIds);
      await other.stop();
      const copy = { ...backedUp, id: randomUUID() };
      await restore(server, [copy]);
      const beside = (await server.call<TuneRecord>('GET', `/tunes/${copy.id}`)).body;
      expect(beside.arrangements).toHaveLength(1);
      expect(backedUp.arrangementIds).not.toContain(beside.arrangements[0]!.id);
      await server.call('DELETE', `/tunes/${copy.id}`);
    }, 30_000);

    it('gives an id once, however often a backup tells it', async () => {
      const [decisions] = backedUp.arrangements;
      const id = randomUUID();
      const own = randomUUID();
      const twice = { ...backedUp, id: own, arrangements: [decisions, decisions], arrangementIds: [id, id] };
      expect((await restore(server, [twice])).body).toMatchObject({ restored: [own], refused: [] });
      const ids = (await server.call<TuneRecord>('GET', `/tunes/${own}`)).body.arrangements.map((one) => one.id);
      expect(new Set(ids).size).toBe(2);
      expect(ids[0]).toBe(id);
      await server.call('DELETE', `/tunes/${own}`);
    });

    it('still takes a backup that tells no ids, by what its arrangements are for', async () => {
      await restore(server, [{ ...backedUp, arrangementIds: [], how: 'backup' }]);
      const after = await now();
      expect(after.arrangements).toHaveLength(1);
      expect(after.arrangements[0]!.decisions).toEqual(changed.arrangements[0]!.decisions);
    });

    it('brings a deleted one back', async () => {
      await server.call('DELETE', `/tunes/${changed.id}`);
      await restore(server, [backedUp]);
      expect(await now()).toMatchObject({ title: changed.title, undo: 'restore the backup of 2026-03-01' });
    });
  });

  it('carries along what this program cannot read, and never writes over it', async () => {
    const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(OTHER) });
    const strange = { ...body.tune, fromTheFuture: true } as Tune;
    await server.library.db.update(tunes).set({ tune: strange }).where(eq(tunes.id, body.id));
    const opened = await server.call<ApiError>('GET', `/tunes/${body.id}`);
    expect(opened.status).toBe(422);
    expect(opened.body.error).toContain('nothing is lost');
    const edit = { revision: 1, change: { fields: {} }, label: 'x' };
    expect((await server.call('PATCH', `/tunes/${body.id}`, edit)).status).toBe(422);
    const found = openBackup(await backup(server));
    if (!found?.ok) throw new Error('no backup');
    expect(found.value.aside).toMatchObject([{ id: body.id, title: body.title }]);
    const text = found.value.text(found.value.aside![0]!.file);
    expect(text.ok && text.value).toContain('fromTheFuture');
    expect((await server.call('GET', '/tunes')).status).toBe(200);
    await server.call('DELETE', `/tunes/${body.id}`);
  });

  it('says of a step of the history that it cannot read that it does not fit, and keeps the tune', async () => {
    const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(OTHER) });
    const change = changeBetween(body.tune, { ...body.tune, title: 'Renamed' });
    const path = `/tunes/${body.id}`;
    await server.call('PATCH', path, { revision: 1, change, label: 'rename' });
    const strange = { bars: { at: 'a newer shape' } } as unknown as TuneChange;
    await server.library.db.update(steps).set({ change: strange }).where(eq(steps.record, body.id));
    expect((await server.call('POST', `${path}/undo`, { revision: 2 })).status).toBe(422);
    expect((await server.call<TuneRecord>('GET', path)).body).toMatchObject({ title: 'Renamed', revision: 2 });
    await server.call('DELETE', path);
  });

  it('keeps decisions aside that it cannot read, and gives the tune others to go on with', async () => {
    const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(OTHER) });
    const [{ id }] = body.arrangements as [ArrangementRecord];
    const strange = { key: 'a newer shape' } as unknown as Decisions;
    const stored = () => server.library.db.select().from(arrangements).where(eq(arrangements.id, id));
    await server.library.db.update(arrangements).set({ decisions: strange }).where(eq(arrangements.id, id));
    const opened = (await server.call<TuneRecord>('GET', `/tunes/${body.id}`)).body;
    expect(opened.aside).toBe(1);
    expect(opened.arrangements).toHaveLength(1);
    expect(opened.arrangements[0]!.id).not.toBe(id);
    expect((await stored())[0]!.decisions).toEqual(strange);
    await server.call('DELETE', `/tunes/${body.id}`);
  });

  it('is an archive whose tunes any reader of Nokta files opens', async () => {
    const opened = openFile(await backup(server), 'nokta-backup.zip');
    expect(opened.ok && opened.value.tunes.length).toBe(3);
    expect(opened.ok && opened.value.read({ tune: 2 }).ok).toBe(true);
  });

  it('refuses a tune that is not sound by its name, and restores the others', async () => {
    const [good] = contents(await backup(server));
    const bad = { ...good!, id: crypto.randomUUID(), tune: { ...good!.tune, bars: [] } };
    const fresh = { ...good!, id: crypto.randomUUID() };
    const { body } = await restore(server, [bad, fresh]);
    expect(body.restored).toEqual([fresh.id]);
    expect(body.refused).toMatchObject([{ index: 0, title: good!.tune.title }]);
    expect((await server.call('GET', `/tunes/${bad.id}`)).status).toBe(404);
    await server.call('DELETE', `/tunes/${fresh.id}`);
  });
});

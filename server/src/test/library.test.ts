/** The library over HTTP: finding, history, versions, sameness, backup. */
import { melodyOf, packMelody } from '@nokta/core/search';
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type {
  AlikeTune,
  ApiError,
  ArrangementRecord,
  BatchResult,
  Compared,
  Facets,
  Incipit,
  RestoreResult,
  TuneList,
  TuneRecord,
  TuneState,
  VersionRecord,
  VersionSummary,
} from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import { changeBetween, deleteBars, setChord, type TuneChange } from '@nokta/core/edit';
import { openBackup, openFile, readNokta } from '@nokta/core/files';
import { transposeTune, type Tune } from '@nokta/core/music';
import { arrangements, steps, tunes } from '../db/schema.ts';
import { purgeDeleted } from '../library/tunes.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

const REEL =
  'X:1\nT:Tar and Twine\nT:The Łódź Twiner\nR:reel\nC:Composed here\nN:for the harvest supper\nM:4/4\nL:1/8\nK:G\n|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|\n';
const JIG = 'X:1\nT:Wet Rope\nR:jig\nM:6/8\nL:1/8\nK:D\n|: d2e fed | B2d A2F | G2B AFD | E2F G3 :|\n';
const AIR = 'X:1\nT:The Grey Gull\nR:air\nM:3/4\nL:1/4\nK:Am\nA2 c | e2 d | c2 B | A3 |\n';
const OTHER = 'X:1\nT:Rope Walk\nM:2/4\nL:1/8\nK:D\n|: DF A2 | Bd A2 | FA Bc | d4 :|\n';

let server: Harness;
let reel: TuneRecord;
let air: { readonly id: string };
beforeAll(async () => {
  server = await startHarness();
  reel = (await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(REEL), tags: ['supper', 'group'] })).body;
  const { body } = await server.call<BatchResult>('POST', '/tunes/batch', {
    tunes: [
      { tune: tuneFrom(JIG), tags: ['group'] },
      { tune: tuneFrom(AIR), instrument: 'cello' },
    ],
  });
  air = body.added[1]!;
}, 60_000);
afterAll(() => server.stop());

const find = async (query: Record<string, string>) =>
  (await server.call<TuneList>('GET', `/tunes?${new URLSearchParams(query).toString()}`)).body;
const titles = async (query: Record<string, string>) => (await find(query)).tunes.map(({ title }) => title);

describe('finding by words', () => {
  it.each([
    ['a title', 'twine', 'Tar and Twine'],
    ['another title, accents left out', 'lodz', 'Tar and Twine'],
    ['a note', 'harvest', 'Tar and Twine'],
    ['a tag', 'supper', 'Tar and Twine'],
    ['a style', 'jig', 'Wet Rope'],
    ['a slip of the pen', 'Gery Gul', 'The Grey Gull'],
    ['a word in any order', 'gull grey', 'The Grey Gull'],
  ])('%s', async (_, words, title) => {
    expect((await titles({ words }))[0]).toBe(title);
  });

  it('finds nothing for what is not there, and everything for nothing', async () => {
    expect(await titles({ words: 'xylophone' })).toEqual([]);
    expect(await titles({})).toEqual(['Tar and Twine', 'The Grey Gull', 'Wet Rope']);
    expect(await titles({ words: "%_'; drop table" })).toEqual([]);
  });

  it('filters by several things at once, sorts, and gives pages', async () => {
    expect(await titles({ tag: 'group' })).toEqual(['Tar and Twine', 'Wet Rope']);
    expect(await titles({ tag: 'group', metre: '6/8' })).toEqual(['Wet Rope']);
    expect(await titles({ sort: 'style' })).toEqual(['The Grey Gull', 'Wet Rope', 'Tar and Twine']);
    expect(await find({ limit: '1', offset: '1' })).toMatchObject({
      total: 3,
      tunes: [{ title: 'The Grey Gull', settings: ['cello'] }],
    });
    const { body } = await server.call<Facets>('GET', '/tunes/facets');
    expect(body.tag).toEqual([
      { value: 'group', tunes: 2 },
      { value: 'supper', tunes: 1 },
    ]);
    expect(body.metre.map(({ value }) => value).sort()).toEqual(['3/4', '4/4', '6/8']);
  });
});

describe('finding by melody', () => {
  it('finds the place in any key, and shows it', async () => {
    const { tunes } = await find({ melody: 'A c B A G B' });
    expect(tunes[0]).toMatchObject({ title: 'Wet Rope' });
    const place = (await find({ melody: 'c e c b d b a b a g' })).tunes.find(
      ({ title }) => title === 'Tar and Twine',
    )?.place;
    expect(place).toMatchObject({ score: 1 });
    const { body } = await server.call<Incipit>(
      'GET',
      `/tunes/${reel.id}/incipit?from=${place!.from}&length=${place!.length}`,
    );
    expect(body.marked).toContain(body.noteId);
    expect(body.markup).toContain(`data-note="${body.noteId}"`);
  });

  it('follows an edit', async () => {
    const { body: air } = await server.call<TuneRecord>('POST', '/tunes', {
      tune: { ...tuneFrom(AIR), title: 'Gone Soon' },
    });
    await server.call('DELETE', `/tunes/${air.id}`);
    expect((await find({ melody: 'A c e d c B A' })).tunes.map(({ title }) => title)).not.toContain('Gone Soon');
  });

  it('says what it needs', async () => {
    const { status, body } = await server.call<ApiError>('GET', '/tunes?melody=G');
    expect(status).toBe(422);
    expect(body.remedy).toContain('three notes');
  });

  it('engraves the first bars', async () => {
    const { body } = await server.call<Incipit>('GET', `/tunes/${reel.id}/incipit`);
    expect(body.markup).toContain('data-note="n1"');
    expect(body.markup).not.toContain('data-note="n20"');
  });
});

describe('history of a tune', () => {
  const state = async () => (await server.call<TuneRecord>('GET', `/tunes/${reel.id}`)).body;
  const patch = async (make: (tune: Tune) => Tune, label: string) => {
    const { revision, tune } = await state();
    return server.call<TuneState>('PATCH', `/tunes/${reel.id}`, {
      revision,
      change: changeBetween(tune, make(tune)),
      label,
    });
  };
  const step = async (way: 'undo' | 'redo', revision: number) =>
    server.call<TuneState & ApiError>('POST', `/tunes/${reel.id}/${way}`, { revision });
  const walk = async (way: 'undo' | 'redo') => step(way, (await state()).revision);
  /** So many steps, each on what the one before has answered. */
  const walkFar = async (way: 'undo' | 'redo', steps: number) => {
    let { revision } = await state();
    for (let taken = 0; taken < steps; taken += 1) {
      const { status, body } = await step(way, revision);
      expect(status).toBe(200);
      revision = body.revision;
    }
  };

  it('undoes and does again without limit, and one chain runs through tune and arrangements', async () => {
    const before = await state();
    for (let chord = 1; chord <= 30; chord += 1)
      await patch((tune) => setChord(tune, 'n1', `G${chord}`), `chord ${chord}`);
    await walkFar('undo', 30);
    expect((await state()).tune).toEqual(before.tune);
    expect((await walk('undo')).status).toBe(409);
    await walkFar('redo', 30);
    expect((await state()).tune.bars[0]!.events[0]!.chordSymbol).toBe('G30');
    await walk('undo');
    expect(await state()).toMatchObject({ undo: 'chord 29', redo: 'chord 30' });
    const { arrangements } = await state();
    await server.call<ArrangementRecord>('PUT', `/arrangements/${arrangements[0]!.id}`, {
      revision: 1,
      decisions: { ...arrangements[0]!.decisions, pace: { tempo: 77 } },
      label: 'tempo',
    });
    const decided = await state();
    expect(decided.redo).toBeNull();
    // And the other way round: an edit forgets what was undone in an arrangement.
    const { id } = decided.arrangements[0]!;
    await server.call('POST', `/arrangements/${id}/undo`, { revision: 2 });
    expect((await state()).arrangements[0]!.redo).toBe('tempo');
    await patch((tune) => setChord(tune, 'n2', 'C'), 'chord');
    expect((await state()).arrangements[0]!.redo).toBeNull();
    await walk('undo');
    await server.call<ArrangementRecord>('PUT', `/arrangements/${id}`, {
      revision: 3,
      decisions: { ...decided.arrangements[0]!.decisions, pace: { tempo: 78 } },
      label: 'tempo',
    });
    const last = await state();
    expect(last.arrangements[0]!.undoAt! > last.undoAt!).toBe(true);
  });

  it('refuses a change that was made for another state, or would break the tune', async () => {
    const { revision, tune } = await state();
    const change = changeBetween(tune, deleteBars(tune, { from: 0, to: 0 }))!;
    const other = { ...change, bars: { ...change.bars!, at: 2 } };
    const broken = { bars: { at: 0, before: tune.bars.slice(0, 1), after: [{ ...tune.bars[0]!, length: 3 }] } };
    for (const wrong of [
      other,
      broken,
      { bars: 7 },
      { slurs: { at: 0, before: [], after: [{ from: 'x', to: 'y' }] } },
    ]) {
      const { status, body } = await server.call<ApiError>('PATCH', `/tunes/${reel.id}`, {
        revision,
        change: wrong,
        label: 'x',
      });
      expect(status).toBe(422);
      expect(body.remedy).toBeTruthy();
    }
    expect((await state()).tune).toEqual(tune);
  });

  it('names versions, opens them and takes them away', async () => {
    const named = await server.call<VersionSummary>('POST', `/tunes/${reel.id}/versions`, { name: 'As Ansa plays it' });
    expect(named.status).toBe(201);
    await patch((tune) => deleteBars(tune, { from: 3, to: 3 }), 'delete a bar');
    const { body } = await server.call<VersionRecord>('GET', `/tunes/${reel.id}/versions/${named.body.id}`);
    expect(body.tune.bars).toHaveLength(4);
    expect((await server.call<VersionSummary[]>('GET', `/tunes/${reel.id}/versions`)).body).toHaveLength(1);
    expect((await server.call('DELETE', `/tunes/${reel.id}/versions/${named.body.id}`)).status).toBe(204);
    expect((await server.call('GET', `/tunes/${reel.id}/versions/${named.body.id}`)).status).toBe(404);
    await walk('undo');
  });
});

describe('the same melody', () => {
  it('is noticed under another title and key, and joined as another name', async () => {
    const again = { ...transposeTune(tuneFrom(REEL), 5), title: 'Rope Walk', alsoKnownAs: [] };
    const other = tuneFrom('X:1\nT:Oakum\nM:4/4\nL:1/8\nK:G\nGBdg bgdB | cege cGEC | DFAd fdAF | G2BA G4 |\n');
    const { body: alike } = await server.call<AlikeTune[][]>('POST', '/tunes/alike', {
      melodies: [other, again].map((tune) => packMelody(melodyOf(tune))),
    });
    expect(alike).toMatchObject([[], [{ title: 'Tar and Twine', likeness: 1 }]]);
    const { body: batch } = await server.call<BatchResult>('POST', '/tunes/batch', { tunes: [{ tune: again }] });
    expect(batch.added[0]!.alike).toMatchObject([{ id: reel.id }]);
    expect((await server.call('POST', `/tunes/${reel.id}/join/${batch.added[0]!.id}`)).status).toBe(204);
    expect((await find({ words: 'rope walk' })).tunes[0]).toMatchObject({
      id: reel.id,
      alsoKnownAs: ['The Łódź Twiner', 'Rope Walk'],
    });
    expect((await server.call('GET', `/tunes/${batch.added[0]!.id}`)).status).toBe(404);
    expect((await server.call('POST', `/tunes/${reel.id}/join/${reel.id}`)).status).toBe(409);
  });
});

describe('tags', () => {
  it('are set, found and kept apart from the history', async () => {
    const { body } = await server.call<{ tags: string[] }>('PUT', `/tunes/${reel.id}/tags`, {
      tags: ['new', 'new', 'two words'],
    });
    expect(body.tags).toEqual(['new', 'two words']);
    expect(await titles({ words: 'two words' })).toEqual(['Tar and Twine']);
    expect((await server.call('PUT', `/tunes/${reel.id}/tags`, { tags: [''] })).status).toBe(400);
  });
});

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

describe('a batch', () => {
  it('is answered tune by tune: one that cannot be kept keeps none of the others out', async () => {
    const good = tuneFrom(OTHER);
    const bad = { ...good, title: 'Half\uD800' };
    const long = { ...good, composer: 'x'.repeat(301) };
    const { status, body } = await server.call<BatchResult>('POST', '/tunes/batch', {
      tunes: [{ tune: long }, { tune: good }, { nothing: true }],
    });
    expect(status).toBe(201);
    expect(body.added).toHaveLength(1);
    expect(body.refused.map(({ index }) => index)).toEqual([0, 2]);
    // What cannot be stored at all is refused before it is looked at.
    expect((await server.call('POST', '/tunes/batch', { tunes: [{ tune: bad }] })).status).toBe(400);
    await server.call('DELETE', `/tunes/${body.added[0]!.id}`);
  });
});

it('keeps a change of the clef alone, and takes it back and makes it again like any other', async () => {
  const { id, tune } = (await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(CLEF) })).body;
  const change = changeBetween(tune, { ...tune, clef: 'bass' });
  const body = { revision: 1, change, label: 'bass clef' };
  const clef = async () => (await server.call<TuneRecord>('GET', `/tunes/${id}`)).body.tune.clef;
  expect((await server.call<TuneState>('PATCH', `/tunes/${id}`, body)).body).toMatchObject({
    revision: 2,
    undo: 'bass clef',
  });
  expect(await clef()).toBe('bass');
  await server.call('POST', `/tunes/${id}/undo`, { revision: 2 });
  expect(await clef()).toBeUndefined();
  await server.call('POST', `/tunes/${id}/redo`, { revision: 3 });
  expect(await clef()).toBe('bass');
});
const CLEF = 'X:1\nT:Low Tide\nM:4/4\nL:1/4\nK:C\nC,D,E,F,|\n';

it('refuses dates that no store has, with a word for each', async () => {
  const added = {
    tune: tuneFrom(CLEF),
    versions: [{ name: 'First', madeAt: '0000-01-01T00:00:00Z', tune: tuneFrom(CLEF) }],
  };
  const { status, body } = await server.call<ApiError>('POST', '/tunes', added);
  expect([status, body.error]).toEqual([400, 'A date is of a year from 1900 on.']);
  const restored = { ...added, versions: [], id: randomUUID(), updatedAt: '0000-12-31T23:59:59Z' };
  const answer = await server.call<RestoreResult>('POST', '/backup/restore', {
    madeAt: '2026-03-01T10:00:00Z',
    tunes: [restored],
  });
  expect(answer.status).toBe(200);
  expect(answer.body.refused[0]!.error).toBe('A date is of a year from 1900 on.');
});

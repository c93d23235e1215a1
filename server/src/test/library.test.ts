/** The library over HTTP: finding, history, versions, sameness, tags. */
import { melodyOf, packMelody } from '@nokta/core/search';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  AlikeTune,
  ApiError,
  ArrangementRecord,
  BatchResult,
  Facets,
  Incipit,
  RestoreResult,
  TuneList,
  TuneRecord,
  TuneState,
  VersionRecord,
  VersionSummary,
} from '@nokta/api';
import { changeBetween, deleteBars, setChord } from '@nokta/core/edit';
import { transposeTune, type Tune } from '@nokta/core/music';
import { tuneFrom, type Harness } from './harness.ts';
import { REEL, AIR, OTHER, startWithTunes } from './threeTunes.ts';

let server: Harness;
let reel: TuneRecord;
beforeAll(async () => {
  ({ server, reel } = await startWithTunes());
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

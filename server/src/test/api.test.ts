import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError, ArrangementRecord, OwnContract, SheetPages, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { arrange } from '@nokta/core/arrange';
import { changeBetween, findTroubles } from '@nokta/core/edit';
import { ENDINGS, openFile } from '@nokta/core/files';
import { readAbc } from '@nokta/core/formats';
import { contractFor } from '@nokta/core/grade';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

const ABC = 'X:1\nT:Tar and Twine\nR:reel\nM:4/4\nL:1/8\nK:G\n|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|\n';

let server: Harness;
beforeAll(async () => {
  server = await startHarness();
}, 60_000);
afterAll(() => server.stop());

const add = async (text = ABC) => (await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(text) })).body;
const list = async (query = '') => (await server.call<TuneList>('GET', `/tunes${query}`)).body;

describe('library', () => {
  it('refuses a tune that is not sound, with the place, and keeps nothing', async () => {
    const tune = tuneFrom(ABC);
    for (const wrong of [
      {},
      { tune: { ...tune, title: ' ' } },
      { tune: { ...tune, bars: [] } },
      { tune: { ...tune, bars: [{ ...tune.bars[0]!, length: 1 }] } },
      { tune: { ...tune, slurs: [{ from: 'n1', to: 'n999' }] } },
      { tune, arrangements: [{ instrument: 'lute' }] },
    ]) {
      const { status, body } = await server.call<ApiError>('POST', '/tunes', wrong);
      expect(status).toBe(400);
      expect(body.error).toBeTruthy();
    }
    expect(await list()).toEqual({ total: 0, tunes: [] });
  });

  it('adds, opens, renames, deletes and brings back', async () => {
    const { id, revision, tune } = await add();
    const change = changeBetween(tune, { ...tune, title: 'Tar & Twine' });
    const renamed = await server.call<TuneState>('PATCH', `/tunes/${id}`, { revision, change, label: 'rename' });
    expect(renamed.body).toMatchObject({ revision: revision + 1, undo: 'rename', tune: { title: 'Tar & Twine' } });
    expect((await list()).tunes[0]).toMatchObject({ title: 'Tar & Twine', style: 'reel', parts: 'AA', key: 'G major' });
    const other = changeBetween(tune, { ...tune, title: 'Tar without Twine' });
    const stale = await server.call<ApiError>('PATCH', `/tunes/${id}`, { revision, change: other, label: 'again' });
    expect(stale.status).toBe(409);
    expect(stale.body.current).toMatchObject({ tune: { title: 'Tar & Twine' } });
    expect((await server.call('DELETE', `/tunes/${id}`)).status).toBe(204);
    expect((await server.call('GET', `/tunes/${id}`)).status).toBe(404);
    await server.call('POST', `/tunes/${id}/restore`);
    expect((await server.call<TuneRecord>('GET', `/tunes/${id}`)).body.tune.title).toBe('Tar & Twine');
    await server.call('DELETE', `/tunes/${id}`);
  });
});

describe('contracts of one’s own', () => {
  it('are found in every tune’s arrangements, each once, and not in deleted tunes', async () => {
    const { arrangements, id } = await add();
    const first = arrangements[0]!;
    const contract = { name: 'My second-years', limits: contractFor('violin', 2).limits };
    const decisions = { ...first.decisions, version: { ...first.decisions.version, grade: 2, contract } };
    for (let times = 0; times < 2; times += 1) {
      expect((await server.call('POST', `/tunes/${id}/arrangements`, { decisions })).status).toBe(201);
    }
    const made = async () => (await server.call<readonly OwnContract[]>('GET', '/contracts')).body;
    expect(await made()).toEqual([{ hand: 'violin', contract, tune: 'Tar and Twine' }]);
    await server.call('DELETE', `/tunes/${id}`);
    expect(await made()).toEqual([]);
  });
});

describe('a phrase that changes when it comes again', () => {
  it('leaves in the file of that time round', async () => {
    const { arrangements, tune, id } = await add();
    const first = arrangements[0]!;
    const note = tune.bars[0]!.events[0]!.id;
    const version = { ...first.decisions.version, slots: { [note]: { 2: 'octave-up' } } };
    const decisions = { ...first.decisions, version };
    await server.call('PUT', `/arrangements/${first.id}`, { revision: first.revision, decisions, label: 'octave' });
    const octaves = async (query: string) =>
      [
        ...(await (await fetch(`${server.url}/api/arrangements/${first.id}/tune.musicxml${query}`)).text()).matchAll(
          /<octave>(\d)/g,
        ),
      ].map(([, octave]) => Number(octave));
    const [plain, again] = [await octaves(''), await octaves('?round=2')];
    expect(again[0]).toBe(plain[0]! + 1);
    expect(again).toHaveLength(plain.length);
    await server.call('DELETE', `/tunes/${id}`);
  });
});

describe('decisions', () => {
  it('saves, undoes and redoes, and drops what could be redone after a new decision', async () => {
    const { arrangements } = await add();
    const first = arrangements[0]!;
    const decide = (revision: number, tempo: number, label: string) =>
      server.call<ArrangementRecord>('PUT', `/arrangements/${first.id}`, {
        revision,
        decisions: { ...first.decisions, pace: { tempo } },
        label,
      });
    const step = (way: string, revision: number) =>
      server.call<ArrangementRecord>('POST', `/arrangements/${first.id}/${way}`, { revision });
    expect((await decide(1, 80, 'slower')).body).toMatchObject({ revision: 2, undo: 'slower', redo: null });
    expect((await decide(2, 60, 'slower still')).body).toMatchObject({ revision: 3, undo: 'slower still' });
    expect((await step('undo', 3)).body).toMatchObject({
      revision: 4,
      undo: 'slower',
      redo: 'slower still',
      decisions: { pace: { tempo: 80 } },
    });
    expect((await step('redo', 4)).body).toMatchObject({ decisions: { pace: { tempo: 60 } }, redo: null });
    await step('undo', 5);
    expect((await decide(6, 100, 'faster')).body).toMatchObject({ undo: 'faster', redo: null });
    expect((await step('redo', 7)).status).toBe(409);
    expect((await server.call<ArrangementRecord>('GET', `/arrangements/${first.id}`)).body.decisions.pace.tempo).toBe(
      100,
    );
  });

  it('refuses a stale write and shows what is there', async () => {
    const { arrangements } = await add();
    const { id, decisions } = arrangements[0]!;
    const both = await Promise.all(
      [70, 75].map((tempo) =>
        server.call<ArrangementRecord & ApiError>('PUT', `/arrangements/${id}`, {
          revision: 1,
          decisions: { ...decisions, pace: { tempo } },
          label: 'tempo',
        }),
      ),
    );
    expect(both.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 409]);
    const [won, lost] = [...both].sort((a, b) => a.status - b.status);
    expect(lost!.body.current).toMatchObject({ revision: 2, decisions: { pace: won!.body.decisions.pace } });
  });

  it('refuses decisions that make no sense', async () => {
    const { arrangements } = await add();
    const { id, decisions } = arrangements[0]!;
    for (const wrong of [
      { key: { ...decisions.key, tuning: 'A9' } },
      { key: { ...decisions.key, transpose: 0.5 } },
      { key: { ...decisions.key, instrument: 'lute' } },
      {
        hand: {
          ...decisions.hand,
          locks: { n1: { instrument: 'violin', stops: [{ string: 1, finger: 7, midi: 60 }] } },
        },
      },
      { swing: 2 },
    ]) {
      const refused = await server.call<ApiError>('PUT', `/arrangements/${id}`, {
        revision: 1,
        decisions: { ...decisions, ...wrong },
        label: 'x',
      });
      expect(refused.status).toBe(400);
    }
  });

  it('keeps arrangements of one tune apart', async () => {
    const { id, arrangements } = await add();
    const made = await server.call<ArrangementRecord>('POST', `/tunes/${id}/arrangements`, {
      decisions: { ...arrangements[0]!.decisions, version: { grade: 'bare' } },
    });
    expect(made.status).toBe(201);
    const opened = await server.call<TuneRecord>('GET', `/tunes/${id}`);
    expect(opened.body.arrangements.map(({ decisions }) => decisions.version.grade)).toEqual(['tune', 'bare']);
  });
});

describe('sheets and files', () => {
  it('lays out pages and makes a vector PDF with its fonts inside', async () => {
    const { arrangements } = await add(ABC.replace('Tar and Twine', 'Żółw i Çınar, Dvořák’s ḟear'));
    const { id } = arrangements[0]!;
    const { body } = await server.call<SheetPages>(
      'GET',
      `/arrangements/${id}/sheet?style=${encodeURIComponent('{"paper":"letter"}')}`,
    );
    expect(body.pages).toHaveLength(1);
    expect(body.pages[0]).toContain('Żółw i Çınar, Dvořák’s');
    const response = await fetch(`${server.url}/api/arrangements/${id}/sheet.pdf`);
    expect(response.headers.get('content-type')).toContain('pdf');
    const pdf = Buffer.from(await response.arrayBuffer()).toString('latin1');
    expect(pdf.startsWith('%PDF-')).toBe(true);
    expect(pdf).toContain('FontFile2');
    expect(pdf).not.toContain('/Subtype /Image');
  }, 60_000);

  it('gives a page as a picture, with the letters in it', async () => {
    const { arrangements } = await add();
    const address = `${server.url}/api/arrangements/${arrangements[0]!.id}/sheet.png`;
    const response = await fetch(`${address}?page=9`);
    expect(response.headers.get('content-type')).toContain('image/png');
    const png = Buffer.from(await response.arrayBuffer());
    expect(png.subarray(1, 4).toString()).toBe('PNG');
    // A4 at 200 to the inch.
    expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([1654, 2339]);
    const empty = await fetch(`${address}?style=${encodeURIComponent('{"pages":["blank"]}')}`);
    expect(Buffer.from(await empty.arrayBuffer()).length).toBeLessThan(png.length);
  }, 60_000);

  it('prints whatever is asked for, and says what is wrong with a style that is none', async () => {
    const { arrangements } = await add();
    const ask = (style: string) =>
      server.call<SheetPages & { error: string }>(
        'GET',
        `/arrangements/${arrangements[0]!.id}/sheet?style=${encodeURIComponent(style)}`,
      );
    const { body } = await ask('{"pages":["tune","how","warmups","weave","blank"],"fingerboard":true}');
    expect(body.pages.length).toBeGreaterThanOrEqual(5);
    expect(body.pages.join('')).toContain('Warm-ups for');
    for (const wrong of ['{', '{"pages":[]}', '{"paper":"a5"}', '{"tab":{"strings":{"E":"red"}}}'])
      expect((await ask(wrong)).status).toBe(400);
  }, 60_000);

  it('gives MusicXML and ABC with fingers and bows', async () => {
    const { arrangements } = await add();
    const xml = await server.call<string>('GET', `/arrangements/${arrangements[0]!.id}/tune.musicxml`);
    expect(xml.body).toContain('<fingering>3</fingering>');
    expect(xml.body).toContain('<down-bow/>');
    expect(xml.headers.get('content-disposition')).toContain('Tar and Twine.musicxml');
    const abc = await server.call<string>('GET', `/arrangements/${arrangements[0]!.id}/tune.abc`);
    expect(abc.body).toContain('!downbow!');
    const tab = await server.call<string>('GET', `/arrangements/${arrangements[0]!.id}/tune.musicxml?tab=true`);
    expect(tab.body).toContain('<sign>TAB</sign>');
  });

  it.each(ENDINGS)('gives a %s file that opens again', async (ending) => {
    const { arrangements } = await add();
    const response = await fetch(`${server.url}/api/arrangements/${arrangements[0]!.id}/tune.${ending}`);
    expect(response.headers.get('content-disposition')).toContain(`.${ending}`);
    const opened = openFile(new Uint8Array(await response.arrayBuffer()), `x.${ending}`);
    expect(opened.ok && opened.value.read().ok).toBe(true);
  });

  it('knows no other endings', async () => {
    const { arrangements } = await add();
    expect((await server.call('GET', `/arrangements/${arrangements[0]!.id}/tune.exe`)).status).toBe(404);
  });
});

describe('edges', () => {
  it('answers health, unknown addresses, broken JSON and too much text in the same shape', async () => {
    expect((await server.call('GET', '/health')).body).toMatchObject({ ok: true });
    expect((await server.call<ApiError>('GET', '/nothing')).body.error).toBeTruthy();
    const broken = await fetch(`${server.url}/api/tunes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{',
    });
    expect(broken.status).toBe(400);
    expect((await server.call<ApiError>('POST', '/tunes', { text: 'x'.repeat(43_000_000) })).status).toBe(413);
  });

  it('refuses writes from another site and sends a strict policy', async () => {
    const foreign = await server.call<ApiError>(
      'POST',
      '/tunes',
      { tune: tuneFrom(ABC) },
      { origin: 'http://elsewhere.example' },
    );
    expect(foreign.status).toBe(403);
    const { headers } = await server.call('GET', '/health');
    expect(headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(headers.get('content-security-policy')).not.toContain("script-src 'self' 'unsafe-inline'");
  });
});

it('ships a demo in which every note of every tune is in reach', async () => {
  const demo = await startHarness('demo');
  const { body } = await demo.call<TuneList>('GET', '/tunes');
  expect(body.total).toBeGreaterThanOrEqual(12);
  for (const { id } of body.tunes) {
    const { body: opened } = await demo.call<TuneRecord>('GET', `/tunes/${id}`);
    const arrangement = arrange(opened.tune, opened.arrangements[0]!.decisions);
    expect(arrangement.fingering.problems).toEqual([]);
    const abc = await demo.call<string>('GET', `/arrangements/${opened.arrangements[0]!.id}/tune.abc`);
    expect(readAbc(abc.body)).toMatchObject({ ok: true, notices: [] });
    expect(findTroubles(opened.tune)).toEqual([]);
  }
  await demo.stop();
}, 60_000);

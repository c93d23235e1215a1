import { existsSync } from 'node:fs';
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore } from '../db/open.ts';
import { tunes } from '../db/schema.ts';
import { listQuery } from '@nokta/api';
import { listTunes } from '../library/list.ts';
import { loadMelodies } from '../library/melodies.ts';
import {
  addTune,
  addTunes,
  bringBack,
  deleteTune,
  fresh,
  openLibrary,
  purgeDeleted,
  type Library,
} from '../library/tunes.ts';
import { tuneFrom } from './harness.ts';

const TUNE = fresh(tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n'));

async function open(place: string): Promise<Library & { close(): Promise<void> }> {
  const store = await openStore(place);
  const library = await openLibrary(store);
  return { ...library, close: () => library.jobs.stop().then(() => store.close()) };
}

const all = async (library: Library) => (await listTunes(library, listQuery.parse({}))).tunes;

let directory = '';
beforeEach(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-store-'));
});
afterEach(() => rm(directory, { recursive: true, force: true }));

describe('the store on disk', () => {
  it('keeps tunes from one start to the next, and copies nothing while nothing changes', async () => {
    const first = await open(directory);
    await addTune(first, TUNE);
    await first.close();
    const second = await open(directory);
    expect(await all(second)).toMatchObject([{ title: 'Brass Hinge', settings: ['violin'] }]);
    await second.close();
    expect(existsSync(join(directory, 'backups'))).toBe(false);
  }, 60_000);

  it('copies the data before a newer program migrates it', async () => {
    const first = await open(directory);
    await addTune(first, TUNE);
    await first.close();
    const stamp = join(directory, 'migration.txt');
    const newest = await readFile(stamp, 'utf8');
    await writeFile(stamp, '0000_older.sql');
    const second = await open(directory);
    expect(await all(second)).toHaveLength(1);
    await second.close();
    expect(await readdir(join(directory, 'backups'))).toEqual(['0000_older']);
    expect(await readFile(stamp, 'utf8')).toBe(newest);
  }, 60_000);

  it('brings deleted tunes back until they are cleared away', async () => {
    const library = await open(directory);
    const [kept, gone] = [await addTune(library, TUNE), await addTune(library, TUNE)];
    await deleteTune(library, kept);
    await bringBack(library, kept);
    await deleteTune(library, gone);
    await purgeDeleted(library.db);
    expect((await all(library)).map(({ id }) => id)).toEqual([kept]);
    await expect(bringBack(library, gone)).rejects.toThrow('not here any more');
    await library.close();
  }, 60_000);

  it('works out again what an older program had not', async () => {
    const library = await open(directory);
    const id = await addTune(library, TUNE);
    await library.db.update(tunes).set({ facts: 0, title: 'Brass Hinges', melody: '', search: '' });
    const melodies = await loadMelodies(library.db);
    expect(melodies.places.size).toBe(1);
    expect(await all(library)).toMatchObject([{ id, title: 'Brass Hinges', key: 'D major' }]);
    await library.close();
  }, 60_000);

  it('works out the form of many in the background, and again when a tune is changed meanwhile', async () => {
    const library = await open(directory);
    const dialogue = tuneFrom(
      'X:1\nT:At the Hatch\nM:2/4\nL:1/8\nK:D\n|: D2FA | B2A2 | G2FE | F2E2 | D2FA | B2A2 | GFEC | D4 :|\n',
    );
    const ids = await addTunes(
      library,
      Array.from({ length: 9 }, () => fresh(dialogue)),
    );
    expect(await library.jobs.waiting('form')).toBeGreaterThan(0);
    await library.jobs.settle();
    expect(await library.jobs.waiting('form')).toBe(0);
    const { tunes: found } = await listTunes(
      library,
      listQuery.parse({ trait: 'question and answer', words: 'AA 16 bars' }),
    );
    expect(found.map(({ id }) => id).sort()).toEqual([...ids].sort());
    expect(found[0]).toMatchObject({ parts: 'AA', played: 16, traits: ['question and answer'] });
    await library.close();
  }, 60_000);
});

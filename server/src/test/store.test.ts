import { existsSync } from 'node:fs';
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore } from '../db/open.ts';
import { addTune, deleteTune, listTunes, purgeDeleted, restoreTune } from '../library.ts';

const CHOICE = { text: 'X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n', tune: 1, voice: 1 };

let directory = '';
beforeEach(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-store-'));
});
afterEach(() => rm(directory, { recursive: true, force: true }));

describe('the store on disk', () => {
  it('keeps tunes from one start to the next, and copies nothing while nothing changes', async () => {
    const first = await openStore(directory);
    await addTune(first.db, CHOICE);
    await first.close();
    const second = await openStore(directory);
    expect(await listTunes(second.db)).toMatchObject([{ title: 'Brass Hinge', arrangements: 1 }]);
    await second.close();
    expect(existsSync(join(directory, 'backups'))).toBe(false);
  }, 60_000);

  it('copies the data before a newer program migrates it', async () => {
    const first = await openStore(directory);
    await addTune(first.db, CHOICE);
    await first.close();
    const stamp = join(directory, 'migration.txt');
    const newest = await readFile(stamp, 'utf8');
    await writeFile(stamp, '0000_older.sql');
    const second = await openStore(directory);
    expect(await listTunes(second.db)).toHaveLength(1);
    await second.close();
    expect(await readdir(join(directory, 'backups'))).toEqual(['0000_older']);
    expect(await readFile(stamp, 'utf8')).toBe(newest);
  }, 60_000);

  it('brings deleted tunes back until they are cleared away', async () => {
    const { db, close } = await openStore(null);
    const [kept, gone] = [await addTune(db, CHOICE), await addTune(db, CHOICE)];
    await deleteTune(db, kept);
    await restoreTune(db, kept);
    await deleteTune(db, gone);
    await purgeDeleted(db);
    expect((await listTunes(db)).map(({ id }) => id)).toEqual([kept]);
    await expect(restoreTune(db, gone)).rejects.toThrow('not here any more');
    await close();
  }, 60_000);
});

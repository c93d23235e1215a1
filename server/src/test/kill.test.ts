/** Starting and being ended: nothing acknowledged is lost, and nothing that is there is spoiled. */
import { cp, mkdtemp, readFile, readdir, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { ArrangementRecord, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { changeBetween, deleteBars } from '@nokta/core/edit';
import { takeLock } from '../db/lock.ts';
import { openStore } from '../db/open.ts';
import { tuneFrom } from './harness.ts';
import { freePort, kill, killAll, send, start } from './program.ts';

afterEach(killAll);

it('has everything that was acknowledged after being killed without warning', async () => {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-kill-'));
  const port = await freePort();
  const first = await start(directory, port);
  const tune = await send<TuneRecord>(port, 'POST', '/tunes', {
    tune: tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n'),
  });
  const { id, decisions } = tune.arrangements[0]!;
  const saved = await send<ArrangementRecord>(port, 'PUT', `/arrangements/${id}`, {
    revision: 1,
    decisions: { ...decisions, pace: { tempo: 71 } },
    label: 'tempo',
  });
  expect(saved.revision).toBe(2);
  const change = changeBetween(tune.tune, deleteBars(tune.tune, { from: 1, to: 1 }));
  await send<TuneState>(port, 'PATCH', `/tunes/${tune.id}`, { revision: 1, change, label: 'delete a bar' });
  await kill(first);

  await start(directory, port);
  expect((await send<TuneList>(port, 'GET', '/tunes')).tunes).toHaveLength(1);
  const edited = await send<TuneRecord>(port, 'GET', `/tunes/${tune.id}`);
  expect(edited).toMatchObject({ revision: 2, undo: 'delete a bar' });
  expect(edited.tune.bars).toHaveLength(1);
  expect(await send<ArrangementRecord>(port, 'GET', `/arrangements/${id}`)).toMatchObject({
    revision: 2,
    decisions: { pace: { tempo: 71 } },
    undo: 'tempo',
  });
  await rm(directory, { recursive: true, force: true });
}, 120_000);

it('stops cleanly when asked to, and says plainly when its port is taken', async () => {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-stop-'));
  const other = await mkdtemp(join(tmpdir(), 'nokta-other-'));
  const port = await freePort();
  const child = await start(directory, port);
  await expect(start(other, port)).rejects.toThrow(`Port ${port} is taken`);
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  expect(await ended).toBe(0);
  await Promise.all([directory, other].map((place) => rm(place, { recursive: true })));
}, 120_000);

describe('a data folder', () => {
  const TUNE = tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
  let good: string;
  let directory: string;
  beforeAll(async () => {
    good = await mkdtemp(join(tmpdir(), 'nokta-good-'));
    const port = await freePort();
    const first = await start(good, port);
    await send(port, 'POST', '/tunes', { tune: TUNE });
    const ended = new Promise((resolve) => first.once('exit', resolve));
    first.kill('SIGTERM');
    await ended;
  }, 60_000);
  afterAll(() => rm(good, { recursive: true, force: true }));
  const copy = async () => {
    directory = await mkdtemp(join(tmpdir(), 'nokta-folder-'));
    await cp(good, directory, { recursive: true });
    return directory;
  };
  afterEach(() => rm(directory, { recursive: true, force: true }));

  it('has one server: a second one says where the first answers, and touches nothing', async () => {
    const [port, other] = [await freePort(), await freePort()];
    await copy();
    await start(directory, port);
    await expect(start(directory, other)).rejects.toThrow(
      `Nokta already runs on this folder at http://127.0.0.1:${port}/`,
    );
    await expect(start(directory, port)).rejects.toThrow('Nokta already runs on this folder');
    await send(port, 'POST', '/tunes', { tune: { ...TUNE, title: 'After It' } });
    expect((await send<TuneList>(port, 'GET', '/tunes')).total).toBe(2);
  }, 60_000);

  it('is taken over from a killed program, and is private to its user', async () => {
    const port = await freePort();
    await kill(await start(await copy(), port));
    expect(await readdir(directory)).toContain('nokta.lock');
    await start(directory, port);
    expect((await send<TuneList>(port, 'GET', '/tunes')).total).toBe(1);
    expect((await stat(directory)).mode & 0o777).toBe(0o700);
  }, 60_000);

  /** By the program as it is started, which says what it can no more: an error that nobody caught would look otherwise. */
  const started = async (place: string): Promise<unknown> => start(place, await freePort());
  it.each([
    [
      'has lost a file',
      (place: string) => rm(join(place, 'db', 'PG_VERSION')),
      'has lost the file PG_VERSION',
      started,
    ],
    [
      'is spoiled inside',
      (place: string) => writeFile(join(place, 'db', 'global', 'pg_control'), new Uint8Array(8192).fill(7)),
      'does not start',
      started,
    ],
    [
      'was cut short',
      (place: string) => truncate(join(place, 'db', 'global', 'pg_control'), 4000),
      'cut short',
      openStore,
    ],
    [
      'has no database',
      (place: string) => rm(join(place, 'db'), { recursive: true }),
      'its database is missing',
      openStore,
    ],
    [
      'was written by a newer program',
      (place: string) => writeFile(join(place, 'migration.txt'), '9999_later.sql'),
      'kept by a newer Nokta',
      openStore,
    ],
  ])(
    'that %s is told in plain words, and never replaced by an empty library',
    async (_, spoil, words, open) => {
      await spoil(await copy());
      const before = await readdir(directory);
      const stamp = await readFile(join(directory, 'migration.txt'), 'utf8');
      const told = await open(directory).then(
        () => 'it started',
        (error: Error) => error.message,
      );
      expect(told).toContain(words);
      expect(told).toContain('Nothing in the folder was changed.');
      expect(told).not.toMatch(/at .*\.js|PANIC|wasm/);
      expect(await readdir(directory)).toEqual(before);
      expect(await readFile(join(directory, 'migration.txt'), 'utf8')).toBe(stamp);
    },
    60_000,
  );

  it('goes to one of many that come at once', async () => {
    await copy();
    const all = await Promise.allSettled(
      Array.from({ length: 20 }, (_, index) => takeLock(directory, `http://127.0.0.1:${4000 + index}/`)),
    );
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });

  it('that a killed program left goes to one of many too', async () => {
    await copy();
    const old = { token: crypto.randomUUID(), pid: 999_999_9, computer: hostname() };
    await writeFile(
      join(directory, 'nokta.lock'),
      JSON.stringify({ ...old, address: 'http://127.0.0.1:1/', began: '1' }),
    );
    const all = await Promise.allSettled(
      Array.from({ length: 20 }, (_, index) => takeLock(directory, `http://127.0.0.1:${4000 + index}/`)),
    );
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });
});

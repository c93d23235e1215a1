/** Starting and being ended: nothing acknowledged is lost, and nothing that is there is spoiled. */
import { chmod, cp, mkdir, mkdtemp, readFile, readdir, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ArrangementRecord, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { changeBetween, deleteBars } from '@nokta/core/edit';
import { takeLock } from '../db/lock.ts';
import { openStore } from '../db/open.ts';
import { tuneFrom } from './harness.ts';
import { canHideProc, freePort, kill, killAll, send, start } from './program.ts';

afterAll(killAll);

/** Fresh places, removed in the end. */
const places: string[] = [];
const freshPlace = async () => {
  places.push(await mkdtemp(join(tmpdir(), 'nokta-kill-')));
  return places.at(-1)!;
};
afterAll(() => Promise.all(places.map((one) => rm(one, { recursive: true, force: true }))));

const TUNE = tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');

describe('a data folder', () => {
  /** One that has been through it all: begun by the first program, which is killed, taken over by the next, and closed. */
  let good: string;
  let saved: { readonly tune: TuneState; readonly arrangement: ArrangementRecord };
  let leftBehind: readonly string[];
  let found: { readonly list: TuneList; readonly tune: TuneRecord; readonly arrangement: ArrangementRecord };
  let mode: number;
  let exit: unknown;
  beforeAll(async () => {
    good = await freshPlace();
    const port = await freePort();
    const first = await start(good, port);
    const { id, tune, arrangements } = await send<TuneRecord>(port, 'POST', '/tunes', { tune: TUNE });
    const [{ id: own, decisions }] = arrangements as readonly [ArrangementRecord];
    const arrangement = await send<ArrangementRecord>(port, 'PUT', `/arrangements/${own}`, {
      revision: 1,
      decisions: { ...decisions, pace: { tempo: 71 } },
      label: 'tempo',
    });
    const change = changeBetween(tune, deleteBars(tune, { from: 1, to: 1 }));
    saved = {
      arrangement,
      tune: await send<TuneState>(port, 'PATCH', `/tunes/${id}`, { revision: 1, change, label: 'delete a bar' }),
    };
    await kill(first);
    leftBehind = await readdir(good);

    await chmod(good, 0o755);
    const second = await start(good, port);
    mode = (await stat(good)).mode & 0o777;
    found = {
      list: await send<TuneList>(port, 'GET', '/tunes'),
      tune: await send<TuneRecord>(port, 'GET', `/tunes/${id}`),
      arrangement: await send<ArrangementRecord>(port, 'GET', `/arrangements/${own}`),
    };
    const ended = new Promise((resolve) => second.once('exit', resolve));
    second.kill('SIGTERM');
    exit = await ended;
  }, 120_000);

  it('has everything that was acknowledged after the program was killed without warning', () => {
    expect(saved.arrangement.revision).toBe(2);
    expect(found.list.tunes).toHaveLength(1);
    expect(found.tune).toMatchObject({ revision: 2, undo: 'delete a bar' });
    expect(found.tune.tune).toEqual(saved.tune.tune);
    expect(found.tune.tune.bars).toHaveLength(1);
    expect(found.arrangement).toMatchObject({ revision: 2, decisions: { pace: { tempo: 71 } }, undo: 'tempo' });
  });

  it('is taken over from a killed program, and is private to its user', () => {
    expect(leftBehind).toContain('nokta.lock');
    expect(found.list.total).toBe(1);
    expect(mode).toBe(0o700);
  });

  it('is closed and let go of when the program is asked to stop', async () => {
    expect(exit).toBe(0);
    expect(await readdir(good)).not.toContain('nokta.lock');
  });

  let directory: string;
  const copy = async () => {
    directory = await freshPlace();
    await cp(good, directory, { recursive: true });
    return directory;
  };

  it('has one server: a second one says where the first answers, or that its port is taken, and touches nothing', async () => {
    const [port, other] = [await freePort(), await freePort()];
    await start(await copy(), port);
    const empty = await freshPlace();
    const refused = (folder: string, at: number, words: string) => expect(start(folder, at)).rejects.toThrow(words);
    await Promise.all([
      refused(directory, other, `Nokta already runs on this folder at http://127.0.0.1:${port}/`),
      refused(directory, port, 'Nokta already runs on this folder'),
      refused(empty, port, `Port ${port} is taken`),
    ]);
    expect(await readdir(empty)).toEqual([]);
    await send(port, 'POST', '/tunes', { tune: { ...TUNE, title: 'After It' } });
    expect((await send<TuneList>(port, 'GET', '/tunes')).total).toBe(2);
    killAll();
  }, 60_000);

  it.each([
    ['here', false],
    ['on a system without /proc', true],
  ])(
    'has one server %s, also while that one is stopped, and the next when it is killed',
    async (_, hidden) => {
      if (hidden && !canHideProc()) return;
      const [port, other] = [await freePort(), await freePort()];
      const first = await start(await copy(), port, { hidden });
      first.kill('SIGSTOP');
      await expect(start(directory, other, { hidden })).rejects.toThrow(
        `Nokta already runs on this folder at http://127.0.0.1:${port}/`,
      );
      await kill(first);
      await start(directory, other, { hidden });
      expect((await send<TuneList>(other, 'GET', '/tunes')).total).toBe(1);
      killAll();
    },
    60_000,
  );

  it('says who it will be while it is starting', async () => {
    const port = await freePort();
    const starting = start(await copy(), port);
    const tokens = new Set<string | undefined>();
    const ask = async () => {
      const answer = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null);
      if (answer) tokens.add(((await answer.json()) as { token?: string }).token);
      return answer?.status;
    };
    const seen = [];
    while (seen.at(-1) !== 200) seen.push(await ask());
    await starting;
    expect(seen).toContain(503);
    expect(tokens.size).toBe(1);
    expect([...tokens][0]).toBeTruthy();
    killAll();
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
      'has a file for a database',
      async (place: string) => {
        await rm(join(place, 'db'), { recursive: true });
        await writeFile(join(place, 'db'), 'x');
      },
      'its database “db” is a file',
      started,
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
      // A database that is tried writes its notes before it fails: no more is promised then.
      expect(told).toContain(
        words === 'does not start' ? 'None of its files was removed' : 'Nothing in the folder was changed.',
      );
      expect(told).not.toMatch(/at .*\.js|PANIC|wasm/);
      expect(await readdir(directory)).toEqual(before);
      expect(await readFile(join(directory, 'migration.txt'), 'utf8')).toBe(stamp);
    },
    60_000,
  );

  it('that is a file, or has a folder for a lock, is told in plain words', async () => {
    const place = join(await freshPlace(), 'data');
    await writeFile(place, 'x');
    await expect(start(place, await freePort())).rejects.toThrow('is a file, and a folder is wanted there');
    expect(await readFile(place, 'utf8')).toBe('x');
    const odd = await freshPlace();
    await mkdir(join(odd, 'nokta.lock'));
    const told = await start(odd, await freePort()).catch((error: Error) => error.message);
    expect(told).toContain('nokta.lock is a folder, and a file is wanted there');
    expect(told).not.toMatch(/at .*\.js/);
  }, 60_000);

  it('that an ordinary user may only read is told in plain words, and left as it is', async () => {
    // Root may write everywhere: whoever runs this as root tries it as somebody else.
    const as = process.getuid?.() === 0 ? { uid: 65_534, gid: 65_534 } : {};
    const place = await freshPlace();
    await chmod(join(place), 0o755);
    const data = join(place, 'data');
    await cp(good, data, { recursive: true });
    await chmod(data, 0o555);
    const told = await start(data, await freePort(), { as }).catch((error: Error) => error.message);
    expect(told).toContain('Nokta may not write in its data folder');
    expect(told).toContain('Nothing in the folder was changed.');
    expect(told).not.toMatch(/at .*\.js/);
    await chmod(data, 0o755);
    expect((await readdir(data)).sort()).toEqual((await readdir(good)).sort());
  }, 60_000);

  it('goes to one of many that come at once', async () => {
    await copy();
    const all = await Promise.allSettled(
      Array.from({ length: 20 }, (_, index) =>
        takeLock(directory, { address: `http://127.0.0.1:${4000 + index}/`, token: crypto.randomUUID() }),
      ),
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
      Array.from({ length: 20 }, (_, index) =>
        takeLock(directory, { address: `http://127.0.0.1:${4000 + index}/`, token: crypto.randomUUID() }),
      ),
    );
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });
});

/** One server to a folder: by the system's lock, and where there is none by what the lock's file says. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { HeldError, holderOf, takeLock, type System } from '../db/lock.ts';
import { systemLock } from '../db/systemLock.ts';

/** Linux as it is; a system that says nothing of processes; one that knows no locks; neither. */
const HERE: System = {
  lock: systemLock,
  began: (pid) => (pid === process.pid ? 'now' : 'another time'),
  computer: hostname,
};
const SILENT: System = { ...HERE, began: () => null };
const LOCKLESS: System = { ...HERE, lock: () => 'unknown' };
const BARE: System = { ...SILENT, lock: () => 'unknown' };
const SYSTEMS = [
  ['Linux', HERE],
  ['a system without /proc', SILENT],
  ['a file system without locks', LOCKLESS],
  ['neither of them', BARE],
] as const;

let directory: string;
const places: string[] = [];
beforeEach(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-lock-'));
  places.push(directory);
});
afterAll(() => Promise.all(places.map((place) => rm(place, { recursive: true, force: true }))));

const servers: Server[] = [];
const children: ChildProcess[] = [];
afterEach(() => {
  for (const server of servers.splice(0)) server.close();
  for (const child of children.splice(0)) child.kill('SIGKILL');
});

/** Somebody at an address, who says what a server says there, or says nothing. */
async function answering(body: object | null, status = 200): Promise<string> {
  const server = createServer((_, response) => {
    if (body) response.writeHead(status).end(JSON.stringify(body));
  }).listen(0, '127.0.0.1');
  servers.push(server);
  await new Promise((resolve) => server.once('listening', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
}
/** An address where nobody listens any more. */
let NOBODY: string;
beforeAll(async () => {
  NOBODY = await answering(null);
  await new Promise((resolve) => servers.pop()!.close(resolve));
});

const me = (address: string = NOBODY) => ({ address, token: randomUUID() });
const file = () => join(directory, 'nokta.lock');
/** What another program's file says; it runs as the process of this test. */
const holder = (more: object = {}) => ({
  token: randomUUID(),
  pid: process.pid,
  computer: hostname(),
  address: NOBODY,
  began: null,
  ...more,
});
const leave = (one: object) => writeFile(file(), JSON.stringify(one));
const seen = (minutesAgo: number) =>
  writeFile(join(directory, 'nokta.seen'), new Date(Date.now() - minutesAgo * 60_000).toISOString());
const taken = (system: System) =>
  takeLock(directory, me(), system).then(
    async (lock) => {
      await lock.release();
      return 'taken';
    },
    (error: unknown) => (error instanceof HeldError ? 'held' : String(error)),
  );

describe.each(SYSTEMS)('on %s', (_, system) => {
  it('one of many that come at once has the folder, and the next when it has gone', async () => {
    // Each listens before it asks for the folder, as a server does: who does not answer yet is believed to be there.
    const address = await answering(null);
    const all = await Promise.allSettled(Array.from({ length: 20 }, () => takeLock(directory, me(address), system)));
    const won = all.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
    expect(won).toHaveLength(1);
    await won[0]!.release();
    expect(await readdir(directory)).toEqual([]);
    expect(await taken(system)).toBe('taken');
  });

  it('a live lock with a field that this program does not know is respected', async () => {
    const token = randomUUID();
    const address = await answering({ token });
    await leave(holder({ token, address, began: system.began(process.pid), school: 'another desk' }));
    expect(await taken(system)).toBe('held');
    expect(await holderOf(directory, system)).toBeInstanceOf(HeldError);
    expect(await readFile(file(), 'utf8')).toContain('another desk');
  });

  it('a file that is no lock at all is taken over', async () => {
    await writeFile(file(), '{"token":');
    expect(await holderOf(directory, system)).toBeNull();
    expect(await taken(system)).toBe('taken');
  });

  it('a program that is gone holds nothing', async () => {
    await leave(holder({ pid: 9_999_999 }));
    expect(await taken(system)).toBe('taken');
  });
});

describe('where the system has locks', () => {
  it.each([
    ['the same computer', {}],
    ['a computer that has another name now', { computer: 'old-name' }],
  ])('whoever was killed on %s is taken over from, whoever has its number since', async (_, more) => {
    await leave(holder({ address: `${await answering(null)}#locked`, ...more }));
    await seen(10);
    expect(await taken(SILENT)).toBe('taken');
  });

  it('another computer that shares the folder and no locks is respected while it gives signs of life', async () => {
    await leave(holder({ computer: 'net-loft', address: `${NOBODY}#locked` }));
    await seen(1);
    await expect(takeLock(directory, me(), HERE)).rejects.toThrow('on the computer “net-loft”');
    expect(await taken(HERE)).toBe('held');
    await seen(6);
    expect(await taken(HERE)).toBe('taken');
  });

  it('is held by a process that is stopped, and let go of when it is killed', async () => {
    const script = `
      const { takeLock } = await import(${JSON.stringify(new URL('../db/lock.ts', import.meta.url).href)});
      await takeLock(${JSON.stringify(directory)}, ${JSON.stringify(me('http://127.0.0.1:4180/'))});
      console.log('has it');
      setInterval(() => undefined, 1000);`;
    const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script]);
    children.push(child);
    await new Promise((resolve) => child.stdout.once('data', resolve));
    child.kill('SIGSTOP');
    await expect(takeLock(directory, me(), SILENT)).rejects.toThrow(
      'already runs on this folder at http://127.0.0.1:4180/ –',
    );
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    expect(await taken(SILENT)).toBe('taken');
  }, 60_000);
});

describe('where it has none', () => {
  it.each([
    ['is starting', () => 503],
    ['is there', () => 200],
  ])('a server that %s is known by its token from the first moment', async (_, status) => {
    const token = randomUUID();
    await leave(holder({ token, address: await answering({ token }, status()) }));
    expect(await taken(BARE)).toBe('held');
  });

  it('a server that does not answer in time is believed to be there', async () => {
    await leave(holder({ address: await answering(null) }));
    expect(await taken(BARE)).toBe('held');
  });

  it('another program at its address, or nobody, says that it is gone', async () => {
    await leave(holder({ address: await answering({ token: randomUUID() }) }));
    expect(await taken(BARE)).toBe('taken');
    await leave(holder());
    expect(await taken(BARE)).toBe('taken');
  });

  it('another computer is believed', async () => {
    await leave(holder({ computer: 'net-loft' }));
    expect(await taken(LOCKLESS)).toBe('held');
  });
});

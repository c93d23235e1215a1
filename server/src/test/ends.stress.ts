/** Ends and beginnings that go wrong: nothing acknowledged is lost, and a start that was cut short is made again. */
import { randomUUID } from 'node:crypto';
import { cp, mkdtemp, readFile, readdir, rm } from 'node:fs/promises';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import type { ArrangementRecord, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { changeBetween } from '@nokta/core/edit';
import { openStore } from '../db/open.ts';
import { powerCuts } from '../torture/power.ts';
import { tuneFrom } from './harness.ts';
import { newestMigration, olderLibrary } from './older.ts';
import { freePort, kill, killAll, launch, send, start } from './program.ts';

const TUNE = tuneFrom('X:1\nT:Brass Hinge\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
const places: string[] = [];
const freshPlace = async () => {
  places.push(await mkdtemp(join(tmpdir(), 'nokta-ends-')));
  return places.at(-1)!;
};
afterEach(killAll);
afterAll(() => Promise.all(places.map((one) => rm(one, { recursive: true, force: true }))));

const add = (port: number, title: string) => send<TuneRecord>(port, 'POST', '/tunes', { tune: { ...TUNE, title } });
const titles = async (port: number) =>
  (await send<TuneList>(port, 'GET', '/tunes?limit=200')).tunes.map(({ title }) => title).sort();

describe('a start that is cut short', () => {
  it('of a new library is made again, at whatever moment', async () => {
    const place = await freshPlace();
    for (let times = 0; times < 3; times += 1) {
      const directory = join(place, `data-${times}`);
      const child = launch(directory, await freePort());
      await pause(150 + times * 350);
      await kill(child);
      const port = await freePort();
      await start(directory, port);
      expect((await add(port, 'First')).title).toBe('First');
      killAll();
    }
  }, 120_000);

  it('of the demo is made again too', async () => {
    const port = await freePort();
    for (let times = 0; times < 3; times += 1) {
      const child = launch('', port, { args: ['--demo'] });
      await pause(150 + times * 250);
      await kill(child);
    }
    await start('', port, { args: ['--demo'] });
    expect((await send<TuneList>(port, 'GET', '/tunes?limit=100')).total).toBeGreaterThan(10);
    killAll();
    const demo = join(tmpdir(), `nokta-demo-${port}`);
    for (const left of [demo, `${demo}.before`]) await rm(left, { recursive: true, force: true });
  }, 120_000);

  it('amid the migration of an older library leaves all of it, and a backup of what was before', async () => {
    const older = await freshPlace();
    await olderLibrary(older, '0005_kept', async (db) => {
      for (const title of ['First', 'Second'])
        await db.query('insert into tunes (id, title, tune) values ($1, $2, $3)', [
          randomUUID(),
          title,
          { ...TUNE, title },
        ]);
    });
    for (let times = 0; times < 2; times += 1) {
      const directory = join(await freshPlace(), 'data');
      await cp(older, directory, { recursive: true });
      for (const moment of [250 + times * 300, 500 + times * 200]) {
        const child = launch(directory, await freePort());
        await pause(moment);
        await kill(child);
      }
      const again = await freePort();
      await start(directory, again);
      expect(await titles(again)).toEqual(['First', 'Second']);
      expect(await readFile(join(directory, 'migration.txt'), 'utf8')).toBe(await newestMigration());
      killAll();
      expect(await readdir(join(directory, 'backups'))).toEqual(['0005_kept']);
      // What was put aside opens by itself, as it was.
      const before = await freshPlace();
      await cp(join(directory, 'backups', '0005_kept'), join(before, 'db'), { recursive: true });
      const backup = await openStore(before);
      expect((await backup.db.execute(sql`select title from tunes order by title`)).rows).toEqual([
        { title: 'First' },
        { title: 'Second' },
      ]);
      await backup.close();
    }
  }, 240_000);
});

it('a folder copied while the server writes opens with what was acknowledged before, or says that it is damaged', async () => {
  const directory = await freshPlace();
  const port = await freePort();
  await start(directory, port);
  let known = 0;
  let writing = true;
  const writer = (async () => {
    while (writing) {
      await add(port, `Trial ${known}`);
      known += 1;
    }
  })();
  let opened = 0;
  for (let times = 0; times < 2; times += 1) {
    await pause(400);
    const before = known;
    const copy = join(await freshPlace(), 'data');
    await cp(directory, copy, { recursive: true });
    const other = await freePort();
    const told = await start(copy, other).then(
      () => null,
      (error: Error) => error.message,
    );
    if (told === null) {
      opened += 1;
      expect((await send<TuneList>(other, 'GET', '/tunes?limit=1')).total).toBeGreaterThanOrEqual(before);
      await add(other, 'On the copy');
    } else expect(told).toContain('cannot be opened');
  }
  writing = false;
  await writer;
  // What it was copied from knows nothing of it.
  expect((await send<TuneList>(port, 'GET', '/tunes?limit=1')).total).toBe(known);
  expect(opened).toBeGreaterThan(0);
}, 120_000);

it('a power cut takes nothing that was acknowledged', async () => {
  const { cuts, acknowledged, lost } = await powerCuts({ most: 3 });
  expect(lost).toEqual([]);
  expect(cuts).toBe(3);
  expect(acknowledged).toBeGreaterThan(20);
}, 180_000);

it('a clock that was set back leaves undo in the order in which things were done', async () => {
  const directory = await freshPlace();
  const port = await freePort();
  const first = await start(directory, port);
  const { id, tune, arrangements } = await add(port, 'First');
  const [{ id: own, decisions }] = arrangements as [ArrangementRecord];
  await send<ArrangementRecord>(port, 'PUT', `/arrangements/${own}`, {
    revision: 1,
    decisions: { ...decisions, pace: { tempo: 71 } },
    label: 'tempo',
  });
  await kill(first);
  const again = await freePort();
  await start(directory, again, { odd: { SKEW_MS: String(-2 * 86_400_000) } });
  const change = changeBetween(tune, { ...tune, title: 'Second' });
  const renamed = await send<TuneState>(again, 'PATCH', `/tunes/${id}`, { revision: 1, change, label: 'rename' });
  const set = await send<ArrangementRecord>(again, 'GET', `/arrangements/${own}`);
  // The rename came last, whatever the clock said: it is undone first.
  expect(renamed.undoAt! > set.undoAt!).toBe(true);
  const decided = await send<ArrangementRecord>(again, 'PUT', `/arrangements/${own}`, {
    revision: 2,
    decisions: { ...decisions, pace: { tempo: 72 } },
    label: 'tempo again',
  });
  expect(decided.undoAt! > renamed.undoAt!).toBe(true);
}, 60_000);

it('a body that is too large is answered though it comes to its end, and the server is there for others', async () => {
  const port = await freePort();
  await start(await freshPlace(), port);
  const size = 60_000_000;
  const answer = new Promise<string>((resolve) => {
    const socket = connect(port, '127.0.0.1');
    let said = '';
    socket.on('data', (piece) => (said += piece.toString()));
    socket.on('close', () => resolve(said));
    socket.on('error', () => undefined);
    socket.write(
      `POST /api/tunes HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: ${size}\r\n\r\n`,
    );
    const piece = Buffer.alloc(1_000_000, 0x20);
    let sent = 0;
    const more = () => {
      while (sent < size) {
        sent += piece.length;
        if (!socket.write(piece)) return void socket.once('drain', more);
      }
    };
    more();
  });
  const other = add(port, 'Meanwhile');
  expect(await answer).toContain('413');
  expect((await other).title).toBe('Meanwhile');
  // Without a length.
  let left = size;
  const chunked = await fetch(`http://127.0.0.1:${port}/api/tunes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: new ReadableStream({
      pull(controller) {
        left -= 1_000_000;
        controller.enqueue(new Uint8Array(1_000_000).fill(0x20));
        if (left <= 0) controller.close();
      },
    }),
    duplex: 'half',
  } as RequestInit).then(
    ({ status }) => status,
    () => 'closed',
  );
  expect([413, 'closed']).toContain(chunked);
  expect(await titles(port)).toEqual(['Meanwhile']);
}, 60_000);

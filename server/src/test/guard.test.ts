/** Who may speak to the server, and in what words it turns others away. */
import { connect, type Socket } from 'node:net';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError, ArrangementRecord, TuneRecord } from '@nokta/api';
import { hostsFor } from '../hosts.ts';
import { LOOKING, patience } from '../patience.ts';
import { unkeepable } from '../plainText.ts';
import { isDiskFull } from '../problems.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

const TUNE = tuneFrom('X:1\nT:Salt Stairs\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
let server: Harness;
beforeAll(async () => {
  server = await startHarness();
}, 60_000);
afterAll(() => server.stop());

/** A request under another name; `fetch` would not send it. */
function asked(host: string, path = '/api/tunes', method = 'GET'): Promise<number> {
  const { port } = new URL(server.url);
  return new Promise((resolve, reject) => {
    request({ host: '127.0.0.1', port, path, method, headers: { host } }, (response) => {
      response.resume();
      resolve(response.statusCode ?? 0);
    })
      .on('error', reject)
      .end();
  });
}

describe('names', () => {
  it.each(['127.0.0.1', 'localhost:4180', 'LOCALHOST', '[::1]:9', 'studio.example'])('answers as %s', async (host) => {
    expect(await asked(host)).toBe(200);
  });

  it.each(['evil.example', 'localhost.evil.example', '127.0.0.1.evil.example', 'evil@localhost', 'a b'])(
    'does not answer as “%s”, to reads neither',
    async (host) => {
      expect([400, 403]).toContain(await asked(host));
      expect([400, 403]).toContain(await asked(host, '/api/backup'));
      expect([400, 403]).toContain(await asked(host, '/'));
    },
  );

  it('are its own, the one it listens on, and what the user adds', () => {
    expect([...hostsFor('0.0.0.0', 'desk.local, 10.0.0.7')]).toEqual(
      expect.arrayContaining(['localhost', 'desk.local', '10.0.0.7']),
    );
    expect(hostsFor('0.0.0.0').has('0.0.0.0')).toBe(false);
    expect(hostsFor('fe80::1').has('[fe80::1]')).toBe(true);
  });
});

describe('text that cannot be kept', () => {
  const half = 'half\uD800';
  const zero = 'zero\0';
  it.each([
    ['a title', 'POST', '/tunes', { tune: { ...TUNE, title: half } }],
    ['a tag', 'PUT', '/tunes/x/tags', { tags: [zero] }],
    ['a name of a version', 'POST', '/tunes/x/versions', { name: zero }],
    ['a hand’s name', 'POST', '/hands', { name: half, wishes: {}, limits: {} }],
    ['a name in the data', 'POST', '/tunes', { [zero]: 1 }],
    ['words looked for', 'GET', '/tunes?words=a%00b', undefined],
    ['a filter', 'GET', '/tunes?tag=%00', undefined],
    ['an address', 'GET', '/tunes/a%00b', undefined],
    ['an address that is cut', 'GET', '/tunes/%E0%A4%A', undefined],
  ])('in %s is refused in words', async (_, method, path, body) => {
    const answer = await server.call<ApiError>(method, path, body);
    expect(answer.status).toBe(400);
    expect(answer.body.error).not.toBe('');
  });

  it('is found wherever it stands', () => {
    expect(unkeepable({ a: [{ b: half }] })).toBe('a[0].b');
    expect(unkeepable({ a: [{ b: 'whole 😀' }] })).toBeNull();
  });
});

describe('a full disk', () => {
  it('refuses what would be written, says so, and lets everything be read', async () => {
    const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune: TUNE });
    server.room.bytes = 1_000_000;
    const refused = await server.call<ApiError>('POST', '/tunes', { tune: TUNE });
    expect(refused.status).toBe(507);
    expect(refused.body.error).toContain('The disk is full');
    expect((await server.call('GET', `/tunes/${body.id}`)).status).toBe(200);
    server.room.bytes = Infinity;
  });

  it('is known by what the system and the store call it, wherever it came from', () => {
    expect(isDiskFull(Object.assign(new Error('write'), { code: 'ENOSPC' }))).toBe(true);
    expect(isDiskFull(new Error('failed', { cause: Object.assign(new Error('x'), { code: '53100' }) }))).toBe(true);
    expect(isDiskFull(new Error('something else'))).toBe(false);
  });
});

it('decides nothing for a tune that was deleted', async () => {
  const { body } = await server.call<TuneRecord>('POST', '/tunes', { tune: TUNE });
  const [{ id, decisions }] = body.arrangements as [ArrangementRecord];
  await server.call('DELETE', `/tunes/${body.id}`);
  expect((await server.call('PUT', `/arrangements/${id}`, { revision: 1, decisions, label: 'late' })).status).toBe(404);
  expect((await server.call('POST', `/arrangements/${id}/undo`, { revision: 1 })).status).toBe(404);
  expect((await server.call('GET', `/arrangements/${id}`)).status).toBe(404);
});

it('works the form of a very long tune out without keeping others waiting', async () => {
  const bars = Array.from({ length: 6_000 }, (_, bar) => ({
    ...TUNE.bars[bar % 2]!,
    id: `b${bar}`,
    events: TUNE.bars[bar % 2]!.events.map((event) => ({ ...event, id: `${event.id}-${bar}` })),
  }));
  const waited = async (title: string): Promise<number> => {
    const long = server.call<TuneRecord>('POST', '/tunes', { tune: { ...TUNE, title, bars } });
    let longest = 0;
    let ended = false;
    void long.then(() => (ended = true));
    while (!ended) {
      const begin = performance.now();
      await server.call('GET', '/health');
      longest = Math.max(longest, performance.now() - begin);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect((await long).status).toBe(201);
    return longest;
  };
  // Others may be at work on this machine: what the server itself needs is the shortest of three.
  const times: number[] = [];
  for (const title of ['Endless', 'Endless again', 'Endless once more']) {
    times.push(await waited(title));
    if (times.at(-1)! < 2_500) break;
  }
  expect(Math.min(...times)).toBeLessThan(2_500);
}, 90_000);

it('ends connections that do not say what they want, and takes new ones', async () => {
  const slow = createServer({ ...LOOKING, connectionsCheckingInterval: 50 }, (_, response) => response.end('ok'));
  patience(slow);
  slow.headersTimeout = 200;
  slow.listen(0, '127.0.0.1');
  await new Promise((resolve) => slow.once('listening', resolve));
  const { port } = slow.address() as AddressInfo;
  const ends = Array.from(
    { length: 50 },
    () =>
      new Promise<void>((resolve) => {
        const socket = connect(port, '127.0.0.1', () => socket.write('GET / HTTP/1.1\r\nHost: local'));
        socket.on('close', () => resolve());
        socket.on('error', () => resolve());
        socket.resume();
      }),
  );
  await Promise.all(ends);
  expect(await (await fetch(`http://127.0.0.1:${port}/`)).text()).toBe('ok');
  slow.close();
}, 20_000);

describe('many connections', () => {
  /** Connections that stay, each with what it sent. */
  async function crowd(port: number, sent: string): Promise<readonly Socket[]> {
    const sockets = Array.from({ length: 200 }, () => connect(port, '127.0.0.1'));
    await Promise.all(
      sockets.map(
        (socket) =>
          new Promise((resolve) => {
            socket.on('error', resolve);
            socket.once('close', resolve);
            socket.once('connect', () => {
              if (sent === '') return resolve(null);
              socket.write(sent);
              socket.once('data', resolve);
            });
          }),
      ),
    );
    return sockets;
  }

  it.each([
    ['that have asked and wait', 'GET / HTTP/1.1\r\nhost: 127.0.0.1\r\n\r\n'],
    ['that never say a word', ''],
  ])(
    '%s make room for whoever comes',
    async (_, sent) => {
      const busy = createServer(LOOKING, (_request, response) => response.end('ok'));
      patience(busy);
      busy.listen(0, '127.0.0.1');
      await new Promise((resolve) => busy.once('listening', resolve));
      const { port } = busy.address() as AddressInfo;
      const sockets = await crowd(port, sent);
      const begin = performance.now();
      const ask = () =>
        fetch(`http://127.0.0.1:${port}/`).then(
          (answer) => answer.text(),
          () => null,
        );
      let answer: string | null = null;
      while (answer === null && performance.now() - begin < 8_000) {
        answer = await ask();
        if (answer === null) await new Promise((resolve) => setTimeout(resolve, 100));
      }
      expect(answer).toBe('ok');
      expect(performance.now() - begin).toBeLessThan(3_000);
      for (const socket of sockets) socket.destroy();
      busy.closeAllConnections();
      busy.close();
    },
    30_000,
  );

  it('that are turned away are closed', async () => {
    const { port } = new URL(server.url);
    const closed = new Promise<string>((resolve) => {
      const socket = connect(Number(port), '127.0.0.1');
      let said = '';
      socket.on('data', (piece) => (said += piece.toString()));
      socket.once('close', () => resolve(said));
      socket.write('GET /api/tunes HTTP/1.1\r\nhost: evil.example\r\n\r\n');
    });
    expect((await closed).toLowerCase()).toContain('connection: close');
  });
});

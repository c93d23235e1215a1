import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, expect, it } from 'vitest';
import type { ArrangementRecord, TuneList, TuneRecord, TuneState } from '@nokta/api';
import { changeBetween, deleteBars } from '@nokta/core/edit';
import { tuneFrom } from './harness.ts';

const MAIN = fileURLToPath(new URL('../../dist/main.js', import.meta.url));
const running: ChildProcess[] = [];
afterEach(() => running.splice(0).forEach((child) => child.kill('SIGKILL')));

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => probe.once('listening', resolve));
  const { port } = probe.address() as AddressInfo;
  await new Promise((resolve) => probe.close(resolve));
  return port;
}

/** Starts the program as a user does and waits until it says that it is ready. */
async function start(directory: string, port: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, NOKTA_DATA: directory, PORT: String(port) },
  });
  running.push(child);
  await new Promise<void>((resolve, reject) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      if (said.includes('is ready')) resolve();
    });
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    child.once('exit', () => reject(new Error(said)));
  });
  return child;
}

async function send<T>(port: number, method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(`http://127.0.0.1:${port}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  return (await response.json()) as T;
}

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
  first.kill('SIGKILL');
  await new Promise((resolve) => first.once('exit', resolve));

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
  const port = await freePort();
  const child = await start(directory, port);
  await expect(start(await mkdtemp(join(tmpdir(), 'nokta-other-')), port)).rejects.toThrow(`Port ${port} is taken`);
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  expect(await ended).toBe(0);
}, 120_000);

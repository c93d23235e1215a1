/** A real server on a real PGlite, in a folder of its own, on a free port. */
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { readAbc } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { createApp } from '../app.ts';
import { openStore } from '../db/open.ts';
import { copyTemplate, type TemplateName } from '../db/template.ts';
import { hostsFor } from '../hosts.ts';
import { openLibrary, type Library } from '../library/tunes.ts';

/** A tune from ABC, as the browser would send it. */
export function tuneFrom(abc: string): Tune {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value.tune;
}

export interface Harness {
  readonly url: string;
  readonly library: Library;
  /** Room on the disk, as the server is told. */
  readonly room: { bytes: number };
  call<T>(
    method: string,
    path: string,
    body?: unknown,
    headers?: Readonly<Record<string, string>>,
  ): Promise<{ status: number; body: T; headers: Headers }>;
  stop(): Promise<void>;
}

/** @param template the data to begin with, as it was made at build; a new library where none is named */
export async function startHarness(template?: TemplateName): Promise<Harness> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-test-'));
  if (template) await copyTemplate(template, directory);
  const store = await openStore(directory);
  const library = await openLibrary(store);
  const room = { bytes: Infinity };
  const app = createApp({
    library,
    log: pino({ level: 'silent' }),
    web: null,
    hosts: hostsFor('127.0.0.1', 'studio.example'),
    room: () => Promise.resolve(room.bytes),
  });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    url,
    library,
    room,
    async call<T>(method: string, path: string, body?: unknown, headers: Readonly<Record<string, string>> = {}) {
      const response = await fetch(`${url}/api${path}`, {
        method,
        headers: { 'content-type': 'application/json', ...headers },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
      const text = await response.text();
      const json = response.headers.get('content-type')?.includes('json') ?? false;
      return { status: response.status, body: (json ? JSON.parse(text) : text) as T, headers: response.headers };
    },
    async stop() {
      server.closeAllConnections();
      server.close();
      await library.jobs.stop();
      await Promise.all([library.drawing.stop(), library.analysing.stop()]);
      await store.close();
      await rm(directory, { recursive: true, force: true });
    },
  };
}

/** The program that ships, started as a user starts it. */
import { spawn, spawnSync, type ChildProcessWithoutNullStreams } from 'node:child_process';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../dist/main.js', import.meta.url));
const ODD = new URL('./oddTimes.mjs', import.meta.url).href;
export type Spawned = ChildProcessWithoutNullStreams;
const running = new Set<Spawned>();

export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => probe.once('listening', resolve));
  const { port } = probe.address() as AddressInfo;
  await new Promise((resolve) => probe.close(resolve));
  return port;
}

/** Whether a process can be given a view of the system in which nothing is told of processes. */
export const canHideProc = (): boolean =>
  spawnSync('unshare', ['--mount', 'sh', '-c', 'mount -t tmpfs tmpfs /proc']).status === 0;

/** How it is started, where it is not as a user starts it. */
export interface Starting {
  /** On a system without /proc, as others than Linux are. */
  readonly hidden?: boolean;
  /** As another user. */
  readonly as?: { readonly uid?: number; readonly gid?: number };
  /** With a clock or a disk that goes wrong; see `oddTimes.mjs`. */
  readonly odd?: { readonly SKEW_MS?: string; readonly CUT_AFTER?: string };
  /** Arguments of its own. */
  readonly args?: readonly string[];
}

/** Starts it, and leaves it to itself. */
export function launch(directory: string, port: number, { hidden, as, odd, args = [] }: Starting = {}): Spawned {
  const env = { ...process.env, ...odd, NOKTA_DATA: directory, PORT: String(port) };
  const program = [...(odd ? ['--import', ODD] : []), MAIN, ...args];
  const bare = ['--mount', 'sh', '-c', 'mount -t tmpfs tmpfs /proc && exec "$0" "$@"', process.execPath, ...program];
  const child = hidden ? spawn('unshare', bare, { env }) : spawn(process.execPath, program, { env, ...as });
  running.add(child);
  return child;
}

/**
 * Starts it and waits until it says that it is ready.
 * @throws with what it said, where it ends instead
 */
export async function start(directory: string, port: number, how: Starting = {}): Promise<Spawned> {
  const child = launch(directory, port, how);
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

/** Kills without warning, and waits until it is gone. */
export async function kill(child: Spawned): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

export function killAll(): void {
  for (const child of running) child.kill('SIGKILL');
  running.clear();
}

export async function send<T>(port: number, method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(`http://127.0.0.1:${port}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  return (await response.json()) as T;
}

/** The program that ships, started as a user starts it. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../dist/main.js', import.meta.url));
const running = new Set<ChildProcess>();

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

/**
 * Starts it and waits until it says that it is ready.
 * @param hidden on a system without /proc, as others than Linux are
 * @throws with what it said, where it ends instead
 */
export async function start(
  directory: string,
  port: number,
  { hidden = false, as = {} }: { readonly hidden?: boolean; readonly as?: { uid?: number; gid?: number } } = {},
): Promise<ChildProcess> {
  const env = { ...process.env, NOKTA_DATA: directory, PORT: String(port) };
  const bare = ['--mount', 'sh', '-c', 'mount -t tmpfs tmpfs /proc && exec "$0" "$@"', process.execPath, MAIN];
  const child = hidden ? spawn('unshare', bare, { env }) : spawn(process.execPath, [MAIN], { env, ...as });
  running.add(child);
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
export async function kill(child: ChildProcess): Promise<void> {
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

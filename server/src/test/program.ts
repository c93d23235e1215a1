/** The program that ships, started as a user starts it. */
import { spawn, type ChildProcess } from 'node:child_process';
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

/**
 * Starts it and waits until it says that it is ready.
 * @throws with what it said, where it ends instead
 */
export async function start(directory: string, port: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, NOKTA_DATA: directory, PORT: String(port) },
  });
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

/**
 * One server to a data folder. The lock is a file that says who holds it; one that a killed program left behind
 * is taken over.
 */
import { link, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { existsSync, readFileSync } from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';

const NAME = 'nokta.lock';
/** Milliseconds after which a lock that was taken over is looked at once more: of two that came together one gives way. */
const SETTLE_MS = 40;
const ANSWER_MS = 2_000;

const holderSchema = z.strictObject({
  /** Tells two holders apart, whatever their process numbers. */
  token: z.uuid(),
  pid: z.number().int().positive(),
  computer: z.string(),
  /** Where it answers. */
  address: z.url(),
  /** What the system says of the process's start; null where it does not say. */
  began: z.string().nullable(),
});
type Holder = z.infer<typeof holderSchema>;

export interface Lock {
  /** What `/api/health` says, so that others can tell who answers there. */
  readonly token: string;
  release(): Promise<void>;
}

/** Another program works on the folder. */
export class HeldError extends Error {
  constructor(directory: string, { address, computer }: Pick<Holder, 'address' | 'computer'>) {
    super(
      computer === hostname()
        ? `Nokta already runs on this folder at ${address} – open that address. (The folder: ${directory})`
        : `The folder ${directory} is in use by Nokta on the computer “${computer}”. Stop it there first; if it does not run any more, remove ${join(directory, NAME)} and start again.`,
    );
  }
}

/**
 * @param directory the data folder, which must be there
 * @param address where this server answers
 * @throws HeldError where another one has it
 */
export async function takeLock(directory: string, address: string): Promise<Lock> {
  const file = join(directory, NAME);
  const own: Holder = {
    token: randomUUID(),
    pid: process.pid,
    computer: hostname(),
    address,
    began: beganAt(process.pid),
  };
  const draft = `${file}.${own.token}`;
  // Made whole first, then given its name: nobody reads half a lock.
  await writeFile(draft, JSON.stringify(own), { mode: 0o600 });
  try {
    while (!(await linked(draft, file))) {
      const holder = await readHolder(file);
      if (holder && (await lives(holder))) throw new HeldError(directory, holder);
      await setAside(file, holder);
    }
    // Somebody who found the same old lock may have set ours aside.
    await pause(SETTLE_MS);
    const now = await readHolder(file);
    if (now?.token !== own.token) throw new HeldError(directory, now ?? own);
  } finally {
    await rm(draft, { force: true });
  }
  return {
    token: own.token,
    async release() {
      if ((await readHolder(file))?.token === own.token) await rm(file, { force: true });
    },
  };
}

/**
 * Who works on a folder now.
 * @returns null where nobody does
 */
export async function holderOf(directory: string): Promise<HeldError | null> {
  const holder = await readHolder(join(directory, NAME));
  return holder && (await lives(holder)) ? new HeldError(directory, holder) : null;
}

async function linked(draft: string, file: string): Promise<boolean> {
  try {
    await link(draft, file);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
    // Some file systems know no links: made anew only where there is none, it is as good.
    return writeFile(file, await readFile(draft), { flag: 'wx', mode: 0o600 }).then(
      () => true,
      (problem: NodeJS.ErrnoException) => {
        if (problem.code === 'EEXIST') return false;
        throw problem;
      },
    );
  }
}

/** Takes an old lock away, unless it is no longer the one that was judged. */
async function setAside(file: string, judged: Holder | null): Promise<void> {
  const aside = `${file}.${randomUUID()}`;
  try {
    await rename(file, aside);
  } catch {
    return;
  }
  const taken = await readHolder(aside);
  if (taken?.token === judged?.token) await rm(aside, { force: true });
  else await rename(aside, file);
}

async function readHolder(file: string): Promise<Holder | null> {
  try {
    return holderSchema.parse(JSON.parse(await readFile(file, 'utf8')));
  } catch {
    return null;
  }
}

async function lives(holder: Holder): Promise<boolean> {
  // What runs on another computer cannot be looked at from here.
  if (holder.computer !== hostname()) return true;
  if (!isRunning(holder.pid)) return false;
  const began = beganAt(holder.pid);
  if (began !== null && holder.began !== null) return began === holder.began;
  // The number may belong to another program by now: only Nokta knows its own token.
  return (await tokenAt(holder.address)) === holder.token;
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Linux counts the ticks since it started until a process began; with its number that names one process. */
function beganAt(pid: number): string | null {
  const file = `/proc/${pid}/stat`;
  if (!existsSync(file)) return null;
  // The name in brackets may itself hold spaces and brackets.
  const fields = readFileSync(file, 'utf8').split(') ').at(-1)!.split(' ');
  return fields[19] ?? null;
}

async function tokenAt(address: string): Promise<string | null> {
  try {
    const answer = await fetch(new URL('/api/health', address), { signal: AbortSignal.timeout(ANSWER_MS) });
    return ((await answer.json()) as { token?: string }).token ?? null;
  } catch {
    return null;
  }
}

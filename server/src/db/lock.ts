/**
 * One server to a data folder. The operating system's own lock on a file says whether anybody works there: it goes
 * with the process, however that ends. What the file holds says who, for a message.
 *
 * Where there is no such lock (a file system that knows none, a computer that the package was not built for), what the
 * file says is believed, unless the process that wrote it is certainly gone.
 */
import { randomUUID } from 'node:crypto';
import { link, open, readFile, rename, rm, stat, writeFile, type FileHandle } from 'node:fs/promises';
import { existsSync, readFileSync } from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';
import { systemLock } from './systemLock.ts';

const NAME = 'nokta.lock';
/** When its holder was last seen, for computers that share a folder and no locks. */
const SEEN = 'nokta.seen';
/** Milliseconds between two signs of life, and after which whoever gives none is taken for gone. */
const SEEN_EVERY_MS = 60_000;
const GONE_AFTER_MS = 5 * SEEN_EVERY_MS;
/** Milliseconds for the one who came first to write its name, and for an answer. */
const SETTLE_MS = 40;
const ANSWER_MS = 2_000;
/** Who only looks has the lock for a moment too: a start that meets it looks again. */
const LOOKS = 5;

/** What the file says. Fields that later programs add are none of this one's business. */
const holderSchema = z.looseObject({
  /** Tells two holders apart, whatever their process numbers. */
  token: z.uuid(),
  pid: z.number().int().positive(),
  computer: z.string(),
  /** Where it answers; ends in `#locked` where the system's lock is held beside it. */
  address: z.url(),
  /** What the system says of the process's start; null where it does not say. */
  began: z.string().nullable().catch(null),
});
type Holder = z.infer<typeof holderSchema>;
const LOCKED = '#locked';

export interface Lock {
  release(): Promise<void>;
}

/** How the system is asked; replaced in tests. */
export interface System {
  readonly lock: typeof systemLock;
  /** When a process began, in words of the system's own; null where it does not say. */
  began(pid: number): string | null;
  computer(): string;
}
const SYSTEM: System = { lock: systemLock, began: beganAt, computer: hostname };

/** Another program works on the folder. */
export class HeldError extends Error {
  constructor(directory: string, holder: Pick<Holder, 'address' | 'computer'> | null, own: string) {
    const address = holder?.address.replace(LOCKED, '');
    super(
      !holder || holder.computer === own
        ? `Nokta already runs on this folder${address ? ` at ${address} – open that address` : ''}. (The folder: ${directory})`
        : `The folder ${directory} is in use by Nokta on the computer “${holder.computer}”. Stop it there first; if it does not run any more, wait five minutes, or remove ${join(directory, NAME)}, and start again.`,
    );
  }
}

/**
 * @param directory the data folder, which must be there
 * @param own where this server answers, and what `/api/health` there says from its first moment
 * @throws HeldError where another one has it
 */
export async function takeLock(
  directory: string,
  own: { readonly address: string; readonly token: string },
  system: System = SYSTEM,
): Promise<Lock> {
  for (let look = 0; ; look += 1) {
    const held = await holdFile(directory, system);
    if (held === 'unknown') return byName(directory, own, system);
    if (held !== 'taken') return byLock(directory, held, own, system);
    const holder = await readHolder(join(directory, NAME));
    if (holder || look >= LOOKS) throw new HeldError(directory, holder, system.computer());
    await pause(SETTLE_MS);
  }
}

/** Who works on a folder now. @returns null where nobody does */
export async function holderOf(directory: string, system: System = SYSTEM): Promise<HeldError | null> {
  const file = join(directory, NAME);
  if (!existsSync(file)) return null;
  const held = await holdFile(directory, system);
  const holder = await readHolder(file);
  const error = new HeldError(directory, holder, system.computer());
  if (held === 'taken') return error;
  const lives = holder !== null && (await mayLive(directory, holder, held !== 'unknown', system));
  if (held !== 'unknown') await held.close();
  return lives ? error : null;
}

/** The lock's file, held by the system for nobody else. */
async function holdFile(directory: string, system: System): Promise<FileHandle | 'taken' | 'unknown'> {
  const file = join(directory, NAME);
  for (;;) {
    const handle = await open(file, 'a+', 0o600);
    const state = system.lock(handle.fd);
    if (state !== 'locked') {
      await handle.close();
      return state;
    }
    // Whoever let go of it took the name away: then this is a file that nobody else will open.
    const [own, named] = await Promise.all([handle.stat(), stat(file).catch(() => null)]);
    if (named?.ino === own.ino) return handle;
    await handle.close();
  }
}

/** Has the system's lock: whoever is named there is gone, but for one that knew nothing of it. */
async function byLock(
  directory: string,
  handle: FileHandle,
  { address, token }: { readonly address: string; readonly token: string },
  system: System,
): Promise<Lock> {
  const before = await readHolder(join(directory, NAME));
  if (before && (await mayLive(directory, before, true, system))) {
    await handle.close();
    throw new HeldError(directory, before, system.computer());
  }
  await handle.truncate();
  await handle.writeFile(JSON.stringify(holderOn(system, `${address}${LOCKED}`, token)));
  await seen(directory);
  const signs = setInterval(() => void seen(directory).catch(() => undefined), SEEN_EVERY_MS).unref();
  return {
    async release() {
      clearInterval(signs);
      await letGo(directory, token);
      await handle.close();
    },
  };
}

/** Without a system's lock: the name in the file is the lock. */
async function byName(
  directory: string,
  { address, token }: { readonly address: string; readonly token: string },
  system: System,
): Promise<Lock> {
  const file = join(directory, NAME);
  const draft = `${file}.${token}`;
  // Made whole first, then given its name: nobody reads half a lock.
  await writeFile(draft, JSON.stringify(holderOn(system, address, token)), { mode: 0o600 });
  try {
    while (!(await linked(draft, file))) {
      const holder = await readHolder(file);
      if (holder && (await mayLive(directory, holder, false, system)))
        throw new HeldError(directory, holder, system.computer());
      await setAside(file, holder);
    }
    // Somebody who found the same old lock may have set ours aside.
    await pause(SETTLE_MS);
    const now = await readHolder(file);
    if (now?.token !== token) throw new HeldError(directory, now, system.computer());
  } finally {
    await rm(draft, { force: true });
  }
  return { release: () => letGo(directory, token) };
}

const holderOn = (system: System, address: string, token: string): Holder => ({
  token,
  pid: process.pid,
  computer: system.computer(),
  address,
  began: system.began(process.pid),
});

async function letGo(directory: string, token: string): Promise<void> {
  if ((await readHolder(join(directory, NAME)))?.token !== token) return;
  for (const name of [NAME, SEEN]) await rm(join(directory, name), { force: true }).catch(() => undefined);
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

const seen = (directory: string) => writeFile(join(directory, SEEN), new Date().toISOString(), { mode: 0o600 });

async function readHolder(file: string): Promise<Holder | null> {
  try {
    return holderSchema.parse(JSON.parse(await readFile(file, 'utf8')));
  } catch {
    return null;
  }
}

/**
 * Whether a holder that the file names may be at work still.
 * @param locked whether this process has the system's lock by now
 */
async function mayLive(directory: string, holder: Holder, locked: boolean, system: System): Promise<boolean> {
  const alone = locked && holder.address.endsWith(LOCKED);
  if (holder.computer !== system.computer()) {
    // A computer that was given another name, or one that has the folder over a network: the second gives signs of life.
    return alone ? wasSeenLately(directory) : true;
  }
  // It held the lock that is ours now: it is gone, whoever has its process number since.
  if (alone) return false;
  if (!isRunning(holder.pid)) return false;
  const began = system.began(holder.pid);
  if (began !== null && holder.began !== null) return began === holder.began;
  // The number may belong to another program by now: only Nokta knows its own token. One that does not answer may be
  // busy or stopped; where nobody listens at all, or somebody else does, it is gone.
  return tokenAt(holder);
}

async function wasSeenLately(directory: string): Promise<boolean> {
  const text = await readFile(join(directory, SEEN), 'utf8').catch(() => '');
  const ago = Date.now() - Date.parse(text);
  return Number.isFinite(ago) && Math.abs(ago) < GONE_AFTER_MS;
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

/** @returns whether a holder may be what answers, or does not answer, at its address */
async function tokenAt({ address, token }: Holder): Promise<boolean> {
  try {
    const answer = await fetch(new URL('/api/health', address), { signal: AbortSignal.timeout(ANSWER_MS) });
    return ((await answer.json()) as { token?: string }).token === token;
  } catch (error) {
    const { cause } = error as { cause?: { code?: string } };
    return cause?.code !== 'ECONNREFUSED';
  }
}

/** Room on the disk: a change that might not fit is refused in words, before the store runs into the end of it. */
import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import { diskFull } from './problems.ts';

/** Two files of the store's log, and a change of the largest size. */
const NEEDED_BYTES = 96_000_000;
/** Milliseconds for which a look at the disk holds. */
const LOOK_MS = 1_000;

/** @returns bytes that are free where the folder lies; endless where the system does not say */
export type Room = () => Promise<number>;

export function roomAt(directory: string): Room {
  let seen = { at: -Infinity, bytes: Infinity };
  return async () => {
    const now = performance.now();
    if (now - seen.at < LOOK_MS) return seen.bytes;
    const bytes = await statfs(directory).then(
      ({ bavail, bsize }) => bavail * bsize,
      () => Infinity,
    );
    seen = { at: now, bytes };
    return bytes;
  };
}

/** Before anything that writes. */
export const needRoom =
  (room: Room): RequestHandler =>
  async (request, _, next) => {
    const writes = request.method !== 'GET' && request.method !== 'HEAD';
    if (writes && (await room()) < NEEDED_BYTES) throw diskFull();
    next();
  };

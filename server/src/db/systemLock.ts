/** The operating system's lock on an open file: one process has it, until it lets go or ends. */
import { createRequire } from 'node:module';

/** A place far behind what the file holds: some systems let nobody read what is locked. */
const PLACE = 2 ** 30;

interface Native {
  tryLock(fd: number, offset: number, length: number): boolean;
}

/**
 * @param fd of a file that is open for writing
 * @returns `taken` where another open file has it; `unknown` where the system or the file system has no such locks
 */
export function systemLock(fd: number): 'locked' | 'taken' | 'unknown' {
  try {
    // It comes built for each system; on one that it was not built for, loading it throws.
    const native = createRequire(import.meta.url)('fs-native-extensions') as Native;
    return native.tryLock(fd, PLACE, 1) ? 'locked' : 'taken';
  } catch {
    return 'unknown';
  }
}

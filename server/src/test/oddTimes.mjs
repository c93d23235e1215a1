/**
 * Loaded before the program in tests: a clock that goes wrong, and a disk that forgets at a power cut what was not
 * flushed.
 *
 * SKEW_MS   what the clock is off by
 * CUT_AFTER the write after which the power goes, counted from when the program is told so by SIGUSR2
 */
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const skew = Number(process.env.SKEW_MS ?? 0);
if (skew !== 0) {
  const now = Date.now.bind(Date);
  const RealDate = Date;
  globalThis.Date = class extends RealDate {
    constructor(...given) {
      if (given.length === 0) super(now() + skew);
      else super(...given);
    }
    static now() {
      return now() + skew;
    }
  };
}

if (process.env.CUT_AFTER !== undefined) {
  /** What each file held before the writes that are not flushed, newest last. */
  const unflushed = new Map();
  const paths = new Map();
  let left = Infinity;
  const { openSync, writeSync, closeSync, fsyncSync, ftruncateSync, readSync, fstatSync, unlinkSync } = fs;
  const note = (fd, undo) => {
    const path = paths.get(fd);
    if (path === undefined) return;
    const list = unflushed.get(path) ?? [];
    list.push(undo);
    unflushed.set(path, list);
  };
  fs.openSync = (path, flags, mode) => {
    const fd = openSync(path, flags, mode);
    paths.set(fd, String(path));
    return fd;
  };
  fs.closeSync = (fd) => {
    paths.delete(fd);
    return closeSync(fd);
  };
  fs.fsyncSync = (fd) => {
    fsyncSync(fd);
    unflushed.delete(paths.get(fd));
  };
  fs.unlinkSync = (path) => {
    unflushed.delete(String(path));
    return unlinkSync(path);
  };
  fs.writeSync = (fd, buffer, offset, length, position) => {
    if (typeof position === 'number' && paths.has(fd)) {
      const size = fstatSync(fd).size;
      const before = Buffer.alloc(Math.max(0, Math.min(length, size - position)));
      if (before.length > 0) readBack(fd, before, position);
      note(fd, { position, before, size });
    }
    const written = writeSync(fd, buffer, offset, length, position);
    left -= 1;
    if (left <= 0) cut();
    return written;
  };
  fs.ftruncateSync = (fd, size) => {
    const old = fstatSync(fd).size;
    const before = Buffer.alloc(Math.max(0, old - (size ?? 0)));
    if (before.length > 0) readBack(fd, before, size ?? 0);
    note(fd, { position: size ?? 0, before, size: old });
    return ftruncateSync(fd, size);
  };
  syncBuiltinESMExports();

  /** A file that is open for writing alone is read by another handle. */
  function readBack(fd, into, position) {
    const other = openSync(paths.get(fd), 'r');
    readSync(other, into, 0, into.length, position);
    closeSync(other);
  }

  /** The power goes: of what was not flushed some has reached the disk, and some has not. */
  function cut() {
    for (const [path, list] of unflushed) {
      if (!fs.existsSync(path)) continue;
      const fd = openSync(path, 'r+');
      const keep = Math.floor(Math.random() * (list.length + 1));
      for (const { position, before, size } of list.slice(keep).reverse()) {
        if (before.length > 0) writeSync(fd, before, 0, before.length, position);
        if (fstatSync(fd).size > size) ftruncateSync(fd, size);
      }
      closeSync(fd);
    }
    process.kill(process.pid, 'SIGKILL');
  }
  process.on('SIGUSR2', () => {
    left = 1 + Math.floor(Math.random() * Number(process.env.CUT_AFTER));
  });
}

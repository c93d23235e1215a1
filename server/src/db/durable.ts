/**
 * PGlite's store on disk, but durable: a commit returns when its log is on the disk, as PostgreSQL means it.
 * As it comes, PGlite runs without flushing, and its file system has no flush at all.
 */
import { fsyncSync } from 'node:fs';
import { cp, open, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';

interface Stream {
  /** The file's number for Node; a folder has none. */
  readonly nfd?: number;
}
interface Module {
  readonly NODEFS: { readonly stream_ops: { fsync?: (stream: Stream) => number } };
}

/** Files on disk that can be flushed. */
export class DurableFS extends NodeFS {
  override async init(...given: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const { emscriptenOpts } = await super.init(...given);
    const flush = (module: unknown) => {
      (module as Module).NODEFS.stream_ops.fsync = ({ nfd }) => {
        if (nfd !== undefined) fsyncSync(nfd);
        return 0;
      };
    };
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), flush] } };
  }
}

/** `-F` would turn flushing off; `fdatasync`, the usual way to flush the log, does nothing in this build. */
export const DURABLE: readonly string[] = [
  ...PGlite.defaultStartParams.filter((param) => param !== '-F'),
  '-c',
  'wal_sync_method=fsync',
];

/** Files that are flushed side by side. */
const AT_ONCE = 16;

/** Copies a folder, and returns when its files are on the disk: what builds on them is flushed by itself later. */
export async function copyFlushed(from: string, to: string): Promise<void> {
  await cp(from, to, { recursive: true });
  await flushFolder(to);
}

/** Returns when all files of a folder are on the disk. */
export async function flushFolder(folder: string): Promise<void> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true });
  const files = found.filter((entry) => entry.isFile()).map(({ parentPath, name }) => join(parentPath, name));
  const flush = async () => {
    for (let file = files.pop(); file !== undefined; file = files.pop()) {
      const handle = await open(file, 'r+');
      try {
        await handle.sync();
      } finally {
        await handle.close();
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, flush));
}

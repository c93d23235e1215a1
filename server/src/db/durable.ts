/**
 * PGlite's store on disk, but durable: a commit returns when its log is on the disk, as PostgreSQL means it.
 * As it comes, PGlite runs without flushing, and its file system has no flush at all.
 */
import { fsyncSync } from 'node:fs';
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

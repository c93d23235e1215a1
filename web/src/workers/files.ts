/** A file being read in a worker of its own. */
import { releaseProxy, transfer, wrap, type Remote } from 'comlink';
import type { Problem, ReadResult } from '@nokta/core/formats';
import type { FileContents, FileService } from './files.worker.ts';

export interface ReadingFile {
  readonly service: Remote<FileService>;
  /** Ends it, whatever it is doing. */
  close(): void;
}

function start(): ReadingFile {
  const worker = new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module' });
  const service = wrap<FileService>(worker);
  return {
    service,
    close() {
      service[releaseProxy]();
      worker.terminate();
    },
  };
}

/** One that has started already: starting takes longer than reading a tune. */
let spare: ReadingFile | null = null;

/** A file is about to come in. */
export function expectFile(): void {
  spare ??= start();
}

function taken(): ReadingFile {
  const file = spare ?? start();
  spare = null;
  return file;
}

/** Bytes over this are refused before they are copied into the worker. */
const MOST_BYTES = 120_000_000;

export type Opened =
  | { readonly ok: true; readonly file: ReadingFile; readonly contents: FileContents }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** @param signal ends the reading at once, whatever it is at; there is nothing to tell then */
export async function openInWorker(source: File | string, signal?: AbortSignal): Promise<Opened> {
  if (typeof source !== 'string' && source.size > MOST_BYTES) {
    return {
      ok: false,
      problems: [
        {
          severity: 'error',
          message: `${source.name} is larger than 120 megabytes.`,
          remedy: 'Split it, or export less.',
        },
      ],
    };
  }
  const file = taken();
  const result = await Promise.race([openIn(file, source), endOf(signal)]);
  if (result.ok) return { ok: true, file, contents: result.value };
  file.close();
  return { ok: false, problems: result.problems };
}

function endOf(signal?: AbortSignal): Promise<ReadResult<never>> {
  return new Promise((resolve) => {
    const end = () => resolve({ ok: false, problems: [] });
    if (signal?.aborted) end();
    else signal?.addEventListener('abort', end, { once: true });
  });
}

async function openIn(file: ReadingFile, source: File | string): Promise<ReadResult<FileContents>> {
  if (typeof source === 'string') return file.service.openText(source);
  const bytes = new Uint8Array(await source.arrayBuffer());
  return file.service.open(transfer(bytes, [bytes.buffer]), source.name);
}

/** Endings that the file chooser offers. */
export const ACCEPTED = '.abc,.musicxml,.xml,.mxl,.mid,.midi,.json,.zip';

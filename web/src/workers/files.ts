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

/** Bytes over this are refused before they are copied into the worker. */
const MOST_BYTES = 120_000_000;

/** Milliseconds for one tune, or for opening a file: far longer than the largest takes. */
const MOST_MS = 20_000;
/** What is said where reading was ended. */
export const TOO_LONG = Symbol('took too long');

/** Asks the reader; where it does not answer in time its worker is ended, and the page stays alive. */
export async function inTime<T>(
  file: ReadingFile,
  ask: (service: Remote<FileService>) => Promise<T>,
  mostMs = MOST_MS,
): Promise<T | typeof TOO_LONG> {
  let late: ReturnType<typeof setTimeout> | undefined;
  const end = new Promise<typeof TOO_LONG>((resolve) => {
    late = setTimeout(() => resolve(TOO_LONG), mostMs);
  });
  try {
    const answer = await Promise.race([ask(file.service), end]);
    if (answer === TOO_LONG) file.close();
    return answer;
  } finally {
    clearTimeout(late);
  }
}

/** The same, as a result like any other. */
export async function resultInTime<T>(
  file: ReadingFile,
  ask: (service: Remote<FileService>) => Promise<ReadResult<T>>,
  mostMs = MOST_MS,
): Promise<ReadResult<T>> {
  const answer = await inTime(file, ask, mostMs);
  if (answer !== TOO_LONG) return answer;
  return {
    ok: false,
    problems: [
      {
        severity: 'error',
        message: `Reading this took longer than ${Math.round(mostMs / 1000)} seconds and was ended.`,
        remedy: 'The file may be damaged. Export it again, or bring in a part of it.',
      },
    ],
  };
}

export type Opened =
  | { readonly ok: true; readonly file: ReadingFile; readonly contents: FileContents }
  | { readonly ok: false; readonly problems: readonly Problem[] };

function endOf(signal?: AbortSignal): Promise<ReadResult<never>> {
  return new Promise((resolve) => {
    const end = () => resolve({ ok: false, problems: [] });
    if (signal?.aborted) end();
    else signal?.addEventListener('abort', end, { once: true });
  });
}

async function openIn(service: Remote<FileService>, source: File | string): Promise<ReadResult<FileContents>> {
  if (typeof source === 'string') return service.openText(source);
  const bytes = new Uint8Array(await source.arrayBuffer());
  return service.open(transfer(bytes, [bytes.buffer]), source.name);
}

/** Endings that the file chooser offers. */
export const ACCEPTED = '.abc,.musicxml,.xml,.mxl,.mid,.midi,.json,.zip';

/** Opens files, each in a worker of its own. @param begin starts one */
export function filesOf(begin: () => ReadingFile) {
  /** One that has started already: starting takes longer than reading a tune. */
  let spare: ReadingFile | null = null;

  /** A file is about to come in. */
  function expectFile(): void {
    spare ??= begin();
  }

  function taken(): ReadingFile {
    const file = spare ?? begin();
    spare = null;
    return file;
  }

  /** @param signal ends the reading at once, whatever it is at; there is nothing to tell then */
  async function openInWorker(source: File | string, signal?: AbortSignal): Promise<Opened> {
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
    const result = await Promise.race([resultInTime(file, (service) => openIn(service, source)), endOf(signal)]);
    if (result.ok) return { ok: true, file, contents: result.value };
    file.close();
    return { ok: false, problems: result.problems };
  }

  return { expectFile, openInWorker };
}

export const { expectFile, openInWorker } = filesOf(start);

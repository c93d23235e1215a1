/**
 * Opens files, off the main thread. Each file has a worker of its own: however hostile it is, the page
 * stays alive, and a wait that is too long is ended by ending the worker.
 */
import { expose } from 'comlink';
import {
  openFile,
  openText,
  openBackup,
  lookAt,
  readNokta,
  type Backup,
  type BackupList,
  type Incoming,
  type LookedAt,
  type NoktaContents,
  type OpenedFile,
  type ReadChoice,
} from '@nokta/core/files';
import type { FileKind, ReadResult } from '@nokta/core/formats';

/** What is known of a file before a tune of it is read. */
export interface FileContents {
  readonly kind: FileKind;
  readonly tunes: OpenedFile['tunes'];
}

let opened: OpenedFile | null = null;
let bytes: Uint8Array | null = null;
let backup: Backup | null = null;

function keep(result: ReadResult<OpenedFile>): ReadResult<FileContents> {
  if (!result.ok) return result;
  opened = result.value;
  return { ok: true, value: { kind: opened.kind, tunes: opened.tunes }, notices: result.notices };
}

const nothing: ReadResult<never> = {
  ok: false,
  problems: [{ severity: 'error', message: 'No file is open.', remedy: 'Open it again.' }],
};

const service = {
  open(contents: Uint8Array, name: string): ReadResult<FileContents> {
    bytes = contents;
    return keep(openFile(contents, name));
  },
  openText: (text: string): ReadResult<FileContents> => keep(openText(text)),
  read: (choice: ReadChoice): ReadResult<Incoming> => opened?.read(choice) ?? nothing,
  /** One of many, as it is shown before it is kept. @param tune its number in the file, from 1 */
  look(tune: number): ReadResult<LookedAt> {
    const read = opened?.read({ tune }) ?? nothing;
    return read.ok ? { ...read, value: lookAt(read.value) } : read;
  },
  /** @returns null where the file is no backup */
  backup(): ReadResult<BackupList> | null {
    const found = bytes ? openBackup(bytes) : null;
    if (!found?.ok) return found;
    backup = found.value;
    const { madeAt, tunes, learners, kept, aside = [] } = backup;
    return { ok: true, value: { madeAt, tunes, learners, kept, aside }, notices: [] };
  },
  backupTune(file: string): ReadResult<NoktaContents> {
    const text = backup?.text(file) ?? nothing;
    return text.ok ? readNokta(text.value) : text;
  },
};

export type FileService = typeof service;
expose(service);

/** The list inside a backup: which tunes it holds, and when each was last changed. */
import { z } from 'zod';
import { keptSchema, type Kept } from './kept.ts';
import { learnerOf, momentSchema, namedHandSchema } from './schema.ts';
import { learnerRecord, type KnownLearner } from '../learner/index.ts';
import { decodeText, openZip, type ReadResult } from '../formats/index.ts';

export const BACKUP_LIST = 'library.json';
const FORMAT = 'nokta-backup';
const VERSION = 1;

export interface BackupEntry {
  readonly id: string;
  readonly title: string;
  /** ISO 8601. */
  readonly updatedAt: string;
  /** Name of its Nokta file in the archive. */
  readonly file: string;
  /** Digest of that file's text; a backup from before there was one has none. */
  readonly sha256?: string | undefined;
  /** Ids of its arrangements, as they stand in its file; a backup from before they were told has none. */
  readonly arrangements?: readonly string[] | undefined;
}

/** Something that the program that made the backup could not read: kept as it was stored. */
export interface AsideEntry {
  readonly id: string;
  readonly title: string;
  readonly file: string;
}

export interface BackupList {
  readonly madeAt: string;
  readonly tunes: readonly BackupEntry[];
  /** A backup from before there were any has none. */
  readonly learners: readonly KnownLearner[];
  /** Instruments, tunings, groups and tapes; a backup from before there were any has none. */
  readonly kept: readonly Kept[];
  readonly aside?: readonly AsideEntry[];
}

const schema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  madeAt: momentSchema,
  tunes: z
    .array(
      z.strictObject({
        id: z.uuid(),
        title: z.string().max(300),
        updatedAt: momentSchema,
        file: z.string().max(200),
        sha256: z.string().length(64).optional(),
        arrangements: z.array(z.uuid()).max(1000).optional(),
      }),
    )
    .max(200_000),
  learners: z
    .array(z.strictObject({ id: z.uuid(), value: learnerRecord.schema }))
    .max(10_000)
    .default([]),
  /** Learners as older programs kept them. */
  hands: z.array(namedHandSchema).max(10_000).default([]),
  kept: z.array(keptSchema).max(10_000).default([]),
  aside: z
    .array(z.strictObject({ id: z.uuid(), title: z.string().max(300), file: z.string().max(200) }))
    .max(200_000)
    .default([]),
});

/** @example JSON.parse(backupList({ madeAt: '2026-03-01T10:00:00Z', tunes: [], learners: [], kept: [] })).madeAt // '2026-03-01T10:00:00Z' */
export function backupList({ tunes, learners, kept, madeAt, aside = [] }: BackupList): string {
  return `${JSON.stringify({ format: FORMAT, version: VERSION, madeAt, tunes, learners, kept, aside }, null, 1)}\n`;
}

/** A backup that was opened: its list, and each tune's file as text. */
export interface Backup extends BackupList {
  text(file: string): ReadResult<string>;
}

/**
 * @returns null where the archive is no backup; its problems where it is a damaged one
 * @example openBackup(new Uint8Array([1, 2, 3])) // null
 */
export function openBackup(bytes: Uint8Array): ReadResult<Backup> | null {
  const opened = openZip(bytes);
  if (!opened.ok || !opened.value.names.includes(BACKUP_LIST)) return null;
  const archive = opened.value;
  const entry = archive.entry(BACKUP_LIST);
  if (!entry.ok) return entry;
  const parsed = schema.safeParse(jsonOf(decodeText(entry.value)));
  if (parsed.success) {
    const text = (file: string): ReadResult<string> => {
      const found = archive.entry(file);
      return found.ok ? { ok: true, value: decodeText(found.value), notices: [] } : found;
    };
    return { ok: true, value: { ...listIn(parsed.data), text }, notices: [] };
  }
  return {
    ok: false,
    problems: [
      {
        severity: 'error',
        message: 'The list inside this backup is damaged, or a newer Nokta wrote it.',
        remedy: 'Bring Nokta up to date, or open another backup.',
      },
    ],
  };
}

const listIn = ({ madeAt, tunes, learners, hands, kept, aside }: z.output<typeof schema>): BackupList => ({
  madeAt,
  tunes,
  learners: [...learners, ...hands.map(learnerOf)],
  kept,
  aside,
});

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

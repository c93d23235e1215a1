/** Records of any kind: changes, steps, logs, notices. */
import { z } from 'zod';
import { momentSchema } from '@nokta/core/files';
import type { RecordKind } from '@nokta/core/record';

export const revision = z.number().int().min(1);

export const label = z.string().min(1).max(200);

/** A change's id, given by its sender: sent again, it is known by it and not made twice. */
export const entry = z.uuid().nullable().default(null);

/** A change of a record, as any kind of record is sent it. */
export const changeRequest = <Change>({ changeSchema }: Pick<RecordKind<never, Change>, 'changeSchema'>) =>
  z.strictObject({ entry, revision, label, change: changeSchema });

/** A new record that needs no tune to belong to. @param value its schema */
export const recordRequest = <Value>(value: z.ZodType<Value, Value>) => z.strictObject({ id: z.uuid(), value });

/** Something that happened to a record. */
export const logRequest = z.strictObject({ id: z.uuid(), at: momentSchema, value: z.looseObject({}) });

export const stepRequest = z.strictObject({ entry, revision });

export interface Steps {
  /** What undo would take back and redo bring again; null where there is nothing. */
  readonly undo: string | null;
  readonly redo: string | null;
  /** When those steps were made: of several chains the latest is undone first. */
  readonly undoAt: string | null;
  readonly redoAt: string | null;
}

/** What desks are sent of any record, whatever else of it. */
export interface AnyRecord extends Steps {
  readonly id: string;
  readonly revision: number;
}

/** A record that belongs to no tune. */
export interface StoredRecord<Value> extends AnyRecord {
  readonly value: Value;
}

/** Something that happened to a record. */
export interface LogEntry {
  readonly id: string;
  /** ISO 8601. */
  readonly at: string;
  readonly value: unknown;
}

/** A record changed, came or went. */
export interface Notice {
  readonly kind: string;
  readonly id: string;
  /** Records that belong together bear the same: a tune and its arrangements. */
  readonly family: string;
  /** The record's count of changes; null where something beside its content changed. */
  readonly revision: number | null;
  /** The change's id, where its sender gave one. */
  readonly entry: string | null;
}

/** What a change is answered with: the record as it is now. */
export type Answer<Record> = Record & {
  /** The count of changes that it had with this one. */
  readonly made: number;
  /** It may hold more than its sender knows: the change was laid over others, or had arrived before. */
  readonly others: boolean;
};

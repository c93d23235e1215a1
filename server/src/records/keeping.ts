/** Where the records of each kind lie, and how desks are told of them. */
import type { AnyRecord, Steps } from '@nokta/api';
import type { RecordKind } from '@nokta/core/record';
import type { Database } from '../db/open.ts';

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
/** The store, or a transaction of it. */
export type Access = Database | Transaction;

/** A record as it stands in the store. */
export interface Row {
  readonly id: string;
  readonly revision: number;
  /** Records that are undone together bear the same. */
  readonly family: string;
  readonly stored: unknown;
}

/** A record that was read. */
export interface Standing<Value> extends Pick<Row, 'id' | 'revision' | 'family'> {
  readonly value: Value;
}

export interface Keeping<Value, Change, Record extends AnyRecord> {
  readonly record: RecordKind<Value, Change>;
  /** How people call it: "tune". */
  readonly word: string;
  /** The record, where it is there to be changed; locked against others until the transaction ends. */
  find(db: Access, id: string, lock: boolean): Promise<Row | null>;
  /** Puts what it is now in the store, with whatever is worked out from it. */
  save(tx: Transaction, now: Standing<Value>): Promise<void>;
  /** As desks are sent it. */
  told(now: Standing<Value>, steps: Steps): Record;
}

/** Checks the parts against each other. */
export const keeping = <Value, Change, Record extends AnyRecord>(
  parts: Keeping<Value, Change, Record>,
): Keeping<Value, Change, Record> => parts;

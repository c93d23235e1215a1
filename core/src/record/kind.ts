/**
 * Records: what has an id and a history of changes, whatever it is. A kind says how its changes are made, taken back
 * and laid over those of another desk; server, outbox, undo and backup know records by that alone.
 */
import type { z } from 'zod';

export interface RecordKind<Value, Change> {
  /** How the store and addresses call it: "tune". */
  readonly kind: string;
  /** A record as it is stored, whatever program stored it; what is said when it is refused is for the teacher. */
  readonly schema: z.ZodType<Value, Value>;
  /** A change as it is sent. */
  readonly changeSchema: z.ZodType<Change, Change>;
  /** @returns null where nothing is different */
  between(before: Value, after: Value): Change | null;
  /** Whether what a change is about stands as its maker saw it. */
  fits(value: Value, change: Change): boolean;
  /** @throws where the change was made on another state */
  apply(value: Value, change: Change): Value;
  invert(change: Change): Change;
  /** A change that was made before others came. @returns null where it touches what they changed */
  merge(now: Value, change: Change): Value | null;
  /** A change laid over whatever stands there, where its maker wants just that. @returns null where it makes no sense there */
  lay(now: Value, change: Change): Value | null;
}

/** Any kind, to those who need not know which. */
export type AnyKind = RecordKind<unknown, unknown>;

/**
 * Checks a kind's parts against each other.
 * @example recordKind({ ...tuneRecord, kind: 'other' }).kind // 'other'
 */
export const recordKind = <Value, Change>(parts: RecordKind<Value, Change>): RecordKind<Value, Change> => parts;

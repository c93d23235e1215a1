/**
 * What is on its way to the server: a row of changes for each record, sent one after the other, each built on the
 * one before. Without any interface; the store beside it keeps the rows and shows them.
 */
import { dequal } from 'dequal';
import { v4 as newId } from 'uuid';
import type { AnyRecord, Answer, LogEntry, TuneRecord } from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';
import { kindOf, type RecordRef } from './kinds.ts';

export type { RecordRef } from './kinds.ts';

/** One thing that the server has not answered yet. */
export interface Entry {
  /** By which the server knows it when it is sent again. */
  readonly id: string;
  /** What undo will call it. */
  readonly label: string;
  /** What became different; left out where an older window kept only what came of it. */
  readonly change?: unknown;
  /** The record's content with it. */
  readonly value?: unknown;
  /** Something that happened to the record, for its log: it stands in nobody's way. */
  readonly append?: LogEntry;
  /** The record goes. */
  readonly remove?: true;
}

/** Why a row waits for the teacher and is not simply sent again. */
export type Held =
  /** Somebody else wrote meanwhile: what the server has now. */
  | { readonly why: 'stale'; readonly theirs: AnyRecord }
  /** The server will never take it as it is. */
  | { readonly why: 'refused'; readonly message: string };

export interface Queue {
  readonly record: RecordRef;
  /** Records that are shown together: a tune's id, for it and its arrangements. */
  readonly tuneId: string;
  readonly title: string;
  /** The server's count of changes that the first entry builds on. */
  readonly revision: number;
  readonly entries: readonly Entry[];
  readonly held: Held | null;
}

export const keyOf = ({ kind, id }: RecordRef): string => `${kind}:${id}`;

/** What a change is answered with. */
export type Answered = Answer<AnyRecord>;

/** Something to be sent, with an id of its own. */
export const newEntry = (change: Omit<Entry, 'id'>): Entry => ({ id: newId(), ...change });

/** An entry as an older window kept it: content and change bore the names of their kind. */
export function readEntry(
  kept: Entry & { readonly pieces?: unknown; readonly decisions?: unknown; readonly tune?: unknown },
): Entry {
  const { pieces, decisions, tune, ...entry } = kept;
  const value = entry.value ?? decisions ?? tune;
  const change = entry.change ?? pieces;
  return {
    ...newEntry(entry),
    ...entry,
    ...(change !== undefined && { change }),
    ...(value !== undefined && { value }),
  };
}

/**
 * A row that came too late, where what is there says the same as it does: both windows did the same, and there is
 * nothing to choose between.
 * @returns the row with what is left of it, null where nothing is; the row itself where the two differ
 */
export function withoutEqual(queue: Queue, theirs: AnyRecord): Queue | null {
  const there = kindOf(queue.record.kind).valueOf(theirs);
  const last = queue.entries.findLastIndex(({ value }) => value !== undefined && dequal(value, there));
  if (last < 0) return queue;
  const entries = queue.entries.slice(last + 1);
  return entries.length > 0 ? { ...queue, revision: theirs.revision, entries, held: null } : null;
}

/**
 * A row without its first entry, which the server has taken.
 * @param revision of the record with that entry: what was made on top of it since is somebody else's
 * @returns null where nothing is left
 */
export function taken(queue: Queue, revision: number): Queue | null {
  const entries = queue.entries.slice(1);
  return entries.length > 0 ? { ...queue, revision, entries, held: null } : null;
}

/**
 * A record's content as the server has it, with what waits laid over it: piece by piece, or as it was left here where a
 * change makes no sense on what others made.
 */
export function laidOver(kind: RecordRef['kind'], value: unknown, entries: readonly Entry[]): unknown {
  const { record } = kindOf(kind);
  return entries.reduce((now, { change, value: whole }) => {
    if (whole === undefined) return now;
    return (change === undefined ? null : record.lay(now, change)) ?? whole;
  }, value);
}

/** A tune as the teacher left it: with everything that has not reached the server. */
export function withWaiting(tune: TuneRecord, queues: readonly Queue[]): TuneRecord {
  const laid = (kind: RecordRef['kind'], id: string, value: unknown) => {
    const queue = queues.find(({ record }) => record.kind === kind && record.id === id);
    return queue ? laidOver(kind, value, queue.entries) : value;
  };
  const own = laid('tune', tune.id, tune.tune) as Tune;
  return {
    ...tune,
    title: own.title,
    tune: own,
    arrangements: tune.arrangements.map((arrangement) => ({
      ...arrangement,
      decisions: laid('arrangement', arrangement.id, arrangement.decisions) as Decisions,
    })),
  };
}

/** What the rows have to say of one tune: the worst of them counts. */
export type Delivery = 'saved' | 'saving' | 'waiting' | 'held';

export function deliveryOf(queues: readonly Queue[], unreachable: boolean): Delivery {
  if (queues.some(({ held }) => held)) return 'held';
  if (queues.length === 0) return 'saved';
  return unreachable ? 'waiting' : 'saving';
}

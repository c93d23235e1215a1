/**
 * What is on its way to the server: a row of changes for each record, sent one after the other, each built on the
 * one before. Without any interface; the store beside it keeps the rows and shows them.
 */
import { dequal } from 'dequal';
import { v4 as newId } from 'uuid';
import type { Answer, ArrangementRecord, TuneRecord, TuneState } from '@nokta/api';
import { mergedChange, type TuneChange } from '@nokta/core/edit';
import { withPieces, type Decisions, type Piece } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';

/** A record that has a history of its own on the server. */
export interface RecordRef {
  readonly kind: 'tune' | 'arrangement';
  readonly id: string;
}

/** One change that the server has not answered yet. */
export interface Entry {
  /** By which the server knows it when it is sent again. */
  readonly id: string;
  /** What undo will call it. */
  readonly label: string;
  /** Of an arrangement: its decisions as they are then, and what is different in them, piece by piece. */
  readonly decisions?: Decisions;
  readonly pieces?: readonly Piece[];
  /** Of a tune: what became different, and the whole tune with it. */
  readonly change?: TuneChange;
  readonly tune?: Tune;
}

/** Why a row waits for the teacher and is not simply sent again. */
export type Held =
  /** Somebody else wrote meanwhile: what the server has now. */
  | { readonly why: 'stale'; readonly theirs: Theirs }
  /** The server will never take it as it is. */
  | { readonly why: 'refused'; readonly message: string };

export interface Queue {
  readonly record: RecordRef;
  readonly tuneId: string;
  readonly title: string;
  /** The server's count of changes that the first entry builds on. */
  readonly revision: number;
  readonly entries: readonly Entry[];
  readonly held: Held | null;
}

export const keyOf = ({ kind, id }: RecordRef): string => `${kind}:${id}`;

/** What the server has of a record: its content, whoever made it. */
export type Theirs = ArrangementRecord | TuneState;
/** What a change is answered with. */
export type Answered = Answer<ArrangementRecord> | Answer<TuneState>;

/** A change to be sent, with an id of its own. */
export const newEntry = (change: Omit<Entry, 'id'>): Entry => ({ id: newId(), ...change });

const contentOf = (one: Pick<Entry, 'decisions' | 'tune'>): unknown => one.decisions ?? one.tune;

/**
 * A row that came too late, where what is there says the same as it does: both windows did the same, and there is
 * nothing to choose between.
 * @returns the row with what is left of it, null where nothing is; the row itself where the two differ
 */
export function withoutEqual(queue: Queue, theirs: Theirs): Queue | null {
  const last = queue.entries.findLastIndex((entry) => dequal(contentOf(entry), contentOf(theirs)));
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

/** Decisions as the server has them, with those that wait laid over them. */
export const decisionsWith = (decisions: Decisions, entries: readonly Entry[]): Decisions =>
  entries.reduce((now, { pieces, decisions: whole }) => (pieces ? withPieces(now, pieces) : (whole ?? now)), decisions);

/** A tune as the server has it, with the changes that wait laid over it; as it was left here, where they do not fit. */
export const tuneWith = (tune: Tune, entries: readonly Entry[]): Tune =>
  entries.reduce((now, { change, tune: whole }) => (change && mergedChange(now, change)) ?? whole ?? now, tune);

/** A tune as the teacher left it: with everything that has not reached the server. */
export function withWaiting(tune: TuneRecord, queues: readonly Queue[]): TuneRecord {
  const waiting = ({ kind, id }: RecordRef) =>
    queues.find(({ record }) => record.kind === kind && record.id === id)?.entries ?? [];
  const own = tuneWith(tune.tune, waiting({ kind: 'tune', id: tune.id }));
  return {
    ...tune,
    title: own.title,
    tune: own,
    arrangements: tune.arrangements.map((arrangement) => ({
      ...arrangement,
      decisions: decisionsWith(arrangement.decisions, waiting({ kind: 'arrangement', id: arrangement.id })),
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

/**
 * Kinds of records as this side knows them: how a change of each is sent, and where in the server's answer its content
 * stands. Whatever is said of rows, undo and conflicts is said without naming a kind.
 */
import type { AnyRecord, Answer, ArrangementRecord, StoredRecord, TuneState } from '@nokta/api';
import { arrangementRecord, type Decisions } from '@nokta/core/arrange';
import { tuneRecord, type TuneChange } from '@nokta/core/edit';
import { learnerRecord, type Learner } from '@nokta/core/learner';
import type { Tune } from '@nokta/core/music';
import type { AnyKind, Piece, RecordKind } from '@nokta/core/record';
import { api, recordApi, type RecordApi } from '../api/client.ts';

/** A record that has a history of its own on the server. */
export interface RecordRef {
  readonly kind: KindName;
  readonly id: string;
}

interface DeskKind<Value, Change, Record extends AnyRecord> {
  readonly record: RecordKind<Value, Change>;
  /** What its changes are about, in the server's answer. */
  valueOf(record: Record): Value;
  with(record: Record, value: Value): Record;
  /** @param change null where an older window kept only what came of it */
  send(ref: RecordRef, revision: number, change: Change | null, made: Sent<Value>): Promise<Answer<Record>>;
  readonly api: Pick<RecordApi<Record>, 'undo' | 'redo' | 'state' | 'remove' | 'append'>;
}

interface Sent<Value> {
  readonly label: string;
  readonly entry: string;
  readonly value: Value;
}

const deskKind = <Value, Change, Record extends AnyRecord>(parts: DeskKind<Value, Change, Record>) => parts;

/** One that the server keeps on its shelf of records. */
function shelved<Value, Change>(record: RecordKind<Value, Change>) {
  const own = recordApi<StoredRecord<Value>>(`${record.kind}s`);
  return deskKind<Value, Change, StoredRecord<Value>>({
    record,
    api: own,
    valueOf: ({ value }) => value,
    with: (one, value) => ({ ...one, value }),
    send: ({ id }, revision, change, { label, entry }) => own.change(id, revision, change, label, entry),
  });
}

const KINDS = {
  tune: deskKind<Tune, TuneChange, TuneState>({
    record: tuneRecord,
    api: {
      ...recordApi<TuneState>('tunes'),
      undo: (...of) => api.undoTune(...of),
      redo: (...of) => api.redoTune(...of),
    },
    valueOf: ({ tune }) => tune,
    with: (one, tune) => ({ ...one, tune }),
    send: ({ id }, revision, change, { label, entry }) => api.edit(id, revision, change!, label, entry),
  }),
  arrangement: deskKind<Decisions, readonly Piece[], ArrangementRecord>({
    record: arrangementRecord,
    api: {
      ...recordApi<ArrangementRecord>('arrangements'),
      undo: (...of) => api.undo(...of),
      redo: (...of) => api.redo(...of),
    },
    valueOf: ({ decisions }) => decisions,
    with: (one, decisions) => ({ ...one, decisions }),
    send: ({ id }, revision, change, { label, entry, value }) =>
      api.decide(id, revision, change ?? value, label, entry),
  }),
  learner: shelved<Learner, readonly Piece[]>(learnerRecord),
} as const;
export type KindName = keyof typeof KINDS;

/** Of a kind, what may be used without knowing which it is. */
export interface LooseKind {
  readonly record: AnyKind;
  valueOf(record: AnyRecord): unknown;
  with<Record extends AnyRecord>(record: Record, value: unknown): Record;
  send(ref: RecordRef, revision: number, change: unknown, made: Sent<unknown>): Promise<Answer<AnyRecord>>;
  readonly api: RecordApi<AnyRecord>;
}

export const kindOf = (name: KindName): LooseKind => KINDS[name] as unknown as LooseKind;
export const isKind = (name: string): name is KindName => Object.hasOwn(KINDS, name);

/** What was decided for an arrangement, with its whole history: a save that returned is in the store. */
import { randomUUID } from 'node:crypto';
import { dequal } from 'dequal';
import { and, asc, eq, gt, inArray, isNull, sql } from 'drizzle-orm';
import type { Answer, ArrangementRecord } from '@nokta/api';
import { collisions, withPieces, type Decisions, type Piece } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';
import type { Database } from '../db/open.ts';
import { arrangements, decisions as history, tuneSteps, tunes } from '../db/schema.ts';
import { Refusal, notFound } from '../problems.ts';
import { changedElsewhere, onceOnly, type Sending } from './sent.ts';
import { readDecisions, storedDecisions, storedTune } from './stored.ts';

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
/** The store, or a transaction of it. */
export type Access = Database | Transaction;
type Row = typeof arrangements.$inferSelect;

/** Notes that a tune, or something that belongs to it, was changed now. */
export async function touch(db: Access, tuneId: string): Promise<void> {
  await db.update(tunes).set({ updatedAt: new Date() }).where(eq(tunes.id, tuneId));
}

/** @param place among those that are added together: they stay in their order, and the first is what the desk opens */
export async function addArrangement(
  db: Access,
  tuneId: string,
  decisions: Decisions,
  place = 0,
): Promise<ArrangementRecord> {
  const id = randomUUID();
  await db.insert(arrangements).values({ id, tuneId, createdAt: new Date(Date.now() + place) });
  await db.insert(history).values({ arrangementId: id, step: 0, label: 'start', decisions });
  return { id, tuneId, decisions, revision: 1, undo: null, redo: null, undoAt: null, redoAt: null };
}

/** A tune's arrangements, and how many of them this program cannot read. */
export interface Arrangements {
  readonly readable: readonly ArrangementRecord[];
  /** What stands in the store for those that cannot be read. */
  readonly aside: readonly unknown[];
}

export async function arrangementsOf(db: Access, tuneId: string): Promise<Arrangements> {
  const rows = await db
    .select({ row: arrangements, stored: history.decisions })
    .from(arrangements)
    .leftJoin(history, and(eq(history.arrangementId, arrangements.id), eq(history.step, arrangements.step)))
    .where(eq(arrangements.tuneId, tuneId))
    .orderBy(asc(arrangements.createdAt), asc(arrangements.id));
  const known = rows.filter(({ stored }) => readDecisions(stored) !== null);
  return {
    readable: await Promise.all(known.map(({ row }) => record(db, row))),
    aside: rows.filter((one) => !known.includes(one)).map(({ stored }) => stored),
  };
}

/** Arrangements of tunes that are in the library; those of a deleted one are not there to be changed. */
async function findRow(db: Access, id: string, lock: boolean) {
  const query = db
    .select({ row: arrangements })
    .from(arrangements)
    .innerJoin(tunes, eq(tunes.id, arrangements.tuneId))
    .where(and(eq(arrangements.id, id), isNull(tunes.deletedAt)));
  const [found] = lock ? await query.for('update') : await query;
  if (!found) throw notFound('arrangement');
  return found.row;
}

export async function findArrangement(db: Access, id: string): Promise<ArrangementRecord> {
  return record(db, await findRow(db, id, false));
}

async function record(db: Access, row: Row): Promise<ArrangementRecord> {
  const around = [row.step, row.step + 1];
  const steps = await db
    .select()
    .from(history)
    .where(and(eq(history.arrangementId, row.id), inArray(history.step, around)));
  const now = steps.find(({ step }) => step === row.step)!;
  const next = steps.find(({ step }) => step === row.step + 1);
  return {
    id: row.id,
    tuneId: row.tuneId,
    decisions: storedDecisions(now.decisions),
    revision: row.revision,
    undo: row.step > 0 ? now.label : null,
    redo: next?.label ?? null,
    undoAt: row.step > 0 ? now.madeAt.toISOString() : null,
    redoAt: next?.madeAt.toISOString() ?? null,
  };
}

/**
 * Takes the present step on; whatever could have been redone is gone.
 * @param entry the change's id, by which it is known when it is sent again
 */
export async function decide(
  db: Database,
  id: string,
  revision: number,
  wanted: Decisions | readonly Piece[],
  label: string,
  entry: string | null = null,
): Promise<Answer<ArrangementRecord>> {
  return db.transaction((tx) => decideIn(tx, id, revision, wanted, label, entry));
}

/** The same, as a part of something larger. */
export async function decideIn(
  tx: Transaction,
  id: string,
  revision: number,
  wanted: Decisions | readonly Piece[],
  label: string,
  entry: string | null = null,
): Promise<Answer<ArrangementRecord>> {
  return changeOnce(tx, { id, revision, entry, merges: isPieces(wanted) }, async (row) => {
    const decisions = isPieces(wanted) ? await merged(tx, row, wanted) : wanted;
    if (!decisions) return record(tx, row);
    const step = row.step + 1;
    await tx.delete(history).where(and(eq(history.arrangementId, id), gt(history.step, row.step)));
    await tx.insert(history).values({ arrangementId: id, step, label, decisions, madeAt: momentAfterAll(row.tuneId) });
    await forgetTuneRedo(tx, row.tuneId);
    return moveTo(tx, row, step);
  });
}

const isPieces = (wanted: Decisions | readonly Piece[]): wanted is readonly Piece[] => Array.isArray(wanted);

/**
 * Pieces laid over what is decided by now.
 * @returns null where all of it stands so already
 * @throws Refusal 409 where a piece stands otherwise than its sender saw it, or where they do not fit what is there
 */
async function merged(tx: Transaction, row: Row, pieces: readonly Piece[]): Promise<Decisions | null> {
  const now = await record(tx, row);
  if (collisions(now.decisions, pieces).length > 0) throw changedElsewhere('arrangement', now);
  const next = readDecisions(withPieces(now.decisions, pieces));
  if (!next) throw changedElsewhere('arrangement', now);
  return dequal(next, now.decisions) ? null : next;
}

/** Changes an arrangement, once. */
async function changeOnce(
  tx: Transaction,
  sending: Sending,
  make: (row: Row) => Promise<ArrangementRecord>,
): Promise<Answer<ArrangementRecord>> {
  const row = await findRow(tx, sending.id, true);
  return onceOnly(
    tx,
    'arrangement',
    sending,
    row,
    () => record(tx, row),
    () => make(row),
  );
}

/**
 * Now, or where the clock was set back since: right after the last step of the tune and its arrangements. Of several
 * chains the latest step is undone first, whatever the clock says.
 */
export const momentAfterAll = (tuneId: string) => sql<Date>`greatest(clock_timestamp(), (
  select max(moment) + interval '1 millisecond' from (
    select ${tuneSteps.madeAt} as moment from ${tuneSteps}
      join ${tunes} on ${tunes.id} = ${tuneSteps.tuneId} and ${tunes.step} = ${tuneSteps.step}
      where ${tunes.id} = ${tuneId}
    union all
    select ${history.madeAt} from ${history}
      join ${arrangements} on ${arrangements.id} = ${history.arrangementId} and ${arrangements.step} = ${history.step}
      where ${arrangements.tuneId} = ${tuneId}
  ) as steps))`;

/** What was undone in the tune was undone before this decision was made. */
async function forgetTuneRedo(tx: Transaction, tuneId: string): Promise<void> {
  const [tune] = await tx.select({ step: tunes.step }).from(tunes).where(eq(tunes.id, tuneId));
  if (tune) await tx.delete(tuneSteps).where(and(eq(tuneSteps.tuneId, tuneId), gt(tuneSteps.step, tune.step)));
}

export async function walk(
  db: Database,
  id: string,
  revision: number,
  direction: 1 | -1,
  entry: string | null = null,
): Promise<Answer<ArrangementRecord>> {
  return db.transaction((tx) =>
    changeOnce(tx, { id, revision, entry }, async (row) => {
      const { undo, redo } = await record(tx, row);
      if ((direction === -1 ? undo : redo) === null)
        throw new Refusal(409, {
          error: `There is nothing to ${direction === -1 ? 'undo' : 'redo'}.`,
          current: await record(tx, row),
        });
      return moveTo(tx, row, row.step + direction);
    }),
  );
}

async function moveTo(tx: Transaction, row: Row, step: number): Promise<ArrangementRecord> {
  const [moved] = await tx
    .update(arrangements)
    .set({ step, revision: row.revision + 1 })
    .where(eq(arrangements.id, row.id))
    .returning();
  await touch(tx, row.tuneId);
  return record(tx, moved!);
}

/** What an arrangement is worked out from. */
export interface Material {
  readonly tuneId: string;
  readonly tune: Tune;
  readonly decisions: Decisions;
}

export async function materialOf(db: Database, id: string): Promise<Material> {
  const { tuneId, decisions } = await findArrangement(db, id);
  const [row] = await db.select().from(tunes).where(eq(tunes.id, tuneId));
  if (!row) throw notFound('tune');
  return { tuneId, tune: storedTune(row.tune), decisions };
}

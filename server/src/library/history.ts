/** Changes to a tune, step by step: undo and redo without limit, across restarts; named versions. */
import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, inArray, isNull, sql } from 'drizzle-orm';
import type { Answer, Steps, TuneState, VersionRecord, VersionSummary } from '@nokta/api';
import { applyChange, changeBetween, invertChange, mergedChange, type TuneChange } from '@nokta/core/edit';
import { tuneSchema, type Tune } from '@nokta/core/music';
import type { Database } from '../db/open.ts';
import { arrangements, decisions, tuneSteps, tuneVersions, tunes } from '../db/schema.ts';
import { Refusal, notFound } from '../problems.ts';
import { momentAfterAll, touch, type Access, type Transaction } from './decisions.ts';
import { factsOf } from './facts.ts';
import { changedElsewhere, onceOnly, type Sending } from './sent.ts';
import { storedTune } from './stored.ts';

type Row = typeof tunes.$inferSelect;

/** What can be undone and done again. */
export async function stepsOf(db: Access, { id, step }: Pick<Row, 'id' | 'step'>): Promise<Steps> {
  const around = await db
    .select({ step: tuneSteps.step, label: tuneSteps.label, madeAt: tuneSteps.madeAt })
    .from(tuneSteps)
    .where(and(eq(tuneSteps.tuneId, id), inArray(tuneSteps.step, [step, step + 1])));
  const last = around.find((other) => other.step === step);
  const next = around.find((other) => other.step === step + 1);
  return {
    undo: last?.label ?? null,
    redo: next?.label ?? null,
    undoAt: last?.madeAt.toISOString() ?? null,
    redoAt: next?.madeAt.toISOString() ?? null,
  };
}

async function stateOf(db: Access, row: Row): Promise<TuneState> {
  const { id, revision } = row;
  return { id, revision, tune: storedTune(row.tune), ...(await stepsOf(db, row)) };
}

/** Changes a tune, once. */
async function changeOnce(
  tx: Transaction,
  sending: Sending,
  make: (row: Row) => Promise<TuneState>,
): Promise<Answer<TuneState>> {
  const [row] = await tx
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, sending.id), isNull(tunes.deletedAt)))
    .for('update');
  if (!row) throw notFound('tune');
  return onceOnly(
    tx,
    'tune',
    sending,
    row,
    () => stateOf(tx, row),
    () => make(row),
  );
}

/**
 * One change more; whatever could have been done again is gone, in the tune and in its arrangements.
 * @param entry the change's id, by which it is known when it is sent again
 */
export async function edit(
  tx: Transaction,
  id: string,
  revision: number,
  change: TuneChange | ((tune: Tune) => Tune),
  label: string,
  entry: string | null = null,
): Promise<Answer<TuneState>> {
  return changeOnce(tx, { id, revision, entry, merges: typeof change !== 'function' }, async (row) => {
    const before = storedTune(row.tune);
    const after =
      typeof change === 'function'
        ? change(before)
        : row.revision === revision
          ? changed(before, change)
          : mergedSafely(before, change);
    if (!after) throw changedElsewhere('tune', await stateOf(tx, row));
    const made = changeBetween(before, after);
    if (!made) return stateOf(tx, row);
    const step = row.step + 1;
    await tx.delete(tuneSteps).where(and(eq(tuneSteps.tuneId, id), gt(tuneSteps.step, row.step)));
    await forgetRedo(tx, id);
    await tx.insert(tuneSteps).values({ tuneId: id, step, label, change: made, madeAt: momentAfterAll(id) });
    return moveTo(tx, row, after, step);
  });
}

/** A change for an earlier state, of any shape: what cannot be laid over this one is a question to people. */
function mergedSafely(tune: Tune, change: TuneChange): Tune | null {
  try {
    return mergedChange(tune, change);
  } catch {
    return null;
  }
}

/** What was undone in arrangements was undone before this change was made. */
async function forgetRedo(tx: Access, tuneId: string): Promise<void> {
  await tx.delete(decisions).where(
    sql`exists (select 1 from ${arrangements} where ${arrangements.id} = ${decisions.arrangementId}
      and ${arrangements.tuneId} = ${tuneId} and ${decisions.step} > ${arrangements.step})`,
  );
}

/** @throws Refusal 422 if the change does not fit this tune, or would leave one that is not sound */
function changed(tune: Tune, change: TuneChange): Tune {
  const remedy = 'Load the page again; what was saved before is there.';
  let after: Tune;
  try {
    after = applyChange(tune, change);
  } catch {
    throw new Refusal(422, { error: 'This change does not fit the tune as it is stored.', remedy });
  }
  const parsed = tuneSchema.safeParse(after);
  if (parsed.success) return after;
  throw new Refusal(422, { error: parsed.error.issues[0]?.message ?? 'This change would break the tune.', remedy });
}

async function moveTo(tx: Access, row: Row, tune: Tune, step: number): Promise<TuneState> {
  const [moved] = await tx
    .update(tunes)
    .set({ tune, ...factsOf(tune, row.tags), step, revision: row.revision + 1, updatedAt: new Date() })
    .where(eq(tunes.id, row.id))
    .returning();
  return stateOf(tx, moved!);
}

/** Undo and redo. */
export async function walkTune(
  db: Database,
  id: string,
  revision: number,
  direction: 1 | -1,
  entry: string | null = null,
): Promise<Answer<TuneState>> {
  return db.transaction((tx) =>
    changeOnce(tx, { id, revision, entry }, async (row) => {
      const number = direction === -1 ? row.step : row.step + 1;
      const [found] = await tx
        .select()
        .from(tuneSteps)
        .where(and(eq(tuneSteps.tuneId, id), eq(tuneSteps.step, number)));
      if (!found) {
        throw new Refusal(409, {
          error: `There is nothing to ${direction === -1 ? 'undo' : 'redo'}.`,
          current: await stateOf(tx, row),
        });
      }
      const change = direction === -1 ? invertChange(found.change) : found.change;
      return moveTo(tx, row, changed(storedTune(row.tune), change), row.step + direction);
    }),
  );
}

export async function listVersions(db: Access, tuneId: string): Promise<readonly VersionSummary[]> {
  const rows = await db
    .select({ id: tuneVersions.id, name: tuneVersions.name, madeAt: tuneVersions.madeAt })
    .from(tuneVersions)
    .where(eq(tuneVersions.tuneId, tuneId))
    .orderBy(desc(tuneVersions.madeAt));
  return rows.map((row) => ({ ...row, madeAt: row.madeAt.toISOString() }));
}

/** Gives the tune's present state a name. */
export async function nameVersion(db: Access, tuneId: string, name: string): Promise<VersionSummary> {
  const [row] = await db
    .select({ tune: tunes.tune })
    .from(tunes)
    .where(and(eq(tunes.id, tuneId), isNull(tunes.deletedAt)));
  if (!row) throw notFound('tune');
  const id = randomUUID();
  const madeAt = new Date();
  await db.insert(tuneVersions).values({ id, tuneId, name, tune: storedTune(row.tune), madeAt });
  await touch(db, tuneId);
  return { id, name, madeAt: madeAt.toISOString() };
}

export async function openVersion(db: Access, tuneId: string, id: string): Promise<VersionRecord> {
  const [row] = await db
    .select()
    .from(tuneVersions)
    .where(and(eq(tuneVersions.tuneId, tuneId), eq(tuneVersions.id, id)));
  if (!row) throw notFound('version');
  return { id, name: row.name, madeAt: row.madeAt.toISOString(), tune: storedTune(row.tune) };
}

export async function deleteVersion(db: Access, tuneId: string, id: string): Promise<void> {
  const rows = await db
    .delete(tuneVersions)
    .where(and(eq(tuneVersions.tuneId, tuneId), eq(tuneVersions.id, id)))
    .returning({ id: tuneVersions.id });
  if (rows.length === 0) throw notFound('version');
  await touch(db, tuneId);
}

/** Tunes and their arrangements as records: where they lie, and what is worked out beside them. */
import { and, eq, isNull } from 'drizzle-orm';
import type { ArrangementRecord, TuneState } from '@nokta/api';
import { arrangementRecord } from '@nokta/core/arrange';
import { tuneRecord } from '@nokta/core/edit';
import { arrangements, tunes } from '../db/schema.ts';
import { keeping } from '../records/keeping.ts';
import { factsOf } from './facts.ts';
import { touch } from './touch.ts';

export const tuneKind = keeping({
  record: tuneRecord,
  word: 'tune',
  async find(db, id, lock) {
    const query = db
      .select()
      .from(tunes)
      .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
    const [row] = lock ? await query.for('update') : await query;
    return row ? { id, revision: row.revision, family: id, stored: row.tune } : null;
  },
  async save(tx, { id, value: tune, revision }) {
    const [row] = await tx.select({ tags: tunes.tags }).from(tunes).where(eq(tunes.id, id));
    await tx
      .update(tunes)
      .set({ tune, ...factsOf(tune, row?.tags ?? []), revision, updatedAt: new Date() })
      .where(eq(tunes.id, id));
  },
  told: ({ id, revision, value: tune }, steps): TuneState => ({ id, revision, tune, ...steps }),
});

/** Those of tunes that are in the library; those of a deleted one are not there to be changed. */
export const arrangementKind = keeping({
  record: arrangementRecord,
  word: 'arrangement',
  async find(db, id, lock) {
    const query = db
      .select({ row: arrangements })
      .from(arrangements)
      .innerJoin(tunes, eq(tunes.id, arrangements.tuneId))
      .where(and(eq(arrangements.id, id), isNull(tunes.deletedAt)));
    const [found] = lock ? await query.for('update') : await query;
    if (!found) return null;
    const { revision, tuneId, decisions } = found.row;
    return { id, revision, family: tuneId, stored: decisions };
  },
  async save(tx, { id, value: decisions, revision, family }) {
    await tx.update(arrangements).set({ decisions, revision }).where(eq(arrangements.id, id));
    await touch(tx, family);
  },
  told: ({ id, family: tuneId, revision, value: decisions }, steps): ArrangementRecord => ({
    id,
    tuneId,
    decisions,
    revision,
    ...steps,
  }),
});

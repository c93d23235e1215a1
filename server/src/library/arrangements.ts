/** The arrangements of a tune: added, listed, and what each is worked out from. */
import { randomUUID } from 'node:crypto';
import { asc, eq, inArray } from 'drizzle-orm';
import type { ArrangementRecord } from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';
import { arrangementNames } from '@nokta/core/words';
import type { Database } from '../db/open.ts';
import { arrangements, tunes } from '../db/schema.ts';
import { notFound } from '../problems.ts';
import { openRecord, stepsOf } from '../records/history.ts';
import type { Access } from '../records/keeping.ts';
import { notify } from '../records/notices.ts';
import { arrangementKind } from './kinds.ts';
import { learnerKind } from './learners.ts';
import { readDecisions, storedTune } from './stored.ts';

/**
 * @param place among those that are added together: they stay in their order, and the first is what the desk opens
 * @param id one that no other arrangement has
 */
export async function addArrangement(
  db: Access,
  tuneId: string,
  decisions: Decisions,
  place = 0,
  id: string = randomUUID(),
): Promise<ArrangementRecord> {
  await db.insert(arrangements).values({ id, tuneId, decisions, createdAt: new Date(Date.now() + place) });
  await notify(db, { kind: 'arrangement', id, family: tuneId, revision: 1, entry: null });
  return { id, tuneId, decisions, revision: 1, undo: null, redo: null, undoAt: null, redoAt: null };
}

/** Ids as far as no arrangement has them yet: whoever takes one takes it out, so that it is given once. */
export async function freeIds(db: Access, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: arrangements.id })
    .from(arrangements)
    .where(inArray(arrangements.id, [...ids]));
  const taken = new Set(rows.map(({ id }) => id));
  return new Set(ids.filter((id) => !taken.has(id)));
}

/** A tune's arrangements, and how many of them this program cannot read. */
export interface Arrangements {
  readonly readable: readonly ArrangementRecord[];
  /** What stands in the store for those that cannot be read. */
  readonly aside: readonly unknown[];
}

export async function arrangementsOf(db: Access, tuneId: string): Promise<Arrangements> {
  const rows = await db
    .select()
    .from(arrangements)
    .where(eq(arrangements.tuneId, tuneId))
    .orderBy(asc(arrangements.createdAt), asc(arrangements.id));
  const readable: ArrangementRecord[] = [];
  const aside: unknown[] = [];
  for (const { id, revision, decisions: stored } of rows) {
    const value = readDecisions(stored);
    if (value) readable.push(arrangementKind.told({ id, revision, family: tuneId, value }, await stepsOf(db, id)));
    else aside.push(stored);
  }
  return { readable, aside };
}

/** What is decided for a tune, and what stands in the store for what cannot be read. */
export interface Decided {
  readonly readable: readonly { readonly id: string; readonly decisions: Decisions }[];
  readonly aside: readonly unknown[];
}

/** What is decided for some tunes, by tune: all of them at once, and without their histories. */
export async function decisionsOf(db: Access, tuneIds: readonly string[]): Promise<ReadonlyMap<string, Decided>> {
  const rows = await db
    .select({ id: arrangements.id, tuneId: arrangements.tuneId, stored: arrangements.decisions })
    .from(arrangements)
    .where(inArray(arrangements.tuneId, [...tuneIds]))
    .orderBy(asc(arrangements.createdAt), asc(arrangements.id));
  return new Map(
    tuneIds.map((tuneId) => {
      const own = rows
        .filter((row) => row.tuneId === tuneId)
        .map((row) => ({ ...row, value: readDecisions(row.stored) }));
      const readable = own.flatMap(({ id, value }) => (value ? [{ id, decisions: value }] : []));
      return [tuneId, { readable, aside: own.flatMap(({ value, stored }) => (value ? [] : [stored])) }];
    }),
  );
}

/** What an arrangement is worked out from. */
export interface Material {
  readonly tuneId: string;
  readonly tune: Tune;
  readonly decisions: Decisions;
  /** What files of it are called: the tune's title, with the arrangement's name where there are several. */
  readonly title: string;
}

/** What was taken from a learner stays; their name is the one that they have now. */
async function calledNow(db: Database, decisions: Decisions): Promise<Decisions> {
  const { learner } = decisions.hand;
  if (learner?.id === undefined) return decisions;
  // One who is gone is called as they were.
  const now = await openRecord(db, learnerKind, learner.id).catch(() => null);
  return now
    ? { ...decisions, hand: { ...decisions.hand, learner: { ...learner, name: now.value.person.name } } }
    : decisions;
}

export async function materialOf(db: Database, id: string): Promise<Material> {
  const { tuneId, decisions: taken } = await openRecord(db, arrangementKind, id);
  const decisions = await calledNow(db, taken);
  const [row] = await db.select().from(tunes).where(eq(tunes.id, tuneId));
  if (!row) throw notFound('tune');
  const tune = storedTune(row.tune);
  const { readable } = (await decisionsOf(db, [tuneId])).get(tuneId)!;
  const names = arrangementNames(
    readable.map((record) => record.decisions),
    tune.bars[0]!.key,
  );
  const name = names[readable.findIndex((record) => record.id === id)];
  return { tuneId, tune, decisions, title: readable.length > 1 && name ? `${tune.title} - ${name}` : tune.title };
}

/** Tunes in the store: list, add, rename, delete and bring back. */
import { randomUUID } from 'node:crypto';
import { and, asc, count, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Preview, TuneRecord, TuneSummary } from '@nokta/api';
import { FIRST_DECISIONS, bestOctave, type Decisions } from '@nokta/core/arrange';
import { analyseForm } from '@nokta/core/form';
import { listAbc, readAbc } from '@nokta/core/formats';
import { barNumbers, keyName, type Tune } from '@nokta/core/music';
import type { Database } from './db/open.ts';
import { arrangements, tunes } from './db/schema.ts';
import { addArrangement, arrangementsOf } from './decisions.ts';
import { Refusal, notFound } from './problems.ts';

export interface AbcChoice {
  readonly text: string;
  readonly tune: number;
  readonly voice: number;
}

/** Reads without keeping. @throws Refusal with every problem and its place */
export function preview({ text, tune, voice }: AbcChoice): Preview {
  const result = readAbc(text, { tune, voice });
  if (!result.ok) {
    throw new Refusal(422, {
      error: 'This tune could not be read, so nothing was kept.',
      remedy: 'Mend the places below and try again.',
      problems: result.problems,
    });
  }
  return { tunes: listAbc(text), voices: result.value.voices, tune: result.value.tune, notices: result.notices };
}

/** Keeps a tune, with a first arrangement for the violin at the octave that fits best. */
export async function addTune(
  db: Database,
  choice: AbcChoice,
  decisions: Decisions = FIRST_DECISIONS,
): Promise<string> {
  const { tune } = preview(choice);
  const id = randomUUID();
  await db.transaction(async (tx) => {
    await tx.insert(tunes).values({ id, title: tune.title, source: choice.text, tune });
    await addArrangement(tx, id, { ...decisions, transpose: bestOctave(tune, decisions) });
  });
  return id;
}

export async function listTunes(db: Database): Promise<readonly TuneSummary[]> {
  const rows = await db
    .select({ row: tunes, arrangements: count(arrangements.id) })
    .from(tunes)
    .leftJoin(arrangements, eq(arrangements.tuneId, tunes.id))
    .where(isNull(tunes.deletedAt))
    .groupBy(tunes.id)
    .orderBy(asc(tunes.title));
  return rows.map(({ row, arrangements: number }) => summary(row, number));
}

function summary(row: typeof tunes.$inferSelect, number: number): TuneSummary {
  const { tune } = row;
  const first = tune.bars[0]!;
  return {
    id: row.id,
    title: row.title,
    style: tune.style,
    composer: tune.composer,
    key: keyName(first.key),
    metre: `${first.metre.beats}/${first.metre.unit}`,
    bars: barNumbers(tune.bars).at(-1) ?? 0,
    parts: partsText(tune),
    arrangements: number,
    version: row.version,
    updatedAt: row.updatedAt.toISOString(),
  };
}

/** "AABB": each part as often as it is played. */
function partsText(tune: Tune): string {
  return analyseForm(tune)
    .parts.map(({ label, times }) => label.repeat(times))
    .join('');
}

export async function openTune(db: Database, id: string): Promise<TuneRecord> {
  const [row] = await db
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
  if (!row) throw notFound('tune');
  return {
    id,
    title: row.title,
    version: row.version,
    tune: { ...row.tune, title: row.title },
    arrangements: await arrangementsOf(db, id),
  };
}

/** @throws Refusal 409 with the tune as it is now, if it was changed meanwhile */
export async function renameTune(db: Database, id: string, title: string, version: number): Promise<TuneSummary> {
  const [row] = await db
    .update(tunes)
    .set({ title, version: version + 1, updatedAt: new Date() })
    .where(and(eq(tunes.id, id), eq(tunes.version, version), isNull(tunes.deletedAt)))
    .returning();
  if (row) return summary(row, (await arrangementsOf(db, id)).length);
  const current = (await listTunes(db)).find((tune) => tune.id === id);
  if (!current) throw notFound('tune');
  throw new Refusal(409, {
    error: `This tune was renamed elsewhere and is now “${current.title}”.`,
    remedy: 'Look at the new name, then rename it again if you still want to.',
    current,
  });
}

export async function deleteTune(db: Database, id: string): Promise<void> {
  const rows = await db
    .update(tunes)
    .set({ deletedAt: new Date() })
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)))
    .returning({ id: tunes.id });
  if (rows.length === 0) throw notFound('tune');
}

export async function restoreTune(db: Database, id: string): Promise<void> {
  const rows = await db.update(tunes).set({ deletedAt: null }).where(eq(tunes.id, id)).returning({ id: tunes.id });
  if (rows.length === 0) throw notFound('tune');
}

/** Deleted tunes can be brought back until the next start. */
export async function purgeDeleted(db: Database): Promise<void> {
  await db.delete(tunes).where(isNotNull(tunes.deletedAt));
}

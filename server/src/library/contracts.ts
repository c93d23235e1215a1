/** Contracts of the teacher's own: they stand in arrangements, and are found there for every other tune. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { OwnContract } from '@nokta/api';
import { instrumentOf } from '@nokta/core/instrument';
import type { Database } from '../db/open.ts';
import { arrangements, tunes } from '../db/schema.ts';
import { readDecisions } from './stored.ts';

/** Each once, by name; of tunes that are there. */
export async function listContracts(db: Pick<Database, 'select'>): Promise<readonly OwnContract[]> {
  const rows = await db
    .select({ title: tunes.title, decisions: arrangements.decisions })
    .from(arrangements)
    .innerJoin(tunes, eq(tunes.id, arrangements.tuneId))
    .where(
      and(isNull(tunes.deletedAt), sql`jsonb_typeof(${arrangements.decisions} #> '{version,contract}') = 'object'`),
    )
    .orderBy(asc(tunes.title), asc(arrangements.createdAt));
  const found = new Map<string, OwnContract>();
  for (const { title, decisions: stored } of rows) {
    const read = readDecisions(stored);
    const contract = read?.version.contract;
    if (!contract) continue;
    const { hand } = instrumentOf(read.key);
    const key = JSON.stringify([hand, contract]);
    if (!found.has(key)) found.set(key, { hand, contract, tune: title });
  }
  return [...found.values()].sort((a, b) => a.contract.name.localeCompare(b.contract.name));
}

/** Changes that have arrived, known by the id that their sender gave: sent again, none is made twice. */
import { eq, lt } from 'drizzle-orm';
import type { Answer } from '@nokta/api';
import type { Database } from '../db/open.ts';
import { sent } from '../db/schema.ts';
import { Refusal } from '../problems.ts';
import type { Access, Transaction } from './decisions.ts';

/** Days after which a change that is sent again counts as another one: longer than a window lies in a drawer. */
const KNOWN_DAYS = 180;
const DAY_MS = 86_400_000;

/**
 * Makes a change, unless it has arrived before; the record must be locked.
 * @param entry the change's id; null where nobody will send it again
 * @param now the record as it is, for a change that is known
 * @param make what is to be done
 * @throws Refusal 422 where the id was given to a change of another record
 */
export async function onceOnly<Record extends { readonly revision: number }>(
  tx: Transaction,
  { record, entry }: { readonly record: string; readonly entry: string | null },
  now: () => Promise<Record>,
  make: () => Promise<Record>,
): Promise<Answer<Record>> {
  const [known] = entry === null ? [] : await tx.select().from(sent).where(eq(sent.entry, entry));
  if (known && known.record !== record)
    throw new Refusal(422, {
      error: 'A change of another tune has the same number.',
      remedy: 'Make the change again.',
    });
  if (known) return { ...(await now()), made: known.revision };
  const after = await make();
  if (entry !== null) await tx.insert(sent).values({ entry, record, revision: after.revision });
  return { ...after, made: after.revision };
}

/** Forgets what nobody sends again. */
export async function forgetSent(db: Database | Access): Promise<void> {
  await db.delete(sent).where(lt(sent.at, new Date(Date.now() - KNOWN_DAYS * DAY_MS)));
}

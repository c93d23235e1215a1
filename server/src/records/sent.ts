/** Changes that have arrived, known by the id that their sender gave: sent again, none is made twice. */
import { eq, lt } from 'drizzle-orm';
import type { AnyRecord, Answer } from '@nokta/api';
import { sent } from '../db/schema.ts';
import { Refusal } from '../problems.ts';
import type { Access, Transaction } from './keeping.ts';

/** Days after which a change that is sent again counts as another one: longer than a window lies in a drawer. */
const KNOWN_DAYS = 180;
const DAY_MS = 86_400_000;

/** A change as it is sent. */
export interface Sending {
  /** Of the record that it changes. */
  readonly id: string;
  /** The record's count of changes, as its sender knows it. */
  readonly revision: number;
  /** The change's own id; null where nobody will send it again. */
  readonly entry: string | null;
  /** The record may be another by now: the change says itself whether it fits. */
  readonly merges?: boolean;
}

/** A record that is not as the sender of a change knows it. @param current as it is now */
export const changedElsewhere = (word: string, current: AnyRecord): Refusal =>
  new Refusal(409, {
    error: `This ${word} was changed in another window.`,
    remedy: 'What is there now is shown; make your change again if you still want it.',
    current,
  });

interface Work<Record> {
  /** The record as it is. */
  now(): Promise<Record>;
  /** Makes the change. */
  make(): Promise<Record>;
}

/**
 * Makes a change, unless it has arrived before; the record must be locked.
 * @param row its count of changes as it is
 * @throws Refusal 409 where the record is another by now, and the change does not say itself whether it fits
 * @throws Refusal 422 where the id was given to a change of another record
 */
export async function onceOnly<Record extends AnyRecord>(
  tx: Transaction,
  word: string,
  { id, revision, entry, merges = false }: Sending,
  row: { readonly revision: number },
  work: Work<Record>,
): Promise<Answer<Record>> {
  const [known] = entry === null ? [] : await tx.select().from(sent).where(eq(sent.entry, entry));
  if (known && known.record !== id)
    throw new Refusal(422, {
      error: `A change of another ${word} has the same number.`,
      remedy: 'Make the change again.',
    });
  if (known) return { ...(await work.now()), made: known.revision, others: true };
  const others = row.revision !== revision;
  if (others && !merges) throw changedElsewhere(word, await work.now());
  const after = await work.make();
  if (entry !== null) await tx.insert(sent).values({ entry, record: id, revision: after.revision });
  return { ...after, made: after.revision, others };
}

/** Forgets what nobody sends again. */
export async function forgetSent(db: Access): Promise<void> {
  await db.delete(sent).where(lt(sent.at, new Date(Date.now() - KNOWN_DAYS * DAY_MS)));
}

/**
 * One history for all records: a change is made once, merged where it was made on an earlier state, kept as a step, and
 * told to all desks when it is in the store.
 */
import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { AnyRecord, Answer, Steps } from '@nokta/api';
import { steps } from '../db/schema.ts';
import { Refusal, notFound } from '../problems.ts';
import type { Access, Keeping, Row, Standing, Transaction } from './keeping.ts';
import { notify } from './notices.ts';
import { changedElsewhere, onceOnly, type Sending } from './sent.ts';

/** What can be undone and done again: the last step that is done, and the first that is undone. */
export async function stepsOf(db: Access, record: string): Promise<Steps> {
  const around = await db
    .selectDistinctOn([steps.undone], { undone: steps.undone, label: steps.label, madeAt: steps.madeAt })
    .from(steps)
    .where(eq(steps.record, record))
    .orderBy(steps.undone, sql`case when ${steps.undone} then ${steps.step} else -${steps.step} end`);
  const last = around.find(({ undone }) => !undone);
  const next = around.find(({ undone }) => undone);
  return {
    undo: last?.label ?? null,
    redo: next?.label ?? null,
    undoAt: last?.madeAt.toISOString() ?? null,
    redoAt: next?.madeAt.toISOString() ?? null,
  };
}

/** A record as it is stored. @throws Refusal 422 where this program cannot read it */
export function read<Value, Change, Record extends AnyRecord>(
  { record, word }: Keeping<Value, Change, Record>,
  { stored, ...row }: Row,
): Standing<Value> {
  const parsed = record.schema.safeParse(stored);
  if (parsed.success) return { ...row, value: parsed.data };
  throw new Refusal(422, {
    error: `This ${word} is stored in a shape that this Nokta cannot read. It was left as it is, and nothing is lost.`,
    remedy: `Bring Nokta up to date, or restore the ${word} from a backup.`,
  });
}

const told = async <Value, Change, Record extends AnyRecord>(
  db: Access,
  kind: Keeping<Value, Change, Record>,
  row: Standing<Value>,
): Promise<Record> => kind.told(row, await stepsOf(db, row.id));

/** @throws Refusal 404 */
export async function openRecord<Value, Change, Record extends AnyRecord>(
  db: Access,
  kind: Keeping<Value, Change, Record>,
  id: string,
): Promise<Record> {
  const row = await kind.find(db, id, false);
  if (!row) throw notFound(kind.word);
  return told(db, kind, read(kind, row));
}

/** A change as it is sent, or how the record becomes another. */
export type Wanted<Value, Change> =
  | { readonly change: Change }
  | { readonly make: (now: Value) => Value; readonly merges?: boolean };

/**
 * One change more; whatever could have been done again is gone, in the whole family.
 * @throws Refusal 404, 409 where it touches what others changed, 422 where it does not fit
 */
export async function changeRecord<Value, Change, Record extends AnyRecord>(
  tx: Transaction,
  kind: Keeping<Value, Change, Record>,
  sending: Omit<Sending, 'merges'>,
  wanted: Wanted<Value, Change>,
  label: string,
): Promise<Answer<Record>> {
  const merges = 'change' in wanted || wanted.merges === true;
  return once(tx, kind, { ...sending, merges }, async (now) => {
    const after = 'make' in wanted ? wanted.make(now.value) : await laid(tx, kind, now, sending, wanted.change);
    const change = kind.record.between(now.value, after);
    if (change === null) return null;
    await tx.delete(steps).where(and(eq(steps.family, now.family), eq(steps.undone, true)));
    await tx.insert(steps).values({
      record: now.id,
      step: sql`(select coalesce(max(${steps.step}), 0) + 1 from ${steps} where ${steps.record} = ${now.id})`,
      family: now.family,
      label,
      change,
      madeAt: momentAfterAll(now.family),
    });
    return after;
  });
}

/** Now, or where the clock was set back since, right after the family's last step: the latest is undone first. */
const momentAfterAll = (family: string) =>
  sql<Date>`greatest(clock_timestamp(), (
    select max(${steps.madeAt}) + interval '1 millisecond' from ${steps} where ${steps.family} = ${family}
  ))`;

/** The change on the state that it was made on, or laid over what others changed since. */
async function laid<Value, Change, Record extends AnyRecord>(
  tx: Transaction,
  kind: Keeping<Value, Change, Record>,
  now: Standing<Value>,
  { revision }: Pick<Sending, 'revision'>,
  change: Change,
): Promise<Value> {
  // Whoever knows this very state has seen what it holds: what does not fit it fits nothing.
  if (now.revision === revision)
    return fitting(kind, () => (kind.record.fits(now.value, change) ? kind.record.apply(now.value, change) : null));
  const merged = quietly(() => kind.record.merge(now.value, change));
  const parsed = merged === null ? null : kind.record.schema.safeParse(merged);
  if (!parsed?.success) throw changedElsewhere(kind.word, await told(tx, kind, now));
  return parsed.data;
}

/** A change may have any shape: what cannot be laid is a question to people. */
function quietly<Result>(work: () => Result): Result | null {
  try {
    return work();
  } catch {
    return null;
  }
}

/** @throws Refusal 422 where the change does not fit, or would leave a record that is not sound */
function fitting<Value, Change, Record extends AnyRecord>(
  { record, word }: Keeping<Value, Change, Record>,
  make: () => Value | null,
): Value {
  const remedy = 'Load the page again; what was saved before is there.';
  const after = quietly(make);
  if (after === null)
    throw new Refusal(422, { error: `This change does not fit the ${word} as it is stored.`, remedy });
  const parsed = record.schema.safeParse(after);
  if (parsed.success) return parsed.data;
  throw new Refusal(422, {
    error: parsed.error.issues[0]?.message ?? `This change would break the ${word}.`,
    remedy,
  });
}

/** Undo and redo. @throws Refusal 404, 409, 422 */
export async function walkRecord<Value, Change, Record extends AnyRecord>(
  tx: Transaction,
  kind: Keeping<Value, Change, Record>,
  sending: Sending,
  direction: 1 | -1,
): Promise<Answer<Record>> {
  const undoing = direction === -1;
  return once(tx, kind, sending, async (now) => {
    const [found] = await tx
      .select()
      .from(steps)
      .where(and(eq(steps.record, now.id), eq(steps.undone, !undoing)))
      .orderBy(undoing ? desc(steps.step) : asc(steps.step))
      .limit(1);
    if (!found)
      throw new Refusal(409, {
        error: `There is nothing to ${undoing ? 'undo' : 'redo'}.`,
        current: await told(tx, kind, now),
      });
    const change = found.change as Change;
    const after = fitting(kind, () => kind.record.apply(now.value, undoing ? kind.record.invert(change) : change));
    await tx
      .update(steps)
      .set({ undone: undoing })
      .where(and(eq(steps.record, now.id), eq(steps.step, found.step)));
    return after;
  });
}

/** Changes a record, once. @param make its value from now on; null where it stays as it is */
async function once<Value, Change, Record extends AnyRecord>(
  tx: Transaction,
  kind: Keeping<Value, Change, Record>,
  sending: Sending,
  make: (now: Standing<Value>) => Promise<Value | null>,
): Promise<Answer<Record>> {
  const row = await kind.find(tx, sending.id, true);
  if (!row) throw notFound(kind.word);
  const now = read(kind, row);
  return onceOnly(tx, kind.word, sending, now, {
    now: () => told(tx, kind, now),
    async make() {
      const value = await make(now);
      if (value === null) return told(tx, kind, now);
      const after = { ...now, value, revision: now.revision + 1 };
      await kind.save(tx, after);
      const { id, family, revision } = after;
      await notify(tx, { kind: kind.record.kind, id, family, revision, entry: sending.entry });
      return told(tx, kind, after);
    },
  });
}

/** The histories of records that are gone for good. */
export async function forgetSteps(tx: Access, families: readonly string[]): Promise<void> {
  if (families.length > 0) await tx.delete(steps).where(inArray(steps.family, [...families]));
}

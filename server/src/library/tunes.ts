/** Tunes in the store: keep, open, tag, join, delete and bring back. */
import { randomUUID } from 'node:crypto';
import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import type { AlikeTune, BatchResult, TuneRecord } from '@nokta/api';
import { FIRST_DECISIONS, openingOctave, decided, type Decisions } from '@nokta/core/arrange';
import type { NamedVersion } from '@nokta/core/files';
import type { InstrumentId } from '@nokta/core/instrument';
import type { Tune } from '@nokta/core/music';
import { melodyOf, type Intervals } from '@nokta/core/search';
import type { Database, Store } from '../db/open.ts';
import { tuneVersions, tunes } from '../db/schema.ts';
import { Refusal, notFound } from '../problems.ts';
import { changeRecord, forgetSteps, stepsOf } from '../records/history.ts';
import type { Access } from '../records/keeping.ts';
import { clearShelf } from '../records/shelf.ts';
import { addArrangement, freeIds, arrangementsOf } from './arrangements.ts';
import { tuneKind } from './kinds.ts';
import { storedTune } from './stored.ts';
import { factsOf, formFactsOf, type FormFacts } from './facts.ts';
import { analysingThread, drawingThreads, type Analysing, type Drawing } from '../thread.ts';
import { Jobs } from '../jobs/jobs.ts';
import { formJob } from './forms.ts';
import { loadMelodies, type Melodies } from './melodies.ts';
import { Notices } from '../records/notices.ts';
import { notifyTune } from './touch.ts';

/** The store and what is kept in memory beside it. */
export interface Library {
  readonly db: Database;
  readonly melodies: Melodies;
  /** What is worked out in the background. */
  readonly jobs: Jobs;
  /** Who wants to know which record changed. */
  readonly notices: Notices;
  readonly drawing: Drawing;
  readonly analysing: Analysing;
}

/** Everything that works on one store. */
export async function openLibrary(
  store: Pick<Store, 'db' | 'listen'>,
  onProblem: (problem: unknown) => void = () => undefined,
): Promise<Library> {
  const { db } = store;
  const analysing = analysingThread();
  const jobs = new Jobs(db, [formJob(db, analysing, onProblem)], onProblem);
  const notices = await new Notices().begin(store);
  const melodies = await loadMelodies(db);
  // Melody and form follow the tune, whoever changed it.
  notices.on(({ kind, id }) => {
    if (kind !== 'tune') return;
    melodies.look(id);
    jobs.poke();
  });
  return { db, melodies, jobs, notices, drawing: drawingThreads(), analysing };
}

export interface NewTune {
  readonly tune: Tune;
  readonly source: string;
  readonly instrument: InstrumentId | null;
  readonly arrangements: readonly Decisions[];
  readonly tags: readonly string[];
  readonly versions: readonly NamedVersion[];
}

export const fresh = (tune: Tune, more: Partial<NewTune> = {}): NewTune => ({
  tune,
  source: '',
  instrument: null,
  arrangements: [],
  tags: [],
  versions: [],
  ...more,
});

/** Bars whose form takes a few hundredths of a second; a thread would take longer to begin. */
const AT_ONCE_BARS = 200;

/** Keeps a tune. Without arrangements of its own it gets a first one, at the octave that fits best. */
export async function addTune(library: Library, added: NewTune): Promise<string> {
  // One tune is wanted at once, with everything; of many the form is worked out afterwards.
  const { tune, tags } = added;
  const form =
    tune.bars.length <= AT_ONCE_BARS
      ? formFactsOf(tune, tags)
      : await library.analysing.ask((service) => service.formFacts(tune, tags));
  const [id] = await addTunes(library, [added], form);
  return id!;
}

export async function addTunes(
  { db }: Library,
  added: readonly NewTune[],
  form: Partial<FormFacts> = {},
): Promise<readonly string[]> {
  const rows = added.map((one) => ({ id: randomUUID(), one, facts: { ...factsOf(one.tune, one.tags), ...form } }));
  await db.transaction(async (tx) => {
    for (const { id, one, facts } of rows) await insertTune(tx, id, one, facts);
  });
  return rows.map(({ id }) => id);
}

export async function insertTune(
  tx: Access,
  id: string,
  { tune, source, instrument, arrangements, tags, versions }: NewTune,
  facts = factsOf(tune, tags),
  moments: { updatedAt?: Date; revision?: number } = {},
  /** Ids of its arrangements, where they had some before. */
  arrangementIds: readonly string[] = [],
): Promise<void> {
  const free = await freeIds(tx, arrangementIds);
  await tx.insert(tunes).values({ id, source, tune, tags: [...tags], ...facts, ...moments });
  await notifyTune(tx, id);
  const all = arrangements.length > 0 ? arrangements : [firstDecisions(tune, instrument)];
  for (const [place, decisions] of all.entries()) {
    const own = arrangementIds[place] ?? '';
    await addArrangement(tx, id, decisions, place, free.delete(own) ? own : undefined);
  }
  if (versions.length > 0) {
    await tx.insert(tuneVersions).values(
      versions.map(({ name, madeAt, tune: state }) => ({
        id: randomUUID(),
        tuneId: id,
        name,
        tune: state,
        madeAt: new Date(madeAt),
      })),
    );
  }
}

function firstDecisions(tune: Tune, instrument: InstrumentId | null): Decisions {
  const decisions = decided(FIRST_DECISIONS, { key: instrument ? { instrument } : {} });
  return decided(decisions, { key: { transpose: openingOctave(tune, decisions) } });
}

/** Keeps many, and says of each which tunes that were here before sound the same. */
export async function addBatch(library: Library, added: readonly NewTune[]): Promise<BatchResult['added']> {
  const alike = await alikeTunes(
    library,
    added.map(({ tune }) => melodyOf(tune)),
  );
  const ids = await addTunes(library, added);
  return ids.map((id, index) => ({ id, title: added[index]!.tune.title, alike: alike[index]! }));
}

const MOST_ALIKE = 5;

/** For each melody the tunes here that are the same, most alike first. */
export async function alikeTunes(
  { db, melodies }: Library,
  asked: readonly Intervals[],
): Promise<readonly (readonly AlikeTune[])[]> {
  await melodies.upToDate();
  const found = asked.map((melody) => melodies.likeness.alike(melody).slice(0, MOST_ALIKE));
  const ids = [...new Set(found.flat().map(({ id }) => id))];
  if (ids.length === 0) return found.map(() => []);
  const rows = await db
    .select({ id: tunes.id, title: tunes.title, key: tunes.key })
    .from(tunes)
    .where(and(inArray(tunes.id, ids), isNull(tunes.deletedAt)));
  const known = new Map(rows.map((row) => [row.id, row]));
  return found.map((hits) =>
    hits.flatMap(({ id, likeness }) => {
      const row = known.get(id);
      return row ? [{ ...row, likeness: Math.round(likeness * 100) / 100 }] : [];
    }),
  );
}

export async function openTune({ db }: Library, id: string): Promise<TuneRecord> {
  const [row] = await db
    .update(tunes)
    .set({ usedAt: new Date() })
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)))
    .returning();
  if (!row) throw notFound('tune');
  const { title, revision, tags } = row;
  const tune = storedTune(row.tune);
  const { readable, aside } = await arrangementsOf(db, id);
  // There is always one to work on; what cannot be read stays in the store.
  const arrangements = readable.length > 0 ? readable : [await addArrangement(db, id, firstDecisions(tune, null))];
  return { id, title, revision, tune, tags, ...(await stepsOf(db, id)), arrangements, aside: aside.length };
}

export async function setTags({ db }: Library, id: string, tags: readonly string[]): Promise<readonly string[]> {
  const [row] = await db
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
  if (!row) throw notFound('tune');
  const own = [...new Set(tags)];
  await db
    .update(tunes)
    .set({ tags: own, updatedAt: new Date(), ...factsOf(storedTune(row.tune), own) })
    .where(eq(tunes.id, id));
  await notifyTune(db, id);
  return own;
}

/** A tune that turned out to be another one: its titles become names of that one, and it is deleted. */
export async function joinTunes(library: Library, keptId: string, joinedId: string): Promise<void> {
  const { db } = library;
  if (keptId === joinedId) throw new Refusal(409, { error: 'A tune cannot be joined with itself.' });
  await db.transaction(async (tx) => {
    const rows = await tx
      .select()
      .from(tunes)
      .where(and(inArray(tunes.id, [keptId, joinedId]), isNull(tunes.deletedAt)));
    const kept = rows.find(({ id }) => id === keptId);
    const joined = rows.find(({ id }) => id === joinedId);
    if (!kept || !joined) throw notFound('tune');
    const names = [...kept.tune.alsoKnownAs, joined.tune.title, ...joined.tune.alsoKnownAs];
    const alsoKnownAs = [...new Set(names)].filter((name) => name !== kept.tune.title);
    const sending = { id: keptId, revision: kept.revision, entry: null };
    const make = (tune: Tune): Tune => ({ ...tune, alsoKnownAs });
    await changeRecord(tx, tuneKind, sending, { make }, `also known as ${joined.tune.title}`);
    await tx.update(tunes).set({ deletedAt: new Date() }).where(eq(tunes.id, joinedId));
    await notifyTune(tx, joinedId);
  });
}

export async function deleteTune({ db }: Pick<Library, 'db'>, id: string): Promise<void> {
  const rows = await db
    .update(tunes)
    .set({ deletedAt: new Date() })
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)))
    .returning({ id: tunes.id });
  if (rows.length === 0) throw notFound('tune');
  await notifyTune(db, id);
}

export async function bringBack({ db }: Pick<Library, 'db'>, id: string): Promise<void> {
  const [row] = await db.update(tunes).set({ deletedAt: null }).where(eq(tunes.id, id)).returning({ id: tunes.id });
  if (!row) throw notFound('tune');
  await notifyTune(db, id);
}

/** Deleted tunes can be brought back until the next start. */
export async function purgeDeleted(db: Database): Promise<void> {
  await db.transaction(async (tx) => {
    const gone = await tx.delete(tunes).where(isNotNull(tunes.deletedAt)).returning({ id: tunes.id });
    await forgetSteps(
      tx,
      gone.map(({ id }) => id),
    );
    await clearShelf(tx);
  });
}

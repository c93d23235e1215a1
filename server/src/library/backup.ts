/**
 * Everything in one file and back: a zip with a Nokta file for each tune and a list of them. Written
 * tune by tune, so that memory stays the same however large the library is.
 */
import { dequal } from 'dequal';
import { createHash, randomUUID } from 'node:crypto';
import { and, asc, eq, gt, inArray, isNull } from 'drizzle-orm';
import { Zip, ZipDeflate, strToU8 } from 'fflate';
import type { Compared, Restore } from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import {
  BACKUP_LIST,
  backupList,
  writeNokta,
  type AsideEntry,
  type BackupEntry,
  type NamedVersion,
  type NoktaContents,
} from '@nokta/core/files';
import type { Tune } from '@nokta/core/music';
import { tuneVersions, tunes } from '../db/schema.ts';
import { changeRecord } from '../records/history.ts';
import type { Transaction } from '../records/keeping.ts';
import { addArrangement, arrangementsOf, freeIds, decisionsOf, type Decided } from './arrangements.ts';
import { arrangementKind, tuneKind } from './kinds.ts';
import { factsOf } from './facts.ts';
import { learnerKind } from './learners.ts';
import { listShelf } from '../records/shelf.ts';
import { listKept, strangeKept } from './kept.ts';
import { readTune, storedTune } from './stored.ts';
import { notifyTune } from './touch.ts';
import { insertTune, type Library, type NewTune } from './tunes.ts';

type Row = typeof tunes.$inferSelect;

/** Tunes read at once while a backup is written. */
const AT_ONCE = 50;

/** Everything of some tunes, in their order; null where a tune itself cannot be read. */
async function contentsOf({ db }: Pick<Library, 'db'>, rows: readonly Row[]): Promise<readonly (Contents | null)[]> {
  const ids = rows.map(({ id }) => id);
  const [states, decided] = await Promise.all([
    db.select().from(tuneVersions).where(inArray(tuneVersions.tuneId, ids)).orderBy(asc(tuneVersions.madeAt)),
    decisionsOf(db, ids),
  ]);
  return rows.map((row) => {
    const own = states.filter(({ tuneId }) => tuneId === row.id);
    return contentsIn(row, own, decided.get(row.id)!);
  });
}

function contentsIn(
  row: Row,
  versions: readonly (typeof tuneVersions.$inferSelect)[],
  { readable, aside }: Decided,
): Contents | null {
  const tune = readTune(row.tune);
  if (!tune) return null;
  const named = versions.map(({ name, madeAt, tune: state }) => ({
    name,
    madeAt: madeAt.toISOString(),
    tune: readTune(state),
  }));
  return {
    contents: {
      tune,
      arrangements: readable.map(({ decisions }) => decisions),
      tags: row.tags,
      versions: named.flatMap(({ tune: state, ...rest }) => (state ? [{ ...rest, tune: state }] : [])),
    },
    ids: readable.map(({ id }) => id),
    aside: [...aside, ...versions.filter((_, index) => !named[index]!.tune)],
  };
}

interface Contents {
  readonly contents: NoktaContents;
  /** Ids of its arrangements, in their order. */
  readonly ids: readonly string[];
  /** What is stored beside it and cannot be read. */
  readonly aside: readonly unknown[];
}

/** One tune with everything decided for it. */
export async function noktaContents(library: Pick<Library, 'db'>, id: string): Promise<NoktaContents | null> {
  const [row] = await library.db
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
  if (!row) return null;
  const [found] = await contentsOf(library, [row]);
  return found ? found.contents : storedContents(row);
}

/** @throws Refusal 422 */
function storedContents({ tune }: Row): never {
  storedTune(tune);
  throw new Error('A tune that cannot be read was read.');
}

/** @param send takes each piece of the file; what it returns is waited for */
export async function writeBackup(
  library: Pick<Library, 'db'>,
  send: (piece: Uint8Array) => Promise<void>,
): Promise<number> {
  let failed: Error | null = null;
  let queue: Uint8Array[] = [];
  const zip = new Zip((error, piece) => {
    failed ??= error;
    queue.push(piece);
  });
  const flush = async () => {
    if (failed) throw failed;
    const pieces = queue;
    queue = [];
    for (const piece of pieces) await send(piece);
  };
  const put = (name: string, text: string) => {
    const entry = new ZipDeflate(name, { level: 6 });
    zip.add(entry);
    entry.push(strToU8(text), true);
  };
  const list: BackupEntry[] = [];
  const aside: AsideEntry[] = [];
  let after = '';
  for (;;) {
    const rows = await library.db
      .select()
      .from(tunes)
      .where(and(isNull(tunes.deletedAt), gt(tunes.id, after)))
      .orderBy(asc(tunes.id))
      .limit(AT_ONCE);
    if (rows.length === 0) break;
    const contents = await contentsOf(library, rows);
    for (const [index, row] of rows.entries()) {
      const found = contents[index]!;
      // What cannot be read goes along as it is stored, for whoever can.
      const rest = found ? found.aside : [row];
      if (rest.length > 0) {
        const file = `aside/${row.id}.json`;
        put(file, JSON.stringify(rest, null, 1));
        aside.push({ id: row.id, title: row.title, file });
      }
      if (found) {
        const file = `tunes/${row.id}.nokta.json`;
        const text = writeNokta(found.contents);
        put(file, text);
        const { id, title, updatedAt } = row;
        const of = { updatedAt: updatedAt.toISOString(), sha256: digest(text), arrangements: found.ids };
        list.push({ id, title, file, ...of });
      }
      await flush();
    }
    after = rows.at(-1)!.id;
  }
  const learners = await listShelf(library.db, learnerKind);
  for (const row of learners.aside) {
    const file = `aside/learner-${row.id}.json`;
    put(file, JSON.stringify(row, null, 1));
    aside.push({ id: row.id, title: 'A learner', file });
  }
  const kept = await listKept(library.db);
  for (const one of await strangeKept(library.db)) {
    const file = `aside/kept-${one.id}.json`;
    put(file, JSON.stringify(one, null, 1));
    aside.push({ id: one.id, title: one.name, file });
  }
  put(
    BACKUP_LIST,
    backupList({
      tunes: list,
      learners: learners.readable.map(({ id, value }) => ({ id, value })),
      kept,
      aside,
      madeAt: new Date().toISOString(),
    }),
  );
  zip.end();
  await flush();
  return list.length;
}

const digest = (text: string) => createHash('sha256').update(text).digest('hex');

/** Which tunes of a backup are new here, the same, or another state of one that is here. */
export async function compareBackup(
  library: Pick<Library, 'db'>,
  entries: readonly { readonly id: string; readonly updatedAt: string; readonly sha256?: string | undefined }[],
): Promise<Compared> {
  const { db } = library;
  const rows = await db.select({ id: tunes.id, updatedAt: tunes.updatedAt }).from(tunes).where(isNull(tunes.deletedAt));
  const here = new Map(rows.map(({ id, updatedAt }) => [id, updatedAt.toISOString()]));
  const compared: Compared[number][] = [];
  for (const { id, updatedAt, sha256 } of entries) {
    const own = here.get(id);
    if (own === undefined) compared.push('new');
    else if (own === new Date(updatedAt).toISOString()) compared.push('same');
    else compared.push(sha256 && (await digestOf(library, id)) === sha256 ? 'same' : 'differs');
  }
  return compared;
}

/** What a tune's file would be now; null where it cannot be read. */
async function digestOf(library: Pick<Library, 'db'>, id: string): Promise<string | null> {
  const [row] = await library.db.select().from(tunes).where(eq(tunes.id, id));
  const [found] = row ? await contentsOf(library, [row]) : [];
  return found ? digest(writeNokta(found.contents)) : null;
}

export interface Restored extends NewTune {
  readonly id: string;
  readonly updatedAt: string;
  readonly how: Restore;
  /** Ids of its arrangements; none where the backup does not tell them. */
  readonly arrangementIds: readonly string[];
}

/**
 * Puts a tune of a backup back under its own id. Where it is here in another state, nothing of that is removed: the
 * tune and its decisions go back as steps of their history, tags, versions and arrangements come together.
 * @param madeAt when the backup was made
 */
export async function restoreTune(library: Library, restored: Restored, madeAt: string): Promise<void> {
  await library.db.transaction((tx) => restoreIn(tx, restored, madeAt));
}

async function restoreIn(tx: Transaction, restored: Restored, madeAt: string): Promise<void> {
  const { id, tune, tags, versions, how } = restored;
  const [present] = await tx.select().from(tunes).where(eq(tunes.id, id)).for('update');
  if (!present || !readTune(present.tune)) {
    // Beside a tune that cannot be read, its older state stands under an id of its own.
    const own = present ? randomUUID() : id;
    const moments = { updatedAt: new Date(restored.updatedAt), revision: REVISION_NOW() };
    await insertTune(tx, own, restored, factsOf(tune, tags), moments, restored.arrangementIds);
    return;
  }
  const day = madeAt.slice(0, 10);
  const label = `restore the backup of ${day}`;
  const deleted = present.deletedAt !== null;
  if (deleted) await tx.update(tunes).set({ deletedAt: null }).where(eq(tunes.id, id));
  const goesBack = how === 'backup' || deleted;
  if (goesBack) await changeRecord(tx, tuneKind, as(id, present.revision), { make: () => tune }, label);
  const state = { name: `From the backup of ${day}`, madeAt, tune };
  await addVersions(tx, id, goesBack ? versions : [...versions, state], storedTune(present.tune));
  await bringDecisions(tx, restored, goesBack, label);
  const [now] = await tx.select().from(tunes).where(eq(tunes.id, id));
  const together = [...new Set([...present.tags, ...tags])];
  await tx
    .update(tunes)
    .set({ tags: together, updatedAt: new Date(), ...factsOf(storedTune(now!.tune), together) })
    .where(eq(tunes.id, id));
  await notifyTune(tx, id);
}

/**
 * Where a restored tune's count of changes begins: later than any count it can have had before it was cleared away,
 * so that a window opened then is told that it is late. Seconds since the first Nokta.
 */
const REVISION_NOW = () => Math.floor(Date.now() / 1000) - 1_700_000_000;

const as = (id: string, revision: number) => ({ id, revision, entry: null });

/** Named versions that are not here yet. @param own the tune as it is here, which needs no version of its own */
async function addVersions(tx: Transaction, id: string, versions: readonly NamedVersion[], own: Tune): Promise<void> {
  const rows = await tx.select().from(tuneVersions).where(eq(tuneVersions.tuneId, id));
  const missing = versions.filter(
    ({ name, tune }) => !dequal(tune, own) && !rows.some((row) => row.name === name && dequal(row.tune, tune)),
  );
  if (missing.length === 0) return;
  await tx
    .insert(tuneVersions)
    .values(
      missing.map(({ name, madeAt, tune }) => ({ id: randomUUID(), tuneId: id, name, tune, madeAt: new Date(madeAt) })),
    );
}

/**
 * Which of some arrangements one is that comes from a backup without ids: the same by name, else for the same grade and
 * instrument, else for the same grade.
 */
function likeliest(decisions: Decisions, among: readonly { readonly decisions: Decisions }[]): number {
  const alike = (...of: readonly ((one: Decisions) => unknown)[]) =>
    among.findIndex((own) => of.every((read) => read(own.decisions) === read(decisions)));
  const grade = ({ version }: Decisions) => version.grade;
  const instrument = ({ key }: Decisions) => key.instrument;
  const exact = alike(grade, instrument, ({ version }) => version.name);
  if (exact >= 0) return exact;
  const near = alike(grade, instrument);
  // The tune itself may have been set for another instrument since; a grade's version for one is no other's.
  return near >= 0 || typeof decisions.version.grade === 'number' ? near : alike(grade);
}

/** Decisions go back as a step of their own arrangement; arrangements that are not here come as they are. */
async function bringDecisions(
  tx: Transaction,
  { id, arrangements, arrangementIds }: Restored,
  goesBack: boolean,
  label: string,
): Promise<void> {
  const { readable } = await arrangementsOf(tx, id);
  const free = await freeIds(tx, arrangementIds);
  const left = [...readable];
  const told = new Set(arrangementIds);
  /** Its own by id; else what is here word for word and is no other one's of the backup need not come a second time. */
  const placeOf = (decisions: Decisions, given: string | undefined): number => {
    if (given === undefined) return likeliest(decisions, left);
    const own = left.findIndex((one) => one.id === given);
    return own >= 0 ? own : left.findIndex((one) => !told.has(one.id) && dequal(one.decisions, decisions));
  };
  for (const [place, decisions] of arrangements.entries()) {
    const given = arrangementIds[place];
    const at = placeOf(decisions, given);
    const [own] = at < 0 ? [] : left.splice(at, 1);
    if (!own) await addArrangement(tx, id, decisions, place, given && free.delete(given) ? given : undefined);
    else if (goesBack && !dequal(own.decisions, decisions)) {
      await changeRecord(tx, arrangementKind, as(own.id, own.revision), { make: () => decisions }, label);
    }
  }
}

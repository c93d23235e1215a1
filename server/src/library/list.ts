/** Finding tunes: by words, by melody, by what they are; sorted; a page at a time. */
import { and, asc, count, desc, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { z } from 'zod';
import type { Facet, Facets, MelodyPlace, TuneList, TuneSummary, listQuery } from '@nokta/api';
import { foldText, readMelodyQuery } from '@nokta/core/search';
import { versionText } from '@nokta/core/words';
import { arrangements, tunes } from '../db/schema.ts';
import { Refusal } from '../problems.ts';
import { readDecisions } from './stored.ts';
import type { Library } from './tunes.ts';

export type Query = z.output<typeof listQuery>;

type TextColumn = (typeof tunes)['style' | 'key' | 'metre' | 'form'];

/** Melodies beyond this many are no help. */
const MOST_PLACES = 200;

export async function listTunes(library: Library, query: Query): Promise<TuneList> {
  if (query.melody.trim() !== '') return listPlaces(library, query);
  const { db } = library;
  const words = foldText(query.words).split(' ').filter(Boolean);
  // Words as they are spelled come first and are quick; slips are only thought of where there is nothing else.
  const exact = and(...filters(query), ...words.map((word) => inside(word)));
  const [found] = await db.select({ tunes: count() }).from(tunes).where(exact);
  const forgiving = found?.tunes === 0 && words.length > 0;
  const where = forgiving ? and(...filters(query), ...words.map(nearly)) : exact;
  const total = forgiving ? await db.select({ tunes: count() }).from(tunes).where(where) : [found!];
  const order = [...(words.length > 0 ? [rankOf(words.join(' '), forgiving)] : []), ...sorting(query.sort)];
  const rows = await db
    .select(COLUMNS)
    .from(tunes)
    .where(where)
    .orderBy(...order, asc(tunes.id))
    .limit(query.limit)
    .offset(query.offset);
  return { total: total[0]?.tunes ?? 0, tunes: await summaries(library, rows, new Map()) };
}

/** What was found by melody, best first; words and filters narrow it. */
async function listPlaces(library: Library, query: Query): Promise<TuneList> {
  const { db, melodies } = library;
  await melodies.upToDate();
  const places = placesOf(melodies, query.melody);
  if (places.size === 0) return { total: 0, tunes: [] };
  const ids = await narrowed(library, query, [...places.keys()]);
  const page = ids.slice(query.offset, query.offset + query.limit);
  const rows = page.length > 0 ? await db.select(COLUMNS).from(tunes).where(inArray(tunes.id, page)) : [];
  const sorted = [...rows].sort((a, b) => places.get(a.id)!.order - places.get(b.id)!.order);
  return { total: ids.length, tunes: await summaries(library, sorted, places) };
}

/** Those of the tunes, in their order, that words and filters leave. */
async function narrowed({ db }: Library, query: Query, ids: readonly string[]): Promise<readonly string[]> {
  const words = foldText(query.words).split(' ').filter(Boolean);
  const conditions = [...filters(query).slice(1), ...words.map(nearly)].filter((one) => one !== undefined);
  // Tunes in memory are all there; without anything to narrow by, the store need not be asked.
  if (conditions.length === 0) return ids;
  const rows = await db
    .select({ id: tunes.id })
    .from(tunes)
    .where(and(...conditions, inArray(tunes.id, [...ids])));
  const left = new Set(rows.map(({ id }) => id));
  return ids.filter((id) => left.has(id));
}

type Row = Pick<typeof tunes.$inferSelect, keyof typeof COLUMNS>;

async function summaries(library: Library, rows: readonly Row[], places: Places): Promise<readonly TuneSummary[]> {
  const settings = await settingsOf(
    library,
    rows.map(({ id }) => id),
  );
  return rows.map((row): TuneSummary => {
    const place = places.get(row.id);
    const { form, updatedAt, usedAt, ...rest } = row;
    return {
      ...rest,
      parts: form,
      updatedAt: updatedAt.toISOString(),
      usedAt: usedAt.toISOString(),
      settings: settings.get(row.id) ?? [],
      ...(place && { place: { score: place.score, from: place.from, length: place.length } }),
    };
  });
}

const COLUMNS = {
  id: tunes.id,
  title: tunes.title,
  alsoKnownAs: tunes.alsoKnownAs,
  style: tunes.style,
  composer: tunes.composer,
  key: tunes.key,
  metre: tunes.metre,
  bars: tunes.bars,
  form: tunes.form,
  traits: tunes.traits,
  played: tunes.played,
  tags: tunes.tags,
  revision: tunes.revision,
  updatedAt: tunes.updatedAt,
  usedAt: tunes.usedAt,
};

type Places = ReadonlyMap<string, MelodyPlace & { readonly order: number }>;

function placesOf(melodies: Library['melodies'], text: string): Places {
  const query = readMelodyQuery(text);
  if (!query) {
    throw new Refusal(422, {
      error: 'There is too little to search for, or something that is no note.',
      remedy: 'Type at least three notes, such as G B d, or four ups and downs, such as + + - =.',
    });
  }
  const hits = melodies.places.search(query, MOST_PLACES);
  return new Map(hits.map(({ id, ...place }, order) => [id, { ...place, order }]));
}

function filters({ style, key, metre, form, trait, tag }: Query): readonly (SQL | undefined)[] {
  const any = (column: TextColumn, values: readonly string[]) =>
    values.length > 0 ? inArray(column, [...values]) : undefined;
  return [
    isNull(tunes.deletedAt),
    any(tunes.style, style),
    any(tunes.key, key),
    any(tunes.metre, metre),
    any(tunes.form, form),
    ...trait.map((one) => sql`${one} = any(${tunes.traits})`),
    ...tag.map((one) => sql`${one} = any(${tunes.tags})`),
  ];
}

const inside = (word: string): SQL => sql`${tunes.search} like ${`%${word}%`}`;

const LONGEST_TURNED = 10;

/** Words of up to three letters must be there; longer ones may be spelled a little wrong. */
function nearly(word: string): SQL {
  if (word.length <= 3) return inside(word);
  // Two letters the wrong way round leave a short word few triples in common, so they are tried.
  const turned = Array.from({ length: Math.min(word.length, LONGEST_TURNED) - 1 }, (_, at) =>
    inside(word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2)),
  );
  return sql`(${sql.join([inside(word), sql`${word} <% ${tunes.search}`, ...turned], sql` or `)})`;
}

/** Titles that begin with the words first, then those that hold them, then the rest; slips by likeness. */
function rankOf(words: string, forgiving: boolean): SQL {
  const rest = forgiving ? sql`3 - word_similarity(${words}, ${tunes.search})` : sql`2`;
  return sql`case when ${tunes.sortTitle} like ${`${words}%`} then 0 when ${tunes.sortTitle} like ${`%${words}%`} then 1 else ${rest} end`;
}

function sorting(sort: Query['sort']): readonly SQL[] {
  const byTitle = asc(tunes.sortTitle);
  return {
    title: [byTitle],
    used: [desc(tunes.usedAt), byTitle],
    added: [desc(tunes.createdAt), byTitle],
    style: [asc(tunes.style), byTitle],
    key: [asc(tunes.key), byTitle],
  }[sort];
}

/** What each tune is set for: its instruments, and "bare" where there is such a version. */
async function settingsOf(
  { db }: Pick<Library, 'db'>,
  ids: readonly string[],
): Promise<ReadonlyMap<string, readonly string[]>> {
  const found = new Map<string, string[]>();
  if (ids.length === 0) return found;
  const rows = await db
    .select({ tuneId: arrangements.tuneId, decisions: arrangements.decisions })
    .from(arrangements)
    .where(inArray(arrangements.tuneId, [...ids]))
    .orderBy(asc(arrangements.createdAt));
  for (const { tuneId, decisions: decided } of rows) {
    const read = readDecisions(decided);
    if (!read) continue;
    const { key, version } = read;
    const text = versionText(version) ? `${key.instrument}, ${versionText(version)}` : key.instrument;
    found.set(tuneId, [...new Set([...(found.get(tuneId) ?? []), text])]);
  }
  return found;
}

export async function facetsOf({ db, jobs }: Pick<Library, 'db' | 'jobs'>): Promise<Facets> {
  const group = async (column: TextColumn): Promise<readonly Facet[]> => {
    const rows = await db
      .select({ value: column, tunes: count() })
      .from(tunes)
      .where(isNull(tunes.deletedAt))
      .groupBy(column)
      .orderBy(desc(count()), asc(column));
    return rows.filter(({ value }) => value !== '');
  };
  const each = (column: AnyPgColumn): Promise<readonly Facet[]> =>
    db
      .select({ value: sql<string>`unnest(${column})`.as('value'), tunes: count() })
      .from(tunes)
      .where(isNull(tunes.deletedAt))
      .groupBy(sql`1`)
      .orderBy(desc(count()), sql`1`);
  return {
    style: await group(tunes.style),
    key: await group(tunes.key),
    metre: await group(tunes.metre),
    form: await group(tunes.form),
    trait: await each(tunes.traits),
    tag: await each(tunes.tags),
    waiting: await jobs.waiting('form'),
  };
}

/**
 * What is stored: tunes with everything that was ever done to them, and what was decided for them.
 * Columns marked as worked out can be made again from the rest; `facts` says which program made them.
 */
import { sql } from 'drizzle-orm';
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';

const moment = (name: string) => timestamp(name, { withTimezone: true });

export const tunes = pgTable(
  'tunes',
  {
    id: text().primaryKey(),
    title: text().notNull(),
    /** Where it came from: the name of a file, or nothing for tunes typed in. */
    source: text().notNull().default(''),
    tune: jsonb().$type<Tune>().notNull(),
    tags: text()
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    revision: integer().notNull().default(1),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
    /** When a desk last showed it. */
    usedAt: moment('used_at').notNull().defaultNow(),
    /** Deleted tunes are kept until the next start, so that deleting can be undone. */
    deletedAt: moment('deleted_at'),
    /** Worked out: what lists, filters and searches need. */
    facts: integer().notNull().default(0),
    sortTitle: text('sort_title').notNull().default(''),
    alsoKnownAs: text('also_known_as')
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    style: text().notNull().default(''),
    composer: text().notNull().default(''),
    key: text().notNull().default(''),
    metre: text().notNull().default(''),
    bars: integer().notNull().default(0),
    form: text().notNull().default(''),
    search: text().notNull().default(''),
    melody: text().notNull().default(''),
    /** Worked out in the background: how it is made. `formRules` says by which rules; 0 is not yet. */
    formRules: integer('form_rules').notNull().default(0),
    traits: text()
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    /** Bars as they are played, repeats counted. */
    played: integer().notNull().default(0),
  },
  (table) => [
    index('tunes_search').using('gin', sql`${table.search} gin_trgm_ops`),
    index('tunes_sort_title').on(table.sortTitle),
    index('tunes_form_rules').on(table.formRules),
  ],
);

/**
 * Every change that a record has had, of whatever kind it is: undo and redo walk along them. Step n leads from state
 * n−1 to n.
 */
export const steps = pgTable(
  'steps',
  {
    record: text().notNull(),
    step: integer().notNull(),
    /** Records that are undone together, the latest change first: a tune and its arrangements bear the tune's id. */
    family: text().notNull(),
    /** What was done. */
    label: text().notNull(),
    change: jsonb().$type<unknown>().notNull(),
    madeAt: moment('made_at')
      .notNull()
      .default(sql`clock_timestamp()`),
    /** Taken back, to be done again until something else is done. */
    undone: boolean().notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.record, table.step] }), index('steps_family').on(table.family)],
);

/** Records that have no table of their own, as they are now. */
export const records = pgTable(
  'records',
  {
    id: text().primaryKey(),
    kind: text().notNull(),
    value: jsonb().$type<unknown>().notNull(),
    revision: integer().notNull().default(1),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
    /** Removed ones are kept until the next start, so that removing can be undone. */
    deletedAt: moment('deleted_at'),
  },
  (table) => [index('records_kind').on(table.kind)],
);

/** What happened to a record, only ever added to. */
export const log = pgTable(
  'log',
  {
    /** Given by whoever sends it: sent again, it is known by it. */
    id: text().primaryKey(),
    record: text().notNull(),
    at: moment('at').notNull(),
    value: jsonb().$type<unknown>().notNull(),
  },
  (table) => [index('log_record').on(table.record, table.at)],
);

/** Work in the background that a process has claimed; gone when it is done. */
export const jobs = pgTable(
  'jobs',
  {
    kind: text().notNull(),
    /** The record that it is about. */
    subject: text().notNull(),
    claimedBy: text('claimed_by').notNull(),
    claimedAt: moment('claimed_at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.subject] })],
);

/** States of a tune that the teacher gave a name. */
export const tuneVersions = pgTable('tune_versions', {
  id: text().primaryKey(),
  tuneId: text('tune_id')
    .notNull()
    .references(() => tunes.id, { onDelete: 'cascade' }),
  name: text().notNull(),
  tune: jsonb().$type<Tune>().notNull(),
  madeAt: moment('made_at').notNull().defaultNow(),
});

export const arrangements = pgTable(
  'arrangements',
  {
    id: text().primaryKey(),
    tuneId: text('tune_id')
      .notNull()
      .references(() => tunes.id, { onDelete: 'cascade' }),
    decisions: jsonb().$type<Decisions>().notNull(),
    revision: integer().notNull().default(1),
    createdAt: moment('created_at').notNull().defaultNow(),
  },
  (table) => [index('arrangements_tune').on(table.tuneId)],
);

/** Instruments, tunings, groups and tapes that a teacher keeps under a name. */
export const kept = pgTable('kept', {
  id: text().primaryKey(),
  kind: text().notNull(),
  name: text().notNull(),
  value: jsonb().notNull(),
});

/** Changes that have arrived, by the id that whoever sent them gave: one that is sent again is known by it. */
export const sent = pgTable('sent', {
  entry: text().primaryKey(),
  /** What it changed. */
  record: text().notNull(),
  /** The record's count of changes with it. */
  revision: integer().notNull(),
  at: moment('at').notNull().defaultNow(),
});

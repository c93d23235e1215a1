/**
 * What is stored: tunes with everything that was ever done to them, and what was decided for them.
 * Columns marked as worked out can be made again from the rest; `facts` says which program made them.
 */
import { sql } from 'drizzle-orm';
import { index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { Decisions } from '@nokta/core/arrange';
import type { PlayedInstrument } from '@nokta/core/files';
import type { HandLimits, HandWishes } from '@nokta/core/hand';
import type { TuneChange } from '@nokta/core/edit';
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
    /** Which step of its history is the present one. */
    step: integer().notNull().default(0),
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

/** Every change a tune has had: undo and redo walk along them. Step n leads from state n−1 to n. */
export const tuneSteps = pgTable(
  'tune_steps',
  {
    tuneId: text('tune_id')
      .notNull()
      .references(() => tunes.id, { onDelete: 'cascade' }),
    step: integer().notNull(),
    /** What was done. */
    label: text().notNull(),
    change: jsonb().$type<TuneChange>().notNull(),
    madeAt: moment('made_at')
      .notNull()
      .default(sql`clock_timestamp()`),
  },
  (table) => [primaryKey({ columns: [table.tuneId, table.step] })],
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
    revision: integer().notNull().default(1),
    /** Which step of its history is the present one. */
    step: integer().notNull().default(0),
    createdAt: moment('created_at').notNull().defaultNow(),
  },
  (table) => [index('arrangements_tune').on(table.tuneId)],
);

/** Every state an arrangement's decisions have had: undo and redo walk along it. */
export const decisions = pgTable(
  'decisions',
  {
    arrangementId: text('arrangement_id')
      .notNull()
      .references(() => arrangements.id, { onDelete: 'cascade' }),
    step: integer().notNull(),
    /** What was done to come here. */
    label: text().notNull(),
    decisions: jsonb().$type<Decisions>().notNull(),
    madeAt: moment('made_at')
      .notNull()
      .default(sql`clock_timestamp()`),
  },
  (table) => [primaryKey({ columns: [table.arrangementId, table.step] })],
);

/** Learners' hands, and mixtures of wishes that a teacher uses again. */
export const hands = pgTable('hands', {
  id: text().primaryKey(),
  name: text().notNull(),
  wishes: jsonb().$type<HandWishes>().notNull(),
  limits: jsonb().$type<HandLimits>().notNull(),
  /** What the learner plays. */
  instrument: jsonb().$type<PlayedInstrument>(),
});

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
  /** The tune or arrangement that it changed. */
  record: text().notNull(),
  /** The record's count of changes with it. */
  revision: integer().notNull(),
  at: moment('at').notNull().defaultNow(),
});

/** What is stored: tunes as brought in, and what was decided for them. Nothing that can be computed. */
import { integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';

export const tunes = pgTable('tunes', {
  id: text().primaryKey(),
  title: text().notNull(),
  /** The text it was read from, for messages and for reading it again. */
  source: text().notNull(),
  tune: jsonb().$type<Tune>().notNull(),
  version: integer().notNull().default(1),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
  /** Deleted tunes are kept until the next start, so that deleting can be undone. */
  deletedAt: timestamp('deleted_at', { withTimezone: true }),
});

export const arrangements = pgTable('arrangements', {
  id: text().primaryKey(),
  tuneId: text('tune_id')
    .notNull()
    .references(() => tunes.id, { onDelete: 'cascade' }),
  version: integer().notNull().default(1),
  /** Which step of its history is the present one. */
  step: integer().notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
});

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
    madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.arrangementId, table.step] })],
);

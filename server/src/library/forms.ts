/** The form of every tune, worked out in the background. */
import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import type { Database } from '../db/open.ts';
import { tunes } from '../db/schema.ts';
import type { JobKind } from '../jobs/jobs.ts';
import type { Analysing } from '../thread.ts';
import { FORM_RULES, type FormFacts } from './facts.ts';

/** @param onProblem is told of a tune that cannot be worked out; it keeps none of the others waiting */
export function formJob(db: Database, analysing: Analysing, onProblem: (problem: unknown) => void): JobKind {
  return {
    id: 'form',
    missing: sql`select ${tunes.id} as id from ${tunes} where ${NOT_YET}`,
    async work(id) {
      const [row] = await db
        .select({ tune: tunes.tune, tags: tunes.tags, revision: tunes.revision })
        .from(tunes)
        .where(and(eq(tunes.id, id), NOT_YET));
      if (!row) return;
      const facts: Partial<FormFacts> = await analysing
        .ask((service) => service.formFacts(row.tune, row.tags))
        .catch((problem: unknown) => {
          onProblem(problem);
          return { formRules: FORM_RULES };
        });
      // A tune that was changed meanwhile is looked at again.
      await db
        .update(tunes)
        .set(facts)
        .where(and(eq(tunes.id, id), eq(tunes.revision, row.revision), eq(tunes.tags, row.tags)));
    },
  };
}

const NOT_YET = and(ne(tunes.formRules, FORM_RULES), isNull(tunes.deletedAt));

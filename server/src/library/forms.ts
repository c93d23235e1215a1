/**
 * The form of every tune, worked out in the background: a few tunes at a time, so that the rest of the
 * application stays quick however many came in.
 */
import { and, count, eq, isNull, ne } from 'drizzle-orm';
import type { Tune } from '@nokta/core/music';
import type { Database } from '../db/open.ts';
import { tunes } from '../db/schema.ts';
import type { Analysing } from '../thread.ts';
import { FORM_RULES, type FormFacts } from './facts.ts';

/** Tunes fetched in one go; between any two of them others get their turn. */
const AT_ONCE = 8;
const BREATH_MS = 4;

export class Forms {
  private running: Promise<void> | null = null;
  private stopped = false;
  private asked = false;

  /** @param onProblem is told of what went wrong; the rest goes on */
  constructor(
    private readonly db: Database,
    private readonly analysing: Analysing,
    private readonly onProblem: (problem: unknown) => void = () => undefined,
  ) {}

  /** There is something new to look at. Returns at once. */
  poke(): void {
    this.asked = true;
    if (this.stopped) return;
    this.running ??= this.run()
      .catch(this.onProblem)
      .finally(() => {
        this.running = null;
        if (this.asked) this.poke();
      });
  }

  /** Waits until nothing is left to do. */
  async settle(): Promise<void> {
    this.poke();
    while (this.running) await this.running;
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await this.running;
  }

  /** Tunes whose form is not known yet. */
  async waiting(): Promise<number> {
    const [row] = await this.db.select({ tunes: count() }).from(tunes).where(NOT_YET);
    return row?.tunes ?? 0;
  }

  /** A tune that cannot be worked out keeps none of the others waiting. */
  private async factsFor(tune: Tune, tags: readonly string[]): Promise<Partial<FormFacts>> {
    try {
      return await this.analysing.ask((service) => service.formFacts(tune, tags));
    } catch (problem) {
      this.onProblem(problem);
      return { formRules: FORM_RULES };
    }
  }

  private async run(): Promise<void> {
    this.asked = false;
    for (;;) {
      const rows = await this.db
        .select({ id: tunes.id, tune: tunes.tune, tags: tunes.tags, revision: tunes.revision })
        .from(tunes)
        .where(NOT_YET)
        .limit(AT_ONCE);
      if (rows.length === 0 || this.stopped) return;
      for (const { id, tune, tags, revision } of rows) {
        const facts = await this.factsFor(tune, tags);
        if (this.stopped) return;
        // A tune that was changed meanwhile is looked at again.
        await this.db
          .update(tunes)
          .set(facts)
          .where(and(eq(tunes.id, id), eq(tunes.revision, revision), eq(tunes.tags, tags)));
        await new Promise((resolve) => setTimeout(resolve, BREATH_MS));
        if (this.stopped) return;
      }
    }
  }
}

const NOT_YET = and(ne(tunes.formRules, FORM_RULES), isNull(tunes.deletedAt));

/**
 * Work in the background: found by what is missing, claimed once however many processes look for it, done a few pieces
 * at a time, so that the rest of the application stays quick.
 */
import { randomUUID } from 'node:crypto';
import { and, count, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Database } from '../db/open.ts';
import { jobs } from '../db/schema.ts';

/** One kind of work. Its pieces are known by what they are about: the id of a record. */
export interface JobKind {
  readonly id: string;
  /** A query for the ids that wait; what was worked on is not among them. */
  readonly missing: SQL;
  /** Does one piece. It may find that there is nothing to do any more. */
  work(subject: string): Promise<void>;
}

/** Pieces claimed in one go; between any two of them others get their turn. */
const AT_ONCE = 8;
const BREATH_MS = 4;
/** A claim that is older belongs to a process that is gone. */
const LEASE = sql`interval '2 minutes'`;

export class Jobs {
  readonly #me = randomUUID();
  #running: Promise<void> | null = null;
  #stopped = false;
  #asked = false;

  /** @param onProblem is told of what went wrong; the rest goes on */
  constructor(
    private readonly db: Database,
    private readonly kinds: readonly JobKind[],
    private readonly onProblem: (problem: unknown) => void = () => undefined,
  ) {}

  /** There is something new to look at. Returns at once. */
  poke(): void {
    this.#asked = true;
    if (this.#stopped) return;
    this.#running ??= this.#run()
      .catch(this.onProblem)
      .finally(() => {
        this.#running = null;
        if (this.#asked) this.poke();
      });
  }

  /** Waits until nothing is left to do. */
  async settle(): Promise<void> {
    this.poke();
    while (this.#running) await this.#running;
  }

  async stop(): Promise<void> {
    this.#stopped = true;
    await this.#running;
  }

  /** Pieces that wait or are worked on. */
  async waiting(kind: string): Promise<number> {
    const missing = this.#kind(kind).missing;
    const { rows } = await this.db.execute<{ waiting: number }>(
      sql`select count(*)::int as waiting from (${missing}) as missing`,
    );
    return rows[0]?.waiting ?? 0;
  }

  /** Pieces that somebody works on just now. */
  async claimed(): Promise<number> {
    const [row] = await this.db.select({ jobs: count() }).from(jobs);
    return row?.jobs ?? 0;
  }

  /**
   * Takes pieces for this process alone: nobody else gets them before the lease is over.
   * @returns their subjects, at most `AT_ONCE`
   */
  async claim(kind: string): Promise<readonly string[]> {
    const { missing } = this.#kind(kind);
    const { rows } = await this.db.execute<{ subject: string }>(sql`
      insert into ${jobs} (kind, subject, claimed_by)
      select ${kind}, missing.id, ${this.#me} from (${missing}) as missing
      where not exists (
        select from ${jobs} as other
        where other.kind = ${kind} and other.subject = missing.id and other.claimed_at > now() - ${LEASE}
      )
      limit ${AT_ONCE}
      on conflict (kind, subject) do update set claimed_by = excluded.claimed_by, claimed_at = now()
        where ${jobs}.claimed_at <= now() - ${LEASE}
      returning subject`);
    return rows.map(({ subject }) => subject);
  }

  /** They are done, or given back. */
  async release(kind: string, subjects: readonly string[]): Promise<void> {
    if (subjects.length === 0) return;
    await this.db
      .delete(jobs)
      .where(and(eq(jobs.kind, kind), inArray(jobs.subject, [...subjects]), eq(jobs.claimedBy, this.#me)));
  }

  #kind(id: string): JobKind {
    const kind = this.kinds.find((known) => known.id === id);
    if (!kind) throw new Error(`Nobody does the job ${id}.`);
    return kind;
  }

  async #run(): Promise<void> {
    this.#asked = false;
    for (const kind of this.kinds) {
      for (;;) {
        const subjects = this.#stopped ? [] : await this.claim(kind.id);
        if (subjects.length === 0) break;
        try {
          for (const subject of subjects) {
            if (this.#stopped) break;
            await kind.work(subject);
            await new Promise((resolve) => setTimeout(resolve, BREATH_MS));
          }
        } finally {
          await this.release(kind.id, subjects);
        }
      }
    }
  }
}

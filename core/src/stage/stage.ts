/**
 * Stages: pure functions from decisions and earlier facts to new facts. A stage names what it reads, the
 * compiler holds it to that, and it is worked out anew only when one of those changed.
 */
import { dequal } from 'dequal';

/** A stage of a pipeline over `Decisions` that gives some of `Facts`. */
export interface Stage<Decisions, Facts> {
  readonly name: string;
  /** Slices of the decisions that it reads. */
  readonly reads: readonly (keyof Decisions)[];
  /** Facts of earlier stages that it needs, the source among them. */
  readonly needs: readonly (keyof Facts)[];
  /** Facts that it gives and that stay the very object of before where they say the same: what reads them need not run. */
  readonly steady: readonly (keyof Facts)[];
  run(decisions: Decisions, facts: Facts): Partial<Facts>;
}

/**
 * Makes a stage whose function sees nothing but what it names.
 * @example stageOf()('time', ['pace'], ['beats'], ({ pace }, { beats }) => ({ seconds: (60 * beats) / pace.tempo })).needs // ['beats']
 */
export function stageOf<Decisions, Facts>() {
  return <Read extends keyof Decisions, Need extends keyof Facts, Given extends Partial<Facts>>(
    name: string,
    reads: readonly Read[],
    needs: readonly Need[],
    run: (decisions: Pick<Decisions, Read>, facts: Pick<Facts, Need>) => Given,
    steady: readonly (keyof Given & keyof Facts)[] = [],
  ): Stage<Decisions, Facts> & { run(decisions: Pick<Decisions, Read>, facts: Pick<Facts, Need>): Given } => ({
    name,
    reads,
    needs,
    steady,
    run,
  });
}

/** What a stage gave last time, and from what. */
interface Done {
  readonly from: readonly unknown[];
  readonly given: object;
}

/** Facts with the stages that were worked out anew for them. */
export interface Derived<Facts> {
  readonly facts: Facts;
  /** Names of the stages that ran. */
  readonly ran: readonly string[];
}

/**
 * Works facts out again and again, and remembers: a slice that is the same as before, though it is another
 * object, changes nothing.
 * @example new Derivation([]).derive({ pace: {} }, { beats: 4 }).ran // []
 */
export class Derivation<Decisions extends object, Facts extends object> {
  readonly #stages: readonly Stage<Decisions, Facts>[];
  readonly #done = new Map<string, Done>();
  #decisions: Decisions | null = null;

  /** @param stages in an order in which each comes after those that it needs */
  constructor(stages: readonly Stage<Decisions, Facts>[]) {
    this.#stages = stages;
  }

  /**
   * @param source facts that no stage gives; the same object where they are the same
   * @param before name of a stage that need not run, nor those after it
   */
  derive(decisions: Decisions, source: Partial<Facts>, before?: string): Derived<Facts> {
    const kept = keepSame(decisions, this.#decisions);
    this.#decisions = kept;
    let facts = { ...source } as Facts;
    const ran: string[] = [];
    for (const stage of this.#stages) {
      if (stage.name === before) break;
      const from = [...stage.reads.map((name) => kept[name]), ...stage.needs.map((name) => facts[name])];
      const known = this.#done.get(stage.name);
      if (known?.from.every((one, index) => one === from[index])) {
        facts = { ...facts, ...known.given };
        continue;
      }
      const given = keepSteady(stage, stage.run(kept, facts), known?.given as Partial<Facts> | undefined);
      ran.push(stage.name);
      this.#done.set(stage.name, { from, given });
      facts = { ...facts, ...given };
    }
    return { facts, ran };
  }
}

function keepSteady<Decisions, Facts>(
  { steady }: Stage<Decisions, Facts>,
  given: Partial<Facts>,
  before: Partial<Facts> | undefined,
): Partial<Facts> {
  if (!before || steady.length === 0) return given;
  const same = steady.filter((name) => dequal(given[name], before[name])).map((name) => [name, before[name]] as const);
  return { ...given, ...(Object.fromEntries(same) as Partial<Facts>) };
}

/** The slices from before where they say the same. */
function keepSame<Decisions extends object>(now: Decisions, before: Decisions | null): Decisions {
  if (!before) return now;
  const names = Object.keys(now) as (keyof Decisions)[];
  const kept = names.map((name) => [name, dequal(now[name], before[name]) ? before[name] : now[name]] as const);
  return Object.fromEntries(kept) as Decisions;
}

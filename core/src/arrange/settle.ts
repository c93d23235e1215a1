/**
 * The two hands together: slurs change fingers, and fingers change which slurs are easy. They are worked out to and fro
 * until nothing changes; what comes out never costs more than what went in.
 */
import type { BowDecisions } from '../bow/index.ts';
import { bowTuneWithWays, planStretchSteps, slurredInto, type PlannedStretch } from '../bow/index.ts';
import { Hand, type Fingering } from '../hand/index.ts';
import type { Arrangement } from './arrange.ts';

export interface Settled {
  /** What has to be decided for the bow; null where the hands are settled as they are. */
  readonly change: Pick<BowDecisions, 'slurs'> | null;
  /** Price of both hands before and after, in the solver's and the planner's plain weights. */
  readonly before: number;
  readonly after: number;
  /** How often both were worked out. */
  readonly rounds: number;
}

/** Rounds after which what was found is good enough. */
const MOST_ROUNDS = 4;

/** @example settleHands(arrangement).change // null */
export function settleHands({ tune, form, tempo, decisions, instrument, tuning, ...now }: Arrangement): Settled {
  const { bow, hand: decided } = decisions;
  const base = now.planner.plan;
  let fingering = now.fingering;
  let best = { cost: base.cost + fingering.totals.cost, joined: base.joined };
  const before = best.cost;
  const seen = new Set([keyOf(base.joined)]);
  let rounds = 0;
  while (rounds < MOST_ROUNDS) {
    rounds += 1;
    const { bowing, planner } = bowTuneWithWays(tune, form, bow, tempo, crossesIn(fingering));
    const key = keyOf(planner.plan.joined);
    if (seen.has(key)) break;
    seen.add(key);
    const hand = new Hand(tune, form, { ...decided, instrument, tuning, tempo, slurred: slurredInto(bowing) });
    ({ fingering } = hand);
    const cost = planner.plan.cost + fingering.totals.cost;
    if (cost < best.cost - 1e-9) best = { cost, joined: planner.plan.joined };
  }
  const slurs: Record<string, 'joined' | 'cut'> = { ...bow.slurs };
  for (const note of best.joined) if (!base.joined.has(note)) slurs[note] = 'joined';
  for (const note of base.joined) if (!best.joined.has(note)) slurs[note] = 'cut';
  return { change: best.joined === base.joined ? null : { slurs }, before, after: best.cost, rounds };
}

const keyOf = (notes: ReadonlySet<string>) => [...notes].sort().join(' ');

/**
 * Strokes planned for some notes of an arrangement, with the crossings of its fingers, in steps as a whole tune takes a while.
 * @param notes written notes of a phrase, a part or the tune
 * @example planBowFor(facts, []).next().done // true
 */
export function planBowFor(
  { tune, form, tempo, instrument, fingering, decisions }: Arrangement,
  notes: readonly string[],
): Generator<number, PlannedStretch> {
  return planStretchSteps({ tune, form, tempo, instrument, crosses: crossesIn(fingering) }, decisions.bow, notes);
}

/**
 * Whether two notes that follow each other lie on different strings.
 * @example crossesIn(fingering)('n1', 'n1') // false
 */
export function crossesIn({ notes }: Fingering): (one: string, next: string) => boolean {
  const strings = new Map(notes.flatMap(({ ids, stops }) => ids.map((id) => [id, stops.at(-1)?.string] as const)));
  return (one, next) => strings.get(one) !== strings.get(next);
}

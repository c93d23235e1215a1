/**
 * Slow to fast: the tempos at which a stretch is practised, from slow to the one that is wanted, with the rule for going
 * on and for going back. Section 9 of the domain.
 */
import type { Bpm } from '../music/index.ts';

export interface ClimbRule {
  /** Clean so many times in a row, and it goes on. */
  readonly clean: number;
  /** Not clean so many times in a row, and it goes back. */
  readonly failed: number;
}

export const USUAL_CLIMB: ClimbRule = { clean: 2, failed: 2 };

export interface Climb {
  /** Quarters a minute, slow to fast; the last is the one that is wanted. */
  readonly tempos: readonly Bpm[];
  /** Which of them it is practised at. */
  readonly at: number;
  /** In a row at this tempo; one of both is 0. */
  readonly clean: number;
  readonly failed: number;
  /** It was clean often enough at the tempo that is wanted. */
  readonly reached: boolean;
}

/** Where it begins, as a share of the tempo that is wanted, and by how much it grows. */
const BEGIN = 0.6;
const GROWTH = 1.09;
/** Slower than this a stroke does not last. */
const SLOWEST: Bpm = 40;

/**
 * Tempos a few in the hundred apart, for each step must be small enough to be clean at once.
 * @param target quarters a minute
 * @example climbTo(100).tempos // [60, 65, 71, 77, 84, 92, 100]
 */
export function climbTo(target: Bpm): Climb {
  const begin = Math.min(target, Math.max(SLOWEST, BEGIN * target));
  const steps = Math.max(0, Math.round(Math.log(target / begin) / Math.log(GROWTH)));
  const tempos = Array.from({ length: steps + 1 }, (_, step) =>
    step === steps ? target : Math.round(begin * (target / begin) ** (step / steps)),
  );
  return { tempos: [...new Set(tempos)], at: 0, clean: 0, failed: 0, reached: false };
}

/**
 * What it is after it was played once.
 * @example tried(tried(climbTo(100), true), true).at // 1
 */
export function tried(climb: Climb, clean: boolean, rule: ClimbRule = USUAL_CLIMB): Climb {
  const last = climb.tempos.length - 1;
  if (clean) {
    const times = climb.clean + 1;
    if (times < rule.clean) return { ...climb, clean: times, failed: 0 };
    return climb.at === last
      ? { ...climb, clean: times, failed: 0, reached: true }
      : { ...climb, at: climb.at + 1, clean: 0, failed: 0 };
  }
  const times = climb.failed + 1;
  return times < rule.failed
    ? { ...climb, clean: 0, failed: times }
    : { ...climb, at: Math.max(0, climb.at - 1), clean: 0, failed: 0 };
}

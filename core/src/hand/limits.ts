/**
 * What a hand may do, and who says so. Limits come from several sides, each stronger than the one before:
 * the instrument, a preset, a grade, the learner, the teacher. They are resolved here, once.
 */
import type { HandLimits, LimitName } from './handLimits.ts';
import type { HandModel } from './hands/index.ts';

/** From the weakest to the strongest. */
export const OWNERS = ['instrument', 'preset', 'grade', 'learner', 'teacher'] as const;

/** Who set a limit. */
export interface LimitOwner {
  readonly by: (typeof OWNERS)[number];
  /** "First lessons", a learner's name; null where there is nothing to name. */
  readonly name: string | null;
}

/** All limits that one side sets. */
export interface LimitLayer extends LimitOwner {
  readonly limits: HandLimits;
}

export interface ResolvedLimits {
  readonly limits: HandLimits;
  /** Who set each of them. */
  readonly owners: { readonly [Name in LimitName]?: LimitOwner };
}

/** @example teacherLimits({ noFourth: true }).by // 'teacher' */
export const teacherLimits = (limits: HandLimits): LimitLayer => ({ by: 'teacher', name: null, limits });

/**
 * Of each limit the word of the strongest who says something about it.
 * @example resolveLimits(HANDS.violin, [{ by: 'preset', name: 'First lessons', limits: { noFourth: true } }]).owners.noFourth.name // 'First lessons'
 * @param layers in any order
 */
export function resolveLimits(hand: HandModel, layers: readonly LimitLayer[]): ResolvedLimits {
  const limits: Record<string, unknown> = {};
  const owners: Record<string, LimitOwner> = {};
  const strongestLast = [instrumentLimits(hand), ...layers].sort((a, b) => OWNERS.indexOf(a.by) - OWNERS.indexOf(b.by));
  for (const { by, name, limits: own } of strongestLast) {
    for (const [limit, value] of Object.entries(own)) {
      if (value === undefined || !concerns(hand, by, limit as LimitName)) continue;
      limits[limit] = value;
      owners[limit] = { by, name };
    }
  }
  return { limits, owners };
}

function instrumentLimits({ school }: HandModel): LimitLayer {
  return { by: 'instrument', name: null, limits: school?.usual ? { [school.limit]: school.usual } : {} };
}

/** A preset's word about the weak fourth finger is none about a hand that is built around a strong one. */
function concerns(hand: HandModel, by: LimitOwner['by'], limit: LimitName): boolean {
  return limit !== 'noFourth' || by !== 'preset' || hand.weakFourth;
}

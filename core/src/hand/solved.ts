/** A solved hand, as far as reasons and comparisons ask of it. */
import type { SetLimit } from './decided.ts';
import type { Fingering } from './fingering.ts';
import type { HandStep } from './prices.ts';
import type { HandState } from './state.ts';

export interface SolvedHand {
  readonly fingering: Fingering;
  /** Only the notes that the hand can reach. */
  readonly steps: readonly HandStep[];
  /** For each step its note. */
  readonly noteAt: readonly number[];
  /** What the hand does at a step. */
  chosen(step: number): HandState;
  /** Limits that keep the hand from what else would do at a step. */
  limitsAgainst(step: number, fits: (state: HandState) => boolean): readonly SetLimit[];
}

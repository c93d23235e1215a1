/** What wishes do to a tune: what of each kind they avoid, and what they take instead. And effort by one measure. */
import type { Hand } from './hand.ts';
import { PLAIN_WEIGHTS, RULE_NAMES, type Weights } from './ruleNames.ts';
import { chargeMove, chargeState, moveCircumstances, stateCircumstances } from './rules.ts';
import { type HandStep } from './prices.ts';
import { differences, type RuleDifference } from './detours.ts';
import type { HandState } from './state.ts';

const EVERY_RULE = Object.fromEntries(RULE_NAMES.map((rule) => [rule, 1])) as Weights;
const weighed = ({ context, states }: HandStep, weights: Weights): HandStep => ({
  states,
  context: { ...context, weights },
});

/**
 * How a fingering differs from another of the same notes, counted by every rule, also those that neither asked for.
 * Empty where one of them leaves out notes that the other plays.
 * @returns counts below 0: what `hand` has less of than `other`
 * @example effectOf(hand, hand) // []
 */
export function effectOf(hand: Hand, other: Hand): readonly RuleDifference[] {
  if (hand.noteAt.join() !== other.noteAt.join()) return [];
  const steps = hand.steps.map((step) => weighed(step, EVERY_RULE));
  return differences(
    steps,
    0,
    steps.length,
    (step) => other.chosen(step),
    (step) => hand.chosen(step),
  );
}

/**
 * What a fingering costs by the plain price list, whatever is wished, so that fingerings under different wishes,
 * limits and keys can be compared. What the same phrase has elsewhere does not count.
 * @returns thousandths of the price list's unit
 * @example effortOf([], []) // 0
 */
export function effortOf(steps: readonly HandStep[], chosen: readonly HandState[]): number {
  let total = 0;
  const charge = (_: unknown, price: number) => (total += price);
  steps.forEach((step, index) => {
    const context = { ...step.context, weights: PLAIN_WEIGHTS };
    chargeState(chosen[index]!, stateCircumstances(context), charge);
    if (index > 0) chargeMove(chosen[index - 1]!, chosen[index]!, moveCircumstances(context), charge);
  });
  return total;
}

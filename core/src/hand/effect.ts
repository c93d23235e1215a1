/** What wishes do to a tune: what of each kind they avoid, and what they take instead. And effort by one measure. */
import type { SolvedHand } from './solved.ts';
import { PLAIN_WEIGHTS, RULE_NAMES, type Weights } from './ruleNames.ts';
import {
  chargeMove,
  chargeState,
  moveCircumstances,
  stateCircumstances,
  type MoveCircumstances,
  type StateCircumstances,
  type StepContext,
} from './rules.ts';
import { FORBIDDEN, usualCost, type HandStep } from './prices.ts';
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
export function effectOf(hand: SolvedHand, other: SolvedHand): readonly RuleDifference[] {
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
 * @param cost what the fingering costs by its own weights, where it is known: by plain ones that is the effort
 * @returns thousandths of the price list's unit
 * @example effortOf([], []) // 0
 */
export function effortOf(steps: readonly HandStep[], chosen: readonly HandState[], cost = FORBIDDEN): number {
  if (cost < FORBIDDEN && steps.every(({ context }) => context.weights === PLAIN_WEIGHTS)) {
    let effort = cost;
    steps.forEach((step, index) => (effort -= usualCost(chosen[index]!, step)));
    return effort;
  }
  let total = 0;
  const charge = (_: unknown, price: number) => (total += price);
  steps.forEach(({ context }, index) => {
    const { state, move } = plainly(context);
    chargeState(chosen[index]!, state, charge);
    if (index > 0) chargeMove(chosen[index - 1]!, chosen[index]!, move, charge);
  });
  return total;
}

interface Plain {
  readonly state: StateCircumstances;
  readonly move: MoveCircumstances;
}

/** Notes in equal circumstances share their context. */
const plain = new WeakMap<StepContext, Plain>();

/** The circumstances of a note at the plain price list. */
function plainly(context: StepContext): Plain {
  let found = plain.get(context);
  if (!found) {
    const weighed = { ...context, weights: PLAIN_WEIGHTS };
    plain.set(context, (found = { state: stateCircumstances(weighed), move: moveCircumstances(weighed) }));
  }
  return found;
}

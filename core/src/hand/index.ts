/** Positions, shapes, the fingering solver, its alternatives and reasons. */
export * from './finger.ts';
export {
  POSITIONS,
  framesFor,
  reach,
  type BassSchool,
  type Finger,
  type FingerSign,
  type HandLimits,
  type Position,
  type Shape,
} from './frames.ts';
export { lockOf, type Lock, type LockedStop, type Locks } from './locks.ts';
export { PRICES, RULES, haste, type RuleName, type StepContext } from './rules.ts';
export { explainDifference, moveCost, solve, stateCost, type Solution, type Step } from './solver.ts';
export { statesFor, type HandState, type Stop } from './state.ts';
export { stopText, symbol } from './words.ts';

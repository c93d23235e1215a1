/** Positions, shapes, the fingering solver, its alternatives and reasons. */
export * from './finger.ts';
export { quarters, type Alternative, type FingeredNote, type Fingering, type Glide, type Shift } from './fingering.ts';
export { compare, secondBest, waysOfShift, waysWith, type ChangedNote, type Comparison, type Way } from './explore.ts';
export { chargedShifts, hardPlaces, type HardPlace, type Help } from './hard.ts';
export {
  bringsFingers,
  copyTo,
  freeAll,
  keepAll,
  takeBrought,
  twinLicks,
  twinPhrases,
  type Taken,
  type Twin,
} from './take.ts';
export type { HandProblem } from './decided.ts';
export {
  POSITIONS,
  framesFor,
  reach,
  type BassSchool,
  type CelloSchool,
  type Finger,
  type FingerSign,
  type Frame,
  type HandLimits,
  type Level,
  type Position,
  type Shape,
} from './frames.ts';
export { lockOf, withLock, type Lock, type LockedStop, type Locks } from './locks.ts';
export { isAcross, patternsOf, type StringPattern } from './marks.ts';
export {
  PRICES,
  RULES,
  RULE_NAMES,
  PLAIN_WEIGHTS,
  haste,
  type RuleName,
  type StepContext,
  type Weights,
} from './rules.ts';
export { workingTempo, type HandSetup } from './setup.ts';
export { moveCost, solve, stateCost, type Solution, type Step } from './solver.ts';
export { statesFor, stopsKey, type HandState, type Stop } from './state.ts';
export {
  FIRST_WISHES,
  PRESETS,
  PRESET_IDS,
  WEIGHT_STEPS,
  WISH_RULES,
  profileOf,
  type HandWishes,
  type Preset,
  type PresetId,
} from './wishes.ts';
export { symbol, totalsText } from './words.ts';

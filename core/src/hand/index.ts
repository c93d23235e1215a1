/** Positions, shapes, the fingering solver, its alternatives and what they cost. */
export * from './hand.ts';
export type { Because, MovingTime } from './reasons.ts';
export { effectOf } from './effect.ts';
export {
  quarters,
  type Alternative,
  type FingeredNote,
  type Fingering,
  type Glide,
  type Shift,
  type Why,
} from './fingering.ts';
export {
  compareFingerings,
  secondBest,
  secondFingering,
  waysOfShift,
  waysWith,
  type ChangedNote,
  type Comparison,
  type Way,
} from './explore.ts';
export { chargedShifts, hardPlaces, type HardPlace, type Help } from './hard.ts';
export {
  bringsFingers,
  copyTo,
  freeAll,
  keepAll,
  takeBrought,
  twinLicks,
  twinPhrases,
  type LockedFor,
  type Taken,
  type Twin,
} from './take.ts';
export type { HandProblem, SetLimit } from './decided.ts';
export type { ImpossibleWhy, Nearest } from './chords.ts';
export {
  OCTAVE,
  POSITIONS,
  type FingerPlace,
  levelOf,
  type BassSchool,
  type CelloSchool,
  type Finger,
  type FingerSign,
  type Frame,
  type Level,
  type Position,
  type Shape,
} from './vocabulary.ts';
export { framesFor, lettersAbove, reach, spanOf } from './frames.ts';
export { HANDS, type HandModel, type School } from './hands/index.ts';
export type { Landing } from './landmarks.ts';
export {
  OWNERS,
  resolveLimits,
  teacherLimits,
  type LimitLayer,
  type LimitOwner,
  type ResolvedLimits,
} from './limits.ts';
export { limitsSchema, type HandLimits, type LimitName } from './handLimits.ts';
export { lockOf, withLock, type Lock, type LockedStop, type Locks } from './locks.ts';
export { isAcross, neededAgain, patternsOf, touch, type StringPattern } from './marks.ts';
export { PLAIN_WEIGHTS, RULE_NAMES, type RuleName, type Weights } from './ruleNames.ts';
export { PRICES, haste, type StepContext } from './rules.ts';
export { handOf, profileFor, type HandSetup } from './setup.ts';
export {
  handNameSchema,
  handSlice,
  learnerHandSchema,
  limitLayers,
  namedWishesSchema,
  type HandDecisions,
  type LearnerHand,
} from './slice.ts';
export { moveCost, stateCost, type HandStep } from './prices.ts';
export { type RuleDifference } from './detours.ts';
export { solve, type Solution } from './solver.ts';
export { statesFor, stopsKey, type HandState, type Stop } from './state.ts';
export {
  FIRST_WISHES,
  OPEN_STRINGS,
  OPEN_STRING_IDS,
  PRESETS,
  PRESET_IDS,
  WEIGHT_STEPS,
  WISH_RULES,
  profileOf,
  wishesSchema,
  type HandWishes,
  type OpenStrings,
  type Preset,
  type PresetId,
  type Profile,
} from './wishes.ts';

/** Slices of decisions, and the stages that read them. */
export { present, readSlices, slice, withMissing, type Slice } from './slice.ts';
export { Derivation, stageOf, type Derived, type Stage } from './stage.ts';
export { finished } from './steps.ts';
export { whole, type Misfit } from './whole.ts';

/** Parts, phrases, sameness and the learning plan. */
export * from './model.ts';
export { analyseForm, formLike } from './form.ts';
export { isTooLongToPart } from './plain.ts';
export { layoutOf, type Layout } from './layout.ts';
export * from './inTune.ts';
export * from './parting.ts';
export { answers, formSummary, playedBars } from './traits.ts';
export { findKey, type KeyFinding } from './closing.ts';
export { readForForm } from './reading.ts';

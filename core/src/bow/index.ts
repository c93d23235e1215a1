/** Strokes, their directions, patterns, and how far the bow travels. */
export * from './slice.ts';
export * from './patterns.ts';
export { EXCEPTIONS, type BowException, type ExceptionKind } from './grouping.ts';
export { PRICES as BOW_PRICES, RETAKE_TIME, BowPlanner, type BowAlternative, type Tally } from './plan.ts';
export * from './strokes.ts';
export * from './travel.ts';
export * from './repairs.ts';
export * from './counts.ts';
export * from './suggest.ts';
export {
  STRETCH_PRICES,
  planStretch,
  planStretchSteps,
  type PlannedStretch,
  type StretchContext,
  type StretchDifferences,
} from './planFor.ts';

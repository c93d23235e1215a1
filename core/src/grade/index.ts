/** Versions of a tune, contracts of grades, what breaks them, and how difficult it is. */
export { bareVersion, type Change, type ChangeKind, type Version } from './bare.ts';
export * from './version.ts';
export * from './check.ts';
export * from './contract.ts';
export { breachesBeyond, breachesOf, brokenRules, type Breach } from './breaches.ts';
export { demandsOf, exceeds, writtenBreaks, type Demand, type Measures, type Weighed } from './demands.ts';
export * from './skills.ts';
export { NOTHING_RAISED, NO_WISHES, cellOf, type Places, type Raised, type Simplified, type Wishes } from './search.ts';
export { SEARCH_PRICES } from './searchPrices.ts';
export { VersionSearch } from './simplify.ts';
export { ALL_FOLDS, fillingsOf, pitchIn, type Filling, type Piece } from './fillings.ts';
export { foldIdOf, isStrange, windowsOf, type TuneWindow } from './windows.ts';
export { likenessOf } from './likeness.ts';
export * from './changes.ts';
export * from './difficulty.ts';
export { dressed, type Dressed } from './dress.ts';
export { DRESSINGS, type DressingId } from './dressings/index.ts';
export * from './sung.ts';

/** The making of versions: a tune under a contract, simpler or richer, and what it is the second time round. */
export {
  bowUnder,
  handLimitsOf,
  placesFor,
  stringsUnder,
  weighVersion,
  type BowHeld,
  type VersionContext,
} from './underContract.ts';
export { type VersionWishes } from './versionFit.ts';
export type { GradedVersion } from './graded.ts';
export * from './versions.ts';
export { versionAhead, versionOf, type GradedFacts, type Round, type VersionFacts } from './version.ts';
export { phraseReplaced, timesRound } from './rounds.ts';
export { type UndoneWish } from './undone.ts';

/** Decisions, the stages that read them, and the arrangement that comes of it. */
export * from './arrange.ts';
export * from './decisions.ts';
export * from './stages.ts';
export * from './settle.ts';
export * from './grades.ts';
export * from './staff.ts';
export * from './keys.ts';
export * from './tunings.ts';
export { bowUnder, placesFor, weighVersion, type VersionContext } from './underContract.ts';
export type { VersionWishes } from './versionFit.ts';
export * from './versions.ts';
export { versionAhead, type GradedFacts, type Round } from './version.ts';
export { timesRound } from './rounds.ts';
export { type UndoneWish } from './undone.ts';
export * from './together.ts';
export type { OwnTalk, TalkDecisions } from './talkSlice.ts';
export * from './improvise.ts';
export * from './ladder.ts';

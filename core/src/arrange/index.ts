/** Decisions, the stages that read them, and the arrangement that comes of it. */
export * from './arrange.ts';
export * from './decisions.ts';
export * from './stages.ts';
export * from './settle.ts';
export * from './grades.ts';
export { bowUnder, placesFor, weighVersion, type VersionContext } from './underContract.ts';
export type { VersionWishes } from './versionFit.ts';
export * from './versions.ts';
export * from './together.ts';

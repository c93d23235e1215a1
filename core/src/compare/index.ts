/** Arrangements beside each other: keys, octaves, tunings, grades, players who play together, and the next step up. */
export * from './grades.ts';
export * from './group.ts';
export * from './improvise.ts';
export * from './keys.ts';
export * from './ladder.ts';
export * from './offers.ts';
export * from './pairs.ts';
export * from './together.ts';
export * from './tunings.ts';

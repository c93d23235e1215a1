/** The harmony of a tune: its chords, brought or found, and what they are in their key. */
export { CHORD_KINDS, plainName, type ChordKind } from './chords.ts';
export { functionOf } from './degree.ts';
export * from './harmony.ts';

/** Pitch, time, tune, transposition and played order. */
export * from './time.ts';
export * from './tuplets.ts';
export * from './pitch.ts';
export * from './key.ts';
export * from './tune.ts';
export * from './fill.ts';
export * from './played.ts';
export * from './transpose.ts';
export * from './sounding.ts';
export * from './held.ts';
export * from './slice.ts';
export * from './lay.ts';
export * from './keyfinding.ts';
export * from './chords.ts';
export * from './pace.ts';
export * from './signs.ts';
export * from './schema.ts';

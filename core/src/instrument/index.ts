/** Instruments, tunings, tension, and the key stage. */
export * from './instrument.ts';
export * from './make.ts';
export * from './clefs.ts';
export * from './tuning.ts';
export * from './tension.ts';
export * from './key.ts';
export * from './played.ts';

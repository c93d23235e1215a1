/** Instruments, tunings and tension. */
export * from './instrument.ts';
export * from './tuning.ts';
export * from './tension.ts';

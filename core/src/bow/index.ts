/** Strokes, their directions, and how far the bow travels. */
export * from './slice.ts';
export * from './strokes.ts';
export { RETAKE_TIME } from './directions.ts';
export * from './travel.ts';
export * from './counts.ts';

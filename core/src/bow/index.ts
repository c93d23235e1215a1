/** Strokes, their directions, and how far the bow travels. */
export * from './strokes.ts';
export * from './travel.ts';
export * from './counts.ts';

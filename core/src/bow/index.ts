/** Strokes and directions. */
export * from './bow.ts';

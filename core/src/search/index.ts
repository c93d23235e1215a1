/** Finding tunes by melody and by words. */
export * from './fold.ts';
export * from './likeness.ts';
export * from './melody.ts';

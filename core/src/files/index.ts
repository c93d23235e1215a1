/** Files as people have them: every kind in, every kind out. */
export * from './schema.ts';
export * from './kept.ts';
export * from './nokta.ts';
export * from './open.ts';
export * from './look.ts';
export * from './save.ts';
export * from './backup.ts';
export * from './fileName.ts';

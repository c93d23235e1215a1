/** Writing and mending a tune: pure changes, what is wrong and how to repair it, what an edit changed. */
export * from './adopt.ts';
export * from './bars.ts';
export * from './change.ts';
export * from './merge.ts';
export * from './notes.ts';
export * from './record.ts';
export * from './settle.ts';
export * from './troubles.ts';

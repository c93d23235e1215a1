/** Sentences from facts and a naming of notes: the one place where results become English. */
export * from './naming.ts';
export * from './fingers.ts';
export * from './hand.ts';
export * from './handTrouble.ts';
export * from './bow.ts';
export * from './grade.ts';
export * from './line.ts';
export * from './harmony.ts';
export * from './instrument.ts';
export * from './key.ts';
export * from './look.ts';
export * from './form.ts';
export * from './files.ts';
export * from './arrangement.ts';

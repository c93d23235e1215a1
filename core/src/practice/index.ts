/** What sounds when: repeats, stretches, count-in and the beat, for whoever plays it. */
export * from './score.ts';
export * from './playing.ts';
export * from './tuner.ts';
export * from './climb.ts';
export * from './lessonSteps.ts';

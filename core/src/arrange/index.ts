/** Decisions, the stages that read them, and the arrangement that comes of it. */
export * from './arrange.ts';
export * from './decisions.ts';
export * from './opening.ts';
export * from './record.ts';
export * from './stages.ts';
export * from './settle.ts';
export * from './staff.ts';
export { LESSON_MINUTES, type LessonDecisions } from './lessonSlice.ts';
export type { OwnTalk, TalkDecisions } from './talkSlice.ts';

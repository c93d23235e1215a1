/** Learners: who they are, what they play, what their hands can do, how their paper looks. */
export * from './learner.ts';

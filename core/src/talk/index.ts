/** Words for facts: the talk-through, and what a teacher says instead. */
export { PICKUP, digestOf, talkFacts, type FingerRun, type TalkFacts, type Watch } from './facts.ts';
export { spokenCues, type CueOptions } from './cues.ts';
export { USUAL_TALK, VOICES, talkThrough, type Talk, type TalkOptions, type Voice } from './text.ts';

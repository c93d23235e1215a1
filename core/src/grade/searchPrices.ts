/** What the search for a version weighs against each other. */

/** Prices of the search, in weights of notes; what must not be stands far above what is only a pity. */
export const SEARCH_PRICES = {
  breach: 1000,
  /** What cannot be written. */
  unwritable: 100_000,
  /** A leap over more than a fifth that the tune does not have, and each semitone more. */
  leap: 60,
  leapStep: 2,
  /** One note twice where the tune has it not; where a phrase is folded. */
  equal: 12,
  equalAtJoint: 2,
  /** A held note struck again, since no tie may be. */
  again: 4,
  /** On a strong beat, silence, which is worse than what it would avoid; elsewhere; something that the tune does not have in it; another note of the chord. */
  silent: 2000,
  silentWithin: 60,
  strong: 60,
  replaced: 22,
  /** On a strong beat, another note of the beat than the one that stands there. */
  displaced: 4,
  /** The line turns where the tune's does not: on a strong beat, and elsewhere. */
  turned: 9,
  turnedWithin: 4,
  /** A step that becomes a fifth. */
  stepLost: 30,
  /** A phrase's last note, and the tune's; reached from the other side. */
  phraseEnd: 300,
  tuneEnd: 800,
  otherSide: 6,
  /** A phrase or a bar that is the same as an earlier one and is changed otherwise; for each beat. */
  unlike: 60,
  /** A phrase is moved by another octave than the one before; one note by itself. */
  joint: 6,
  octaveAlone: 25,
  /** A tie, an entry off the beat, a note across the beat that the tune does not have. */
  newTie: 40,
  newEntry: 20,
  newSyncopation: 40,
  /** Quicker than other beats of its kind, where they had to become slower. */
  uneven: 100,
  /** A note that the next richer version does not have. */
  notNested: 6,
  /** A phrase begins on an up bow, where no bow may be lifted. */
  beginsUp: 3,
  /** Effort: another string. */
  crossing: 0.15,
} as const;

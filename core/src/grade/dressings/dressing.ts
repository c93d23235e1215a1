/** What a dressing is: where it may be added, what a note becomes, and how usual it is in a style. */
import { midi, type Midi, type Note, type Pitch, type SoundingNote, type Tune } from '../../music/index.ts';
import type { Limits } from '../contract.ts';
import type { Places } from '../search.ts';
import { topOf, type TuneWindow } from '../windows.ts';

/** Kinds of tunes that are dressed each in a way of its own. */
export const STYLES = {
  reel: /reel/i,
  jig: /jig/i,
  hornpipe: /hornpipe/i,
  polka: /polka/i,
  song: /waltz|air|hymn|song/i,
  march: /march/i,
  swing: /swing|blues/i,
} as const;
export type StyleName = keyof typeof STYLES;

/**
 * How usual a dressing is: of places where it could be, the share that players of the style dress so, 0 to 1. Judgements.
 * `other` is for every style that is not named.
 */
export type Usual = Readonly<Record<StyleName | 'other', number>>;

/** A plain note that begins its beat, and what stands around it. */
export interface Spot {
  readonly tune: Tune;
  readonly limits: Limits;
  readonly places: Places;
  /** Sounding pitches of the open strings, low to high. */
  readonly open: readonly Pitch[];
  readonly window: TuneWindow;
  readonly sound: SoundingNote;
  readonly note: Note;
  readonly pitch: Pitch;
  readonly midi: Midi;
  /** Ticks of the beat. */
  readonly beat: number;
  readonly compound: boolean;
  /** Pitch classes of the chord, from C. */
  readonly tones: readonly number[];
  /** The note right after it, and the one before. */
  readonly next: SoundingNote | null;
  readonly before: SoundingNote | null;
  /** Letter steps from the note to the next one; null where none follows. */
  readonly toNext: number | null;
  /** Shortest note that the contract has, in ticks. */
  readonly least: number;
  /** The note so many letter steps away, as the signature has it. */
  inKey(steps: number): Pitch | null;
  /** Whether the bar has its letter otherwise altered: the two are not put beside each other. */
  clashes(pitch: Pitch): boolean;
  /** Whether it can be stopped under the contract, and clashes with nothing. */
  can(pitch: Pitch | null): pitch is Pitch;
}

export interface Offer {
  /** How good it is here, beside others of its kind: 1 where it is at home. */
  readonly worth: number;
  /** What the note becomes. */
  readonly events: readonly Note[];
  /** What sounds then. */
  readonly is: readonly Pitch[];
}

export interface Dressing<Id extends string = string> {
  readonly id: Id;
  readonly usual: Usual;
  /** @returns null where it cannot be */
  offer(spot: Spot): Offer | null;
}

/** Checks a dressing's parts against each other. */
export const dressing = <const Id extends string>(parts: Dressing<Id>): Dressing<Id> => parts;

/** It fills whole beats with nothing else in them. */
export const fillsItsBeats = ({ window, sound, note, beat }: Spot): boolean =>
  sound.onset === window.from &&
  note.duration % beat === 0 &&
  note.duration <= 2 * beat &&
  window.starting.length === 1;

/** The same pitch was played just before. */
export const isAgain = ({ before, midi }: Spot): boolean => before !== null && topOf(before) === midi;

/** Whether an open string has just this pitch. */
export const isOpen = ({ open }: Pick<Spot, 'open'>, at: Midi): boolean => open.some((one) => midi(one) === at);

/** What a bar's beats are divided into: thirds, or halves. */
export const partOf = ({ beat, compound }: Pick<Spot, 'beat' | 'compound'>): number => (compound ? beat / 3 : beat / 2);

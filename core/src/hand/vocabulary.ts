/** The words of the left hand: fingers, positions, shapes, and what a place of the hand is. */
import type { Semitones } from '../music/index.ts';

/** 0 is the open string. */
export type Finger = 0 | 1 | 2 | 3 | 4;
export type FingerSign = 'low' | 'home' | 'high' | 'extended' | 'harmonic';
/** How far up a learner may go: each level holds the lower and the upper place of that name. */
export const POSITIONS = ['half', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'] as const;
export type Level = (typeof POSITIONS)[number];
/**
 * A position's place among the levels: the lower and the upper place of a name are one.
 * @example levelOf('upper III') // 3
 */
export const levelOf = (position: Position): number =>
  POSITIONS.findIndex((one) => one === position.replace(/^(lower|upper) |½$/, ''));
/** The name of a place of the hand, as players of the instrument say it. */
export type Position =
  | Level
  | 'lower II'
  | 'upper II'
  | 'upper III'
  | 'lower V'
  | 'upper V'
  | 'lower VI'
  | 'upper VI'
  | 'II½'
  | 'III½'
  | 'V½';
/** Contracted: neighbouring fingers a semitone apart on violin and viola. */
export type Shape = 'closed' | 'forward' | 'backward' | 'contracted';
export type BassSchool = 'three' | 'four';
/** Which comes first on the cello: moving the hand, or opening it. */
export type CelloSchool = 'shift' | 'extend';

export interface FingerPlace {
  readonly finger: Finger;
  readonly semitones: Semitones;
  readonly sign: FingerSign;
  /** Nobody plays so but for a note whose letter asks for it. */
  readonly onlySpelled?: true;
}

/** One place of the hand and the way it is held. */
export interface Frame {
  readonly position: Position;
  /** Index into `POSITIONS`. */
  readonly level: number;
  readonly shape: Shape;
  /** Semitones above the open string where the first finger is at home. */
  readonly base: Semitones;
  readonly places: readonly FingerPlace[];
  /** Letters decide which finger a note belongs to: violin and viola. */
  readonly byLetter?: boolean;
}

/** Where a string sounds its octave when it is touched lightly. */
export const OCTAVE: Semitones = 12;

/** What the hand has most of its life around: ties go to the place that is nearest to it. */
export const HOME_BASE: Semitones = 2;

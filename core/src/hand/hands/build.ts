/** What the hands' tables are made with. */
import type { Semitones } from '../../music/index.ts';
import {
  HOME_BASE,
  OCTAVE,
  POSITIONS,
  type Finger,
  type FingerPlace,
  type FingerSign,
  type Frame,
  type Level,
  type Position,
} from '../vocabulary.ts';

export const place = (finger: Finger, semitones: Semitones, sign: FingerSign = 'home'): FingerPlace => ({
  finger,
  semitones,
  sign,
});
export const harmonic = (finger: Finger): FingerPlace => place(finger, OCTAVE, 'harmonic');

/** A place of the hand along the string. */
export interface Place {
  readonly base: Semitones;
  readonly position: Position;
  readonly level: number;
}

const levelOf = (position: Position): number => POSITIONS.indexOf(position.replace(/^(lower|upper) |½$/g, '') as Level);

/** One after the other, a semitone apart, from half position up. */
export const placesNamed = (names: readonly Position[]): readonly Place[] =>
  names.map((position, index) => ({ base: index + 1, position, level: levelOf(position) }));

/** Ties go to the place that is nearest to first position. */
export const homeFirst = (frames: readonly Frame[]): readonly Frame[] =>
  [...frames].sort((a, b) => Math.abs(a.base - HOME_BASE) - Math.abs(b.base - HOME_BASE));

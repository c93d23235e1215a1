/**
 * What a hand can stop without moving: for each instrument its positions and shapes, and in each the
 * places of the fingers in semitones above the open string. Section "Left hand" of the domain.
 */
import { LETTERS, type Pitch, type Semitones } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';

/** 0 is the open string. */
export type Finger = 0 | 1 | 2 | 3 | 4;
export type FingerSign = 'low' | 'home' | 'high' | 'extended';
export type Position = 'half' | 'I' | 'II';
export const POSITIONS: readonly Position[] = ['half', 'I', 'II'];
export type Shape = 'closed' | 'forward' | 'backward';
export type BassSchool = 'three' | 'four';

export interface FingerPlace {
  readonly finger: Finger;
  readonly semitones: Semitones;
  readonly sign: FingerSign;
}

/** One place of the hand and the way it is held. */
export interface Frame {
  readonly position: Position;
  readonly shape: Shape;
  /** Semitones above the open string where the first finger is at home. */
  readonly base: Semitones;
  readonly places: readonly FingerPlace[];
}

const place = (finger: Finger, semitones: Semitones, sign: FingerSign = 'home'): FingerPlace => ({
  finger,
  semitones,
  sign,
});

/** First position with low and high fingers: home 1 2 3 4 at 2 4 5 7. */
const UPPER: readonly Frame[] = [
  {
    position: 'I',
    shape: 'closed',
    base: 2,
    places: [
      place(1, 1, 'low'),
      place(1, 2),
      place(2, 3, 'low'),
      place(2, 4),
      place(3, 5),
      place(3, 6, 'high'),
      place(4, 6, 'low'),
      place(4, 7),
      place(4, 8, 'extended'),
    ],
  },
];

/** Closed 1 2 3 4 a semitone apart; forward the first finger stays, backward it reaches back. */
const CELLO: readonly Frame[] = [
  { position: 'half', shape: 'closed', base: 1, places: [place(1, 1), place(2, 2), place(3, 3), place(4, 4)] },
  { position: 'I', shape: 'closed', base: 2, places: [place(1, 2), place(2, 3), place(3, 4), place(4, 5)] },
  {
    position: 'I',
    shape: 'forward',
    base: 2,
    places: [place(1, 2), place(2, 4, 'extended'), place(3, 5, 'extended'), place(4, 6, 'extended')],
  },
  {
    position: 'I',
    shape: 'backward',
    base: 2,
    places: [place(1, 1, 'extended'), place(2, 3), place(3, 4), place(4, 5)],
  },
];

const bassFrames = (school: BassSchool): readonly Frame[] =>
  POSITIONS.map((position, index) => {
    const base = index + 1;
    const fingers: readonly Finger[] = school === 'three' ? [1, 2, 4] : [1, 2, 3, 4];
    return { position, shape: 'closed', base, places: fingers.map((finger, offset) => place(finger, base + offset)) };
  });

const BASS: Readonly<Record<BassSchool, readonly Frame[]>> = { three: bassFrames('three'), four: bassFrames('four') };

/** Limits of a learner's hand. */
export interface HandLimits {
  readonly noFourth?: boolean;
  readonly maxPosition?: Position;
  readonly bassSchool?: BassSchool;
}

/** The frames a learner may use on an instrument, fingers they lack left out. */
export function framesFor(instrument: InstrumentId, limits: HandLimits = {}): readonly Frame[] {
  const all = instrument === 'cello' ? CELLO : instrument === 'bass' ? BASS[limits.bassSchool ?? 'three'] : UPPER;
  const highest = POSITIONS.indexOf(limits.maxPosition ?? 'II');
  const allowed = all.filter((frame, index) => index === 0 || POSITIONS.indexOf(frame.position) <= highest);
  if (!limits.noFourth) return allowed;
  return allowed.map((frame) => ({ ...frame, places: frame.places.filter(({ finger }) => finger !== 4) }));
}

/** Furthest stop above an open string that any of the frames reaches. */
export function reach(frames: readonly Frame[]): Semitones {
  return Math.max(...frames.flatMap(({ places }) => places.map(({ semitones }) => semitones)));
}

/** Letter steps from the open string's name to the note's: in first position the finger that the spelling asks for. */
export function lettersAbove(open: Pitch, note: Pitch): number {
  return note.octave * 7 + LETTERS.indexOf(note.letter) - (open.octave * 7 + LETTERS.indexOf(open.letter));
}

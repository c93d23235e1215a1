/**
 * What a hand can stop without moving: for each instrument its positions and shapes, and in each the
 * places of the fingers in semitones above the open string. Section "Left hand" of the domain.
 */
import { LETTERS, type Pitch, type Semitones } from '../music/index.ts';
import type { HandModel } from './hands/index.ts';
import type { HandLimits } from './limits.ts';

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

const known = new WeakMap<readonly Frame[], Map<string, readonly Frame[]>>();

/**
 * The frames a learner may use, fingers they lack left out. The same list for the same limits.
 * @example framesFor(HANDS.violin, { maxPosition: 'I' }).map(({ position }) => position) // ['I', 'half']
 */
export function framesFor(hand: HandModel, limits: HandLimits = {}): readonly Frame[] {
  const all = hand.frames(limits);
  const lists = known.get(all) ?? new Map<string, readonly Frame[]>();
  known.set(all, lists);
  const key = [limits.maxPosition, limits.noFourth, limits.noExtension, limits.reach].join();
  let frames = lists.get(key);
  if (!frames) lists.set(key, (frames = limitedFrames(all, limits)));
  return frames;
}

function limitedFrames(all: readonly Frame[], limits: HandLimits): readonly Frame[] {
  const { reach: furthest = Infinity } = limits;
  const highest = POSITIONS.indexOf(limits.maxPosition ?? 'VIII');
  const allowed = all.filter(
    ({ level, shape }) => level <= highest && !(limits.noExtension && (shape === 'forward' || shape === 'backward')),
  );
  if (!limits.noFourth && !limits.noExtension && furthest === Infinity) return allowed;
  return allowed.map((frame) => ({
    ...frame,
    places: frame.places.filter(
      ({ finger, sign, semitones }) =>
        semitones <= furthest && !(limits.noFourth && finger === 4) && !(limits.noExtension && sign === 'extended'),
    ),
  }));
}

/**
 * Where the fingers lie in a frame, from the first to the last, in semitones above the open strings.
 * @example spanOf(HANDS.cello, { base: 2, shape: 'forward' }) // [2, 6]
 */
export function spanOf(
  hand: HandModel,
  { base, shape }: Pick<Frame, 'base' | 'shape'>,
): readonly [Semitones, Semitones] {
  const first = shape === 'backward' ? base - 1 : base;
  const last = shape === 'contracted' ? base + CONTRACTED : base + hand.span + (shape === 'forward' ? 1 : 0);
  return [first, last];
}
/** From the first finger to the fourth where each is a semitone from the next. */
const CONTRACTED: Semitones = 3;

/**
 * Furthest stop above an open string that any of the frames reaches.
 * @example reach(framesFor(HANDS.violin, { maxPosition: 'I' })) // 8
 */
export function reach(frames: readonly Frame[]): Semitones {
  return Math.max(...frames.flatMap(({ places }) => places.map(({ semitones }) => semitones)));
}

/**
 * Letter steps from the open string's name to the note's: in first position the finger that the spelling asks for.
 * @example lettersAbove(pitch('D4'), pitch('F#4')) // 2
 */
export function lettersAbove(open: Pitch, note: Pitch): number {
  return note.octave * 7 + LETTERS.indexOf(note.letter) - (open.octave * 7 + LETTERS.indexOf(open.letter));
}

/**
 * Letter steps above the open string that the first finger's home place can be called by, the usual one
 * first. Source: spelled intervals of so many semitones that occur in keys with up to six signs.
 */
const FIRST_FINGER_STEPS: readonly (readonly number[])[] = [
  [0],
  [0, 1],
  [1],
  [2],
  [2, 3],
  [3],
  [3, 4],
  [4],
  [5, 4],
  [5],
  [6],
  [6, 7],
  [7],
  [8],
];

export function firstFingerSteps(base: Semitones): readonly number[] {
  return FIRST_FINGER_STEPS[base] ?? [];
}

const BY_STEP: readonly Position[] = ['half', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'];

/** The position that a note's letter and its finger make, where the hand's place allows that name. */
export function positionByLetter(frame: Frame, open: Pitch, note: Pitch, finger: Finger): Position {
  const step = lettersAbove(open, note) - finger + 1;
  if (frame.base === 1 || !firstFingerSteps(frame.base).includes(step)) return plain(frame.position);
  return BY_STEP[step] ?? plain(frame.position);
}

/** Violinists say II for both of its places: which it is, the fingers' signs tell. */
const plain = (position: Position): Position => position.replace(/^(lower|upper) /, '') as Position;

/**
 * What a hand can stop without moving: for each instrument its positions and shapes, and in each the
 * places of the fingers in semitones above the open string. Section "Left hand" of the domain.
 */
import { LETTERS, type Pitch, type Semitones } from '../music/index.ts';
import type { HandLimits } from './handLimits.ts';
import type { HandModel } from './hands/index.ts';
import { POSITIONS, type Finger, type Frame, type Position } from './vocabulary.ts';

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

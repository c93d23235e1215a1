/**
 * What a hand can stop without moving: for each instrument its positions and shapes, and in each the
 * places of the fingers in semitones above the open string. Section "Left hand" of the domain.
 */
import { LETTERS, type Pitch, type Semitones } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';

/** 0 is the open string. */
export type Finger = 0 | 1 | 2 | 3 | 4;
export type FingerSign = 'low' | 'home' | 'high' | 'extended' | 'harmonic';
/** How far up a learner may go: each level holds the lower and the upper place of that name. */
export const POSITIONS = ['half', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'] as const;
export type Level = (typeof POSITIONS)[number];
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

const place = (finger: Finger, semitones: Semitones, sign: FingerSign = 'home'): FingerPlace => ({
  finger,
  semitones,
  sign,
});
const harmonic = (finger: Finger): FingerPlace => place(finger, OCTAVE, 'harmonic');

/** What the hand has most of its life around: ties go to the place that is nearest to it. */
export const HOME_BASE: Semitones = 2;

interface Place {
  readonly base: Semitones;
  readonly position: Position;
  readonly level: number;
}

const levelOf = (position: Position): number => POSITIONS.indexOf(position.replace(/^(lower|upper) |½$/g, '') as Level);
const placesNamed = (names: readonly Position[]): readonly Place[] =>
  names.map((position, index) => ({ base: index + 1, position, level: levelOf(position) }));

/**
 * Violin and viola, by the first finger's semitone: a place between two names is the upper of the lower
 * name; the spelling of a note may call it otherwise.
 */
const UPPER_PLACES = placesNamed([
  'half',
  'I',
  'lower II',
  'II',
  'III',
  'upper III',
  'IV',
  'lower V',
  'V',
  'lower VI',
  'VI',
  'VII',
  'VIII',
]);

/**
 * Home 1 2 3 4 at b, b+2, b+3, b+5: in first position 2 4 5 7 with low 1 at 1, low 2 at 3, high 3 at 6.
 * The low 3 of flat keys (A flat on the E string) stands where a home 2 does; the note's letter tells them apart.
 */
function upperFrames({ base, position, level }: Place): readonly Frame[] {
  const closed: FingerPlace[] = [
    ...(base > 1 ? [place(1, base - 1, 'low')] : []),
    place(1, base),
    // Close by a low first finger: F and G flat on the E string.
    ...(base === HOME_BASE ? [{ ...place(2, base, 'low'), onlySpelled: true as const }] : []),
    place(2, base + 1, 'low'),
    place(2, base + 2),
    place(3, base + 2, 'low'),
    place(3, base + 3),
    place(3, base + 4, 'high'),
    place(4, base + 4, 'low'),
    place(4, base + 5),
    place(4, base + 6, 'extended'),
  ];
  const touch = base >= 5 && base <= 8 ? [harmonic(4)] : base === 9 || base === 10 ? [harmonic(3)] : [];
  const frame = (shape: Shape, places: readonly FingerPlace[]): Frame => ({
    position,
    level,
    shape,
    base,
    places,
    byLetter: true,
  });
  const whole = frame('closed', [...closed, ...touch]);
  if (base < CONTRACTS_FROM) return [whole];
  return [
    whole,
    frame('contracted', [
      place(1, base),
      place(2, base + 1, 'low'),
      place(3, base + 2, 'low'),
      place(4, base + 3, 'low'),
    ]),
  ];
}
/** Fingers are drawn together where semitones lie close enough for it. */
const CONTRACTS_FROM: Semitones = 5;

const CELLO_PLACES = placesNamed([
  'half',
  'I',
  'lower II',
  'upper II',
  'III',
  'upper III',
  'IV',
  'lower V',
  'V',
  'VI',
  'upper VI',
  'VII',
]);
/** Highest place at the neck; beyond it the fourth finger is too short. */
const NECK: Semitones = 7;

/** Closed 1 2 3 4 a semitone apart; forward the first finger stays, backward it reaches back; beyond the neck 1 2 3. */
function celloFrames({ base, position, level }: Place): readonly Frame[] {
  const frame = (shape: Shape, places: readonly FingerPlace[]): Frame => ({ position, level, shape, base, places });
  if (base > NECK) {
    return [
      frame('closed', [
        place(1, base),
        place(2, base + 1, 'low'),
        place(2, base + 2),
        place(3, base + 2, 'low'),
        place(3, base + 3),
        place(3, base + 4, 'extended'),
        ...(base <= 10 ? [harmonic(3)] : []),
      ]),
    ];
  }
  const closed = frame('closed', [
    place(1, base),
    place(2, base + 1),
    place(3, base + 2),
    place(4, base + 3),
    ...(base === NECK ? [harmonic(3)] : []),
  ]);
  const forward = frame('forward', [
    place(1, base),
    place(2, base + 2, 'extended'),
    place(3, base + 3, 'extended'),
    place(4, base + 4, 'extended'),
  ]);
  const backward = frame('backward', [
    place(1, base - 1, 'extended'),
    place(2, base + 1),
    place(3, base + 2),
    place(4, base + 3),
  ]);
  return [closed, forward, ...(base > 1 ? [backward] : [])];
}

const BASS_PLACES = placesNamed(['half', 'I', 'II', 'II½', 'III', 'III½', 'IV', 'V', 'V½', 'VI']);
/** From here the third finger takes the fourth's place, in both schools. */
const BASS_THIRD_FROM: Semitones = 9;

function bassFrames(school: BassSchool, { base, position, level }: Place): readonly Frame[] {
  const frame = (places: readonly FingerPlace[]): Frame => ({ position, level, shape: 'closed', base, places });
  const fingers: readonly Finger[] =
    base >= BASS_THIRD_FROM ? [1, 2, 3] : school === 'three' ? [1, 2, 4] : [1, 2, 3, 4];
  const touch = base >= BASS_THIRD_FROM ? [harmonic(3)] : [];
  return [frame([...fingers.map((finger, offset) => place(finger, base + offset)), ...touch])];
}

const homeFirst = (frames: readonly Frame[]): readonly Frame[] =>
  [...frames].sort((a, b) => Math.abs(a.base - HOME_BASE) - Math.abs(b.base - HOME_BASE));

const UPPER = homeFirst(UPPER_PLACES.flatMap(upperFrames));
const CELLO = homeFirst(CELLO_PLACES.flatMap(celloFrames));
const BASS: Readonly<Record<BassSchool, readonly Frame[]>> = {
  three: homeFirst(BASS_PLACES.flatMap((at) => bassFrames('three', at))),
  four: homeFirst(BASS_PLACES.flatMap((at) => bassFrames('four', at))),
};

/** Limits of a learner's hand. */
export interface HandLimits {
  readonly noFourth?: boolean;
  /** The hand stays in one frame: no open hand on the cello, no stretched fourth finger. */
  readonly noExtension?: boolean;
  readonly noDoubleStops?: boolean;
  readonly maxPosition?: Level;
  readonly bassSchool?: BassSchool;
  readonly celloSchool?: CelloSchool;
}

const known = new Map<string, readonly Frame[]>();

/** The frames a learner may use on an instrument, fingers they lack left out. The same list for the same limits. */
export function framesFor(instrument: InstrumentId, limits: HandLimits = {}): readonly Frame[] {
  const family = instrument === 'viola' ? 'violin' : instrument;
  const school = instrument === 'bass' ? (limits.bassSchool ?? 'three') : '';
  const key = [family, school, limits.maxPosition, limits.noFourth, limits.noExtension].join();
  let frames = known.get(key);
  if (!frames) known.set(key, (frames = limitedFrames(instrument, limits)));
  return frames;
}

function limitedFrames(instrument: InstrumentId, limits: HandLimits): readonly Frame[] {
  const all = instrument === 'cello' ? CELLO : instrument === 'bass' ? BASS[limits.bassSchool ?? 'three'] : UPPER;
  const highest = POSITIONS.indexOf(limits.maxPosition ?? 'VIII');
  const allowed = all.filter(
    ({ level, shape }) => level <= highest && !(limits.noExtension && (shape === 'forward' || shape === 'backward')),
  );
  if (!limits.noFourth && !limits.noExtension) return allowed;
  return allowed.map((frame) => ({
    ...frame,
    places: frame.places.filter(
      ({ finger, sign }) => !(limits.noFourth && finger === 4) && !(limits.noExtension && sign === 'extended'),
    ),
  }));
}

/** Furthest stop above an open string that any of the frames reaches. */
export function reach(frames: readonly Frame[]): Semitones {
  return Math.max(...frames.flatMap(({ places }) => places.map(({ semitones }) => semitones)));
}

/** Letter steps from the open string's name to the note's: in first position the finger that the spelling asks for. */
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

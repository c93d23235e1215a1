/**
 * Contracts: what a version of a grade may ask of a player, as limits that can be checked note by note. Section 6 of the
 * domain. Six grades for each hand; a teacher may copy one and change it.
 */
import { z } from 'zod';
import { POSITIONS, type Finger, type Level } from '../hand/index.ts';
import type { HandId } from '../instrument/index.ts';

export const DOUBLE_STOPS = ['none', 'open', 'simple', 'any'] as const;
/** None; with an open string; two fingers in one frame; whatever the hand can do. */
export type DoubleStops = (typeof DOUBLE_STOPS)[number];

/** Everything that a contract says. `null` is no limit. */
export interface Limits {
  /** Most different strings. */
  readonly strings: number | null;
  /** Those allowed; 0 is open. */
  readonly fingers: readonly Finger[] | null;
  readonly low1: boolean;
  readonly low2: boolean;
  readonly high3: boolean;
  readonly low4: boolean;
  readonly extension: boolean;
  readonly halfPosition: boolean;
  readonly maxPosition: Level | null;
  /** Most hand changes in a phrase. */
  readonly shifts: number | null;
  /** Most semitones from the lowest to the highest note. */
  readonly range: number | null;
  /** Shortest note as it is written, in quarters. */
  readonly shortest: number | null;
  readonly dotted: boolean;
  readonly triplets: boolean;
  readonly syncopation: boolean;
  readonly ties: boolean;
  readonly pickup: boolean;
  readonly rests: boolean;
  /** Most notes to a stroke; 1 is separate. */
  readonly maxSlur: number | null;
  readonly hooks: boolean;
  readonly retakes: boolean;
  readonly doubleStops: DoubleStops;
  readonly drones: boolean;
  readonly graces: boolean;
  readonly slides: boolean;
  /** Jumping over a string without a rest. */
  readonly skips: boolean;
  readonly crossingsPerSecond: number | null;
  readonly notesPerSecond: number | null;
  /** Most different notes outside the signature in a phrase. */
  readonly accidentals: number | null;
  /** Most sharps and flats of the signature. */
  readonly signature: { readonly sharps: number; readonly flats: number } | null;
  /** Most different finger patterns in the tune. */
  readonly patterns: number | null;
  readonly retuned: boolean;
}

/** A rule that a breach is about. */
export type Rule = keyof Limits;

export const GRADE_NUMBERS = [1, 2, 3, 4, 5, 6] as const;
export type GradeNumber = (typeof GRADE_NUMBERS)[number];

export interface Contract {
  readonly name: string;
  readonly limits: Limits;
}

const most = (least = 0) => z.number().min(least).max(10_000).nullable();

export const limitsSchema = z.strictObject({
  strings: most(1),
  fingers: z
    .array(z.literal([0, 1, 2, 3, 4]))
    .max(5)
    .nullable(),
  low1: z.boolean(),
  low2: z.boolean(),
  high3: z.boolean(),
  low4: z.boolean(),
  extension: z.boolean(),
  halfPosition: z.boolean(),
  maxPosition: z.enum(POSITIONS).nullable(),
  shifts: most(),
  range: most(),
  shortest: most(),
  dotted: z.boolean(),
  triplets: z.boolean(),
  syncopation: z.boolean(),
  ties: z.boolean(),
  pickup: z.boolean(),
  rests: z.boolean(),
  maxSlur: most(1),
  hooks: z.boolean(),
  retakes: z.boolean(),
  doubleStops: z.enum(DOUBLE_STOPS),
  drones: z.boolean(),
  graces: z.boolean(),
  slides: z.boolean(),
  skips: z.boolean(),
  crossingsPerSecond: most(),
  notesPerSecond: most(),
  accidentals: most(),
  signature: z.strictObject({ sharps: z.int().min(0).max(7), flats: z.int().min(0).max(7) }).nullable(),
  patterns: most(1),
  retuned: z.boolean(),
}) as unknown as z.ZodType<Limits, Limits>;

/** Everything that the hand and the bow can do. */
const EVERYTHING: Limits = {
  strings: null,
  fingers: null,
  range: null,
  shortest: null,
  maxSlur: null,
  patterns: null,
  low1: true,
  low2: true,
  high3: true,
  low4: true,
  extension: true,
  halfPosition: true,
  maxPosition: null,
  shifts: null,
  crossingsPerSecond: null,
  notesPerSecond: null,
  accidentals: null,
  dotted: true,
  triplets: true,
  syncopation: true,
  ties: true,
  pickup: true,
  rests: true,
  hooks: true,
  retakes: true,
  doubleStops: 'any',
  drones: true,
  graces: true,
  slides: true,
  skips: true,
  signature: null,
  retuned: true,
};

/** First pieces: home fingers of one pattern, quarters and halves, a stroke to each note. */
const FIRST: Limits = {
  strings: 2,
  fingers: [0, 1, 2, 3],
  range: 14,
  shortest: 1,
  maxSlur: 1,
  patterns: 1,
  low1: false,
  low2: false,
  high3: false,
  low4: false,
  extension: false,
  halfPosition: false,
  maxPosition: 'I',
  shifts: 0,
  crossingsPerSecond: 1,
  notesPerSecond: 2.5,
  accidentals: 0,
  dotted: false,
  triplets: false,
  syncopation: false,
  ties: false,
  // A plain note before the bar is first-term work, and in a song it is a word; how short it may be says `shortest`.
  pickup: true,
  rests: true,
  hooks: false,
  retakes: false,
  doubleStops: 'none',
  drones: false,
  graces: false,
  slides: false,
  skips: false,
  signature: { sharps: 3, flats: 0 },
  retuned: false,
};

type Steps = readonly [Limits, Limits, Limits, Limits, Limits, Limits];

/** Each grade is the one before with more allowed. */
function ladder(first: Limits, ...steps: readonly Partial<Limits>[]): Steps {
  const grades = [first];
  for (const step of steps) grades.push({ ...grades.at(-1)!, ...step });
  return [...grades, EVERYTHING] as unknown as Steps;
}

/** What rhythm, bow and ornament ask, the same for every instrument. */
const SECOND: Partial<Limits> = {
  strings: null,
  shortest: 0.5,
  maxSlur: 2,
  range: 24,
  notesPerSecond: 4,
  crossingsPerSecond: 2,
  accidentals: 1,
  signature: { sharps: 3, flats: 1 },
};
const THIRD: Partial<Limits> = {
  dotted: true,
  syncopation: true,
  ties: true,
  maxSlur: 4,
  hooks: true,
  retakes: true,
  skips: true,
  range: null,
  notesPerSecond: 6,
  crossingsPerSecond: 4,
  accidentals: 3,
  signature: { sharps: 4, flats: 3 },
  retuned: true,
};
const FOURTH: Partial<Limits> = {
  doubleStops: 'simple',
  drones: true,
  graces: true,
  slides: true,
  triplets: true,
  shortest: 0.25,
  maxSlur: 8,
  notesPerSecond: 9,
  crossingsPerSecond: 6,
  accidentals: null,
  signature: { sharps: 5, flats: 4 },
};
const FIFTH: Partial<Limits> = {
  doubleStops: 'any',
  maxSlur: null,
  notesPerSecond: 12,
  crossingsPerSecond: null,
  shortest: null,
  signature: null,
};

/**
 * Violin and viola: patterns of whole and half steps, then the fourth finger, then III. A signature is allowed where its scale can
 * be played, which on the viola is a fifth further down.
 */
const upper = (first: Limits['signature'], second: Limits['signature']): Steps =>
  ladder(
    { ...FIRST, signature: first },
    { ...SECOND, low2: true, patterns: 2, signature: second },
    // Flats come with the low fourth finger: without it E flat and A flat have no place.
    {
      ...THIRD,
      fingers: null,
      low1: true,
      high3: true,
      low4: true,
      patterns: 4,
      signature: { sharps: 4, flats: 2 },
    },
    { ...FOURTH, extension: true, patterns: null, halfPosition: true, maxPosition: 'III', shifts: 1 },
    { ...FIFTH, shifts: 6 },
  );
const VIOLIN = upper({ sharps: 3, flats: 0 }, { sharps: 3, flats: 0 });
const VIOLA = upper({ sharps: 2, flats: 0 }, { sharps: 2, flats: 1 });

/** Cello: the closed hand with its fourth finger from the first, extensions from the third on. */
const CELLO: Steps = ladder(
  {
    ...FIRST,
    fingers: null,
    low1: true,
    low2: true,
    high3: true,
    low4: true,
    patterns: 1,
    signature: { sharps: 2, flats: 0 },
  },
  { ...SECOND, patterns: 2, signature: { sharps: 2, flats: 1 } },
  { ...THIRD, extension: true, halfPosition: true, patterns: null, maxPosition: 'II', shifts: 1 },
  { ...FOURTH, maxPosition: 'IV', shifts: 3 },
  { ...FIFTH, maxPosition: 'VII', shifts: 8 },
);

/** Bass: half position and II come early, as a frame holds but a whole step. */
const BASS: Steps = ladder(
  { ...FIRST, fingers: null, low1: true, low2: true, high3: true, low4: true, patterns: 1 },
  { ...SECOND, halfPosition: true, maxPosition: 'II', shifts: 1, patterns: 2 },
  { ...THIRD, extension: true, maxPosition: 'III', shifts: 3, patterns: null },
  { ...FOURTH, maxPosition: 'IV', shifts: 6 },
  { ...FIFTH, maxPosition: 'VII', shifts: null },
);

const STEPS: Readonly<Record<HandId, Steps>> = { violin: VIOLIN, viola: VIOLA, cello: CELLO, bass: BASS };

/** What stands for the names below where a hand learns in another order. */
const OWN_NAMES: { readonly [Hand in HandId]?: { readonly [Grade in GradeNumber]?: string } } = {
  cello: { 3: 'Extensions' },
  bass: { 2: 'All strings, up to II', 3: 'Up to III' },
};
const NAMES: Readonly<Record<GradeNumber, string>> = {
  1: 'First pieces',
  2: 'All strings',
  3: 'The whole first position',
  4: 'Ornaments and drones',
  5: 'Shifting',
  6: 'Everything',
};

/**
 * A grade's contract for an instrument's hand.
 * @example contractFor('violin', 1).limits.maxSlur // 1
 */
export function contractFor(hand: HandId, grade: GradeNumber): Contract {
  return { name: OWN_NAMES[hand]?.[grade] ?? NAMES[grade], limits: STEPS[hand][grade - 1]! };
}

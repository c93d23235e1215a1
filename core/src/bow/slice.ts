/** What the teacher decides about the bow. */
import { z } from 'zod';
import type { BowMark } from '../music/index.ts';
import { slice } from '../stage/index.ts';
import { COUNTINGS, type Counting } from './counts.ts';
import { ownPatternSchema, type OwnPattern } from './patterns.ts';

export const SCHOOLS = ['as-it-comes', 'down-on-the-beat'] as const;
/**
 * As it comes: strictly to and fro, whatever happens. Down on the beat: each bar's first beat is down, and what it
 * takes for that is found. Section 5 of the domain.
 */
export type BowSchool = (typeof SCHOOLS)[number];

export const TUNE_SLURS = ['keep', 'prefer', 'ignore'] as const;
/** The tune's own slurs win over a pattern, yield to it, or are forgotten. */
export type TuneSlurs = (typeof TUNE_SLURS)[number];

/** Which first beats are down in the school that wants them down: of every bar, or of every part. */
export const DOWNBEATS = ['bar', 'part'] as const;
export type Downbeats = (typeof DOWNBEATS)[number];

export const REGIONS = ['lower half', 'middle', 'upper half', 'whole'] as const;
/** A part of the hair. */
export type Region = (typeof REGIONS)[number];

/** A pattern laid over a stretch of notes. */
export interface Laid {
  /** First and last written note. */
  readonly from: string;
  readonly to: string;
  /** Its id; null plays the stretch as the tune has it. */
  readonly pattern: string | null;
  /** Only in the second half of each bar. */
  readonly secondHalf?: boolean;
}

/** How long strokes are, over a stretch of notes: share of their natural length. */
export interface Length {
  readonly from: string;
  readonly to: string;
  readonly share: number;
}

export interface BowDecisions {
  readonly school: BowSchool;
  /** Schools of single parts, by their label. */
  readonly schools: Readonly<Record<string, BowSchool>>;
  readonly downbeats: Downbeats;
  /** The very first stroke; null leaves it to the school. */
  readonly start: BowMark | null;
  readonly tuneSlurs: TuneSlurs;
  /** Most notes to a stroke, kept slurs too; null cuts none that the tune brings, and plans at most four. */
  readonly maxSlur: number | null;
  /** Pattern of the whole tune. */
  readonly pattern: string | null;
  /** Patterns of stretches; the later wins. */
  readonly laid: readonly Laid[];
  /** Patterns of the teacher's own. */
  readonly own: readonly OwnPattern[];
  /** Verse whose syllables a pattern by syllable reads, from 0. */
  readonly verse: number;
  /** By the note that begins a stroke: which way it goes, whatever went before. */
  readonly turns: Readonly<Record<string, BowMark>>;
  /** By note: slurred to the one before, or cut off from it, whatever the tune says. */
  readonly slurs: Readonly<Record<string, 'joined' | 'cut'>>;
  /** By the note that begins a stroke: the bow goes the way of the stroke before, lifted between, or stopped. */
  readonly joints: Readonly<Record<string, 'lift' | 'stop'>>;
  /** From a note on, to the next entry: in which part of the hair; by hand. */
  readonly regions: Readonly<Record<string, Region>>;
  readonly lengths: readonly Length[];
  /** Every stroke has its sign, not only those that a player needs. */
  readonly everyMark: boolean;
  /** What is said on each note. */
  readonly counting: Counting;
  /** Lengths along the hair in inches; else in millimetres. */
  readonly inches: boolean;
}

/** Notes to a stroke that a plan makes at most. */
export const USUAL_SLUR = 4;
/** More notes to a stroke than anybody asks for. */
export const LONGEST_SLUR = 32;

const direction = z.enum(['down', 'up']);
const noteId = z.string().max(64);
const pattern = z.string().min(1).max(64);

const FIRST: BowDecisions = {
  school: 'as-it-comes',
  schools: {},
  downbeats: 'bar',
  start: null,
  tuneSlurs: 'keep',
  maxSlur: null,
  pattern: null,
  laid: [],
  own: [],
  verse: 0,
  turns: {},
  slurs: {},
  joints: {},
  regions: {},
  lengths: [],
  everyMark: false,
  counting: 'numbers',
  inches: false,
};

export const bowSlice = slice<BowDecisions>({
  schema: z.strictObject({
    school: z.enum(SCHOOLS),
    schools: z.record(z.string().min(1).max(40), z.enum(SCHOOLS)),
    downbeats: z.enum(DOWNBEATS),
    start: direction.nullable(),
    tuneSlurs: z.enum(TUNE_SLURS),
    maxSlur: z.int().min(1).max(LONGEST_SLUR).nullable(),
    pattern: pattern.nullable(),
    laid: z
      .array(
        z.strictObject({
          from: noteId,
          to: noteId,
          pattern: pattern.nullable(),
          secondHalf: z.boolean().optional(),
        }),
      )
      .max(1000),
    own: z.array(ownPatternSchema).max(100),
    verse: z.int().min(0).max(20),
    turns: z.record(noteId, direction),
    slurs: z.record(noteId, z.enum(['joined', 'cut'])),
    joints: z.record(noteId, z.enum(['lift', 'stop'])),
    regions: z.record(noteId, z.enum(REGIONS)),
    lengths: z.array(z.strictObject({ from: noteId, to: noteId, share: z.number().min(0.1).max(3) })).max(1000),
    everyMark: z.boolean(),
    counting: z.enum(COUNTINGS),
    inches: z.boolean(),
  }) as unknown as z.ZodType<BowDecisions, BowDecisions>,
  first: FIRST,
  // Before there were any, the bow went as it came.
  older: () => FIRST,
});

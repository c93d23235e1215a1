/** What the teacher decides about a version: for which grade, under which contract, what stays, what was chosen. */
import { z } from 'zod';
import type { HandId } from '../instrument/index.ts';
import { slice } from '../stage/index.ts';
import { contractFor, limitsSchema, GRADE_NUMBERS, type Contract, type GradeNumber, type Limits } from './contract.ts';

export const GRADES = ['tune', 'bare', ...GRADE_NUMBERS] as const;
/** As it is; with only the notes that carry each beat; or as a grade's contract allows. */
export type GradeId = (typeof GRADES)[number];

/** Where a tune has words: each syllable keeps its note, or the rhythm is loosened for strings. */
export const RHYTHMS = ['sung', 'played'] as const;
/** What becomes of a note that is repeated for the sake of a syllable. */
export const REPEATED = ['as-sung', 'joined', 'varied'] as const;

/** What a phrase is the second or a later time round: as in another version, or an octave away. */
export const SLOT_FILLS = ['octave-up', 'octave-down', ...GRADES] as const;
export type SlotFill = (typeof SLOT_FILLS)[number];
/** By the first note of a phrase, which stays when phrases are counted anew; then by the time round, from 2. */
export type Slots = Readonly<Record<string, Readonly<Record<string, SlotFill>>>>;
/** No tune comes round more often. */
export const MOST_ROUNDS = 9;

/** What goes with the tune in its place: open strings and what is as easy, a bass, off-beats, a second voice. */
export const LINE_ROLES = ['drone', 'bass', 'off-beats', 'second'] as const;
export type LineRole = (typeof LINE_ROLES)[number];

export interface VersionDecisions {
  readonly grade: GradeId;
  /** A line that goes with the tune, under the grade's contract; null for the tune itself. */
  readonly line: LineRole | null;
  /** What the arrangement is called; null where its grade and instrument say enough. */
  readonly name: string | null;
  /** A contract of the teacher's own in the place of the grade's. */
  readonly contract: Contract | null;
  /** Changes that are not wanted: beats that stay as in the tune, by their window; `key` keeps the key, `octave` the pitch. */
  readonly kept: readonly string[];
  /** Notes that stay, where and as they are. */
  readonly locked: readonly string[];
  /** By window: another way to fill it. */
  readonly chosen: Readonly<Record<string, string>>;
  /** The simpler grades of the tune climb in one key; else each in the one that is best for it. */
  readonly oneKey: boolean;
  /** Richer than the tune: how much is added, as a share of the places where something could be. */
  readonly density: number;
  readonly rhythm: (typeof RHYTHMS)[number];
  readonly repeated: (typeof REPEATED)[number];
  readonly slots: Slots;
}

const gradeSchema = z.union([z.enum(['tune', 'bare']), z.literal([1, 2, 3, 4, 5, 6])]);
const windowId = z.string().max(160);

const FIRST: VersionDecisions = {
  grade: 'tune',
  line: null,
  name: null,
  contract: null,
  kept: [],
  locked: [],
  chosen: {},
  oneKey: true,
  density: 0.5,
  rhythm: 'sung',
  repeated: 'as-sung',
  slots: {},
};

export const versionSlice = slice<VersionDecisions>({
  schema: z.strictObject({
    grade: gradeSchema,
    line: z.enum(LINE_ROLES).nullable(),
    name: z.string().trim().min(1).max(80).nullable(),
    contract: z.strictObject({ name: z.string().trim().min(1).max(60), limits: limitsSchema }).nullable(),
    kept: z.array(windowId).max(5000),
    locked: z.array(z.string().max(64)).max(5000),
    chosen: z.record(windowId, z.string().max(400)),
    oneKey: z.boolean(),
    density: z.number().min(0).max(1),
    rhythm: z.enum(RHYTHMS),
    repeated: z.enum(REPEATED),
    slots: z.record(
      z.string().max(64),
      z.record(z.string().regex(/^[2-9]$/), z.union([gradeSchema, z.enum(['octave-up', 'octave-down'])])),
    ),
  }) as unknown as z.ZodType<VersionDecisions, VersionDecisions>,
  first: FIRST,
  retired: ['round'],
  older: ({ version }) => ({ ...FIRST, grade: version }),
});

/** @example isGraded(3) // true */
export const isGraded = (grade: GradeId): grade is GradeNumber => typeof grade === 'number';

/**
 * The contract that holds for a version; null where there is none.
 * @example contractOf({ ...versionSlice.first, grade: 1 }, 'violin').name // 'First pieces'
 */
export function contractOf(
  { grade, contract }: Pick<VersionDecisions, 'grade' | 'contract'>,
  hand: HandId,
): Contract | null {
  return isGraded(grade) ? (contract ?? contractFor(hand, grade)) : null;
}

/** @example limitsOf({ ...versionSlice.first }, 'violin') // null */
export const limitsOf = (decided: Pick<VersionDecisions, 'grade' | 'contract'>, hand: HandId): Limits | null =>
  contractOf(decided, hand)?.limits ?? null;

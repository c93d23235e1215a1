/**
 * What the teacher decides for an arrangement, a slice for each stage that reads it. With the tune that is all
 * that is stored; everything else is worked out.
 */
import { z } from 'zod';
import { bowSlice, type BowDecisions } from '../bow/index.ts';
import { versionSlice, type VersionDecisions } from '../grade/index.ts';
import { handSlice, type HandDecisions } from '../hand/index.ts';
import { keySlice, type KeyDecisions } from '../instrument/index.ts';
import { paceSlice, signSlice, type PaceDecisions, type SignDecisions } from '../music/index.ts';
import { sheetSlice, type SheetDecisions } from '../paper/index.ts';
import { readSlices, type Slice } from '../stage/index.ts';
import { lessonSlice, type LessonDecisions } from './lessonSlice.ts';
import { staffSlice, type StaffDecisions } from './staff.ts';
import { talkSlice, type TalkDecisions } from './talkSlice.ts';

export interface Decisions {
  readonly key: KeyDecisions;
  readonly version: VersionDecisions;
  readonly signs: SignDecisions;
  readonly pace: PaceDecisions;
  readonly bow: BowDecisions;
  readonly hand: HandDecisions;
  readonly staff: StaffDecisions;
  /** What is said in other words than Nokta's: no stage reads it. */
  readonly talk: TalkDecisions;
  /** How it is taught, step by step: no stage reads it. */
  readonly lesson: LessonDecisions;
  /** How it is printed, and what is played before it: no stage reads it. */
  readonly sheet: SheetDecisions;
}
export type SliceName = keyof Decisions;

/** Where a slice's type, schema, first value and older shapes stand. */
export const SLICES: { readonly [Name in SliceName]: Slice<Decisions[Name]> } = {
  key: keySlice,
  version: versionSlice,
  signs: signSlice,
  pace: paceSlice,
  bow: bowSlice,
  hand: handSlice,
  staff: staffSlice,
  talk: talkSlice,
  lesson: lessonSlice,
  sheet: sheetSlice,
};
const NAMES = Object.keys(SLICES) as readonly SliceName[];

const each = <Value>(make: (name: SliceName) => Value): Readonly<Record<SliceName, Value>> =>
  Object.fromEntries(NAMES.map((name) => [name, make(name)])) as Record<SliceName, Value>;

export const FIRST_DECISIONS = each((name) => SLICES[name].first) as unknown as Decisions;

/** Some fields of some slices. */
export type DecisionChange = { readonly [Name in SliceName]?: Partial<Decisions[Name]> };

/**
 * Decisions with some of them changed; slices in which nothing changes stay the same objects.
 * @example decided(FIRST_DECISIONS, { key: { transpose: 2 }, pace: { tempo: 80 } }).key.transpose // 2
 */
export function decided(decisions: Decisions, change: DecisionChange): Decisions {
  return each((name) =>
    change[name] ? { ...decisions[name], ...change[name] } : decisions[name],
  ) as unknown as Decisions;
}

/** What older programs stored: all decisions side by side. */
const isFlat = (stored: unknown): stored is Readonly<Record<string, unknown>> =>
  typeof stored === 'object' && stored !== null && 'instrument' in stored;

/** What a program stored that did not know every slice and field yet: those begin as if nothing was decided. */
const isSliced = (stored: unknown): stored is Readonly<Record<string, unknown>> =>
  typeof stored === 'object' && stored !== null && 'key' in stored && 'hand' in stored;

const current = readSlices<Decisions>(SLICES);

/** Decisions as they are sent and stored, to the last field; older shapes are read by the slice that knows them. */
export const decisionsSchema = z.preprocess(
  (stored) => (isFlat(stored) ? each((name) => SLICES[name].older(stored)) : isSliced(stored) ? stored : null),
  current,
) as unknown as z.ZodType<Decisions, Decisions>;

/**
 * Decisions as they stand in the store.
 * @throws ZodError for what cannot be read
 * @example readDecisions(FIRST_DECISIONS).version.grade // 'tune'
 */
export const readDecisions = (stored: unknown): Decisions => decisionsSchema.parse(stored);

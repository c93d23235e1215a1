/** What the teacher decides about the bow. */
import { z } from 'zod';
import type { BowMark } from '../music/index.ts';
import { slice } from '../stage/index.ts';

export const SCHOOLS = ['as-it-comes', 'down-on-the-beat'] as const;
/**
 * As it comes: strictly to and fro, whatever happens. Down on the beat: each bar's first beat is down, and what it
 * takes for that is found. Section 5 of the domain.
 */
export type BowSchool = (typeof SCHOOLS)[number];

export interface BowDecisions {
  readonly school: BowSchool;
  /** The very first stroke; null leaves it to the school. */
  readonly start: BowMark | null;
  /** By the note that begins a stroke: which way it goes, whatever went before. */
  readonly turns: Readonly<Record<string, BowMark>>;
  /** By note: slurred to the one before, or cut off from it, whatever the tune says. */
  readonly slurs: Readonly<Record<string, 'joined' | 'cut'>>;
}

const direction = z.enum(['down', 'up']);
const noteId = z.string().max(64);

const FIRST: BowDecisions = { school: 'as-it-comes', start: null, turns: {}, slurs: {} };

export const bowSlice = slice<BowDecisions>({
  schema: z.strictObject({
    school: z.enum(SCHOOLS),
    start: direction.nullable(),
    turns: z.record(noteId, direction),
    slurs: z.record(noteId, z.enum(['joined', 'cut'])),
  }),
  first: FIRST,
  // Before there were any, the bow went as it came.
  older: () => FIRST,
});

/** What a hand may do. */
import { z } from 'zod';
import type { Semitones } from '../music/index.ts';
import { POSITIONS, type BassSchool, type CelloSchool, type Level } from './vocabulary.ts';

export interface HandLimits {
  readonly noFourth?: boolean;
  /** The hand stays in one frame: no open hand on the cello, no stretched fourth finger. */
  readonly noExtension?: boolean;
  readonly noDoubleStops?: boolean;
  readonly maxPosition?: Level;
  readonly bassSchool?: BassSchool;
  readonly celloSchool?: CelloSchool;
  /** Furthest stop above an open string: where the fingerboard ends, or the keys. */
  readonly reach?: Semitones;
}
export type LimitName = keyof HandLimits;

export const limitsSchema = z.strictObject({
  noFourth: z.boolean().optional(),
  noExtension: z.boolean().optional(),
  noDoubleStops: z.boolean().optional(),
  maxPosition: z.enum(POSITIONS).optional(),
  bassSchool: z.enum(['three', 'four']).optional(),
  celloSchool: z.enum(['shift', 'extend']).optional(),
  reach: z.number().int().min(1).max(48).optional(),
}) satisfies z.ZodType<HandLimits, HandLimits>;

/** How things are called: notes, fingers, places. A value of its own, so that screen, sheet and speech say the same. */
import { z } from 'zod';

/** English letters, German ones, or the syllables of fixed do. */
export const NAMINGS = ['english', 'german', 'fixed-do'] as const;
export type Naming = (typeof NAMINGS)[number];
export const USUAL_NAMING: Naming = 'english';

/** "low 2", "2 low", or "L2". */
export const FINGER_WORDS = ['sign-first', 'finger-first', 'letter'] as const;
export type FingerWords = (typeof FINGER_WORDS)[number];

/** What is named first where both are: "bar 6, in A2", or "A2, bar 6". */
export const PLACE_WORDS = ['bars', 'phrases'] as const;
export type PlaceWords = (typeof PLACE_WORDS)[number];

export interface Names {
  readonly notes: Naming;
  readonly fingers: FingerWords;
  readonly places: PlaceWords;
}

export const USUAL_NAMES: Names = { notes: USUAL_NAMING, fingers: 'sign-first', places: 'bars' };

export const namesSchema = z.strictObject({
  notes: z.enum(NAMINGS),
  fingers: z.enum(FINGER_WORDS),
  places: z.enum(PLACE_WORDS),
}) satisfies z.ZodType<Names, Names>;

/** The sheet that is kept with an arrangement, and what is played before it: no stage reads them. */
import { z } from 'zod';
import { slice } from '../stage/index.ts';
import { someStyleSchema, type SheetStyle } from './style.ts';

/** What a warm-up is for; see `warmup/`. */
export const WARM_UP_KINDS = [
  'scale',
  'arpeggio',
  'crossing',
  'block',
  'shift',
  'double-stop',
  'bowing',
  'rhythm',
  'drone',
  'spot',
] as const;
export type WarmUpKind = (typeof WARM_UP_KINDS)[number];

/** Which drill at which place; the drill itself is worked out. */
export interface WarmUpChoice {
  readonly kind: WarmUpKind;
  /** The note that it prepares; null for what prepares the whole tune. */
  readonly note: string | null;
}

/** What the sheet says of the lesson that it was printed for. */
export interface LessonNote {
  /** The day, as "2026-03-14"; null where it is left to be written by hand. */
  readonly date: string | null;
  /** What to do for the next time; empty for lines to write on. */
  readonly next: string;
}
export const MOST_NEXT = 280;
/** A longer address makes a square too fine to be read from paper. */
export const MOST_LINK = 200;

export interface SheetDecisions {
  /** The style that this arrangement is printed in; null where it is the one of the hand, or the usual one. */
  readonly style: { readonly name: string; readonly style: SheetStyle } | null;
  /** The warm-ups that the teacher kept, in their order; null for those that Nokta proposes. */
  readonly warmUps: readonly WarmUpChoice[] | null;
  readonly lesson: LessonNote;
  /** Address of a page to practise with, printed to be read by a telephone; null for none. */
  readonly link: string | null;
}

/**
 * An address as it is printed, http or https.
 * @throws ZodError with the remedy
 * @example linkSchema.parse('https://strings.example/lantern') // 'https://strings.example/lantern'
 */
export const linkSchema = z
  .url({ protocol: /^https?$/, error: 'An address begins with https:// or http://' })
  .max(MOST_LINK, `An address has at most ${MOST_LINK} letters: the square is too fine to be read else.`);

export const NO_LESSON_NOTE: LessonNote = { date: null, next: '' };

const NOTHING_DECIDED: SheetDecisions = { style: null, warmUps: null, lesson: NO_LESSON_NOTE, link: null };

const MOST_WARM_UPS = 24;

export const styleNameSchema = z.string().trim().min(1, 'A style needs a name.').max(60);

export const sheetSlice = slice<SheetDecisions>({
  schema: z.strictObject({
    // Fields that came later begin as usual.
    style: z.strictObject({ name: styleNameSchema, style: someStyleSchema }).nullable(),
    warmUps: z
      .array(z.strictObject({ kind: z.enum(WARM_UP_KINDS), note: z.string().max(64).nullable() }))
      .max(MOST_WARM_UPS)
      .nullable(),
    lesson: z
      .strictObject({
        date: z.iso.date('A date is a year, a month and a day.').nullable(),
        next: z.string().max(MOST_NEXT, `At most ${MOST_NEXT} letters, please.`),
      })
      .default(NO_LESSON_NOTE),
    link: linkSchema.nullable().default(null),
  }) as unknown as z.ZodType<SheetDecisions, SheetDecisions>,
  first: NOTHING_DECIDED,
  older: () => NOTHING_DECIDED,
});

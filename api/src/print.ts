/** Pages, pictures and files. */
import { z } from 'zod';
import { type Decisions, decisionsSchema } from '@nokta/core/arrange';
import { playerSchema } from '@nokta/core/files';
import { MOST_ROUNDS } from '@nokta/core/grade';
import { HAND_IDS, MAKE_BOUNDS } from '@nokta/core/instrument';
import { type Tune, tuneSchema } from '@nokta/core/music';
import { BINDINGS, PAPERS, type SheetStyle, someStyleSchema, tapesSchema } from '@nokta/core/paper';

const MOST_TUNES = 200;

/** A strip of tapes to print. */
export const tapeQuery = z.strictObject({
  name: z.string().trim().min(1).max(60),
  hand: z.enum(HAND_IDS).default('violin'),
  length: z.coerce
    .number('A string length is a number of millimetres.')
    .min(
      MAKE_BOUNDS.length[0],
      `A string is at least ${MAKE_BOUNDS.length[0]} mm long. Measure it from the nut to the bridge.`,
    )
    .max(
      MAKE_BOUNDS.length[1],
      `A string is at most ${MAKE_BOUNDS.length[1]} mm long. Measure it from the nut to the bridge.`,
    ),
  tapes: z
    .string()
    .max(4000)
    .transform((text, context) => jsonIn(text, context, 'The tapes are no JSON.'))
    .pipe(tapesSchema),
  paper: z.enum(PAPERS).default('a4'),
});

/** A page of the workshop's, of a tune that is not kept. */
export const printRequest = z.strictObject({ tune: tuneSchema, decisions: decisionsSchema, style: someStyleSchema });

/** A book of tunes. */
export const bookRequest = z.strictObject({
  /** Chosen by who asks, so that they can ask how far it is. */
  run: z.uuid(),
  title: z.string().trim().min(1, 'A book needs a title.').max(120),
  line: z.string().trim().max(120),
  /** In the order of the book. */
  tunes: z.array(z.uuid()).min(1, 'A book needs a tune.').max(MOST_TUNES, `A book has at most ${MOST_TUNES} tunes.`),
  /** An edition for each; one as the tunes are arranged where nobody is named. */
  players: z.array(playerSchema).max(40),
  style: someStyleSchema,
  binding: z.enum(BINDINGS),
  warmUps: z.boolean(),
});
export type BookRequest = z.infer<typeof bookRequest>;

/** How far a book is. */
export interface BookProgress {
  readonly done: number;
  readonly total: number;
}

function jsonIn(text: string, context: z.RefinementCtx, message: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    context.addIssue({ code: 'custom', message });
    return z.NEVER;
  }
}

/** A sheet's style as JSON, as much of it as is not usual. */
export const style = z
  .string()
  .max(20_000)
  .default('{}')
  .transform((text, context) => jsonIn(text, context, 'The style of the sheet is no JSON.'))
  .pipe(someStyleSchema);

/** Which time round, where phrases change when they come again. */
const round = z.coerce.number().int().min(1).max(MOST_ROUNDS).default(1);

export const sheetQuery = z.strictObject({ style, round });

/** A page as a picture. */
export const pictureQuery = z.strictObject({ style, round, page: z.coerce.number().int().min(1).max(200).default(1) });

export const fileQuery = z.strictObject({ tab: z.stringbool().default(false), round });

export interface PrintRequest {
  readonly tune: Tune;
  readonly decisions: Decisions;
  readonly style: SheetStyle;
}

export interface SheetPages {
  readonly pages: readonly string[];
}

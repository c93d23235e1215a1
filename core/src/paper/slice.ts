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

export interface SheetDecisions {
  /** The style that this arrangement is printed in; null where it is the one of the hand, or the usual one. */
  readonly style: { readonly name: string; readonly style: SheetStyle } | null;
  /** The warm-ups that the teacher kept, in their order; null for those that Nokta proposes. */
  readonly warmUps: readonly WarmUpChoice[] | null;
}

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
  }) as unknown as z.ZodType<SheetDecisions, SheetDecisions>,
  first: { style: null, warmUps: null },
  older: () => ({ style: null, warmUps: null }),
});

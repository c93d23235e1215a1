/** The signs stage: accents and length signs that the teacher sets on notes, or takes away. */
import { z } from 'zod';
import { slice } from '../stage/index.ts';
import { mapNotes, type Decoration, type Note, type Tune } from './tune.ts';

/** Signs on the way that a note is begun and how long it is held: an accent, a line, a dot. */
export const STROKE_SIGNS = ['accent', 'tenuto', 'staccato'] as const satisfies readonly Decoration[];
export type StrokeSign = (typeof STROKE_SIGNS)[number];

export interface SignDecisions {
  /** By note: the signs that it has, whatever the tune has there; none takes the tune's away. */
  readonly strokeSigns: Readonly<Record<string, readonly StrokeSign[]>>;
}

export const signSlice = slice<SignDecisions>({
  schema: z.strictObject({
    strokeSigns: z.record(z.string().max(64), z.array(z.enum(STROKE_SIGNS)).max(STROKE_SIGNS.length)),
  }) as unknown as z.ZodType<SignDecisions, SignDecisions>,
  first: { strokeSigns: {} },
  // Before there were any, a note had the tune's.
  older: () => ({ strokeSigns: {} }),
});

const isStrokeSign = (sign: Decoration): sign is StrokeSign => (STROKE_SIGNS as readonly Decoration[]).includes(sign);

/**
 * The accents and length signs of a note.
 * @example strokeSignsOf({ decorations: ['trill', 'accent'] }) // ['accent']
 */
export const strokeSignsOf = ({ decorations = [] }: Pick<Note, 'decorations'>): readonly StrokeSign[] =>
  decorations.filter(isStrokeSign);

/**
 * The tune with the signs that were decided; the very same tune where there are none.
 * @example signedTune(reel, { strokeSigns: {} }) === reel // true
 */
export function signedTune(tune: Tune, { strokeSigns }: SignDecisions): Tune {
  if (Object.keys(strokeSigns).length === 0) return tune;
  return mapNotes(tune, (note) => {
    const own = strokeSigns[note.id];
    if (!own) return note;
    const { decorations = [], ...plain } = note;
    const signs = [...decorations.filter((sign) => !isStrokeSign(sign)), ...own];
    return { ...plain, ...(signs.length > 0 && { decorations: signs }) };
  });
}

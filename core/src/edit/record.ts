/** A tune as a record: changes of runs of bars, of slurs and of named fields. */
import { z } from 'zod';
import { tuneSchema, type Tune } from '../music/index.ts';
import { recordKind } from '../record/index.ts';
import { applyChange, changeBetween, invertChange, isMadeOn, type TuneChange } from './change.ts';
import { mergedChange } from './merge.ts';

/**
 * A tune and changes of it.
 * @example tuneRecord.between(reel, { ...reel, style: 'reel' }).fields.after // { style: 'reel' }
 */
export const tuneRecord = recordKind<Tune, TuneChange>({
  kind: 'tune',
  schema: tuneSchema as unknown as z.ZodType<Tune, Tune>,
  // What a change makes is checked as a whole tune; the change itself only has to have the right shape.
  changeSchema: z.looseObject({}) as unknown as z.ZodType<TuneChange, TuneChange>,
  between: changeBetween,
  fits: isMadeOn,
  apply: applyChange,
  invert: invertChange,
  merge: mergedChange,
  // Bars that are others by now cannot be changed as those were.
  lay: mergedChange,
});

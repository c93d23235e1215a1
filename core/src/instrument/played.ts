/** Which instrument somebody plays, and in which make. */
import { z } from 'zod';
import { INSTRUMENTS, type InstrumentId } from './instrument.ts';
import { makeSchema, type InstrumentMake } from './make.ts';

export interface PlayedInstrument {
  readonly like: InstrumentId;
  readonly make: InstrumentMake | null;
}
export const playedInstrumentSchema = z.strictObject({
  like: z.enum(INSTRUMENTS),
  make: makeSchema.nullable(),
}) satisfies z.ZodType<PlayedInstrument, PlayedInstrument>;

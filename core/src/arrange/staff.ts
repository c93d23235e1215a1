/**
 * What the staff of a retuned instrument shows: the pitch that sounds, or the note as it is fingered, as if the strings
 * were tuned as usual. Section 3 of the domain. Sound, form and fingers always go by what sounds.
 */
import { z } from 'zod';
import type { Fingering } from '../hand/index.ts';
import { isRetuned, type Instrument, type Tuning } from '../instrument/index.ts';
import { mapNotes, midi, step, transposePitch, type Pitch, type Tune } from '../music/index.ts';
import { slice } from '../stage/index.ts';

export const STAFF_PITCHES = ['sounding', 'fingered'] as const;
export type StaffPitch = (typeof STAFF_PITCHES)[number];

export interface StaffDecisions {
  /** Makes no difference where no string is retuned. */
  readonly pitch: StaffPitch;
}

export const staffSlice = slice<StaffDecisions>({
  schema: z.strictObject({ pitch: z.enum(STAFF_PITCHES) }),
  first: { pitch: 'sounding' },
  older: () => ({ pitch: 'sounding' }),
});

interface Fingered {
  readonly fingering: Fingering;
  readonly instrument: Instrument;
  readonly tuning: Tuning;
}

/**
 * The tune with each note where its finger lies on a string of the usual tuning; what no string plays stays as it
 * sounds. The very same tune where nothing is retuned.
 * @example asFingered(reel, arrangement) === reel // true
 */
export function asFingered(tune: Tune, { fingering, instrument, tuning }: Fingered): Tune {
  if (!isRetuned(instrument, tuning)) return tune;
  const usual = instrument.strings.map((string) => string.usual);
  const stopsOf = new Map(fingering.notes.flatMap(({ ids, stops }) => ids.map((id) => [id, stops] as const)));
  const written = (id: string, pitch: Pitch): Pitch => {
    const stop = stopsOf.get(id)?.find((one) => midi(one.pitch) === midi(pitch));
    if (!stop) return pitch;
    const [from, to] = [tuning.pitches[stop.string]!, usual[stop.string]!];
    return transposePitch(pitch, step(to) - step(from), midi(to) - midi(from));
  };
  return mapNotes(tune, (note) => ({
    ...note,
    // Two strings can be written in another order than they sound.
    heads: note.heads
      .map((head) => ({ ...head, pitch: written(note.id, head.pitch) }))
      .sort((a, b) => midi(a.pitch) - midi(b.pitch)),
    ...(note.graces && {
      graces: note.graces.map((grace) => ({ ...grace, pitch: written(grace.id, grace.pitch) })),
    }),
  }));
}

/**
 * The travel stage, still thin: how long each stroke lasts, and how much hair it takes if nothing holds the bow
 * back. Section 5 of the domain.
 */
import { seconds, soundingNotes, type Bpm, type Seconds, type Tune } from '../music/index.ts';
import type { Millimetres } from '../instrument/index.ts';
import type { Bowing } from './strokes.ts';

/** Speed of the bow in millimetres a second at mezzo-forte. Source: section 5 of the domain. */
const MEZZO_FORTE = 320;

export interface Travel {
  readonly duration: Seconds;
  /** Natural length: speed × time. */
  readonly natural: Millimetres;
}

/**
 * One for each stroke, in their order.
 * @example travelOf(bowTune(reel, form), reel, 120)[0].natural // 160
 */
export function travelOf({ strokes }: Pick<Bowing, 'strokes'>, tune: Tune, tempo: Bpm): readonly Travel[] {
  const lasting = new Map(soundingNotes(tune).map(({ note, duration }) => [note.id, duration]));
  return strokes.map(({ notes }) => {
    const duration = seconds(
      notes.reduce((sum, id) => sum + (lasting.get(id) ?? 0), 0),
      tempo,
    );
    return { duration, natural: MEZZO_FORTE * duration };
  });
}

/** A beat run through in three: up or down a fourth, or round the note. */
import { valueOf } from '../../music/index.ts';
import { dressing, fillsItsBeats } from './dressing.ts';
import { partsOf } from './parts.ts';

/** Letter steps of the three notes, by those to the next note. */
function stepsFor(toNext: number): readonly number[] | null {
  const way = Math.sign(toNext);
  if (Math.abs(toNext) === 3) return [0, way, 2 * way];
  return toNext === 0 ? [0, 1, 0] : null;
}

export const triplet = dressing({
  id: 'triplet',
  // At home in hornpipes and reels; jigs run in threes anyway, and songs do not run.
  usual: { reel: 0.9, jig: 0.3, hornpipe: 1, polka: 0.6, song: 0.3, march: 0.8, swing: 0.7, other: 0.6 },
  offer(spot) {
    const { note, limits, toNext, beat, compound, least } = spot;
    const eighth = beat / 2;
    if (toNext === null || !fillsItsBeats(spot)) return null;
    if (!limits.triplets || compound || note.duration !== beat || eighth < least || !valueOf(eighth)) return null;
    const pitches = stepsFor(toNext)?.map((steps) => spot.inKey(steps)) ?? [];
    if (pitches.length === 0 || !pitches.every((one) => spot.can(one))) return null;
    return { worth: 1, events: partsOf(note, pitches, beat / 3, 't'), is: pitches };
  },
});

/** A third or a sixth below it, from the chord: two fingers, where the contract has them. */
import { midi, type Midi } from '../../music/index.ts';
import type { Places } from '../search.ts';
import { dressing } from './dressing.ts';

/** Letter steps to the second voice, in this order. */
const BELOW = [-2, -5];
/** Two fingers are dearer than an open string that rings along. */
const WORTH = 0.7;

/** Whether two pitches lie on neighbouring strings. */
const neighbours = (places: Places, one: Midi, other: Midi): boolean =>
  (places.get(one) ?? []).some((string) => (places.get(other) ?? []).some((at) => at - string === 1));

export const doubleStop = dressing({
  id: 'double-stop',
  // A second voice belongs to no style more than to another.
  usual: { reel: 0.7, jig: 0.7, hornpipe: 0.7, polka: 0.7, song: 0.7, march: 0.7, swing: 0.7, other: 0.7 },
  offer(spot) {
    const { note, pitch, limits, places, tones, window, beat } = spot;
    if (limits.doubleStops !== 'simple' && limits.doubleStops !== 'any') return null;
    if (note.duration < beat || !window.strong) return null;
    const below = BELOW.map((steps) => spot.inKey(steps)).find(
      (one) => spot.can(one) && tones.includes(midi(one) % 12) && neighbours(places, midi(one), spot.midi),
    );
    return below
      ? { worth: WORTH, events: [{ ...note, heads: [{ pitch: below }, { pitch }] }], is: [below, pitch] }
      : null;
  },
});

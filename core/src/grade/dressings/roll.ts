/** Above and below a note and back: there must be a finger on either side. */
import { midi } from '../../music/index.ts';
import { dressing, isOpen } from './dressing.ts';

/** Beats that it needs, where they are not of three. */
const LEAST_BEATS = 1.5;

export const roll = dressing({
  id: 'roll',
  // The sign of reels and jigs; elsewhere it is a guest.
  usual: { reel: 1, jig: 1, hornpipe: 0.5, polka: 0.4, song: 0.2, march: 0.3, swing: 0.1, other: 0.4 },
  offer(spot) {
    const { note, pitch, limits, open, compound, beat } = spot;
    const [above, low] = [spot.inKey(1), spot.inKey(-1)];
    if (!limits.graces || note.graces || isOpen(spot, spot.midi)) return null;
    if (!spot.can(above) || !spot.can(low) || midi(low) < Math.min(...open.map(midi))) return null;
    if (note.duration < (compound ? beat : LEAST_BEATS * beat)) return null;
    if (note.decorations?.some((sign) => sign !== 'accent')) return null;
    return {
      worth: 1,
      events: [{ ...note, decorations: [...(note.decorations ?? []), 'roll'] }],
      is: [above, pitch, low],
    };
  },
});

/** The open string, and at once the finger on it. */
import { midi } from '../../music/index.ts';
import { dressing, isOpen } from './dressing.ts';

const WORTH = 0.8;

export const hammerOn = dressing({
  id: 'hammer-on',
  // Swung tunes and reels hammer on; marches and hornpipes speak more plainly.
  usual: { reel: 0.7, jig: 0.5, hornpipe: 0.3, polka: 0.4, song: 0.3, march: 0.2, swing: 0.8, other: 0.4 },
  offer(spot) {
    const { note, pitch, limits, window, before, beat } = spot;
    const low = spot.inKey(-1);
    if (!limits.graces || note.graces || low === null || !isOpen(spot, midi(low)) || spot.clashes(low)) return null;
    if (note.duration < beat / 2 || (!window.strong && !before)) return null;
    const graces = [{ id: `${note.id}h`, pitch: low, slash: true }];
    return { worth: WORTH, events: [{ ...note, graces }], is: [low, pitch] };
  },
});

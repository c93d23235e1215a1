/** A quick note from above before the note, to set it off. */
import { dressing, isAgain } from './dressing.ts';

/** Between two notes of one pitch it parts them: there it is most at home. */
const PARTS = 1.1;
const OPENS = 0.8;

export const cut = dressing({
  id: 'cut',
  // Reels and jigs are cut everywhere; swung tunes seldom.
  usual: { reel: 1, jig: 1, hornpipe: 0.7, polka: 0.6, song: 0.4, march: 0.7, swing: 0.3, other: 0.6 },
  offer(spot) {
    const { note, pitch, limits, window, beat } = spot;
    const above = spot.inKey(1);
    if (!limits.graces || note.graces || !spot.can(above) || note.duration < beat / 2) return null;
    if (!window.strong && !isAgain(spot)) return null;
    const graces = [{ id: `${note.id}c`, pitch: above, slash: true }];
    return { worth: isAgain(spot) ? PARTS : OPENS, events: [{ ...note, graces }], is: [above, pitch] };
  },
});

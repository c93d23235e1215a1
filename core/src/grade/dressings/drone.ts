/** An open string next to it that belongs to the chord, under or over the note. */
import { midi } from '../../music/index.ts';
import { dressing } from './dressing.ts';

/** Semitones, octaves aside, that sound well together: not the seconds, sevenths and the tritone. */
const CONSONANT: ReadonlySet<number> = new Set([0, 3, 4, 5, 7, 8, 9]);

export const drone = dressing({
  id: 'drone',
  // Dances to march or stamp to ring most; swung tunes least.
  usual: { reel: 0.9, jig: 0.7, hornpipe: 0.6, polka: 1, song: 0.8, march: 1, swing: 0.4, other: 0.8 },
  offer({ note, pitch, limits, places, open, tones, window, beat, midi: own }) {
    if (!limits.drones || limits.doubleStops === 'none' || note.duration < beat || !window.strong) return null;
    const strings = places.get(own) ?? [];
    const drone = open
      .map((one, string) => ({ one, string }))
      .find(({ one, string }) => {
        const consonant = CONSONANT.has(Math.abs(midi(one) - own) % 12) && midi(one) !== own;
        return consonant && tones.includes(midi(one) % 12) && strings.some((at) => Math.abs(at - string) === 1);
      });
    if (!drone) return null;
    const heads = [{ pitch: drone.one }, { pitch }].sort((a, b) => midi(a.pitch) - midi(b.pitch));
    return { worth: 1, events: [{ ...note, heads }], is: heads.map((head) => head.pitch) };
  },
});

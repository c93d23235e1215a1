/** A slide up into a stopped note that the line rises to. */
import { topOf } from '../windows.ts';
import { dressing, isOpen } from './dressing.ts';

/** Semitones that the line rises at least. */
const LEAST_RISE = 2;
const WORTH = 0.9;

export const slide = dressing({
  id: 'slide',
  // Songs and swung tunes slide; marches and quick dances hardly.
  usual: { reel: 0.3, jig: 0.3, hornpipe: 0.3, polka: 0.2, song: 0.8, march: 0.1, swing: 1, other: 0.5 },
  offer(spot) {
    const { note, pitch, limits, window, before, beat } = spot;
    if (!limits.slides || isOpen(spot, spot.midi) || note.duration < beat || !window.strong) return null;
    if (!before || spot.midi - topOf(before) < LEAST_RISE) return null;
    return { worth: WORTH, events: [{ ...note, decorations: [...(note.decorations ?? []), 'slide'] }], is: [pitch] };
  },
});

/** The same note again: a tone of the chord near it instead. */
import { midi } from '../../music/index.ts';
import { topOf } from '../windows.ts';
import { dressing, isAgain } from './dressing.ts';

/** Letter steps that are tried, in this order: a third up or down, then a fifth. */
const TRIED = [2, -2, 4, -4];
/** Semitones that the way on from there may be. */
const MOST_LEAP = 7;

export const varied = dressing({
  id: 'varied',
  // Repeated notes are varied where they come thick and fast; a song keeps them for its words.
  usual: { reel: 0.8, jig: 0.6, hornpipe: 0.7, polka: 0.8, song: 0.5, march: 0.6, swing: 0.9, other: 0.7 },
  offer(spot) {
    const { note, next, tones, window } = spot;
    if (!next || window.strong || !isAgain(spot)) return null;
    const choice = TRIED.map((steps) => spot.inKey(steps)).find(
      (one) => spot.can(one) && tones.includes(midi(one) % 12) && Math.abs(midi(one) - topOf(next)) <= MOST_LEAP,
    );
    return choice ? { worth: 1, events: [{ ...note, heads: [{ pitch: choice }] }], is: [choice] } : null;
  },
});

/** A note of a beat or two, filled: on the way to a third by what lies between, else by its neighbour. */
import { midi, valueOf, type Note } from '../../music/index.ts';
import { dressing, fillsItsBeats } from './dressing.ts';

/** What lies between two notes a third apart; a neighbour is a little less at home. */
const PASSING = 1;
const NEIGHBOUR = 0.8;
/** The note in between is no further than a whole step from the one it fills. */
const MOST_SEMITONES = 2;

/** A phrase ends a line on the last of what a note becomes: the first half has no end of a line. */
const withoutEnd = (note: Note): Note => {
  const { lineEnd: _, ...rest } = note;
  return rest;
};

/** Letter steps to the note in between, by those to the next note. */
function between(toNext: number): number | null {
  if (Math.abs(toNext) === 2) return Math.sign(toNext);
  if (toNext === 0) return 1;
  return Math.abs(toNext) === 1 ? -Math.sign(toNext) : null;
}

export const filled = dressing({
  id: 'filled',
  // Long notes run on most where the tune is written in them: hornpipes, songs.
  usual: { reel: 0.6, jig: 0.6, hornpipe: 1, polka: 0.8, song: 0.9, march: 0.8, swing: 0.9, other: 0.8 },
  offer(spot) {
    const { note, pitch, toNext, least, beat } = spot;
    const half = note.duration / 2;
    const value = valueOf(half);
    if (!value || value.dots > 0 || half < least || half < beat / 2 || toNext === null || !fillsItsBeats(spot))
      return null;
    const steps = between(toNext);
    const to = steps === null ? null : spot.inKey(steps);
    if (!spot.can(to) || Math.abs(midi(to) - spot.midi) > MOST_SEMITONES) return null;
    const first = { ...withoutEnd(note), duration: half, value };
    const second: Note = {
      kind: 'note',
      id: `${note.id}f`,
      at: note.at + half,
      duration: half,
      value,
      heads: [{ pitch: to }],
    };
    return { worth: Math.abs(toNext) === 2 ? PASSING : NEIGHBOUR, events: [first, second], is: [pitch, to] };
  },
});

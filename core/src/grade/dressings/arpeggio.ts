/** Two beats, or one of three, broken into the chord. */
import { midi, type Pitch } from '../../music/index.ts';
import { topOf } from '../windows.ts';
import { dressing, fillsItsBeats, partOf } from './dressing.ts';
import { partsOf } from './parts.ts';

/** Semitones that the way on from its last note may be. */
const MOST_LEAP = 9;
const WORTH = 0.9;
/** An octave of steps in which third and fifth are looked for. */
const OCTAVE_STEPS = 7;

export const arpeggio = dressing({
  id: 'arpeggio',
  // Slow tunes leave room to spread a chord; quick ones little.
  usual: { reel: 0.5, jig: 0.6, hornpipe: 0.7, polka: 0.4, song: 0.8, march: 0.6, swing: 0.6, other: 0.6 },
  offer(spot) {
    const { note, pitch, next, toNext, tones, compound, least } = spot;
    const part = partOf(spot);
    const count = note.duration / part;
    if (!next || toNext === null || !fillsItsBeats(spot)) return null;
    if (count !== (compound ? 3 : 4) || part < least || !tones.includes(spot.midi % 12)) return null;
    const up = toNext >= 0;
    const scale = Array.from({ length: OCTAVE_STEPS }, (_, at) => spot.inKey(up ? at + 1 : -at - 1));
    const [third, fifth] = scale.filter((one): one is Pitch => spot.can(one) && tones.includes(midi(one) % 12));
    if (!third || !fifth || Math.abs(midi(third) - topOf(next)) > MOST_LEAP) return null;
    const pitches = [pitch, third, fifth, third].slice(0, count);
    return { worth: WORTH, events: partsOf(note, pitches, part, 'a'), is: pitches };
  },
});

/** A made-up reel of any length, for measuring. */
import { readAbc } from '@nokta/core/formats';
import { mapNotes, transposePitch, type Tune } from '@nokta/core/music';

const EIGHT_BARS = 'G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | d2gd Bdgd | e2ge cege | d2gd BdAc | BAGB A2Bc | ';

/** @param bars a multiple of eight */
export function reel(bars: number): Tune {
  const read = readAbc(`X:1\nT:Bench\nM:4/4\nL:1/8\nQ:1/4=120\nK:G\n${EIGHT_BARS.repeat(bars / 8)}\n`);
  if (!read.ok) throw new Error('The benchmark tune does not read');
  return read.value.tune;
}

/** Bars that one piece of ABC may have. */
const MOST_READ = 1_000;

/** A tune of steps and small leaps in which hardly a bar comes back: the most work for the analysis of form. */
export function wandering(bars: number, seed = 7): Tune {
  if (bars > MOST_READ) {
    const pieces = Array.from({ length: bars / MOST_READ }, (_, piece) => wandering(MOST_READ, seed + 2 * piece));
    const all = pieces.flatMap((tune, piece) =>
      tune.bars.map((bar) => ({
        ...bar,
        barline: 'single' as const,
        id: `${bar.id}-${piece}`,
        events: bar.events.map((event) => ({ ...event, id: `${event.id}-${piece}` })),
      })),
    );
    return { ...pieces[0]!, bars: all };
  }
  const letters = 'DEFGABcdefga';
  let state = seed;
  let at = 5;
  const note = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    at = Math.max(0, Math.min(letters.length - 1, at + Math.floor((state / 2 ** 32) * 5) - 2));
    return letters[at];
  };
  const music = Array.from({ length: bars }, () => Array.from({ length: 8 }, note).join('')).join(' | ');
  const read = readAbc(`X:1\nT:Bench\nM:4/4\nL:1/8\nK:G\n${music} |]\n`);
  if (!read.ok) throw new Error('The benchmark tune does not read');
  return read.value.tune;
}

/** The same with every other note doubled by a third below. */
export function withDoubleStops(tune: Tune): Tune {
  let count = 0;
  return mapNotes(tune, (note) => {
    count += 1;
    const [head] = note.heads;
    if (count % 2 === 0 || !head) return note;
    const below = transposePitch(head.pitch, -2, count % 4 === 1 ? -4 : -3);
    return { ...note, heads: [{ pitch: below }, head] };
  });
}

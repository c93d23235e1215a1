/** Tunes at random that people would sing: laws of versions and lines hold for them. */
import fc from 'fast-check';
import type { Tune } from '../music/index.ts';
import { tuneOf } from './testing.ts';

/** Rhythms of a bar, in eighths, by metre. */
const CELLS: Readonly<Record<string, readonly string[]>> = {
  '4/4': ['2 2 2 2', '1 1 2 1 1 2', '3 1 2 2', '4 2 2', '1 1 1 1 1 1 1 1', '2 1 1 4', '2 3 1 2', '3 3 2', '6 2'],
  '3/4': ['2 2 2', '3 1 2', '4 2', '1 1 1 1 2', '2 2 1 1', '6', '3 3'],
  '6/8': ['2 1 2 1', '1 1 1 1 1 1', '3 2 1', '2 1 3', '3 3'],
};
/** Tunes that can be sung: steps and small leaps in a key, over plain and dotted cells, now and then held over the bar. */
export const singable: fc.Arbitrary<Tune> = fc
  .record({
    metre: fc.constantFrom('4/4', '3/4', '6/8'),
    key: fc.constantFrom('D', 'G', 'A', 'C', 'F', 'Bb', 'Em', 'Am', 'Ador', 'Eb'),
    tempo: fc.integer({ min: 60, max: 140 }),
    bars: fc.array(
      fc.tuple(fc.nat(8), fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 8, maxLength: 8 }), fc.nat(9)),
      {
        minLength: 4,
        maxLength: 8,
      },
    ),
    start: fc.integer({ min: 0, max: 6 }),
  })
  .map(({ metre, key, tempo, bars, start }) => {
    let place = start;
    const music = bars.map(([cell, moves, tie], index) => {
      const cells = CELLS[metre]!;
      const notes = cells[cell % cells.length]!.split(' ').map((length, at) => {
        place = Math.max(-4, Math.min(10, place + moves[at % moves.length]!));
        const letter = 'CDEFGAB'[(place + 14) % 7]!;
        return `${place >= 7 ? letter.toLowerCase() : place < 0 ? `${letter},` : letter}${length}`;
      });
      return `${notes.join('')}${tie === 0 && index < bars.length - 1 ? '-' : ''}`;
    });
    // A tie goes to the same note.
    const tied = music.map((bar, index) => {
      const before = music[index - 1];
      const held = before?.endsWith('-') ? /([A-Ga-g],?)\d+-$/.exec(before)?.[1] : undefined;
      return held ? bar.replace(/^[A-Ga-g],?/, held) : bar;
    });
    return tuneOf(`${tied.join('|')}|]`, { key, metre, tempo: `1/4=${tempo}` });
  });

import { describe, expect, it } from 'vitest';
import { melody, tuneOf } from '../test/testing.ts';
import {
  barNumbers,
  barStarts,
  isPickup,
  mapNotes,
  pitchName,
  placedNotes,
  sliceTune,
  soundingNotes,
  transposeTune,
} from './index.ts';

describe('bars as people count them', () => {
  it('count a pickup as nothing and the halves of a split bar as one', () => {
    expect(barNumbers(tuneOf('A2 | B8 | c8 |]').bars)).toEqual([0, 1, 2]);
    expect(barNumbers(tuneOf('A8 | B6 :| c2 | d8 |]').bars)).toEqual([1, 2, 2, 3]);
    expect(barNumbers(tuneOf('A8 | B8 |]').bars)).toEqual([1, 2]);
  });

  it('know pickups at the start, after a repeat and after a double bar, but not at the end', () => {
    const { bars } = tuneOf('A2 | B8 | c6 :| d2 | e8 || f2 | g8 | a6 |]');
    expect(bars.flatMap((_, index) => (isPickup(bars, index) ? [index] : []))).toEqual([0, 3, 5]);
  });
});

describe('soundingNotes', () => {
  it('joins ties over the bar, and chords only where all is held', () => {
    const tune = tuneOf('A6 B2- | B4 [GB]4- | [GB]4 [Gd]4- | [GB]8 |');
    expect(soundingNotes(tune).map(({ duration }) => duration / 3360)).toEqual([3, 3, 4, 2, 4]);
  });

  it('does not join a tie to another pitch or over a rest', () => {
    expect(soundingNotes(tuneOf('A4- B4 | A4- z2 A2 |'))).toHaveLength(4);
  });
});

describe('sliceTune', () => {
  const tune = tuneOf('(A2 B2) c2 (d2 | e2) f2 g2 a2 :| b8 |]');

  it('cuts bars where they are cut and keeps ids', () => {
    const part = sliceTune(tune, 3 * 3360, 6 * 3360);
    expect(part.bars.map(({ length, offset }) => [length / 3360, offset / 3360])).toEqual([
      [1, 3],
      [2, 0],
    ]);
    expect(placedNotes(part).map(({ note }) => note.id)).toEqual(['n4', 'n5', 'n6']);
    expect(part.bars[1]!.barline).toBe('invisible');
  });

  it('keeps slurs that lie inside and leaves out those that are cut', () => {
    expect(sliceTune(tune, 0, 4 * 3360).slurs).toEqual([{ from: 'n1', to: 'n2' }]);
    expect(sliceTune(tune, 3 * 3360, 8 * 3360).slurs).toEqual([{ from: 'n4', to: 'n5' }]);
  });

  it('keeps the repeat sign with the end of its bar alone', () => {
    expect(sliceTune(tune, 4 * 3360, 8 * 3360).bars[0]!.repeatEnd).toBe(2);
    expect(sliceTune(tune, 4 * 3360, 7 * 3360).bars[0]!.repeatEnd).toBeUndefined();
  });

  it('put together again is the whole', () => {
    const end = barStarts(tune.bars).at(-1)!;
    const halves = [sliceTune(tune, 0, 5 * 3360), sliceTune(tune, 5 * 3360, end)];
    expect(halves.flatMap((half) => melody(half))).toEqual(melody(tune));
  });
});

describe('transposeTune', () => {
  it('spells in the new key and keeps raised notes raised', () => {
    const minor = transposeTune(tuneOf('E2 F2 ^G2 A2 |', { key: 'Am' }), 3);
    expect(placedNotes(minor).map(({ note }) => pitchName(note.heads[0]!.pitch))).toEqual(['G4', 'Ab4', 'B4', 'C5']);
  });

  it('moves graces with their notes, and octaves without respelling', () => {
    const octave = transposeTune(tuneOf('{^c}d4 |'), -12);
    expect(pitchName(placedNotes(octave)[0]!.note.graces![0]!.pitch)).toBe('C#4');
  });

  it('leaves words that name no chord alone', () => {
    const tune = transposeTune(tuneOf('"Em/G"E4 "N.C."B4 | "D7"d8 |'), 2);
    expect(placedNotes(tune).map(({ note }) => note.chordSymbol)).toEqual(['F#m/A', 'N.C.', 'E7']);
  });
});

it('mapNotes changes notes and leaves rests', () => {
  const tune = mapNotes(tuneOf('A4 z4 |'), (note) => ({ ...note, bow: 'up' }));
  expect(tune.bars[0]!.events.map((event) => ('bow' in event ? event.bow : event.kind))).toEqual(['up', 'rest']);
});

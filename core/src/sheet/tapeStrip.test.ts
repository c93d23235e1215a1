import { describe, expect, it } from 'vitest';
import { INSTRUMENT, INSTRUMENTS, MAKES, stopDistance } from '../instrument/index.ts';
import { MILLIMETRE, tapePlaces, tapeStrip } from './tapeStrip.ts';

const tapes = (...semitones: readonly number[]) =>
  semitones.map((at) => ({ semitones: at, colour: '#c98a2b', label: `${at}` }));

describe('tapes', () => {
  it.each([
    [328, 2, 35.8],
    [328, 4, 67.7],
    [328, 5, 82.3],
    [328, 7, 109.1],
    [690, 2, 75.3],
    [690, 5, 173.1],
    [690, 7, 229.5],
  ])('on a string of %i mm, %i semitones: %f mm from the nut', (length, semitones, at) => {
    expect(tapePlaces(length, tapes(semitones))[0]!.at).toBeCloseTo(at, 0.05);
  });

  it('come from the nut on, whatever order they were put in', () => {
    expect(tapePlaces(328, tapes(7, 2, 5)).map(({ semitones }) => semitones)).toEqual([2, 5, 7]);
  });
});

describe('the strip', () => {
  const lengths = [
    ...INSTRUMENTS.map((id) => INSTRUMENT[id].length),
    ...MAKES.violin.flatMap(({ length }) => length ?? []),
  ];
  it.each(lengths)('of %i mm has each tape once, at its place from the nut', (length) => {
    const pages = tapeStrip({ name: 'Test', hand: 'violin', length, tapes: tapes(2, 4, 5, 7, 12, 19), paper: 'a4' });
    const all = [...pages.join('').matchAll(/<rect x="([\d.]+)" y="([\d.]+)" width="[\d.]+" height="([\d.]+)"/g)];
    expect(all).toHaveLength(6);
    const room = Math.floor(841.89 / MILLIMETRE - 56 - 14);
    [2, 4, 5, 7, 12, 19].forEach((semitones, index) => {
      const [, , y, height] = all[index]!.map(Number);
      const inPiece = (y! + height! / 2) / MILLIMETRE - 56;
      expect(inPiece).toBeCloseTo(stopDistance(length, semitones) % room, 1);
    });
  });

  it('has a line of 100 mm on every page, on both papers', () => {
    for (const paper of ['a4', 'letter'] as const)
      for (const page of tapeStrip({ name: 'Bass', hand: 'bass', length: 1050, tapes: tapes(24), paper })) {
        const [, x1, x2] = /<line x1="([\d.]+)" y1="124\.72" x2="([\d.]+)" y2="124\.72"/.exec(page)!.map(Number);
        expect((x2! - x1!) / MILLIMETRE).toBeCloseTo(100, 1);
      }
  });

  it('says what it is for, and writes what the teacher calls a tape', () => {
    const [page] = tapeStrip({
      name: 'Half-size violin',
      hand: 'violin',
      length: 285,
      tapes: [{ semitones: 2, colour: '#c98a2b', label: 'one' }],
      paper: 'a4',
    });
    expect(page).toContain('half-size violin');
    expect(page).toContain('>one<');
    expect(page).toContain('31.1 mm');
    expect(page).toContain('>1st finger<');
    expect(page).not.toContain('semitones');
  });
});

import { describe, expect, it } from 'vitest';
import { pitch } from '../music/index.ts';
import type { Finger, FingerSign } from '../hand/index.ts';
import { INSTRUMENT } from '../instrument/index.ts';
import { effectTexts, reasonTexts, stopText, spokenNote, symbol, totalsText } from './index.ts';

const stop = (finger: Finger, sign: FingerSign = 'home', string = 2) => ({
  pitch: pitch('B4'),
  string,
  semitones: 2,
  finger,
  sign,
  misspelled: false,
});
const STRINGS = ['G', 'D', 'A', 'E'];

describe('signs of fingers', () => {
  it('dot low fingers below and high fingers above', () => {
    expect(symbol(stop(2, 'low'), INSTRUMENT.violin)).toBe('2\u0323');
    expect(symbol(stop(3, 'high'), INSTRUMENT.viola)).toBe('3\u0307');
    expect(symbol(stop(0), INSTRUMENT.bass)).toBe('0');
  });

  it('tell reaching up from reaching back', () => {
    expect(symbol(stop(4, 'extended'), INSTRUMENT.violin)).toBe('4+');
    expect(symbol(stop(2, 'extended'), INSTRUMENT.cello)).toBe('2+');
    expect(symbol(stop(1, 'extended'), INSTRUMENT.cello)).toBe('1−');
  });

  it('are said in words', () => {
    expect(stopText(stop(2, 'low'), STRINGS)).toBe('low 2 on the A string');
    expect(stopText(stop(4, 'home', 1), STRINGS)).toBe('4 on the D string');
    expect(stopText(stop(0, 'home', 3), STRINGS)).toBe('open E');
  });
});

describe('a note that is read out', () => {
  const note = (name: string, stops: ReturnType<typeof stop>[], grace = false) => ({
    pitches: [pitch(name)],
    stops,
    grace,
  });
  const main = note('B4', [stop(1)]);

  it('is its name and what the hand does', () => {
    expect(spokenNote(main, INSTRUMENT.violin)).toBe('B4: 1 on the A string');
  });

  it('comes after the graces that lead to it, which are called so', () => {
    const graces = [note('C5', [stop(2, 'low')], true), note('E5', [stop(0, 'home', 3)], true)];
    expect(spokenNote(main, INSTRUMENT.violin, undefined, graces)).toBe(
      'Grace C5: low 2 on the A string, then grace E5: open E, then B4: 1 on the A string',
    );
    expect(spokenNote(graces[0]!, INSTRUMENT.violin)).toBe('Grace C5: low 2 on the A string');
  });
});

describe('reasons', () => {
  it('count what is more and what is less', () => {
    expect(
      reasonTexts([
        { rule: 'crossing', count: 2, price: 1400 },
        { rule: 'fourth', count: -1, price: -550 },
      ]),
    ).toEqual(['two more string crossings', 'one fewer fourth finger']);
  });

  it('say where only the time for a movement differs', () => {
    expect(reasonTexts([{ rule: 'shift', count: 0, price: 300 }])).toEqual(['shifts with less time']);
    expect(reasonTexts([{ rule: 'shift', count: 0, price: -300 }])).toEqual(['shifts with more time']);
  });

  it('tell what wishes avoid and what they take instead, and keep to the three that matter', () => {
    const differences = [
      { rule: 'longFourth', count: -2, price: -500 },
      { rule: 'crossing', count: 2, price: 1400 },
      { rule: 'hop', count: 1, price: 500 },
      { rule: 'slide', count: 1, price: 400 },
      { rule: 'moved', count: 1, price: 50 },
    ] as const;
    expect(effectTexts(differences)).toEqual([
      'avoids two long notes on the fourth finger',
      'takes two string crossings, one hop of one finger to another string, one finger sliding between low and high instead',
    ]);
    expect(effectTexts([])).toEqual([]);
  });
});

it('counts a whole fingering, each in its number', () => {
  const none = { crossings: 0, shifts: 0, extensions: 0, blocks: 0, hops: 0 };
  expect(totalsText({ ...none, crossings: 16, extensions: 6, blocks: 1 })).toBe(
    '16 string crossings, 6 extensions, 1 block in all',
  );
  expect(totalsText(none)).toBe('The hand stays, on one string');
});

import { describe, expect, it } from 'vitest';
import { chordSound } from './chords.ts';

describe('chordSound', () => {
  it.each([
    ['C', [36, 48, 52, 55]],
    ['Am', [45, 48, 52, 57]],
    ['G7', [43, 50, 53, 55, 59]],
    ['Bb', [46, 50, 53, 58]],
    ['F#m', [42, 49, 54, 57]],
    ['D7/F#', [42, 48, 50, 54, 57]],
  ])('%s', (symbol, expected) => {
    expect(chordSound(symbol)).toEqual(expected);
  });

  it.each(['N.C.', '', 'slowly'])('%s is no chord', (symbol) => {
    expect(chordSound(symbol)).toBeNull();
  });
});

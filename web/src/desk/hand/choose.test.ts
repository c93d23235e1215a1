import { describe, expect, it } from 'vitest';
import type { Finger, Stop } from '@nokta/core/hand';
import { pitch } from '@nokta/core/music';
import { nearestBeyond, onOtherString, stringOf, withFinger, type OtherWay } from './choose.ts';

const way = (string: number, finger: Finger, base: number): OtherWay => {
  const stop: Stop = { pitch: pitch('A4'), string, semitones: 0, finger, sign: 'home', misspelled: false };
  return { stops: [stop], base };
};
const NOW = way(1, 4, 2);
/** Cheapest first. */
const WAYS = [way(2, 0, 2), way(1, 1, 7), way(0, 4, 9), way(1, 2, 5)];

describe('other ways', () => {
  it('with a finger: the cheapest', () => {
    expect(withFinger(WAYS, 4)).toBe(WAYS[2]);
    expect(withFinger(WAYS, 3)).toBeUndefined();
  });

  it('on another string: the cheapest', () => {
    expect(onOtherString(WAYS, NOW)).toBe(WAYS[0]);
    expect(onOtherString([WAYS[1]!], NOW)).toBeUndefined();
  });

  it('beyond: the nearest, not the cheapest', () => {
    expect(nearestBeyond(WAYS, NOW, 1, ({ base }) => base)).toBe(WAYS[3]);
    expect(nearestBeyond(WAYS, NOW, -1, ({ base }) => base)).toBeUndefined();
    expect(nearestBeyond(WAYS, NOW, -1, (one) => stringOf(one) ?? 0)).toBe(WAYS[2]);
    expect(nearestBeyond(WAYS, NOW, 1, (one) => stringOf(one) ?? 0)).toBe(WAYS[0]);
  });
});

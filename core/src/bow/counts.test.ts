import { describe, expect, it } from 'vitest';
import { tuneOf, type Header } from '../test/testing.ts';
import { COUNT_TRUTH } from '../test/countTruth.ts';
import { COUNTINGS, countsOf, type Counting } from './index.ts';

const counted = (music: string, header: Header = {}) =>
  [...countsOf(tuneOf(music, header)).values()].map(({ text }) => text).join(' ');

describe('counting', () => {
  it.each([
    ['beats, halves and quarters of them', 'd2 ef g/f/e/d/ c2 |', '4/4', '1 2 & 3 e & a 4'],
    ['a dotted note and what fills it up', 'd3 e f2 g>f |', '4/4', '1 & 3 4 a'],
    ['a pickup as the end of its bar', 'A2 | d4 f4 |', '4/4', '4 1 3'],
    ['rests in brackets', 'd2 z2 e2 z f |', '4/4', '1 (2) 3 (4) &'],
    ['ties once', 'd4 e4- | e2 f2 g4 |', '4/4', '1 3 2 3'],
    ['triplets', '(3def g2 a4 |', '4/4', '1 la li 2 3'],
    ['compound metres in dotted beats', 'd2e fed | d3 A3 |', '6/8', '1 li 2 la li 1 2'],
    ['sixteenths in compound metres', 'd/e/f g f2 e |', '6/8', '1 ta la li 2 li'],
    ['three in a bar', 'd2 ef g2 |', '3/4', '1 2 & 3'],
  ])('%s', (_, music, metre, expected) => {
    expect(counted(music, { metre })).toBe(expected);
  });
});

describe('counting in three systems, as teachers say it', () => {
  const said = (music: string, metre: string, counting: Counting) =>
    [...countsOf(tuneOf(music, { metre }), counting).values()].map(({ text }) => text).join(' ');
  it.each(
    COUNT_TRUTH.flatMap((truth) => COUNTINGS.map((counting) => [truth.metre, truth.music, counting, truth] as const)),
  )('%s %s, %s', (metre, music, counting, truth) => expect(said(music, metre, counting)).toBe(truth[counting]));
});

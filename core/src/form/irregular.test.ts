/** Tunes that are not thirty-two bars of reel: crooked, through-composed, with lead-ins, in every metre. */
import { describe, expect, it } from 'vitest';
import type { Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { analyseForm, phrasesOf } from './index.ts';

const bars = (count: number, bar = 'G8') => Array.from({ length: count }, () => `${bar} |`).join(' ');
const sizes = (tune: Tune) => analyseForm(tune).parts.map(({ phrases }) => phrases.map((phrase) => phrase.bars));

describe('parts of other lengths', () => {
  it.each([
    ['four bars', 4, [[4]]],
    ['five: crooked', 5, [[5]]],
    ['six', 6, [[4, 2]]],
    ['seven', 7, [[4, 3]]],
    ['eight', 8, [[4, 4]]],
    ['nine: one bar more at the end', 9, [[4, 5]]],
    ['twelve', 12, [[4, 4, 4]]],
  ])('%s', (_, count, expected) => {
    expect(sizes(tuneOf(`|: ${bars(count)}`.replace(/\|$/, ':|')))).toEqual(expected);
  });

  it('keeps a repeated part of sixteen bars whole', () => {
    expect(sizes(tuneOf(`|: ${bars(16)}`.replace(/\|$/, ':|')))).toEqual([[4, 4, 4, 4]]);
  });
});

describe('where parts begin', () => {
  it('takes a pickup before the repeat sign into the part', () => {
    const form = analyseForm(tuneOf(`D2 |: ${bars(7)} G6 D2 :|`));
    expect(form.parts).toHaveLength(1);
    expect(form.parts[0]).toMatchObject({ bars: [0, 8], times: 2 });
  });

  it('begins the second part with its own pickup', () => {
    const form = analyseForm(tuneOf(`|: D2 | ${bars(3)} G6 :: A2 | ${bars(3, 'A8')} A6 :|`));
    expect(phrasesOf(form).map(({ label, start }) => `${label} ${start.bar}.${start.beat}`)).toEqual([
      'A1 0.4',
      'B1 4.4',
    ]);
  });

  it('hears double bars and labels where there are no repeats', () => {
    const form = analyseForm(tuneOf(`${bars(3)} G8 || [P:T]${bars(3, 'A8')} A8 |]`));
    expect(form.parts.map(({ label }) => label)).toEqual(['A', 'T']);
  });

  it('never gives one label twice', () => {
    const form = analyseForm(tuneOf(`[P:A]${bars(3)} G8 || [P:A]${bars(3, 'A8')} A8 |]`));
    expect(new Set(form.parts.map(({ label }) => label)).size).toBe(2);
  });
});

describe('metres', () => {
  it.each([
    ['waltz', '3/4', 'G6'],
    ['slip jig', '9/8', 'G9'],
    ['march in cut time', 'C|', 'G8'],
    ['polka', '2/4', 'G4'],
  ])('%s', (_, metre, bar) => {
    expect(sizes(tuneOf(`|: ${bars(7, bar)} ${bar} :|`, { metre }))).toEqual([[4, 4]]);
  });
});

describe('words and rests', () => {
  it('lets a song line begin with its own pickup inside the tune', () => {
    const song = tuneOf('C | F2 G | A2 F | B2 A | G2 C | F2 A | G2 E | F3 | F2 |]', {
      key: 'F',
      metre: '3/4',
      unit: '1/4',
    });
    expect(phrasesOf(analyseForm(song)).map(({ start }) => `${start.bar}.${start.beat}`)).toEqual(['0.3', '4.3']);
  });

  it('leaves the bar line where the only note before it is short and quick', () => {
    const tune = tuneOf('G8 | A8 | B8 | ABcd efga | G8 | A8 | B8 | G8 |]');
    expect(phrasesOf(analyseForm(tune))[1]!.start).toEqual({ bar: 5, beat: 1 });
  });
});

describe('what comes back', () => {
  const tune = tuneOf('|: G4 A4 | B8 | G4 A4 | d8 :: c8 | B8 | G4 A4 | G8 :|', { key: 'G' });

  it('gives the same bar the same bead, across parts', () => {
    expect(analyseForm(tune).bars.map(({ material }) => material)).toEqual([0, 1, 0, 3, 4, 1, 0, 7]);
  });

  it('knows bars that come back by their number', () => {
    const { bars } = analyseForm(tune);
    const back = bars.filter(({ material }, index) => material !== index);
    expect(back.map(({ number, material }) => [number, bars[material]!.number])).toEqual([
      [3, 1],
      [6, 2],
      [7, 1],
    ]);
  });

  it('orders a plan by what brings most of the tune', () => {
    const { learn } = analyseForm(tune);
    expect(learn).toMatchObject({ newBars: 5, totalBars: 16, inOrder: ['p1', 'p2'] });
    expect(learn.mostTuneFirst[0]).toBe('p1');
  });

  it('tells a changed pickup from a changed phrase', () => {
    const pair = tuneOf('D2 | G8 | A8 | B8 | A6 E2 | G8 | A8 | B8 | A6 |]', { key: 'G' });
    expect(phrasesOf(analyseForm(pair))[1]!.relation).toMatchObject({
      kind: 'same',
      differs: { where: null, pickup: true },
    });
  });
});

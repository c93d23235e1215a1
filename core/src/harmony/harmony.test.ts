/** Harmony found in tunes without chords, held against chords written from their notes beforehand; and how chords are told. */
import { describe, expect, it } from 'vitest';
import { barStarts, keyOf, transposeTune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { chordAt, chordNamed, foundIn, functionOf, harmonyOf } from './index.ts';

/** Chords by bar, a space between halves; and what is found in their place, judged as good. */
type Row = readonly [key: string, metre: string, music: string, chords: string, also?: string];
const TRUTH: readonly Row[] = [
  ['D', '4/4', 'D2F2 A2F2|G2B2 A4|E2G2 F2E2|D8', 'D|G D|A|D'],
  ['G', '3/4', 'G2B2d2|c2A2F2|G2B2A2|G6', 'G|D|G|G'],
  ['C', '4/4', 'c2e2 g2e2|f2a2 g4|d2f2 e2d2|c8', 'C|F C|G|C'],
  ['F', '4/4', 'F2A2 c4|B2d2 c2A2|G2B2 A2G2|F8', 'F|Bb F|C|F'],
  ['A', '6/8', 'A2c e2c|d2f e2c|B2d c2B|A3 A3', 'A|D A|E|A', 'A|D A|E A|A'],
  ['Em', '4/4', 'E2G2 B2G2|A2c2 B4|F2A2 G2F2|E8', 'Em|Am Em|B|Em', 'Em|Am B|D G|Em'],
  ['Am', '3/4', 'A2c2e2|d2f2a2|g2f2d2|e2c2A2', 'Am|Dm|G|Am'],
  ['Ador', '4/4', 'A2c2 e2c2|G2B2 d2B2|A2c2 e2A2|B2G2 A4', 'Am|G|Am|G Am'],
  ['Dmix', '4/4', 'D2F2 A2F2|E2G2 c4|D2F2 A2d2|c2G2 D4', 'D|C|D|C D'],
  ['Bb', '4/4', 'B,2D2 F2D2|E2G2 F4|C2E2 D2C2|B,8', 'Bb|Eb Bb|F|Bb'],
  ['D', '2/4', 'A2F2|D2F2|G2B2|A4|B2G2|A2F2|E2C2|D4', 'D|D|G|A|G|D|A|D', 'D|D|G|D|G|D|A|D'],
  ['G', '4/4', 'G2B2 d2B2|e2c2 A4|A2^c2 e2c2|d8|c2A2 F2A2|G8', 'G|Am|A|D|D|G', 'G|C D|A|D|D|G'],
  ['C', '3/4', 'E2G2c2|A2c2f2|B2d2f2|e6', 'C|F|G|C'],
  ['Gm', '4/4', 'G2B2 d2B2|c2e2 d4|A2c2 ^F2A2|G8', 'Gm|Cm Gm|D|Gm'],
  ['D', '4/4', 'F2A2 d2A2|B2d2 f2d2|G2B2 e2c2|d8', 'D|Bm|G A|D', 'D|G D|G A|D'],
  ['G', '6/8', 'G2B d2B|c2e g2e|d2c A2F|G3 G3', 'G|C|D|G'],
  ['Eb', '4/4', 'E2G2 B2G2|A2c2 B4|F2A2 G2F2|E8', 'Eb|Ab Eb|Bb|Eb'],
  ['Em', '4/4', 'E2G2 B2e2|d2A2 F2A2|G2B2 d2B2|E8', 'Em|D|G|Em'],
  ['A', '4/4', 'c2e2 a2e2|f2d2 A2d2|G2B2 e2B2|A8', 'A|D|E|A'],
  ['F', '3/4', 'A2c2f2|d2B2G2|C2E2G2|F6', 'F|Gm|C|F'],
  ['D', '9/8', 'D2F A2F d2A|G2B d2B G2B|A2c e2c A2G|F3 D3 D3', 'D|G|A|D'],
  ['C', '4/4', 'c2e2 d2c2|B2d2 G2G2|c2e2 f2a2|g2B2 c4', 'C|G|C F|G C'],
  ['Dm', '4/4', 'D2F2 A2F2|G2B2 A4|E2G2 ^C2E2|D8', 'Dm|Gm Dm|A|Dm'],
  ['G', '4/4', 'G2BG dGBG|c2ec gece|d2fd A2Fd|G2B2 G4', 'G|C|D|G'],
  ['Amix', '4/4', 'A2c2 e2c2|G2B2 d2B2|A2c2 e2a2|g2d2 A4', 'A|G|A|G A'],
  ['Bm', '4/4', 'B,2D2 F2D2|E2G2 F4|C2E2 ^A,2C2|B,8', 'Bm|Em Bm|F#|Bm'],
];

/** Root and third: a seventh is a colour. */
const plain = (symbol: string) => symbol.replace(/7|dim/g, (own) => (own === 'dim' ? 'm' : ''));

describe('the chords under a tune', () => {
  it.each(TRUTH)('%s %s: %s', (key, metre, music, written, also) => {
    const chords = also ?? written!;
    const tune = tuneOf(`${music}|]`, { key, metre });
    const starts = barStarts(tune.bars);
    const found = foundIn(tune);
    const told = chords.split('|').map((bar, index) => {
      const wanted = bar.split(' ');
      const half = tune.bars[index]!.length / 2;
      return [0, half].map((at, place) => [
        plain(chordAt(found, starts[index]! + at)!.name),
        wanted[place] ?? wanted[0],
      ]);
    });
    for (const [one, other] of told.flat()) expect([chords, one]).toEqual([chords, other]);
  });

  it('moves with the key', () => {
    for (const [key, metre, music] of TRUTH) {
      const tune = tuneOf(`${music}|]`, { key, metre });
      const chord = (one: typeof tune, away: number) =>
        foundIn(one).map(({ tones, kind }) => `${kind} ${(((tones[0]! - away) % 12) + 12) % 12}`);
      expect(chord(transposeTune(tune, 3), 3)).toEqual(chord(tune, 0));
    }
  });

  it('has no chord for an opening pickup, and keeps those that are written', () => {
    const tune = tuneOf('D2|G2B2 d4|c2A2 G4|]', { key: 'G' });
    expect(foundIn(tune)[0]!.from).toBe(tune.bars[0]!.length);
    const written = harmonyOf(tuneOf('"Em"G2B2 "D7/F#"d4|]', { key: 'G' }));
    expect(written.map(({ name, found, kind }) => [name, found, kind])).toEqual([
      ['Em', false, 'minor'],
      ['D7/F#', false, 'seventh'],
    ]);
  });

  it('offers what else would do', () => {
    const found = foundIn(tuneOf('G2B2 d2B2|c4 e4|d2A2 d4|G8|]', { key: 'G' }));
    expect(found[2]!.other.length).toBeGreaterThan(0);
    for (const { name, other } of found) expect(other).not.toContain(name);
  });
});

describe('a chord in its key', () => {
  const D = keyOf({ letter: 'D', alter: 0 }, 'major');
  const E = keyOf({ letter: 'E', alter: 0 }, 'minor');
  it.each([
    ['D', 'I', 'i'],
    ['A7', 'V7', ''],
    ['Bm', 'vi', ''],
    ['E7', 'V7/V', ''],
    ['G', 'IV', ''],
    ['C', 'bVII', ''],
    ['F#dim', 'iii°', ''],
    ['D7', 'V7/IV', ''],
  ])('%s in D major is %s', (name, numeral) => expect(functionOf(chordNamed(name), D)).toBe(numeral));
  it.each([
    ['Em', 'i'],
    ['B7', 'V7'],
    ['D', 'VII'],
    ['G', 'III'],
    ['Am', 'iv'],
    ['C', 'VI'],
  ])('%s in E minor is %s', (name, numeral) => expect(functionOf(chordNamed(name), E)).toBe(numeral));
  it('says nothing of what is no chord', () => {
    expect(functionOf(chordNamed('N.C.'), D)).toBe('');
    expect(chordNamed('N.C.').tones).toEqual([]);
  });
});

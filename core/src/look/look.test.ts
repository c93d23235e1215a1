import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, placesOf } from '../arrange/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { deciding } from '../test/setups.ts';
import { lookOverText } from '../words/index.ts';
import { lookOver } from './index.ts';

function look(music: string, header: Header = {}, style = '', instrument: 'violin' | 'cello' = 'violin') {
  const tune = { ...tuneOf(music, header), style };
  const first = deciding({ instrument });
  const arrangement = arrange(tune, deciding({ instrument, transpose: bestOctave(tune, first) }));
  const places = placesOf(arrangement.tune);
  const said = lookOverText(lookOver(arrangement), arrangement.instrument);
  return { ...said, hard: said.hard.map((place) => ({ ...place, bar: places.get(place.notes[0]!)!.bar })) };
}

describe('key and scale', () => {
  it('names what occurs and what does not', () => {
    const found = look('|: G2AB d2BA | G2E2 D4 | E2GA B2AG | A2B2 G4 :|', { key: 'G' });
    expect(found).toMatchObject({
      key: 'G major',
      doubt: null,
      scale: ['G', 'A', 'B', 'D', 'E'],
      missing: ['C', 'F♯'],
    });
  });

  it('says so where signature and notes disagree, and how sure', () => {
    const found = look('|: A2Bc d2cB | A2^GA B2E2 | A2Bc d2e2 | c2B2 A4 :|'.replaceAll('c', '^c'), { key: 'C' });
    expect(found.doubt).toMatch(/^The signature says C major, the notes sound like A major \(\d+ % against \d+ %\)\.$/);
  });

  it('lists notes outside the key with their bars', () => {
    const { outside } = look('G2^G2 A4 | _B2=B2 c4 | ^G4 A4 |', { key: 'G' });
    expect(outside.map(({ name, bars }) => [name, bars])).toEqual([
      ['G♯', [1, 3]],
      ['B♭', [2]],
    ]);
  });
});

describe('where it lies', () => {
  it('gives range, start, pickup and the places of the home note', () => {
    const found = look('D2 | G2B2 d2g2 | D2G2 G,4 |]', { key: 'G' });
    expect(found.range).toEqual({ low: 'G3', high: 'G5', semitones: 24 });
    expect(found).toMatchObject({ startsOn: 'D4', pickup: 'quarter before bar 1' });
    expect(found.home).toEqual(['G3: open G', 'G4: 3 on the D string', 'G5: low 2 on the E string']);
  });

  it('tells it for the instrument', () => {
    expect(look('G,,2 D,2 G,4 |]', { key: 'G' }, '', 'cello').home[0]).toBe('G2: open G');
  });
});

describe('form and repeats', () => {
  it.each([
    ['|: G8 | A8 | B8 | c8 :|', 'AA', '4 bars', 'twice'],
    ['G8 | A8 | B8 | c8 |]', 'A', '4 bars', 'once'],
    ['|: G8 | A8 | B8 |1 c8 :|2 d8 |: e8 | f8 | g8 | e8 :|', 'AABB', '4 + 4 bars', 'each part twice; 2 endings'],
    [
      'G8 | A8 | B8 | G8 !fine! || d8 | e8 | f8 | d8 !D.C.alfine! |]',
      'ABA',
      '4 + 4 bars',
      'each part once; then from the start to the Fine',
    ],
  ])('%s', (music, form, lengths, repeats) => {
    expect(look(music, { key: 'G' })).toMatchObject({ form, lengths, repeats });
  });
});

describe('rhythm, chords, tempo', () => {
  it('counts figures by the beats that they tie together', () => {
    const { rhythms } = look('d3e f2d2 | d3e (3fga z2 | d/e/f d2 e4 |', { key: 'D' });
    expect(rhythms).toEqual([
      { text: 'quarter', times: 3 },
      { text: 'dotted quarter, eighth', times: 2 },
      { text: 'three eighths of a triplet', times: 1 },
      { text: 'quarter rest', times: 1 },
      { text: 'two sixteenths, eighth', times: 1 },
      { text: 'half', times: 1 },
    ]);
  });

  it('counts in dotted beats where the metre does', () => {
    const { rhythms } = look('d2e fed | d3 A3 |', { key: 'D', metre: '6/8' });
    expect(rhythms.map(({ text }) => text)).toEqual(['dotted quarter', 'quarter, eighth', 'three eighths']);
  });

  it('names chords and how often they change', () => {
    expect(look('"G"G8 | "Bb"B8 | "C"c8 |', { key: 'G' }).chords).toEqual({
      names: ['G', 'B♭', 'C'],
      text: 'one a bar',
    });
    expect(look('"G"G4 "D"A4 | "G"G8 |', { key: 'G' }).chords!.text).toBe('1.5 a bar, at most 2');
    expect(look('G8 |').chords).toBeNull();
  });

  it('knows the usual tempo of a style, in the beat of the metre', () => {
    expect(look('d3 A3 |', { metre: '6/8' }, 'jig').usualTempo).toBe('dotted quarter = 104 to 126 for a jig');
    expect(look('d3 A3 d3 |', { metre: '9/8' }, 'Slip Jig').usualTempo).toContain('for a slip jig');
    expect(look('G8 |', {}, 'air').usualTempo).toBe('quarter = 54 to 88 for an air');
    expect(look('G8 |', {}, 'something else').usualTempo).toBeNull();
  });
});

it('can be said of any tune', () => {
  fc.assert(
    fc.property(arbitraryTune(), (tune) => {
      const found = lookOver(arrange(tune, FIRST_DECISIONS));
      expect([...found.scale, ...found.missing]).toHaveLength(7);
      for (const { times } of found.rhythms) expect(times).toBeGreaterThan(0);
      for (const { causes } of found.hard) expect(causes.length).toBeGreaterThan(0);
    }),
    { numRuns: 40 },
  );
});

describe('hard spots', () => {
  it('are the bars that ask most for their time, with reasons', () => {
    const { hard } = look('G2A2 B2A2 | G2A2 B2A2 | GeGe GeGe | G2A2 B2A2 |]', { key: 'G', tempo: '1/4=140' });
    expect(hard.map(({ bar }) => bar)).toEqual([3]);
    expect(hard[0]!.reasons.join(', ')).toMatch(/jumps over a string|string crossings/);
  });

  it('are none where everything is alike, or easy', () => {
    expect(look('G4 A4 | B4 A4 | G4 A4 | G8 |]', { key: 'G', tempo: '1/4=60' }).hard).toEqual([]);
  });

  it('name shifts and notes outside the key on the cello', () => {
    const { hard } = look('G,2A,2 B,2A,2 | ^c2d2 ^d2e2 | G,2A,2 B,4 |]', { key: 'G', tempo: '1/4=120' }, '', 'cello');
    expect(hard[0]!.bar).toBe(2);
  });
});

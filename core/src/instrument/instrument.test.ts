import { describe, expect, it } from 'vitest';
import { pitchName } from '../music/index.ts';
import { retuningText, stringCautions } from '../words/index.ts';
import {
  INSTRUMENT,
  parseTuning,
  standardTuning,
  stopDistance,
  askedTuning,
  retuningSteps,
  tensionReport,
  tuningsFor,
  type Tuning,
} from './index.ts';

const tuning = (text: string, instrument: 'violin' | 'cello' | 'bass' = 'violin'): Tuning => {
  const parsed = parseTuning(INSTRUMENT[instrument], text);
  if ('error' in parsed) throw new Error(parsed.error);
  return parsed;
};

it('places stops on the string', () => {
  expect([2, 4, 5, 7].map((n) => Math.round(stopDistance(328, n) * 10) / 10)).toEqual([35.8, 67.7, 82.3, 109.1]);
  expect([2, 5, 7].map((n) => Math.round(stopDistance(690, n) * 10) / 10)).toEqual([75.3, 173.1, 229.5]);
});

describe('tunings', () => {
  it('reads presets and pitches by hand', () => {
    expect(tuning('low-pair-up').pitches.map(pitchName)).toEqual(['A3', 'E4', 'A4', 'E5']);
    expect(tuning('G3 D4 A4 D5').pitches.map(pitchName)).toEqual(['G3', 'D4', 'A4', 'D5']);
  });

  it.each([
    ['nonsense', 'no tuning'],
    ['G3,D4,A4', '4 strings'],
    ['G3,D4,A4,E7', 'octave'],
  ])('refuses %s with words', (text, reason) => {
    expect(parseTuning(INSTRUMENT.violin, text)).toEqual({ error: expect.stringContaining(reason) as string });
  });

  it('moves the violin’s presets to the viola', () => {
    expect(tuningsFor(INSTRUMENT.viola)[1]!.pitches.map(pitchName)).toEqual(['D3', 'A3', 'D4', 'A4']);
  });

  it('gives each instrument as many strings as it has names', () => {
    for (const instrument of Object.values(INSTRUMENT))
      expect(standardTuning(instrument).pitches).toHaveLength(instrument.strings.length);
  });
});

describe('tension', () => {
  it('is as physics has it for A E A E', () => {
    const { strings, total, level, lowerTuning } = tensionReport(INSTRUMENT.violin, tuning('low-pair-up').pitches);
    expect(strings.map(({ afterN }) => afterN)).toEqual([56.7, 56.7, 55, 76]);
    expect(total).toEqual({ beforeN: 221, afterN: 244.4, change: 0.106 });
    expect(level).toBe('caution');
    expect(lowerTuning).toEqual(['G3', 'D4', 'G4', 'D5']);
  });

  it('is told string by string, a slack one beside a tight one', () => {
    const { strings, level } = tensionReport(INSTRUMENT.violin, tuning('D3,D4,A4,F#5').pitches);
    expect(strings.map((string) => string.level)).toEqual(['slack', 'none', 'none', 'caution']);
    expect(level).toBe('caution');
    expect(stringCautions(strings).map((text) => text.split(':')[0])).toEqual(['E string', 'G string']);
    const both = tensionReport(INSTRUMENT.violin, tuning('A3,E4,A4,E5').pitches);
    expect(stringCautions(both.strings)[0]).toMatch(/^G and D strings: /);
  });

  it('says the way there, down before up, and the way back', () => {
    const { strings } = tensionReport(INSTRUMENT.violin, tuning('A3,D4,A4,D5').pitches);
    expect(retuningSteps(strings).map(retuningText)).toEqual([
      'E peg: 2 semitones (200 cents) down to D5, an octave from the open D string',
      'G peg: 2 semitones (200 cents) up to A3, an octave from the open A string',
    ]);
    expect(retuningSteps(strings, true).map(retuningText)).toEqual([
      'G peg: 2 semitones (200 cents) down to G3, a fifth from the open D string',
      'E peg: 2 semitones (200 cents) up to E5, a fifth from the open A string',
    ]);
    expect(retuningSteps(tensionReport(INSTRUMENT.cello, standardTuning(INSTRUMENT.cello).pitches).strings)).toEqual(
      [],
    );
  });

  it.each([
    ['D4,G3,A4,E5', 'G3 is not above D4'],
    ['G3,G3,A4,E5', 'G3 is not above G3'],
  ])('%s is no tuning: strings rise from low to high', (text, problem) => {
    const asked = askedTuning(INSTRUMENT.violin, text);
    expect('error' in asked && asked.error).toContain(problem);
    // What was kept before is still read.
    expect('error' in parseTuning(INSTRUMENT.violin, text)).toBe(false);
  });

  it('warns by degrees, and of slack strings', () => {
    expect(tensionReport(INSTRUMENT.violin, tuning('standard').pitches).level).toBe('none');
    expect(tensionReport(INSTRUMENT.violin, tuning('G#3,D4,A4,E5').pitches)).toMatchObject({ level: 'note' });
    const { level, strings } = tensionReport(INSTRUMENT.violin, tuning('B3,D4,A4,E5').pitches);
    expect(level).toBe('advise');
    expect(stringCautions(strings).join()).toContain('luthier');
    expect(tensionReport(INSTRUMENT.violin, tuning('double-d').pitches).level).toBe('slack');
    expect(
      tensionReport(INSTRUMENT.bass, tuning('solo', 'bass').pitches).strings.every(({ change }) => change === 0.26),
    ).toBe(true);
  });
});

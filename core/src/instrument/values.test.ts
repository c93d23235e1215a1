/** Instruments that nobody wrote code for: five strings, a low B, three strings, a small size. */
import { describe, expect, it } from 'vitest';
import { arrangementXml, arrange, decided, FIRST_DECISIONS } from '../arrange/index.ts';
import { analyseForm } from '../form/index.ts';
import { fingerTune, type HandSetup } from '../hand/index.ts';
import { midi, pitchName } from '../music/index.ts';
import { LANES, sheetFacts, lanesOf } from '../sheet/index.ts';
import { tuneOf } from '../test/testing.ts';
import { stopsText } from '../words/index.ts';
import {
  INSTRUMENT,
  customInstrument,
  parseTuning,
  standardTuning,
  stopDistance,
  tensionReport,
  withLength,
} from './index.ts';

const FIVE = customInstrument({
  id: 'violin-5',
  name: 'Five-string violin',
  strings: ['C3', 'G3', 'D4', 'A4', 'E5'],
  like: 'violin',
});
const LOW_B = customInstrument({
  id: 'bass-5',
  name: 'Bass with a low B',
  strings: ['B0', 'E1', 'A1', 'D2', 'G2'],
  like: 'bass',
});
const THREE = customInstrument({ id: 'bowed-3', name: 'Three strings', strings: ['D3', 'A3', 'D4'], like: 'viola' });

function fingered(instrument: HandSetup['instrument'], music: string, key = 'C'): string {
  const tune = tuneOf(music, { key, tempo: '1/4=90' });
  const setup = { instrument, tuning: standardTuning(instrument), limits: {}, locks: {}, tempo: 90 };
  const { notes, problems } = fingerTune(tune, analyseForm(tune), setup);
  expect(problems).toEqual([]);
  return notes.map((note) => stopsText(note, instrument)).join('; ');
}

describe('an instrument as a value', () => {
  it('of five strings is fingered down to its lowest and up to its highest', () => {
    expect(fingered(FIVE, 'C,2 D,2 e2 f2', 'C')).toBe('open C; 1 on the C string; open E; low 1 on the E string');
    expect(fingered(LOW_B, 'B,,,,2 C,,,2 G,,2', 'C')).toMatch(/^open B; 1 on the B string/);
  });

  it('of three strings keeps to them', () => {
    expect(fingered(THREE, 'D,2 A,2 D2 E2', 'D')).toBe('open D; open A; open D; 1 on the D string');
  });

  it('has tunings, tension and places of its own', () => {
    expect(standardTuning(LOW_B).pitches.map(pitchName)).toEqual(['B0', 'E1', 'A1', 'D2', 'G2']);
    expect(parseTuning(FIVE, 'C3,G3,D4,A4')).toMatchObject({ error: expect.stringContaining('5 strings') as string });
    expect(tensionReport(FIVE, standardTuning(FIVE).pitches).strings).toHaveLength(5);
    const half = withLength(INSTRUMENT.violin, 270);
    expect(stopDistance(half.length, 2)).toBeLessThan(stopDistance(INSTRUMENT.violin.length, 2));
  });

  it('is written with its own strings in tab and files', () => {
    const tune = tuneOf('C,2 D,2 e2 f2', { key: 'C' });
    const plain = arrange(tune, decided(FIRST_DECISIONS, { key: { transpose: 0 } }));
    const setup = { instrument: FIVE, tuning: standardTuning(FIVE), limits: {}, locks: {}, tempo: 90 };
    const arrangement = { ...plain, ...setup, fingering: fingerTune(tune, plain.form, setup) };
    const [tab] = lanesOf({ ...sheetFacts(arrangement), x: () => 10, width: 100, barlines: [] }, ['tab']);
    const names = tab!.shapes.flatMap((shape) =>
      shape.role === 'string-name' && shape.kind === 'text' ? shape.text : [],
    );
    expect(names).toEqual(['C', 'G', 'D', 'A', 'E']);
    expect(LANES.tab.side).toBe('below');
    expect(arrangementXml(arrangement)).toContain('<string>5</string>');
  });

  it('has three strings at least and six at most', () => {
    const spec = { id: 'x', name: 'X', like: 'violin' } as const;
    expect(() => customInstrument({ ...spec, strings: ['G3', 'D4'] })).toThrow('3 to 6');
    expect(() => customInstrument({ ...spec, strings: Array<string>(7).fill('G3') })).toThrow('3 to 6');
    expect(midi(customInstrument({ ...spec, strings: ['F2', 'C3', 'G3', 'D4', 'A4', 'E5'] }).strings[0]!.usual)).toBe(
      41,
    );
  });
});

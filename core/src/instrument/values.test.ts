/** Instruments that nobody wrote code for: five strings, a low B, three strings, a small size. */
import { describe, expect, it } from 'vitest';
import { arrangementXml, arrange, decided, FIRST_DECISIONS, readDecisions } from '../arrange/index.ts';
import { analyseForm } from '../form/index.ts';
import { fingerTune, profileFor, type HandSetup } from '../hand/index.ts';
import { midi, pitch, pitchName, transposeTune } from '../music/index.ts';
import { LANES, sheetFacts, lanesOf } from '../sheet/index.ts';
import { tuneOf } from '../test/testing.ts';
import { stopsText } from '../words/index.ts';
import {
  INSTRUMENT,
  instrumentOf,
  keySlice,
  LIKE_USUAL,
  MAKES,
  madeInstrument,
  makeSchema,
  type InstrumentId,
  parseTuning,
  standardTuning,
  stopDistance,
  tensionReport,
} from './index.ts';

const strung = (like: InstrumentId, name: string, ...strings: readonly string[]) =>
  madeInstrument(like, { ...LIKE_USUAL, name, strings });
const FIVE = strung('violin', 'Five-string violin', 'C3', 'G3', 'D4', 'A4', 'E5');
const LOW_B = strung('bass', 'Bass with a low B', 'B0', 'E1', 'A1', 'D2', 'G2');
const THREE = strung('viola', 'Three strings', 'D3', 'A3', 'D4');
const HALF = madeInstrument('violin', { ...LIKE_USUAL, name: 'Half-size violin', length: 270 });

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
    expect(fingered(THREE, 'D,2 A,2 D2 E2', 'D')).toBe('open D3; open A; open D4; 1 on the D4 string');
  });

  it('has tunings, tension and places of its own', () => {
    expect(standardTuning(LOW_B).pitches.map(pitchName)).toEqual(['B0', 'E1', 'A1', 'D2', 'G2']);
    expect(parseTuning(FIVE, 'C3,G3,D4,A4')).toMatchObject({ error: expect.stringContaining('5 strings') as string });
    expect(tensionReport(FIVE, standardTuning(FIVE).pitches).strings).toHaveLength(5);
    expect(stopDistance(HALF.length, 2)).toBeLessThan(stopDistance(INSTRUMENT.violin.length, 2));
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

  it.each([
    ['two strings', ['G3', 'D4'], '3 to 6 strings, not 2'],
    ['seven strings', ['G2', 'C3', 'F3', 'A3', 'D4', 'G4', 'C5'], '3 to 6 strings, not 7'],
    ['strings out of order', ['G3', 'D4', 'A3'], 'A3 is not above D4'],
    ['two strings alike', ['G3', 'D4', 'D4'], 'D4 is not above D4'],
    ['no pitch', ['G3', 'H4', 'A4'], '“H4” is no pitch'],
    ['a string that nobody hears', ['C0', 'G3', 'D4'], 'Check the octave'],
  ])('is refused with %s', (_, strings, message) => {
    const made = makeSchema.safeParse({ ...LIKE_USUAL, name: 'Odd', strings });
    expect(made.error?.issues[0]?.message).toContain(message);
  });

  it.each([
    ['no length', { length: 0 }, '100 to 1300 mm'],
    ['no name', { name: ' ' }, 'needs a name'],
    ['keys that reach nowhere', { reach: 1 }, '4 to 36 semitones'],
    ['a string without a pull', { tensions: [0, 45, 55, 76] }, '5 to 600 newton'],
    ['a tension too few', { strings: ['G3', 'D4', 'A4'], tensions: [45, 45] }, 'a tension for each string'],
  ])('is refused with %s', (_, change, message) => {
    const made = makeSchema.safeParse({ ...LIKE_USUAL, name: 'Odd', ...change });
    expect(made.error?.issues[0]?.message).toContain(message);
  });

  it.each(Object.entries(MAKES).flatMap(([like, makes]) => makes.map((make) => [make.name, like, make] as const)))(
    '%s can be made, and plays its own scale',
    (_, like, make) => {
      expect(makeSchema.safeParse(make).error).toBeUndefined();
      const instrument = madeInstrument(like as InstrumentId, make);
      expect(instrument.length).toBeGreaterThan(0);
      // From its lowest string up a fifth.
      const low = instrument.strings[0]!.usual;
      const tune = transposeTune(tuneOf('G,2 A,2 B,2 C2 | D8 |', { key: 'G' }), midi(low) - 55);
      const setup = { instrument, tuning: standardTuning(instrument), limits: {}, locks: {}, tempo: 60 };
      expect(fingerTune(tune, analyseForm(tune), setup).problems).toEqual([]);
    },
  );

  it('keeps fingers to where its keys or its fingerboard end, and says who says so', () => {
    const keyed = madeInstrument('violin', { ...LIKE_USUAL, name: 'Keyed fiddle', reach: 7 });
    expect(fingered(keyed, 'a2 b2', 'D')).toBe('3 on the E string; 4 on the E string');
    const tune = tuneOf("c'8", { key: 'D', tempo: '1/4=90' });
    const setup = { instrument: keyed, tuning: standardTuning(keyed), limits: {}, locks: {}, tempo: 90 };
    expect(fingerTune(tune, analyseForm(tune), setup).problems).toMatchObject([{ kind: 'out-of-reach', reach: 7 }]);
    expect(profileFor(setup).owners.reach).toEqual({ by: 'instrument', name: 'Keyed fiddle' });
  });

  it('pulls as its own strings do, and says which they are', () => {
    const light = { ...LIKE_USUAL, name: 'Violin', tensions: [40, 41, 52, 70], gauge: 'light gauge' };
    const { strings, total } = tensionReport(
      madeInstrument('violin', light),
      ['A3', 'E4', 'A4', 'E5'].map((name) => pitch(name)),
    );
    expect(strings.map(({ beforeN }) => beforeN)).toEqual([40, 41, 52, 70]);
    expect(strings[0]).toMatchObject({ afterN: 50.4, change: 0.26 });
    expect(total.beforeN).toBe(203);
    expect(madeInstrument('violin', light).gauge).toBe('light gauge');
  });

  it('is decided with the tune, and read from what was stored before there were makes', () => {
    const [make] = MAKES.violin;
    const { key } = decided(FIRST_DECISIONS, { key: { make: make! } });
    expect(keySlice.schema.parse(key)).toEqual(key);
    expect(instrumentOf(key)).toBe(instrumentOf(key));
    expect(instrumentOf(key)).toMatchObject({ id: 'violin', name: 'Three-quarter violin', length: 307 });
    const { make: _, ...older } = key;
    expect(readDecisions({ ...FIRST_DECISIONS, key: older }).key.make).toBeNull();
  });
});

import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { tuneOf } from '../../test/testing.ts';
import { writeMusicXml } from './write.ts';

const parser = new XMLParser({
  ignoreAttributes: false,
  isArray: (name) => ['measure', 'note', 'beam', 'slur', 'barline', 'lyric'].includes(name),
});

interface XmlNote {
  readonly pitch?: { step: string; alter?: number; octave: number };
  readonly duration: number;
  readonly accidental?: string;
  readonly notations?: { technical?: Record<string, unknown>; slur?: { '@_type': string }[] };
  readonly lyric?: { syllabic: string; text: string }[];
  readonly beam?: { '#text': string }[];
}
interface XmlMeasure {
  readonly note: XmlNote[];
  readonly attributes?: Record<string, unknown>;
  readonly barline?: Record<string, Record<string, unknown>>[];
  readonly '@_implicit'?: string;
}

function measures(xml: string): XmlMeasure[] {
  expect(XMLValidator.validate(xml)).toBe(true);
  const parsed = parser.parse(xml) as { 'score-partwise': { part: { measure: XmlMeasure[] } } };
  return parsed['score-partwise'].part.measure;
}

describe('writeMusicXml', () => {
  it('fills every full bar with its divisions', () => {
    const bars = measures(writeMusicXml(tuneOf('AB cd e2 (3fga | [Ac]2 z2 A4 |')));
    for (const bar of bars) {
      const sum = bar.note.filter((note) => !('chord' in note)).reduce((total, { duration }) => total + duration, 0);
      expect(sum).toBe(4 * 3360);
    }
  });

  it('prints accidentals only where the bar so far would mislead', () => {
    const [first, second] = measures(writeMusicXml(tuneOf('F2 =F2 F2 ^F2 | F4 f4 |', { key: 'G' })));
    expect(first!.note.map(({ accidental }) => accidental)).toEqual([undefined, 'natural', undefined, 'sharp']);
    expect(second!.note.map(({ accidental }) => accidental)).toEqual([undefined, undefined]);
  });

  it('carries fingers, bows, slurs and syllables', () => {
    const [bar] = measures(writeMusicXml(tuneOf('v!1!A2 (B2 c2) d2 |\nw: keep lan-tern low')));
    expect(bar!.note[0]!.notations!.technical).toMatchObject({ 'down-bow': '', fingering: 1 });
    expect(bar!.note[1]!.notations!.slur![0]!['@_type']).toBe('start');
    expect(bar!.note.map(({ lyric }) => lyric?.[0]?.syllabic)).toEqual(['single', 'begin', 'end', 'single']);
  });

  it('writes pickups, repeats and endings', () => {
    const bars = measures(writeMusicXml(tuneOf('A2 |: B8 |1 c6 A2 :|2 c8 |]')));
    expect(bars[0]!['@_implicit']).toBe('yes');
    expect(JSON.stringify(bars[1]!.barline)).toContain('forward');
    expect(JSON.stringify(bars[2]!.barline)).toContain('backward');
    expect(JSON.stringify(bars[3]!.barline)).toContain('"@_number":"2"');
  });

  it('closes an ending of several bars with its own number', () => {
    const bars = measures(writeMusicXml(tuneOf('|: B8 |1 c8 :|2 c8 | d8 |]')));
    expect(bars[2]!.barline!.flatMap(({ ending }) => (ending ? [[ending['@_number'], ending['@_type']]] : []))).toEqual(
      [['2', 'start']],
    );
    expect(bars[3]!.barline![0]!.ending).toMatchObject({ '@_number': '2', '@_type': 'stop' });
  });

  it('writes the bass an octave above its sound', () => {
    const [bar] = measures(writeMusicXml(tuneOf('E,,,8 |'), { clef: { sign: 'F', line: 4 }, writtenOctave: 1 }));
    expect(bar!.note[0]!.pitch!.octave).toBe(2);
    expect(bar!.attributes).toMatchObject({ transpose: { 'octave-change': -1 }, clef: { sign: 'F', line: 4 } });
  });

  it('beams plain eighths by the half bar and others by the beat', () => {
    const [bar] = measures(writeMusicXml(tuneOf('ABcd e/f/g ab |')));
    expect(bar!.note.map(({ beam }) => beam?.[0]?.['#text'] ?? beam?.[0])).toEqual([
      'begin',
      'continue',
      'continue',
      'end',
      'begin',
      'continue',
      'end',
      'begin',
      'end',
    ]);
  });

  it('escapes what users write', () => {
    const xml = writeMusicXml({ ...tuneOf('A8 |'), title: 'Salt & <Sill> "x"' });
    expect(XMLValidator.validate(xml)).toBe(true);
    expect(xml).toContain('Salt &amp; &lt;Sill&gt;');
  });
});

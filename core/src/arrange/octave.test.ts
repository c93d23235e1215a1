/** The octave in which a tune opens on an instrument. */
import { expect, it } from 'vitest';
import { readAbc, readMusicXml } from '../formats/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Tune } from '../music/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import { openingOctave } from './index.ts';

type Row = readonly [why: string, instrument: InstrumentId, music: string, key: string, octave: number];

const ROWS: readonly Row[] = [
  ['a bass part is read an octave lower', 'bass', 'G,A,B,C D2G,2', 'G clef=bass', -12],
  ['on the cello it sounds as it is written', 'cello', 'G,A,B,C D2G,2', 'G clef=bass', 0],
  ['wholly too high for first position', 'bass', 'F,G,A,F,', 'D', -12],
  ['at the pitch of the bass', 'bass', 'G,,A,,B,,G,,', 'G', 0],
  ['a fiddle tune', 'bass', 'GABc dBAG gage dBAG', 'G', -36],
  ['a fiddle tune', 'cello', 'GABc dBAG gage dBAG', 'G', -24],
  ['a tune that goes up to III stays where it was written', 'violin', "d'bag d'bag d'2 a2", 'G', 0],
  ['one note too low is told, and the tune stays', 'violin', 'GABc dBAG GABc dBAF,', 'G', 0],
  ['a cello melody in IV stays', 'cello', 'EFGF E2G2', 'G', 0],
];

it.each(ROWS)('%s: %s, %s', (_, instrument, music, key, octave) => {
  expect(openingOctave(tuneOf(`${music}|`, { key }), deciding({ instrument }))).toBe(octave);
});

it('knows the bass clef from MusicXML, unless the part says that it sounds an octave lower', () => {
  const score = (
    transpose: string,
  ) => `<score-partwise><part-list><score-part id="P1"><part-name>B</part-name></score-part></part-list>
    <part id="P1"><measure number="1"><attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time>
    <clef><sign>F</sign><line>4</line></clef>${transpose}</attributes>
    <note><pitch><step>G</step><octave>3</octave></pitch><duration>4</duration><type>whole</type></note></measure></part></score-partwise>`;
  const read = (xml: string): Tune => {
    const result = readMusicXml(xml);
    if (!result.ok) throw new Error(result.problems[0]?.message);
    return result.value.tune;
  };
  expect(read(score('')).clef).toBe('bass');
  const lower = read(score('<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>'));
  expect(lower.clef).toBeUndefined();
  expect(openingOctave(lower, deciding({ instrument: 'bass' }))).toBe(0);
});

it('knows the bass clef from ABC', () => {
  const clefs = ['K:C clef=bass', 'K:C bass', 'K:C'].map((line) => {
    const read = readAbc(`X:1\nT:Test\nM:4/4\nL:1/4\n${line}\nC,D,E,F,|\n`);
    return read.ok ? read.value.tune.clef : null;
  });
  expect(clefs).toEqual(['bass', 'bass', undefined]);
});

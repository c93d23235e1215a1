/**
 * Short passages with the fingering that trained players would teach in first position, written by
 * reasoning from technique. Each line: what it shows, the music, and string with finger for each note
 * (v low, ^ high, + extended up, − reaching back).
 */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { standardTuning, type InstrumentId } from '../instrument/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { fingerTune, symbol, workingTempo, type HandLimits } from './index.ts';

type Passage = readonly [shows: string, music: string, fingers: string, header?: Header, limits?: HandLimits];

const STRINGS: Readonly<Record<InstrumentId, string>> = { violin: 'GDAE', viola: 'CGDA', cello: 'CGDA', bass: 'EADG' };

function fingers(instrument: InstrumentId, music: string, header: Header, limits: HandLimits): string {
  const tune = tuneOf(music, { tempo: '1/4=100', ...header });
  const setup = { instrument, tuning: standardTuning(instrument), limits, locks: {}, tempo: workingTempo(tune) };
  return fingerTune(tune, analyseForm(tune), setup)
    .notes.map(({ stops }) =>
      stops
        .map(
          (stop) =>
            STRINGS[instrument][stop.string]! + symbol(stop, instrument).replace('\u0323', 'v').replace('\u0307', '^'),
        )
        .join('/'),
    )
    .join(' ');
}

const VIOLIN: readonly Passage[] = [
  ['D major up from the open string', 'DEFG ABcd', 'D0 D1 D2 D3 A0 A1 A2 A3', { key: 'D' }],
  ['D major down again', 'dcBA GFED', 'A3 A2 A1 A0 D3 D2 D1 D0', { key: 'D' }],
  ['A major over the top strings', 'ABcd efga', 'A0 A1 A2 A3 E0 E1 E2 E3', { key: 'A' }],
  ['low seconds in C major', 'CDEF GABc', 'G3 D0 D1 D2v D3 A0 A1 A2v', { key: 'C' }],
  ['low seconds on the two lower strings', 'G,A,_B,C DE=FG', 'G0 G1 G2v G3 D0 D1 D2v D3', { key: 'C' }],
  ['high third on the G string', 'A,B,^CD E2', 'G1 G2 G3^ D0 D1', { key: 'A' }],
  ['high third on the D string', 'EF^GA B2', 'D1 D2 D3^ A0 A1', { key: 'A' }],
  ['low first on the E string', 'e=fg=f', 'E0 E1v E2v E1v', { key: 'C' }],
  ['B flat on the A string is a low first', 'AB AG', 'A0 A1v A0 D3', { key: 'F' }],
  ['E flat on the D string is a low first', 'DE FE', 'D0 D1v D2v D1v', { key: 'Bb' }],
  ['A flat between neighbours is a low fourth', 'G_AGF', 'D3 D4v D3 D2v', { key: 'Eb' }],
  ['a top B by the fourth finger', 'gaba', 'E2v E3 E4 E3', { key: 'C' }],
  ['a top B flat by the low fourth', 'ga_ba', 'E2v E3 E4v E3', { key: 'F' }],
  ['the turn round an open string goes down', 'BAGA', 'A1 A0 D3 A0', { key: 'G', tempo: '1/4=50' }],
  ['a quick turn stays by the fourth finger', 'FGAG FGAG', 'D2 D3 D4 D3 D2 D3 D4 D3', { key: 'G', tempo: '1/4=140' }],
  ['an arpeggio upwards rings on open strings', 'G,B,DG Bdg2', 'G0 G2 D0 D3 A1 A3 E2v', { key: 'G' }],
  ['a D arpeggio', 'DFAd fa2', 'D0 D2 A0 A3 E1 E3', { key: 'D' }],
  ['a rocking fifth lies under one finger', 'EBEB', 'D1 A1 D1 A1', { key: 'G' }],
  ['a third and an open string', 'dBGB', 'A3 A1 D3 A1', { key: 'G' }],
  ['crossing back and forth in thirds', 'GBAc Bdce', 'D3 A1 A0 A2v A1 A3 A2v A4', { key: 'G' }],
  ['no fourth finger: the open string', 'FGAG', 'D2 D3 A0 D3', { key: 'G', tempo: '1/4=140' }, { noFourth: true }],
  ['no fourth finger: A flat by the high third', 'G2_A2', 'D3 D3^', { key: 'Eb', tempo: '1/4=60' }, { noFourth: true }],
  ['octaves from open to third finger', 'D2 d2 G2 g2', 'D0 A3 D3 E2v', { key: 'G' }],
  ['a third as a double stop', '[GB]4 [Ac]4', 'D3/A1 D4/A2v', { key: 'G' }],
  ['a sixth as a double stop', '[Ge]4', 'D3/A4', { key: 'G', tempo: '1/4=60' }],
  ['drone on the open string below', '[DB]4 [DA]4', 'D0/A1 D0/A0', { key: 'D' }],
  ['a grace from above', '{c}B2 A2', 'A2v A1 A0', { key: 'G' }],
];

const VIOLA: readonly Passage[] = [
  ['C major from the lowest string', 'C,D,E,F, G,A,B,C', 'C0 C1 C2 C3 G0 G1 G2 G3', { key: 'C' }],
  ['G major', 'G,A,B,C DEFG', 'G0 G1 G2 G3 D0 D1 D2 D3', { key: 'G' }],
  ['low second on the A string', 'ABcd', 'A0 A1 A2v A3', { key: 'C' }],
  ['a quick run stays by the fourth finger', 'B,CDC B,CDC', 'G2 G3 G4 G3 G2 G3 G4 G3', { key: 'C', tempo: '1/4=140' }],
  ['E flat is a low second on the C string', 'C,D,_E,F,', 'C0 C1 C2v C3', { key: 'Bb' }],
];

const CELLO: readonly Passage[] = [
  ['C major', 'C,,D,,E,,F,, G,,A,,B,,C,', 'C0 C1 C3 C4 G0 G1 G3 G4'],
  ['G major', 'G,,A,,B,,C, D,E,F,G,', 'G0 G1 G3 G4 D0 D1 D3 D4', { key: 'G' }],
  ['D major', 'D,E,F,G, A,B,CD', 'D0 D1 D3 D4 A0 A1 A3 A4', { key: 'D' }],
  ['second finger for the minor third', 'D,E,F,E,', 'D0 D1 D2 D1', { key: 'C' }],
  ['F natural and F sharp', 'D,2 =F,2 ^F,2 G,2', 'D0 D2 D3 D4', { key: 'C' }],
  ['C natural on the A string', 'A,B,CB,', 'A0 A1 A2 A1', { key: 'C' }],
  ['the extension up to G sharp', 'E,2 ^F,2 ^G,2 A,2', 'D1 D2+ D4+ A0', { key: 'A', tempo: '1/4=70' }],
  ['a fifth across under one finger', 'A,,E,A,,E,', 'G1 D1 G1 D1', { key: 'G' }],
  ['an open fifth', '[D,A,]4', 'D0/A0', { key: 'D' }],
];

const BASS: readonly Passage[] = [
  ['G major on the two upper strings', 'D,,E,,F,,G,,', 'D0 D1 D4 G0', { key: 'G', unit: '1/4' }],
  ['A and B on the G string', 'G,,A,,B,,A,,', 'G0 G1 G4 G1', { key: 'G', unit: '1/4' }],
  ['E minor’s low notes', 'E,,,F,,,G,,,A,,,', 'E0 E1 E2 A0', { key: 'G', unit: '1/4' }],
  ['B flat in half position', 'A,,,2 _B,,,2', 'A0 A1', { key: 'F', unit: '1/4' }],
  ['C on the A string by the second finger in first position', 'B,,,2 C,,2', 'A1 A2', { key: 'C', unit: '1/4' }],
  ['the four-finger school', 'B,,,C,,^C,,D,,', 'A1 A2 A3 A4', { key: 'C', unit: '1/4' }, { bassSchool: 'four' }],
];

describe.each([
  ['violin', VIOLIN],
  ['viola', VIOLA],
  ['cello', CELLO],
  ['bass', BASS],
] as const)('%s', (instrument, passages) => {
  for (const [shows, music, expected, header = {}, limits = {}] of passages) {
    it(shows, () => {
      expect(fingers(instrument, music, header, limits)).toBe(expected);
    });
  }
});

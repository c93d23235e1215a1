/**
 * Short passages with the fingering that trained players would teach, written by reasoning from technique
 * and not by running the solver. Each: what it shows, the music, and string with finger for each note
 * (v low, ^ high, + extended up, − reaching back, ° touching the octave). Prices are fitted on every
 * second one and reported on the others.
 */
import type { HandLimits, PresetId } from '../hand/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Header } from './testing.ts';

export interface Passage {
  readonly shows: string;
  readonly music: string;
  readonly fingers: string;
  readonly header: Header;
  readonly limits: HandLimits;
  readonly preset: PresetId;
}

type Row = readonly [
  shows: string,
  music: string,
  fingers: string,
  header?: Header,
  hand?: HandLimits & { readonly preset?: PresetId },
];

const SLOW = '1/4=50';
const QUICK = '1/4=140';
const BEATS = '1/4';

const VIOLIN: readonly Row[] = [
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
  ['the turn round an open string goes down', 'BAGA', 'A1 A0 D3 A0', { key: 'G', tempo: SLOW }],
  ['a quick turn stays by the fourth finger', 'FGAG FGAG', 'D2 D3 D4 D3 D2 D3 D4 D3', { key: 'G', tempo: QUICK }],
  ['an arpeggio upwards rings on open strings', 'G,B,DG Bdg2', 'G0 G2 D0 D3 A1 A3 E2v', { key: 'G' }],
  ['a D arpeggio', 'DFAd fa2', 'D0 D2 A0 A3 E1 E3', { key: 'D' }],
  ['a rocking fifth lies under one finger', 'EBEB', 'D1 A1 D1 A1', { key: 'G' }],
  ['a third and an open string', 'dBGB', 'A3 A1 D3 A1', { key: 'G' }],
  // Found: the open E at the very end, one crossing instead of the fourth finger on the last note. Both are taught.
  ['crossing back and forth in thirds', 'GBAc Bdce', 'D3 A1 A0 A2v A1 A3 A2v A4', { key: 'G' }],
  ['no fourth finger: the open string', 'FGAG', 'D2 D3 A0 D3', { key: 'G', tempo: QUICK }, { noFourth: true }],
  ['no fourth finger: A flat by the high third', 'G2_A2', 'D3 D3^', { key: 'Eb', tempo: '1/4=60' }, { noFourth: true }],
  ['octaves from open to third finger', 'D2 d2 G2 g2', 'D0 A3 D3 E2v', { key: 'G' }],
  ['a third as a double stop', '[GB]4 [Ac]4', 'D3/A1 D4/A2v', { key: 'G' }],
  ['a sixth as a double stop', '[Ge]4', 'D3/A4', { key: 'G', tempo: '1/4=60' }],
  ['drone on the open string below', '[DB]4 [DA]4', 'D0/A1 D0/A0', { key: 'D' }],
  ['a grace from above', '{c}B2 A2', 'A2v A1 A0', { key: 'G' }],
  ['high third in E major', 'EFGA B2', 'D1 D2 D3^ A0 A1', { key: 'E' }],
  ['E flat major, all fingers low', 'EFGA B2', 'D1v D2v D3 D4v A1v', { key: 'Eb' }],
  ['B flat major over three strings', 'B,CDE FGAB', 'G2v G3 D0 D1v D2v D3 A0 A1v', { key: 'Bb' }],
  ['F major, ending on the open E', 'FGAB cde2', 'D2v D3 A0 A1v A2v A3 E0', { key: 'F' }],
  ['the low third of E flat on the E string', 'fgag f2', 'E1v E2v E3v E2v E1v', { key: 'Eb' }],
  ['the low third of A flat on the A string', 'BcdcB2', 'A1v A2v A3v A2v A1v', { key: 'Ab' }],
  ['the low third of D flat on the D string', 'FGFGF2', 'D2v D3v D2v D3v D2v', { key: 'Db' }],
  ['D flat is a low third, coming from the string above too', 'fdBd e2', 'E1v A3v A1v A3v A4v', { key: 'Ab' }],
  [
    'a long E flat in A flat major by the low fourth',
    'Afe4',
    'D4v E1v A4v',
    { key: 'Ab', tempo: '1/4=100' },
    { maxPosition: 'I' },
  ],
  ['G flat close by the low first on the E string', 'f2 _g2 f2 e2', 'E1v E2v E1v A4v', { key: 'Eb' }],
  ['C flat close by the low first on the A string', 'B2 _c2 B2 A2', 'A1v A2v A1v D4v', { key: 'Ab' }],
  ['a semitone by a sliding first finger', 'A^ABc', 'A0 A1v A1 A2v', { key: 'C' }],
  ['a D minor arpeggio', 'DFAd fa2', 'D0 D2v A0 A3 E1v E3', { key: 'F' }],
  ['up the E string by way of III', "efga bc'd'2", 'E0 E1 E2v E1 E2 E3 E4', { key: 'G' }],
  ['a tune that lies in III', "a2b2 c'2d'2 c'2b2 a4", 'E1 E2 E3 E4 E3 E2 E1', { key: 'G' }],
  ['down from III with the first finger leading', "d'2c'2 b2a2 g4", 'E4 E3 E2 E1 E2v', { key: 'G' }],
  ['the octave harmonic within reach of III', "a2c'2 e'2c'2 a4", 'E1 E3 E4° E3 E1', { key: 'C' }],
  ['one note above the hand and back: a stretch', "a2 c'2 a2", 'E3 E4+ E3', { key: 'C' }],
  ['sixths on the top strings', '[Bg]4 [Af]4', 'A1/E2v A0/E1', { key: 'G' }],
  ['an octave with the open A', '[Aa]4', 'A0/E3', { key: 'A' }],
  ['an octave by first and fourth finger in III', '[Gg]4', 'D1/A4', { key: 'G' }],
  ['three strings of G', '[G,DB]4', 'G0/D0/A1', { key: 'G' }],
  ['three strings of E minor: a finger across two', '[G,EB]4', 'G0/D1/A1', { key: 'G' }],
  ['four strings of G', '[G,DBg]4', 'G0/D0/A1/E2v', { key: 'G' }],
  ['three strings of A minor', '[A,Ec]4', 'G1/D1/A2v', { key: 'C' }],
  ['a tune over a drone', '[DA]2[DB]2 [Dd]2[DB]2', 'D0/A0 D0/A1 D0/A3 D0/A1', { key: 'D' }],
  ['down through the open string', 'cBAG', 'A2v A1 A0 D3', { key: 'G' }],
  ['slurred pairs stay on the string', '(GA)(GA) (GA)(GF)', 'D3 D4 D3 D4 D3 D4 D3 D2', { key: 'G', tempo: QUICK }],
  ['ringing strings in a quick turn', 'F2 GAGF', 'D2 D3 A0 D3 D2', { key: 'G', tempo: QUICK }, { preset: 'ringing' }],
  [
    'first lessons take the open string',
    'F2 GAGF',
    'D2 D3 A0 D3 D2',
    { key: 'G', tempo: QUICK },
    { preset: 'first-lessons' },
  ],
  [
    'orchestra: no open string in a long quiet line',
    'G2 A4 G2',
    'D3 D4 D3',
    { key: 'G', tempo: SLOW },
    { preset: 'orchestra' },
  ],
  ['a learner of III plays there', "a2b2 c'2d'2 b2a2", 'E1 E2 E3 E4 E2 E1', { key: 'G' }, { preset: 'third-position' }],
  // Found: the last A of each group by the fourth finger, between F sharp and D on the same string. The rule for
  // runs applied to a broken chord; players who rock the bow keep the open string.
  ['broken thirds round open A', 'DAFA DAFA', 'D0 A0 D2 A0 D0 A0 D2 A0', { key: 'D' }],
  ['low second across an open string', 'EcAc', 'D1 A2v A0 A2v', { key: 'C' }],
  ['rocking between A and E string', 'dBdB gBgB', 'A3 A1 A3 A1 E2v A1 E2v A1', { key: 'G' }],
  ['a fifth under the third finger', 'GdBd GdBd', 'D3 A3 A1 A3 D3 A3 A1 A3', { key: 'G' }],
  ['a fifth under the low second', 'FcAc FcAc', 'D2v A2v A0 A2v D2v A2v A0 A2v', { key: 'F' }],
  ['a fifth under the first finger, low strings', 'A,EA,E', 'G1 D1 G1 D1', { key: 'G' }],
  ['G major arpeggio back and forth', 'B,GDG B,GDG', 'G2 D3 D0 D3 G2 D3 D0 D3', { key: 'G' }],
];

const VIOLA: readonly Row[] = [
  ['C major from the lowest string', 'C,D,E,F, G,A,B,C', 'C0 C1 C2 C3 G0 G1 G2 G3', { key: 'C' }],
  ['G major', 'G,A,B,C DEFG', 'G0 G1 G2 G3 D0 D1 D2 D3', { key: 'G' }],
  ['low second on the A string', 'ABcd', 'A0 A1 A2v A3', { key: 'C' }],
  ['a quick run stays by the fourth finger', 'B,CDC B,CDC', 'G2 G3 G4 G3 G2 G3 G4 G3', { key: 'C', tempo: QUICK }],
  ['E flat is a low second on the C string', 'C,D,_E,F,', 'C0 C1 C2v C3', { key: 'Bb' }],
  ['F major over three strings', 'F,G,A,B, CDEF', 'C3 G0 G1 G2v G3 D0 D1 D2v', { key: 'F' }],
  ['a D minor arpeggio', 'DFAd', 'D0 D2v A0 A3', { key: 'F' }],
  ['a tune that lies in III', 'd2e2 f2g2 f2e2 d4', 'A1 A2 A3 A4 A3 A2 A1', { key: 'C' }],
  ['a third as a double stop', '[CE]4', 'G3/D1', { key: 'C' }],
  ['a sixth as a double stop', '[CA]4', 'G3/D4', { key: 'C', tempo: '1/4=60' }],
  ['an octave with the open G', '[G,G]4', 'G0/D3', { key: 'G' }],
  ['three strings of C', '[C,G,E]4', 'C0/G0/D1', { key: 'C' }],
  ['a fifth under one finger', 'A,EA,E', 'G1 D1 G1 D1', { key: 'C' }],
  ['no fourth finger: the open string', 'B,CDC', 'G2 G3 D0 G3', { key: 'C', tempo: QUICK }, { noFourth: true }],
  ['the low third of A flat major on the D string', 'EFGFE2', 'D1v D2v D3v D2v D1v', { key: 'Db' }],
  ['high third in A major', 'A,B,CD E2', 'G1 G2 G3^ D0 D1', { key: 'A' }],
];

const CELLO: readonly Row[] = [
  ['C major', 'C,,D,,E,,F,, G,,A,,B,,C,', 'C0 C1 C3 C4 G0 G1 G3 G4'],
  ['G major', 'G,,A,,B,,C, D,E,F,G,', 'G0 G1 G3 G4 D0 D1 D3 D4', { key: 'G' }],
  ['D major', 'D,E,F,G, A,B,CD', 'D0 D1 D3 D4 A0 A1 A3 A4', { key: 'D' }],
  ['second finger for the minor third', 'D,E,F,E,', 'D0 D1 D2 D1', { key: 'C' }],
  ['F natural and F sharp', 'D,2 =F,2 ^F,2 G,2', 'D0 D2 D3 D4', { key: 'C' }],
  ['C natural on the A string', 'A,B,CB,', 'A0 A1 A2 A1', { key: 'C' }],
  ['the extension up to G sharp', 'E,2 ^F,2 ^G,2 A,2', 'D1 D2+ D4+ A0', { key: 'A', tempo: '1/4=70' }],
  ['a fifth across under one finger', 'A,,E,A,,E,', 'G1 D1 G1 D1', { key: 'G' }],
  ['an open fifth', '[D,A,]4', 'D0/A0', { key: 'D' }],
  ['F major', 'F,,G,,A,,B,, C,D,E,F,', 'C4 G0 G1 G2 G4 D0 D1 D2', { key: 'F' }],
  ['B flat major, reaching back', 'B,,C,D,E, F,G,A,B,', 'G2 G4 D0 D1− D2 D4 A0 A1−', { key: 'Bb' }],
  ['A major, the hand open', 'A,,B,,C,D, E,F,G,A,', 'G1 G2+ G4+ D0 D1 D2+ D4+ A0', { key: 'A' }],
  ['a chromatic run up: one shift', 'A,^A,B,C ^CD^DE', 'A0 A1 A2 A3 A1 A2 A3 A4', { key: 'C' }],
  ['a chromatic run down: one shift', 'E_ED_D C=B,_B,A,', 'A4 A3 A2 A1 A3 A2 A1 A0', { key: 'C' }],
  ['a tune that lies in III', 'D2E2 F2E2 D4', 'A1 A3 A4 A3 A1', { key: 'C' }],
  ['a tune that lies in IV', 'E2F2 G2F2 E4', 'A1 A2 A4 A2 A1', { key: 'C' }],
  ['IV entered on the second finger', 'F2G2 F2E2', 'A2 A4 A2 A1', { key: 'C' }],
  ['lower II in E flat', 'C2D2 _E2D2 C4', 'A1 A3 A4 A3 A1', { key: 'Eb' }],
  ['upper II in A', '^C2D2 E2D2 ^C4', 'A1 A2 A4 A2 A1', { key: 'A' }],
  ['D minor', 'D,E,F,G,F,E,', 'D0 D1 D2 D4 D2 D1', { key: 'F' }],
  ['E minor', 'E,F,G,A,B,2', 'D1 D3 D4 A0 A1', { key: 'G' }],
  ['C minor, reaching back', 'C,D,E,F, G,2', 'G4 D0 D1− D2 D4', { key: 'Eb' }],
  ['fifths move from finger to finger', 'A,,E,B,,F,', 'G1 D1 G3 D3', { key: 'D' }],
  ['E flat major on the low strings', 'E,,F,,G,,A,,', 'C2 C4 G0 G1−', { key: 'Eb' }],
  ['a quick chromatic fall lies in half position', 'F,E,_E,D,', 'D3 D2 D1 D0', { key: 'C', tempo: QUICK }],
  ['a third as a double stop', '[C,E,]4', 'G4/D1', { key: 'C' }],
  ['a sixth as a double stop', '[E,C]4', 'D1/A2', { key: 'C' }],
  ['a sixth by second and fourth finger', '[F,D]4', 'D2/A4', { key: 'C' }],
  ['a sixth over the open D', '[D,B,]4', 'D0/A1', { key: 'G' }],
  ['three strings of C', '[C,,G,,E,]4', 'C0/G0/D1', { key: 'C' }],
  ['three strings of G', '[G,,D,B,]4', 'G0/D0/A1', { key: 'G' }],
  ['four strings of C', '[C,,G,,E,C]4', 'C0/G0/D1/A2', { key: 'C' }],
  ['a fifth as a double stop lies under one finger', '[A,,E,]4', 'G1/D1', { key: 'C' }],
  ['the octave as a harmonic', 'A,4 A4 A,4', 'A0 A3° A0', { key: 'C' }],
  ['rocking on open strings', 'D,A,D,A,', 'D0 A0 D0 A0', { key: 'D' }],
  ['an arpeggio of C', 'C,,E,,G,,C, E,G,C2', 'C0 C3 G0 G4 D1 D4 A2', { key: 'C' }],
  ['an arpeggio of G', 'G,,B,,D,G, B,DB,G,', 'G0 G3 D0 D4 A1 A4 A1 D4', { key: 'G' }],
];

const BASS: readonly Row[] = [
  ['G major on the two upper strings', 'D,,E,,F,,G,,', 'D0 D1 D4 G0', { key: 'G', unit: BEATS }],
  ['A and B on the G string', 'G,,A,,B,,A,,', 'G0 G1 G4 G1', { key: 'G', unit: BEATS }],
  ['E minor’s low notes', 'E,,,F,,,G,,,A,,,', 'E0 E1 E2 A0', { key: 'G', unit: BEATS }],
  ['B flat in half position', 'A,,,2 _B,,,2', 'A0 A1', { key: 'F', unit: BEATS }],
  ['C on the A string by the second finger', 'B,,,2 C,,2', 'A1 A2', { key: 'C', unit: BEATS }],
  ['the four-finger school', 'B,,,C,,^C,,D,,', 'A1 A2 A3 A4', { key: 'C', unit: BEATS }, { bassSchool: 'four' }],
  ['F major in half position', 'F,,,G,,,A,,,B,,,', 'E1 E4 A0 A1', { key: 'F', unit: BEATS }],
  ['C major from C', 'C,,D,,E,,F,,', 'A2 D0 D1 D2', { key: 'C', unit: BEATS }],
  ['G major over an octave', 'G,,,A,,,B,,,C,, D,,E,,F,,G,,', 'E2 A0 A1 A2 D0 D1 D4 G0', { key: 'G', unit: BEATS }],
  ['a chromatic start on the E string', 'E,,,F,,,^F,,,G,,,', 'E0 E1 E2 E4', { key: 'C', unit: BEATS }],
  ['a chromatic start on the G string', 'G,,^G,,A,,^A,,', 'G0 G1 G2 G4', { key: 'C', unit: BEATS }],
  [
    'four fingers in half position',
    'A,,,^A,,,B,,,C,,',
    'A0 A1 A2 A3',
    { key: 'C', unit: BEATS },
    { bassSchool: 'four' },
  ],
  ['a figure in II', '^A,,2B,,2 C,2B,,2', 'G1 G2 G4 G2', { key: 'C', unit: BEATS }],
  ['a figure in III', 'C,2^C,2 D,2^C,2', 'G1 G2 G4 G2', { key: 'C', unit: BEATS }],
  ['a figure in IV', 'D,2_E,2 =E,2_E,2', 'G1 G2 G4 G2', { key: 'C', unit: BEATS }],
  ['a figure in V', '_E,2=E,2 F,2=E,2', 'G1 G2 G4 G2', { key: 'C', unit: BEATS }],
  ['near the octave the third finger takes over', 'E,2F,2 ^F,2=F,2', 'G1 G2 G3 G2', { key: 'C', unit: BEATS }],
  ['the octave as a harmonic', 'G,,4 G,4', 'G0 G3°', { key: 'G', unit: BEATS }],
  ['an open string and the first finger', 'A,,,E,,A,,,E,,', 'A0 D1 A0 D1', { key: 'C', unit: BEATS }],
  ['a fifth by first and fourth finger', 'B,,,F,,B,,,F,,', 'A1 D4 A1 D4', { key: 'D', unit: BEATS }],
  ['a fourth lies under one finger', 'B,,,E,,B,,,E,,', 'A1 D1 A1 D1', { key: 'G', unit: BEATS }],
  ['a bass line in A minor', 'A,,,2C,,2 D,,2A,,,2', 'A0 A2 D0 A0', { key: 'C', unit: BEATS }],
  [
    'on one string the hand moves between 1 and 2',
    '^C,,D,,^C,,B,,,',
    'A2 A4 A2 A1',
    { key: 'D', tempo: '1/4=120' },
    { preset: 'one-string' },
  ],
  ['half position, open string, first position', '_E,,D,,^F,,G,,', 'D1 D0 D4 G0', { key: 'G', tempo: '1/4=120' }],
  ['B flat major in half position', 'B,,,C,,D,,E,, F,,2', 'A1 A4 D0 D1 D4', { key: 'Bb', unit: BEATS }],
  ['E flat major in half position', 'E,,F,,G,,A,,', 'D1 D4 G0 G1', { key: 'Eb', unit: BEATS }],
  ['a sixth over the open string', '[D,,B,,]4', 'D0/G4', { key: 'G', unit: BEATS }],
  ['a fifth as a double stop', '[E,,B,,]4', 'D1/G4', { key: 'G', unit: BEATS }],
  [
    'four fingers, step and chromatic',
    'B,,,C,,^C,,B,,,',
    'A1 A2 A3 A1',
    { key: 'C', unit: BEATS },
    { bassSchool: 'four' },
  ],
];

const rows = (list: readonly Row[]): readonly Passage[] =>
  list.map(([shows, music, fingers, header = {}, hand = {}]) => {
    const { preset = 'all-round', ...limits } = hand;
    return { shows, music, fingers, header, limits, preset };
  });

export const PASSAGES: Readonly<Record<InstrumentId, readonly Passage[]>> = {
  violin: rows(VIOLIN),
  viola: rows(VIOLA),
  cello: rows(CELLO),
  bass: rows(BASS),
};

/**
 * Passages with the fingers of standard technique, written before the solver ran on them. Test data; not part of any
 * public index.
 *
 * String and finger of each note; `|` between ways that teachers choose among, `?` for any finger.
 */
import type { HandLimits, PresetId } from '../hand/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Header } from './testing.ts';

export interface FingeredPassage {
  readonly instrument: InstrumentId;
  readonly music: string;
  readonly fingers: string;
  readonly why: string;
  readonly header: Header;
  readonly hand: HandSide;
}

interface HandSide {
  readonly limits?: HandLimits;
  readonly preset?: PresetId;
}
type Row = readonly [music: string, fingers: string, why: string];

/** @param at key, unit and beats a minute: `G 1/8 80` */
function passages(
  instrument: InstrumentId,
  at: string,
  rows: readonly Row[],
  hand: HandSide = {},
): readonly FingeredPassage[] {
  const [key, unit, beats] = at.split(' ');
  const header: Header = { key: key!, unit: unit!, tempo: `1/4=${beats}` };
  return rows.map(([music, fingers, why]) => ({ instrument, music, fingers, why, header, hand }));
}

const ONE_STRING: HandSide = { preset: 'one-string' };
const THIRD: HandSide = { preset: 'third-position' };
const SMALL: HandSide = { preset: 'small-hands' };
const ORCHESTRA: HandSide = { preset: 'orchestra' };
const CLOSED: HandSide = { limits: { noExtension: true } };

const VIOLIN: readonly FingeredPassage[] = [
  ...passages('violin', 'G 1/8 80', [
    ["g b d' b g", 'A4 E2 E4 E2 A4', 'the chord lies in III'],
    ['B d g b g d B', 'A1 A3 E2 E4 E2 A3 A1', 'the chord lies in I'],
    ["d' c' d' b a", 'E4 E3 E4 E2 E1', 'III'],
    ["b c' d' c' b a", 'E2 E3 E4 E3 E2 E1', 'III'],
    ["f g a b c' d' c' b a g f", 'E1 E2 E1 E2 E3 E4 E3 E2 E1 E2 E1', 'one move, led by the first finger, both ways'],
    ['G A G A B c', 'D3 D4 D3 A0 A1 A2', 'the fourth finger where it goes back, the open string where it goes on'],
    ['E F G A B A G F E', 'D1 D2 D3 A0 A1 A0|D4 D3 D2 D1', 'open on the way up'],
    ['B c d e d c B A', 'A1 A2 A3 A4 A3 A2 A1 A0', 'the fourth finger at the top of a string'],
    ['G, B, D G B d g d B G D B, G,', 'G0 G2 D0 D3 A1 A3 E2 A3 A1 D3 D0 G2 G0', 'two octaves of a chord in I'],
    ['D B, D A, D C D B,', 'D0 G2 D0 G1 D0 G3 D0 G2', 'a pedal above'],
    ["g a b c' b a g", 'E2|E1 E1|E2|E3 E2|E3|E4 E3|E4 E2|E3|E4 E1|E2|E3 E2|E1', 'II or III, no farther'],
  ]),
  ...passages('violin', 'Am 1/8 80', [
    ["a c' e' c' a", 'E1|A4 E3|E2 E4 E3|E2 E1|A4', 'the octave of the string under the fourth finger'],
    ['A c e c A', 'A0 A2 E0|A4 A2 A0|D4', 'the chord lies in I'],
    ['e _e d _d c B _B A', 'E0|A4 A4 A3 A3|A2 A2 A1 A1 A0', 'down by semitones'],
    ['A ^A B c ^c d ^d e', 'A0 A1 A1 A2 A2 A3 A3|A4 E0|A4', 'up by semitones'],
    ['e f ^f g ^g a', 'E0 E1 E1 E2 E2 E3', 'up by semitones'],
  ]),
  ...passages('violin', 'C 1/8 80', [
    ["c e g c' g e c", 'A1|A2 A3|E0|A4 E1|E2 E4 E1|E2 A3|E0|A4 A1|A2', 'II, or the fourth finger stretched in I'],
    ['G, D G, E G, F G, G', 'G0 D0 G0 D1 G0 D2 G0 D3', 'a low pedal'],
    ['B d f d B', 'A1 A3 E1 A3 A1', 'a fifth with a low first finger'],
    ['d f d f e', 'A3 E1 A3 E1 E0|A4', 'the third finger and a low first over two strings'],
  ]),
  ...passages('violin', 'D 1/8 90', [
    ['d e f g a b a g f e d', 'A3 E0|A4 E1 E2 E3 E4 E3 E2 E1 E0|A4 A3', 'I'],
    ['B d f a b a f d B', 'A1 A3 E1 E3 E4 E3 E1 A3 A1', 'I'],
    ["f a d' a f d", 'E1|A3 E1 E4 E1 A3|E1 A1|A3', 'III for the top note'],
    ['F A d f a f d A F', 'D2 A0|D4 A3 E1 E3 E1 A3 A0|D4 D2', 'a chord in I'],
    ['d A e A f A g A', 'A3 A0 E0 A0 E1 A0 E2 A0', 'a pedal below'],
    ['d e f e d', 'A3 E0|A4 E1 E0|A4 A3', 'I'],
    ["a b c' d' c' b a", 'E1 E2 E3 E4 E3 E2 E1', 'III'],
    ['F G A G F E D', 'D2 D3 D4 D3 D2 D1 D0', 'the fourth finger at the top of a string'],
  ]),
  ...passages('violin', 'G 1/8 140', [['e B e c e d e f', 'E0 A1 E0 A2 E0 A3 E0 E1', 'a pedal above']]),
  ...passages('violin', 'Bb 1/8 90', [
    [
      'B c d e f g a b a g f e d c B',
      'A1 A2 A3 A4 E1 E2 E3 E4 E3 E2 E1 A4 A3 A2 A1',
      'an octave that lies in I stays there',
    ],
    ['B, C D E F G A B', 'G2 G3 D0 D1 D2 D3 A0|D4 A1', 'I'],
  ]),
  ...passages('violin', 'Eb 1/8 90', [
    ['c d e f g a g f e d c', 'A2 A3 A4 E1 E2 E3 E2 E1 A4 A3 A2', 'low fourth, low first, low third'],
    ['E F G A B c d e', 'D1 D2 D3 D4 A1 A2 A3 A4', 'the octave in I'],
  ]),
  ...passages('violin', 'Ab 1/8 90', [['A B c d e f g a', 'D4 A1 A2 A3 A4 E1 E2 E3', 'the octave in I']]),
  ...passages('violin', 'E 1/8 90', [['E F G A B c d e', 'D1 D2 D3 A0|D4 A1 A2 A3 E0|A4', 'the octave in I']]),
  ...passages('violin', 'F 1/8 90', [
    ['F A c f c A F', 'D2 A0|D4 A2 E1 A2 A0|D4 D2', 'a chord in I'],
    ['F G A B c B A G F', 'D2 D3 A0|D4 A1 A2 A1 A0|D4 D3 D2', 'I'],
  ]),
  ...passages('violin', 'D 1/8 110', [['F G A G F', 'D2 D3 A0 D3 D2', 'no fourth finger: the open string']], {
    limits: { noFourth: true },
  }),
  ...passages('violin', 'D 1/8 110', [['F G A G F', 'D2 D3 A0 D3 D2', 'the open string rings']], { preset: 'ringing' }),
  ...passages('violin', 'G 1/4 60', [['G2 A4 G2', 'D3 D4 D3', 'no open string on a long note']], ORCHESTRA),
  ...passages(
    'violin',
    'D 1/4 60',
    [
      ['D E F G A B A G F E D', 'D? D? D? D? D? D? D? D? D? D? D?', 'all on D'],
      ['B c d e f e d c B', 'A? A? A? A? A? A? A? A? A?', 'all on A'],
    ],
    ONE_STRING,
  ),
  ...passages(
    'violin',
    'G 1/4 60',
    [
      ["g a b c' d' c' b a g", 'A4 E1 E2 E3 E4 E3 E2 E1 A4', 'stays in III'],
      ['G A B c B A G', 'D1 D2 D3 D4 D3 D2 D1', 'stays in III'],
      ['d f g d B', 'A1 A3 A4 A1 D3', 'stays in III'],
    ],
    THIRD,
  ),
  ...passages(
    'violin',
    'G 1/4 60',
    [
      ['G A2 G', 'D3 A0 D3', 'no long fourth finger'],
      ["a b c' b a", 'E1 E2 E3 E2 E1', 'III, not a stretch'],
    ],
    SMALL,
  ),
  ...passages(
    'violin',
    'G 1/8 100',
    [['_E ^G A ^G _E', 'D1 D4 A0 D4 D1', 'half position, not a low first with a high third']],
    SMALL,
  ),
];

const VIOLA: readonly FingeredPassage[] = [
  ...passages('viola', 'G 1/8 80', [
    ['G B d g d B G', 'D3 A1 A1|A3 A4 A1|A3 A1 D3', 'III for the top note'],
    ['d e f g f e d', 'A1 A2 A3 A4 A3 A2 A1', 'lies in III'],
    ['G, D G, E G, F G, D', 'G0 D0 G0 D1 G0 D2 G0 D0', 'a pedal below'],
    ['B, C D E D C B,', 'G2 G3 D0 D1 D0|G4 G3 G2', 'open on the way up'],
    ['A, B, C D C B, A,', 'G1 G2 G3 G4 G3 G2 G1', 'the fourth finger at the top of a string'],
    ['G, B, D G B G D B, G,', 'G0 G2 D0 D3 A1 D3 D0|G4 G2 G0', 'a chord in I'],
    ['B c d c B A G', 'A1 A2 A3 A2 A1 A0 D3', 'I'],
  ]),
  ...passages('viola', 'F 1/8 80', [
    [
      'c d e f e d c',
      'A1|A2 A1|A2|A3 A2|A3|A4 A3|A4 A2|A3|A4 A1|A2|A3 A1|A2',
      'II or III, or the fourth finger stretched in I',
    ],
    ['F A c A F', 'D2 A0|D4 A2 A0|D4 D2', 'a chord in I'],
    ['F, A, C F C A, F,', 'C3 G1 G3 D2 G3 G1 C3', 'a chord in I'],
  ]),
  ...passages('viola', 'C 1/8 90', [
    ['C, D, E, F, G, A, B, C', 'C0 C1 C2 C3 G0 G1 G2 G3', 'the octave in I'],
    ['C, G, C, A, C, B, C, G,', 'C0 G0 C0 G1 C0 G2 C0 G0', 'a pedal below'],
    ['C E G c e c G E C', 'G3 D1 D3 A2 A4 A2 D3 D1 G3', 'a chord in I'],
    ['D ^D E F ^F G', 'D0 D1 D1 D2 D2 D3', 'up by semitones'],
    ['D d D', 'D0 A3 D0', 'an octave'],
    ['e f g f e', 'A1|A2 A2|A3 A3|A4 A2|A3 A1|A2', 'III or IV, no farther'],
  ]),
  ...passages('viola', 'Eb 1/8 90', [
    ['E F G A B c d e', 'D1 D2 D3 D4 A1 A2 A3 A4', 'the octave in I'],
    ['E D E F G F E D', 'D1 D0 D1 D2 D3 D2 D1 D0', 'I'],
    ['E, F, G, A, B, C D E', 'C2 C3 G0|C4 G1 G2 G3 D0 D1', 'the octave in I'],
  ]),
  ...passages('viola', 'D 1/4 60', [['d e f g f e d', 'A1 A2 A3 A4 A3 A2 A1', 'stays in III']], THIRD),
  ...passages('viola', 'C 1/4 60', [['A B c d e d c B A', 'A0 A1 A2 A3 A4 A3 A2 A1 A0', 'all on A']], ONE_STRING),
  ...passages(
    'viola',
    'D 1/4 60',
    [['D E F G A B A G F E D', 'D? D? D? D? D? D? D? D? D? D? D?', 'all on D']],
    ONE_STRING,
  ),
  ...passages('viola', 'G 1/4 60', [['C D3 C', 'G3 D0 G3', 'no long fourth finger']], SMALL),
];

const CELLO: readonly FingeredPassage[] = [
  ...passages('cello', 'C 1/8 72', [
    ['A, ^A, B, C ^C D ^D E', 'A0 A1 A2 A3 A1 A2 A3 A4', 'half position, one move, four fingers'],
    ['A, _B, =B, C _D =D _E =E', 'A0 A1 A2 A3 A1 A2 A3 A4', 'the same in flats'],
    ['C,, ^C,, D,, ^D,, E,, F,, ^F,, G,,', 'C0 C1 C2 C3 C1 C2 C3 C4|G0', 'the same on C'],
    ['E _E D _D C B, _B, A,', 'A4 A3 A2 A1 A3 A2 A1 A0', 'the same downwards'],
    ['G,, ^G,, A,, ^A,, B,,', 'G0 G1 G2 G3 G4', 'all in half position'],
    ['G,, _A,, =A,, _B,, =B,,', 'G0 G1 G2 G3 G4', 'the same in flats'],
    ['C B, C _D C', 'A2 A1 A2 A3 A2', 'I'],
    ['E F G F E', 'A1 A2 A4 A2 A1', 'IV'],
    ['C E G E C', 'A2|D4 A1 A4 A1 A2|D4', 'IV for the top note'],
    ['A, C E C A,', 'A0 A1|A2 A1|A4 A1|A2 A0', 'no farther than IV'],
    ['C, E, D, F, E, G,', 'G4 D1 D0 D2 D1 D4', 'thirds in I'],
    ['E, C F, D', 'D1 A2 D2 A4', 'sixths in I'],
    ['B, C B, C D C', 'A1 A2 A1 A2 A4 A2', 'I'],
    ['C,, G,, C,, A,, C,, B,, C,, G,,', 'C0 G0 C0 G1 C0 G3 C0 G0', 'a pedal below'],
    ['A, F, A, E, A, D, A, F,', 'A0 D2 A0 D1 A0 D0 A0 D2', 'a pedal above'],
    ['E, G, C E, G, C', 'D1 D4 A2 D1 D4 A2', 'one figure twice'],
    ['C,, C, C,,', 'C0 G4 C0', 'an octave'],
    ['D, D D,', 'D0 A4 D0', 'an octave'],
    ['E, E E,', 'D1 A1|A4 D1', 'an octave'],
    ['C, D, E, F, G, A, B, C', 'G4 D0 D1 D2 D4 A0 A1 A2', 'the octave in I'],
  ]),
  ...passages('cello', 'G 1/8 80', [
    ['D, A, D, B, D, C D, A,', 'D0 A0 D0 A1 D0 A2 D0 A0', 'a pedal below'],
    ['G,, B,, D, B,, G,, B,, D, B,,', 'G0 G3 D0 G3 G0 G3 D0 G3', 'I'],
    ['B,, D, G, D, B,, D, G, D,', 'G3 D0 D4 D0 G3 D0 D4 D0', 'I'],
    ['G, B, D G D B, G,', 'D4 A1 A1|A4 A4 A1|A3|A4 A1 D4', 'IV for the top note'],
    ['D E F G F E D', 'A1|A4 A1 A3 A4 A3 A1 A1|A4', 'IV'],
    ['E F G F E F G E', 'A1 A3 A4 A3 A1 A3 A4 A1', 'IV'],
    ['G,, G, G,,', 'G0 D4 G0', 'an octave'],
    ['G,, D, B,, C, D, G,,', 'G0 D0 G3 G4 D0 G0', 'a bass line in I'],
    ['A, B, C D C B, A,', 'A0 A1 A2 A4 A2 A1 A0', 'I'],
  ]),
  ...passages('cello', 'D 1/8 90', [
    ['D, F, A, D A, F, D,', 'D0 D3 A0 A4 A0 D3 D0', 'a chord in I'],
    ['A, F, D, A, F, D,', 'A0 D3 D0 A0 D3 D0', 'one figure twice'],
    ['D E F A8', 'A1|A4 A1 A3 A3', 'the octave harmonic on a long last note'],
    ['D, E, F, G, A, B, C D', 'D0 D1 D3 D4 A0 A1 A3 A4', 'the octave in I'],
  ]),
  ...passages('cello', 'A 1/8 90', [
    ['A G A', 'A3 A2 A3', 'no finger under the harmonic that lies above it'],
    ['E, F, G, A,', 'D1 D2|D3 D4 A0', 'the hand open, or up a tone for G sharp'],
  ]),
  ...passages('cello', 'F 1/8 90', [
    ['F, A, C F C A, F,', 'D2 A0 A1|A2 A4 A1|A2 A0 D2', 'III for the top note'],
    ['F, A, C A, F, A, C A,', 'D2 A0 A2 A0 D2 A0 A2 A0', 'one figure twice'],
    ['F, G, A, B, C', 'D2 D4 A0 A1 A2|A3', 'B flat by reaching back, or in half position'],
    ['C, D, E, F, G, F, E, C,', 'G4 D0 D1 D2 D4 D2 D1 G4', 'I'],
  ]),
  ...passages('cello', 'Bb 1/8 72', [
    ['B, C D C B,', 'A1 A2 A4 A2 A1', 'reaching back'],
    ['E, F, G, F, E,', 'D1 D2 D4 D2 D1', 'reaching back'],
    ['B,, C, D, E, F, G, A, B,', 'G2 G4 D0 D1 D2|D3 D4 A0 A1', 'the octave in I with the hand open'],
    ['E D C B, A,', 'A4 A3|A4 A1|A2 A1 A0', 'lower II, then back; or from I'],
  ]),
  ...passages('cello', 'Fm 1/8 80', [
    ['F, A, G, F, =E, F,', 'D1|D2 D4 D3 D1|D2 D1 D2', 'lower II and I, or the hand open for A flat'],
  ]),
  ...passages('cello', 'Db 1/8 80', [
    ['E, F, G, F, E,', 'D1 D3 D4 D3 D1', 'half position, closed'],
    ['D,, E,, F,, E,, D,,', 'C1 C2 C4 C2 C1', 'reaching back'],
  ]),
  ...passages('cello', 'Eb 1/8 80', [['D E D C =B, C', 'A3 A4 A3 A1|A2 A1|A2 A1|A2|A3', 'no farther than lower II']]),
  ...passages(
    'cello',
    'G 1/4 60',
    [
      ['G,, B,, D, G, D, B,, G,,', 'G0 G3 D0 D4 D0 G3 G0', 'no reason to leave I'],
      ['C, B,, A,, G,,', 'G4 G3 G1 G0', 'no reason to leave I'],
    ],
    ORCHESTRA,
  ),
  ...passages('cello', 'G 1/4 50', [['G, A, B, A, G,', 'D? D? D? D? D?', 'all on D']], ONE_STRING),
  ...passages(
    'cello',
    'C 1/4 60',
    [
      ['D E F E D', 'A1 A3 A4 A3 A1', 'stays in III'],
      ['D _E F _E D', 'A1 A2 A4 A2 A1', 'stays in III'],
    ],
    THIRD,
  ),
  ...passages('cello', 'A 1/8 72', [['E, F, G, F, E,', 'D1 D3|D1 D3|D4 D3|D1 D1', 'a closed hand moves']], CLOSED),
  ...passages('cello', 'Bb 1/8 72', [['B, C D C B,', 'A1 A3|A2 A4 A3|A2 A1', 'half and I']], CLOSED),
];

const BASS: readonly FingeredPassage[] = [
  ...passages('bass', 'C 1/8 72', [
    ['G,, ^G,, A,, ^A,, B,, C,', 'G0 G1 G2 G4 G1 G2', 'half position, one move'],
    ['G,, _A,, =A,, _B,, =B,, C,', 'G0 G1 G2 G4 G1 G2', 'the same in flats'],
    ['C, B,, _B,, A,, _A,, G,,', 'G2 G1 G4 G2 G1 G0', 'the same downwards'],
    ['D,, ^D,, E,, F,, E,, ^D,, =D,,', 'D0 D1 D2 D4 D2 D1 D0', 'half position'],
    ['D,, _E,, =E,, F,, =E,, _E,, D,,', 'D0 D1 D2 D4 D2 D1 D0', 'the same in flats'],
    ['E,,, F,,, G,,, A,,, B,,, C,, D,,', 'E0 E1 E4|E2 A0 A1|A2 A2|A4 D0', 'half position, or on to I'],
    [
      'E,,, B,,, E,,, C,, E,,, D,, E,,, B,,,',
      'E0 A1|A2 E0 A2|A4 E0 D0|A4 E0 A1|A2',
      'a pedal below; the hand moves up while E rings, or the A string is skipped',
    ],
    ['F,,, A,,, C,, F,, C,, A,,, F,,,', 'E1 A0 A4|A2 D4|D2 A4|A2 A0 E1', 'half position'],
    ['C,, E,, G,, C, G,, E,, C,,', 'A2 D1 G0 G2|G4 G0 D1 A2', 'the hand moves while G rings'],
    ['E,,, E,, E,,,', 'E0 D1|D2 E0', 'an octave'],
    ['F,,, F,, F,,,', 'E1 D4 E1', 'an octave'],
    ['G,,, G,, G,,,', 'E2 G0 E2', 'an octave with the open string'],
  ]),
  ...passages('bass', 'G 1/8 90', [
    ['G,,, A,,, B,,, C,, D,, E,, F,, G,,', 'E2 A0 A1 A2 D0 D1 D4 G0', 'the octave in I'],
    ['D,, A,, D,, B,, D,, A,, D,, G,,', 'D0 G1 D0 G4 D0 G1 D0 G0', 'a pedal below'],
    ['G,, D,, A,, D,, B,, D,, A,, D,,', 'G0 D0 G1 D0 G4 D0 G1 D0', 'a pedal below'],
    ['G,,, B,,, D,, G,, D,, B,,, G,,,', 'E2 A1 D0 G0 D0 A1 E2', 'a chord in I'],
    ['G,,, D,, B,,, C,, D,, G,,,', 'E2 D0 A1 A2 D0 E2', 'a bass line in I'],
    ['A,, B,, C, B,, A,,', 'G1 G1|G2|G4 G2|G4 G1|G2|G4 G1', 'one small move'],
    ['A,,, A,, A,,,', 'A0 G1 A0', 'an octave'],
    ['B,,, B,, B,,,', 'A1 G4 A1', 'an octave'],
    ['F,,, F,, F,,,', 'E1 D4 E1', 'an octave'],
    ['B,,, F,, B,,,', 'A1 D4 A1', 'a fifth'],
    ['B,,, C,, D,, E,, D,, C,, B,,,', 'A1 A2 D0 D1 D0 A2 A1', 'the open string, since it goes on'],
  ]),
  ...passages('bass', 'D 1/8 90', [
    ['D,, E,, F,, G,, A,, B,, C, D,', 'D0 D1 D4 G0 G1 G1|G4 G2|G4 G4', 'III or III½ at the top'],
    ['B,,, C,, D,, E,, D,, C,, B,,,', 'A1 A4 D0 D1 D0 A4 A1', 'the open string, since it goes on'],
    ['D,, F,, A,, F,, D,,', 'D0 D4 G1 D4 D0', 'a chord in I'],
  ]),
  ...passages('bass', 'D 1/8 150', [
    ['C,, D,, C,, B,,,', 'A2 A4 A2 A1', 'the fourth finger keeps a quick turn on one string'],
    ['B,,, C,, D,, C,, B,,,', 'A1 A2 A4 A2 A1', 'the same from below'],
    ['F,, G,, F,, E,,', 'D2 D4 D2 D1', 'the same on D'],
    ['E,, F,, G,, F,, E,,', 'D1 D2 D4 D2 D1', 'the same from below'],
  ]),
  ...passages('bass', 'Bb 1/8 90', [
    ['E,, F,, G,, F,, E,,', 'D1 D4 G0 D4 D1', 'half position'],
    ['B,,, D,, F,, B,, F,, D,, B,,,', 'A1 D0 D2|D4 G2|G4 D2|D4 D0 A1', 'half position'],
  ]),
  ...passages('bass', 'F 1/8 90', [
    ['F,, G,, A,, B,, A,, G,, F,,', 'D2|D4 G0 G1|G2 G2|G4 G1|G2 G0 D2|D4', 'I or half position'],
  ]),
  ...passages('bass', 'Ab 1/8 80', [['A,, B,, C, B,, A,,', 'G1 G1|G4 G4 G1|G4 G1', 'half, and a move of a tone']]),
  ...passages('bass', 'A 1/4 80', [['E,, D,, C,, B,,,', 'D1 D0 A4 A1', 'the open D']]),
  ...passages('bass', 'E 1/4 80', [['E,, D,, C,, B,,,', 'D1|D2 D1 A4 A1', 'half position for D sharp']]),
  ...passages(
    'bass',
    'D 1/4 60',
    [
      ['D,, E,, F,, G,, F,, E,, D,,', 'D0 D1 D2 D4 D2 D1 D0', 'all on D'],
      ['A,,, B,,, C,, D,, C,, B,,, A,,,', 'A0 A1 A2 A4 A2 A1 A0', 'all on A'],
    ],
    ONE_STRING,
  ),
  ...passages('bass', 'C 1/8 72', [['G,, ^G,, A,, ^A,, B,,', 'G0 G1 G2 G3 G4', 'four fingers, all in half position']], {
    limits: { bassSchool: 'four' },
  }),
  ...passages('bass', 'D 1/8 150', [['E,, F,, G,, F,, E,,', 'D1 D3 D4 D3 D1', 'four fingers, one place']], {
    limits: { bassSchool: 'four' },
  }),
];

/** Phrases that once went wrong, each after a pattern of its own. */
const MENDED: readonly FingeredPassage[] = [
  ...passages('violin', 'D 1/8 80', [["f a d' a f", 'E1 E3|E1 E4 E3|E1 E1', 'III for the top note, not VI']]),
  ...passages('violin', 'G 1/8 80', [["g a b d' b a g", 'E2 E1|E3 E2 E4 E2 E1|E3 E2', 'III, led by 1']]),
  ...passages('violin', 'D 1/8 80', [["f b d' b a f", 'E1 E1|E2|E4 E4|E3 E2 E1|E3 E1', 'III']]),
  ...passages('viola', 'G 1/8 80', [['B d g d B', 'A1 A3|A1 A4 A3|A1 A1', 'III for the top note, not VI']]),
  ...passages('cello', 'G 1/8 80', [['B, D G D B,', 'A1 A4|A1 A4|A3 A4|A1 A1', 'IV for the top note, not VI']]),
  ...passages('violin', 'Am 1/8 160', [['e A e c e B e d', 'E0 A0 E0 A2 E0 A1 E0 A3', 'a pedal keeps its string']]),
  ...passages('viola', 'Dm 1/8 160', [['A D A F A E A G', 'A0 D0 A0 D2 A0 D1 A0 D3', 'a pedal keeps its string']]),
  ...passages('cello', 'G 1/8 120', [['D, B, D, C D, B, D, A,', 'D0 A1 D0 A2 D0 A1 D0 A0', 'open D rings under I']]),
  ...passages('cello', 'G 1/8 120', [['G, D, B, D, C D, B, D,', 'D4 D0 A1 D0 A2 D0 A1 D0', 'the same']]),
  ...passages('bass', 'G 1/8 96', [['G,, D,, B,, D,, A,, D,, B,, D,,', 'G0 D0 G4 D0 G1 D0 G4 D0', 'the same']]),
  ...passages(
    'cello',
    'Bb 1/8 72',
    [['D, E, F, G, F, E, D,', 'D0 D1 D2|D3 D4 D2|D3 D1 D0', 'half, then I, on D']],
    CLOSED,
  ),
  ...passages(
    'cello',
    'Dm 1/8 72',
    [['F, G, A, B, A, G, F, D,', 'D2 D4 A0 A1 A0 D4 D2 D0', 'half for B flat']],
    CLOSED,
  ),
  ...passages('cello', 'Ab 1/8 72', [['C D C B, C D C B,', 'A3 A4 A3 A1 A3 A4 A3 A1', 'half, closed hand']]),
  ...passages('cello', 'F 1/8 110', [
    ['F, D, B, A, G, F, D, B, A, G,', 'D2 D0 A1 A0 D4 D2 D0 A1 A0 D4', 'no trip to III for B flat'],
  ]),
  ...passages('bass', 'A 1/4 96', [['A,, G,, F,, E,, F,, G,, A,,', 'G2 G1 D4 D1 D4 G1 G2', 'half is a semitone away']]),
  ...passages('bass', 'A 1/4 96', [['E,, F,, G,, A,, G,, F,, E,,', 'D1 D4 G1 G2 G1 D4 D1', 'the same']]),
  ...passages(
    'violin',
    'G 1/4 60',
    [['A B c d c B A', 'A0 A1 A2 A3 A2 A1 A0', 'the string that the run lies on']],
    ONE_STRING,
  ),
  ...passages('violin', 'D 1/2 50', [['d e f g f e d', 'A? A? A? A? A? A? A?', 'slow, one string']], ONE_STRING),
  ...passages(
    'violin',
    'D 1/4 60',
    [['d e f g a g f e d', 'A1 A2 A3 A4 E1 A4 A3 A2 A1', 'stays in III where it is wished']],
    THIRD,
  ),
  ...passages('cello', 'G 1/4 60', [['G, D, B,, D, G,,', 'D4 D0 G3 D0 G0', 'no reason to leave I']], ORCHESTRA),
  ...passages('violin', 'A 1/8 80', [
    ["e a c' a e", 'E0|A4 E1|E3 E3|E4|E2 E1|E3 E0|A4', 'III in A major, a by the first finger'],
  ]),
  ...passages('violin', 'D 1/8 140', [
    ['A d A c A B A f', 'A0 A3 A0 A2 A0 A1 A0 E1', 'a pedal whose melody lies on its own string'],
  ]),
  ...passages('violin', 'D 1/8 140', [
    ['D F D G D F D E', 'D0 D2 D0 D3 D0 D2 D0 D1', 'the same below, and not high on the next string'],
  ]),
  ...passages('violin', 'G 1/8 140', [['D A D B D A D B', 'D0 A0 D0 A1 D0 A0 D0 A1', 'a pedal below the melody']]),
  ...passages('viola', 'G 1/8 120', [['D G, D A, D B, D G,', 'D0 G0 D0 G1 D0 G2 D0 G0', 'a pedal above the melody']]),
  ...passages('cello', 'G 1/8 120', [['G,, D, G,, E, G,, F, G,, D,', 'G0 D0 G0 D1 G0 D3 G0 D0', 'a low pedal']]),
  ...passages('cello', 'C 1/8 120', [['A, E, A, F, A, G, A, E,', 'A0 D1 A0 D2 A0 D4 A0 D1', 'a high pedal']]),
  ...passages('cello', 'C 1/8 80', [['E, _E, D, _E, E,', 'D1|D2 D1 D0 D1 D1|D2', 'semitones by the open string']]),
  ...passages('bass', 'C 1/8 100', [
    ['A,,, E,, A,,, F,, A,,, G,, A,,, E,,', 'A0 D1 A0 D2 A0 G0|D4 A0 D1', 'a low pedal'],
  ]),
  ...passages('bass', 'C 1/8 80', [['F,, ^F,, =F,, E,,', 'D2 D4 D2 D1', 'neighbours a semitone apart']]),
];

export const HAND_TRUTH: readonly FingeredPassage[] = [...VIOLIN, ...VIOLA, ...CELLO, ...BASS, ...MENDED];

/**
 * Phrases of the kinds that tell a good left hand from a clever one: top notes, pedals, half position, presets. What
 * teachers give: string and finger, `|` where good players differ, `?` for any finger. Each is asserted by itself.
 */
import { expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { stringNames, type InstrumentId } from '../instrument/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import type { HandLimits, PresetId } from './index.ts';

type Row = readonly [
  why: string,
  instrument: InstrumentId,
  music: string,
  header: Header,
  fingers: string,
  hand?: { readonly limits?: HandLimits; readonly preset?: PresetId },
];

const PHRASES: readonly Row[] = [
  [
    'III for the top note, not VI',
    'violin',
    "f a d' a f|",
    { key: 'D', unit: '1/8', tempo: '1/4=80' },
    'E1 E3|E1 E4 E3|E1 E1',
  ],
  [
    'III, led by 1',
    'violin',
    "g a b d' b a g|",
    { key: 'G', unit: '1/8', tempo: '1/4=80' },
    'E2 E1|E3 E2 E4 E2 E1|E3 E2',
  ],
  ['III', 'violin', "f b d' b a f|", { key: 'D', unit: '1/8', tempo: '1/4=80' }, 'E1 E1|E2|E4 E4|E3 E2 E1|E3 E1'],
  [
    'III for the top note, not VI',
    'viola',
    'B d g d B|',
    { key: 'G', unit: '1/8', tempo: '1/4=80' },
    'A1 A3|A1 A4 A3|A1 A1',
  ],
  [
    'IV for the top note, not VI',
    'cello',
    'B, D G D B,|',
    { key: 'G', unit: '1/8', tempo: '1/4=80' },
    'A1 A4|A1 A4|A3 A4|A1 A1',
  ],
  [
    'a pedal keeps its string',
    'violin',
    'e A e c e B e d|',
    { key: 'Am', unit: '1/8', tempo: '1/4=160' },
    'E0 A0 E0 A2 E0 A1 E0 A3',
  ],
  [
    'a pedal keeps its string',
    'viola',
    'A D A F A E A G|',
    { key: 'Dm', unit: '1/8', tempo: '1/4=160' },
    'A0 D0 A0 D2 A0 D1 A0 D3',
  ],
  [
    'open D rings under I',
    'cello',
    'D, B, D, C D, B, D, A,|',
    { key: 'G', unit: '1/8', tempo: '1/4=120' },
    'D0 A1 D0 A2 D0 A1 D0 A0',
  ],
  [
    'the same',
    'cello',
    'G, D, B, D, C D, B, D,|',
    { key: 'G', unit: '1/8', tempo: '1/4=120' },
    'D4 D0 A1 D0 A2 D0 A1 D0',
  ],
  [
    'the same',
    'bass',
    'G,, D,, B,, D,, A,, D,, B,, D,,|',
    { key: 'G', unit: '1/8', tempo: '1/4=96' },
    'G0 D0 G4 D0 G1 D0 G4 D0',
  ],
  [
    'half, then I, on D',
    'cello',
    'D, E, F, G, F, E, D,|',
    { key: 'Bb', unit: '1/8', tempo: '1/4=72' },
    'D0 D1 D2|D3 D4 D2|D3 D1 D0',
    { limits: { noExtension: true } },
  ],
  [
    'half for B flat',
    'cello',
    'F, G, A, B, A, G, F, D,|',
    { key: 'Dm', unit: '1/8', tempo: '1/4=72' },
    'D2 D4 A0 A1 A0 D4 D2 D0',
    { limits: { noExtension: true } },
  ],
  [
    'half, closed hand',
    'cello',
    'C D C B, C D C B,|',
    { key: 'Ab', unit: '1/8', tempo: '1/4=72' },
    'A3 A4 A3 A1 A3 A4 A3 A1',
  ],
  [
    'no trip to III for B flat',
    'cello',
    'F, D, B, A, G, F, D, B, A, G,|',
    { key: 'F', unit: '1/8', tempo: '1/4=110' },
    'D2 D0 A1 A0 D4 D2 D0 A1 A0 D4',
  ],
  [
    'half is a semitone away',
    'bass',
    'A,, G,, F,, E,, F,, G,, A,,|',
    { key: 'A', unit: '1/4', tempo: '1/4=96' },
    'G2 G1 D4 D1 D4 G1 G2',
  ],
  [
    'the same',
    'bass',
    'E,, F,, G,, A,, G,, F,, E,,|',
    { key: 'A', unit: '1/4', tempo: '1/4=96' },
    'D1 D4 G1 G2 G1 D4 D1',
  ],
  [
    'the string that the run lies on',
    'violin',
    'A B c d c B A|',
    { key: 'G', unit: '1/4', tempo: '1/4=60' },
    'A0 A1 A2 A3 A2 A1 A0',
    { preset: 'one-string' },
  ],
  [
    'slow, one string',
    'violin',
    'd e f g f e d|',
    { key: 'D', unit: '1/2', tempo: '1/4=50' },
    'A? A? A? A? A? A? A?',
    { preset: 'one-string' },
  ],
  [
    'stays in III where it is wished',
    'violin',
    'd e f g a g f e d|',
    { key: 'D', unit: '1/4', tempo: '1/4=60' },
    'A1 A2 A3 A4 E1 A4 A3 A2 A1',
    { preset: 'third-position' },
  ],
  [
    'no reason to leave I',
    'cello',
    'G, D, B,, D, G,,|',
    { key: 'G', unit: '1/4', tempo: '1/4=60' },
    'D4 D0 G3 D0 G0',
    { preset: 'orchestra' },
  ],
  // Written from technique before the solver ran on them.
  [
    'III in A major, a by the first finger',
    'violin',
    "e a c' a e|",
    { key: 'A', tempo: '1/4=80' },
    'E0|A4 E1|E3 E3|E4|E2 E1|E3 E0|A4',
  ],
  [
    'a pedal whose melody lies on its own string',
    'violin',
    'A d A c A B A f|',
    { key: 'D', tempo: '1/4=140' },
    'A0 A3 A0 A2 A0 A1 A0 E1',
  ],
  [
    'the same below, and not high on the next string',
    'violin',
    'D F D G D F D E|',
    { key: 'D', tempo: '1/4=140' },
    'D0 D2 D0 D3 D0 D2 D0 D1',
  ],
  ['a pedal below the melody', 'violin', 'D A D B D A D B|', { key: 'G', tempo: '1/4=140' }, 'D0 A0 D0 A1 D0 A0 D0 A1'],
  [
    'a pedal above the melody',
    'viola',
    'D G, D A, D B, D G,|',
    { key: 'G', tempo: '1/4=120' },
    'D0 G0 D0 G1 D0 G2 D0 G0',
  ],
  ['a low pedal', 'cello', 'G,, D, G,, E, G,, F, G,, D,|', { key: 'G', tempo: '1/4=120' }, 'G0 D0 G0 D1 G0 D3 G0 D0'],
  ['a high pedal', 'cello', 'A, E, A, F, A, G, A, E,|', { key: 'C', tempo: '1/4=120' }, 'A0 D1 A0 D2 A0 D4 A0 D1'],
  ['semitones by the open string', 'cello', 'E, _E, D, _E, E,|', { key: 'C', tempo: '1/4=80' }, 'D1|D2 D1 D0 D1 D1|D2'],
  [
    // Over the D string to the open G, or up with the hand while the A rings: both are played.
    'a low pedal',
    'bass',
    'A,,, E,, A,,, F,, A,,, G,, A,,, E,,|',
    { key: 'C', tempo: '1/4=100' },
    'A0 D1 A0 D2 A0 G0|D4 A0 D1',
  ],
  ['neighbours a semitone apart', 'bass', 'F,, ^F,, =F,, E,,|', { key: 'C', tempo: '1/4=80' }, 'D2 D4 D2 D1'],
];

it.each(PHRASES.map((row, index) => [`${index + 1}, ${row[1]}: ${row[0]}`, row] as const))('%s', (_, row) => {
  const [, instrument, music, header, fingers, { limits = {}, preset = 'all-round' } = {}] = row;
  const arrangement = arrange(tuneOf(music, header), deciding({ instrument, limits, wishes: { preset } }));
  const names = stringNames(arrangement.instrument);
  const found = arrangement.fingering.notes.map(({ stops }) =>
    stops.map(({ string, finger }) => `${names[string]}${finger}`).join('+'),
  );
  fingers.split(' ').forEach((wanted, index) => {
    const ways = wanted.split('|').map((way) => way.replace('?', '\\d'));
    expect(found[index], `note ${index + 1} of ${found.join(' ')}`).toMatch(new RegExp(`^(${ways.join('|')})$`));
  });
});

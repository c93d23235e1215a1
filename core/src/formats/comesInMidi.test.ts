/** MIDI comes in as it was played: small files, with what sounds stated before they were read; and what Nokta writes comes back. */
import toneMidi from '@tonejs/midi';
import { describe, expect, it } from 'vitest';
import { TICKS_PER_QUARTER, keyName, type Tune } from '../music/index.ts';
import { abc, metres, soundsOf, type Told } from '../test/comesIn.ts';
import { readMidi, writeMidi } from './index.ts';

interface Header {
  readonly metres?: readonly (readonly [at: number, beats: number, unit: number])[];
  readonly keys?: readonly (readonly [at: number, major: string, mode: 'major' | 'minor'])[];
  readonly tempos?: readonly (readonly [at: number, bpm: number])[];
}
type Played = readonly [midi: number, at: number, quarters: number];

/** A file of one track; times in quarters. */
function midiFile(notes: readonly Played[], { metres = [[0, 4, 4]], keys = [], tempos = [[0, 120]] }: Header = {}) {
  const file = new toneMidi.Midi();
  const ticks = (at: number) => Math.round(at * 480);
  file.header.fromJSON({
    name: 'Test',
    ppq: 480,
    meta: [],
    tempos: tempos.map(([at, bpm]) => ({ ticks: ticks(at), bpm })),
    timeSignatures: metres.map(([at, ...timeSignature]) => ({ ticks: ticks(at), timeSignature })),
    keySignatures: keys.map(([at, key, scale]) => ({ ticks: ticks(at), key, scale })),
  });
  const track = file.addTrack();
  for (const [midi, at, quarters] of notes) track.addNote({ midi, ticks: ticks(at), durationTicks: ticks(quarters) });
  // The library writes signatures fourteen fifths too high.
  const bytes = file.toArray();
  for (let at = 0; at + 3 < bytes.length; at += 1)
    if (bytes[at] === 0xff && bytes[at + 1] === 0x59 && bytes[at + 2] === 2)
      bytes[at + 3] = (bytes[at + 3]! - 14) & 0xff;
  return bytes;
}

function played(bytes: Uint8Array): Told {
  const read = readMidi(bytes);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return { tune: read.value.tune, notices: read.notices };
}
const line = (pitches: readonly number[], quarters = 1, from = 0): readonly Played[] =>
  pitches.map((midi, index) => [midi, from + index * quarters, quarters]);
/** What sounds and what rests, in quarters. */
const values = ({ bars }: Tune) =>
  bars
    .map(({ events }) =>
      events.map(({ kind, duration }) => `${kind === 'rest' ? 'z' : ''}${duration / TICKS_PER_QUARTER}`).join(' '),
    )
    .join(' | ');
const SCALE = [64, 66, 67, 69, 71, 69, 67, 64];

describe('MIDI: what the file says holds from where it says it', () => {
  it.each([
    ['one sharp, minor', 'G', 'minor', SCALE, 'E minor'],
    ['one sharp, major', 'G', 'major', [67, 69, 71, 72, 74, 71, 69, 67], 'G major'],
    ['two flats, minor', 'Bb', 'minor', [67, 69, 70, 72, 74, 72, 70, 67], 'G minor'],
    ['four sharps, minor', 'E', 'minor', [61, 63, 64, 66, 68, 66, 64, 61], 'C♯ minor'],
    ['no signs, minor', 'C', 'minor', [69, 71, 72, 74, 76, 74, 72, 69], 'A minor'],
  ] as const)('a key of %s', (_, major, mode, pitches, name) => {
    const { tune } = played(midiFile(line(pitches), { keys: [[0, major, mode]] }));
    expect(keyName(tune.bars[0]!.key)).toBe(name);
  });

  it('a pickup written as a bar of its own metre', () => {
    const { tune } = played(
      midiFile(line([62, ...SCALE]), {
        metres: [
          [0, 1, 4],
          [1, 4, 4],
        ],
      }),
    );
    expect(
      tune.bars.map(({ length, metre }) => `${length / TICKS_PER_QUARTER} of ${metre.beats}/${metre.unit}`),
    ).toEqual(['1 of 4/4', '4 of 4/4', '4 of 4/4']);
    expect(tune.bars[0]!.offset).toBe(3 * TICKS_PER_QUARTER);
  });

  it('a pickup bar that begins with a rest', () => {
    const { tune } = played(
      midiFile([[62, 0.5, 0.5], ...line(SCALE, 1, 1)], {
        metres: [
          [0, 1, 4],
          [1, 4, 4],
        ],
      }),
    );
    expect(values(tune)).toBe('z0.5 0.5 | 1 1 1 1 | 1 1 1 1');
  });

  it('a metre that changes', () => {
    const notes = line([...SCALE.slice(0, 4), 67, 69, 71, 67, 69, 71]);
    const { tune } = played(
      midiFile(notes, {
        metres: [
          [0, 4, 4],
          [4, 3, 4],
        ],
      }),
    );
    expect(metres(tune)).toBe('4/4 3/4 3/4');
    expect(values(tune)).toBe('1 1 1 1 | 1 1 1 | 1 1 1');
  });

  it('a note that is held over the change of metre is tied', () => {
    const { tune } = played(
      midiFile([...line([64, 66, 67]), [69, 3, 2], [71, 5, 1], [67, 6, 1]], {
        metres: [
          [0, 4, 4],
          [4, 3, 4],
        ],
      }),
    );
    expect(soundsOf(tune)).toBe('E4 1 F#4 1 G4 1 A4 2 | B4 1 G4 1');
  });

  it('a key that changes, with the notes spelled in it', () => {
    const notes = line([67, 69, 71, 66, 67, 69, 70, 63]);
    const { tune } = played(
      midiFile(notes, {
        keys: [
          [0, 'G', 'major'],
          [4, 'Bb', 'major'],
        ],
      }),
    );
    expect(tune.bars.map(({ key }) => keyName(key))).toEqual(['G major', 'B♭ major']);
    expect(soundsOf(tune)).toContain('Bb4 1 Eb4 1');
  });

  it('a tempo that changes at a bar line, and one inside a bar, which is told', () => {
    const notes = line([...SCALE, ...SCALE]);
    const { tune, notices } = played(
      midiFile(notes, {
        tempos: [
          [0, 120],
          [4, 80],
          [10, 60],
        ],
      }),
    );
    expect(tune.bars.map(({ tempo }) => tempo?.bpm ?? null)).toEqual([null, 80, 60, null]);
    expect(notices.map(({ message }) => message).join()).toContain('inside bar 3');
  });

  it('a tempo that goes with the player is told', () => {
    const tempos = Array.from({ length: 16 }, (_, at) => [at, 100 + (at % 3) * 4] as const);
    const { tune, notices } = played(midiFile(line([...SCALE, ...SCALE]), { tempos }));
    expect(tune.bars.every(({ tempo }) => tempo === undefined)).toBe(true);
    expect(notices[0]!.message).toMatch(/tempo changes \d+ times/);
  });
});

describe('MIDI: rests', () => {
  it('half as long as the note before them stay', () => {
    const notes: readonly Played[] = [0, 2, 4, 6].flatMap(
      (at) =>
        [
          [67, at, 1],
          [69, at + 1.5, 0.5],
        ] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('1 z0.5 0.5 1 z0.5 0.5 | 1 z0.5 0.5 1 z0.5 0.5');
  });

  it('of a quarter after a half stay', () => {
    const notes: readonly Played[] = [0, 4, 8].flatMap(
      (at) =>
        [
          [67, at, 2],
          [69, at + 3, 1],
        ] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('2 z1 1 | 2 z1 1 | 2 z1 1');
  });

  it('are none where a program lets every note sound for nine tenths', () => {
    const notes = line([...SCALE, ...SCALE]).map(([midi, at]) => [midi, at, 0.9] as const);
    expect(values(played(midiFile(notes)).tune)).toBe(Array(4).fill('1 1 1 1').join(' | '));
  });

  it('are none where somebody played with gaps', () => {
    const notes = line(SCALE).map(
      ([midi, at], index) => [midi, at + (index % 3) * 0.03, 0.65 + (index % 4) * 0.07] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('1 1 1 1 | 1 1 1 1');
  });
});

it('MIDI: a note that sounds on under others, and one that is there twice, are told', () => {
  const { notices } = played(
    midiFile([
      [60, 0, 4],
      [67, 1, 1],
      [69, 2, 1],
      [71, 3, 1],
      [71, 3, 1],
    ]),
  );
  const told = notices.map(({ message }) => message).join(' / ');
  expect(told).toContain('sounds on under the next one');
  expect(told).toContain('there twice');
});

describe('MIDI: files that are not whole', () => {
  const chunk = (tag: string, bytes: readonly number[]) => [
    ...[...tag].map((letter) => letter.charCodeAt(0)),
    ...[24, 16, 8, 0].map((shift) => (bytes.length >>> shift) & 255),
    ...bytes,
  ];
  const header = (tracks: number) => chunk('MThd', [0, 1, 0, tracks, 0x01, 0xe0]);
  const on = [0x00, 0x90, 67, 80, 0x83, 0x60, 0x80, 67, 0];
  const end = [0x00, 0xff, 0x2f, 0x00];
  const messages = (bytes: readonly number[]) =>
    played(Uint8Array.from(bytes))
      .notices.map(({ message }) => message)
      .join(' / ');

  it.each([
    ['whole', [...header(1), ...chunk('MTrk', [...on, ...end])], /^$/],
    [
      'a chunk of another kind before the tracks',
      [...header(1), ...chunk('XFIH', [1, 2, 3]), ...chunk('MTrk', [...on, ...end])],
      /^$/,
    ],
    ['a track is missing', [...header(3), ...chunk('MTrk', [...on, ...end])], /3 tracks, and 1 are there/],
    ['a track without its end', [...header(1), ...chunk('MTrk', on)], /does not end/],
    [
      'a note without its end',
      [...header(1), ...chunk('MTrk', [...on, 0x00, 0x90, 71, 80, ...end])],
      /1 note begins and never ends/,
    ],
  ] as const)('%s', (_, bytes, told) => {
    expect(messages(bytes)).toMatch(told);
  });
});

it('MIDI that Nokta wrote comes back with its metres, keys, tempi and rests', () => {
  const { tune } = abc('EFGA|B2 z A|\nM:3/4\nK:Gm\nGAB|cBA|\nQ:1/4=80\nG2 z|', 'M:4/4\nL:1/4\nQ:1/4=120\nK:Em');
  const back = played(writeMidi(tune)).tune;
  expect(metres(back)).toBe(metres(tune));
  expect(back.bars.map(({ key }) => keyName(key))).toEqual(tune.bars.map(({ key }) => keyName(key)));
  expect(back.bars.map(({ tempo }) => tempo?.bpm)).toEqual(tune.bars.map(({ tempo }) => tempo?.bpm));
  expect(soundsOf(back)).toBe(soundsOf(tune));
});

it('a melody without a third flat is not taken for a mode that has one', () => {
  const { tune } = played(midiFile(line([60, 67, 64, 62, 60, 62, 64, 65, 67])));
  expect(keyName(tune.bars[0]!.key)).toBe('C major');
});

describe('A double stop of which one note is tied', () => {
  const struck = (body: string) => {
    const { tune } = abc(body);
    const file = new toneMidi.Midi(writeMidi(tune));
    return file.tracks[0]!.notes.map(
      ({ midi, ticks, durationTicks }) => `${midi}@${ticks / TICKS_PER_QUARTER}:${durationTicks / TICKS_PER_QUARTER}`,
    ).sort();
  };
  it.each([
    ['a drone under a moving note', '[A-C][A-D][A-E][AF]|', ['60@0:1', '62@1:1', '64@2:1', '65@3:1', '69@0:4']],
    ['a drone that begins alone', 'A-[AC]-[AC]F|', ['60@1:2', '65@3:1', '69@0:3']],
    ['a drone that goes on alone', '[A-C]A2F|', ['60@0:1', '65@3:1', '69@0:3']],
    ['over a bar line', 'CDE[A-F]|[AG]4|', ['60@0:1', '62@1:1', '64@2:1', '65@3:1', '67@4:4', '69@3:5']],
    ['both', '[A-C-][AC]DE|', ['60@0:2', '62@2:1', '64@3:1', '69@0:2']],
    ['neither', '[AC][AC]DE|', ['60@0:1', '60@1:1', '62@2:1', '64@3:1', '69@0:1', '69@1:1']],
  ])('%s is struck once', (_, body, expected) => {
    expect(struck(body)).toEqual(expected);
  });
});

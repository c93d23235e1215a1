import fc from 'fast-check';
import toneMidi from '@tonejs/midi';
import { describe, expect, it } from 'vitest';
import { keyName, pitchName, placedNotes, type Tune } from '../../music/index.ts';
import { tuneOf } from '../../test/testing.ts';
import { readMidi, type MidiOptions } from './read.ts';
import { writeMidi } from './write.ts';

interface Track {
  readonly name?: string;
  readonly channel?: number;
  /** MIDI number, start and length in quarters. */
  readonly notes: readonly (readonly [number, number, number])[];
}

function file(
  tracks: readonly Track[],
  { metre = [4, 4] as readonly [number, number], ppq = 480, bpm = 120 } = {},
): Uint8Array {
  const midi = new toneMidi.Midi();
  midi.header.fromJSON({
    name: '',
    ppq,
    meta: [],
    tempos: [{ ticks: 0, bpm }],
    timeSignatures: [{ ticks: 0, timeSignature: [...metre] }],
    keySignatures: [],
  });
  for (const { name = '', channel = 0, notes } of tracks) {
    const track = midi.addTrack();
    track.name = name;
    track.channel = channel;
    for (const [number, at, length] of notes) {
      track.addNote({
        midi: number,
        ticks: Math.round(at * ppq),
        durationTicks: Math.round(length * ppq),
        velocity: 0.7,
      });
    }
  }
  return midi.toArray();
}

function read(bytes: Uint8Array, options: MidiOptions = {}) {
  const result = readMidi(bytes, options);
  if (!result.ok) throw new Error(JSON.stringify(result.problems));
  return { ...result.value, notices: result.notices };
}

const rhythm = (tune: Tune) =>
  tune.bars.map(({ events }) =>
    events.map(({ kind, duration }) => `${kind === 'rest' ? 'z' : ''}${duration / 840}`).join(' '),
  );

describe('reading MIDI', () => {
  it('reads back what was written: the same notes, in the same bars', () => {
    const tune = tuneOf('G2BG dGBG | ABcA B2 (3ABc | d2 z2 G4 |]', { key: 'G', tempo: '1/4=120' });
    const back = read(writeMidi(tune));
    expect(placedNotes(back.tune).map(({ note }) => pitchName(note.heads[0]!.pitch))).toEqual(
      placedNotes(tune).map(({ note }) => pitchName(note.heads[0]!.pitch)),
    );
    expect(keyName(back.taken.key)).toBe('G major');
    expect(back.tune.bars[1]!.events.at(-1)!.tuplet).toEqual({ actual: 3, normal: 2, edge: 'stop' });
    expect(rhythm(back.tune)[2]).toBe('4 z4 8');
  });

  it('straightens loose playing, joins legato gaps and finds triplets', () => {
    const loose = [
      [67, 0.02, 0.44],
      [69, 0.51, 0.4],
      [71, 0.98, 0.9],
      [72, 2.01, 0.28],
      [71, 2.34, 0.28],
      [69, 2.66, 0.3],
      [67, 3.0, 0.95],
    ] as const;
    const { tune, taken } = read(file([{ notes: loose }]));
    expect(taken.grid).toMatch(/triplets/);
    expect(tune.bars[0]!.events.map(({ duration }) => duration)).toEqual([1680, 1680, 3360, 1120, 1120, 1120, 3360]);
  });

  it('fills whole bars, whatever is played', () => {
    const playing = fc.array(
      fc.tuple(
        fc.integer({ min: 55, max: 88 }),
        fc.double({ min: 0, max: 24, noNaN: true }),
        fc.double({ min: 0.05, max: 3, noNaN: true }),
      ),
      { minLength: 1, maxLength: 40 },
    );
    fc.assert(
      fc.property(playing, fc.constantFrom<readonly [number, number]>([4, 4], [3, 4], [6, 8]), (notes, metre) => {
        const { tune } = read(file([{ notes }], { metre }));
        for (const bar of tune.bars) {
          let time = 0;
          for (const event of bar.events) {
            expect(event.at).toBe(time);
            time += event.duration;
          }
          expect(time).toBe(bar.length);
        }
      }),
      { numRuns: 150 },
    );
  });

  it('ends a note that begins in a triplet on a division of the beat that it ends in', () => {
    const chord = [55, 57, 58, 59, 56].map(
      (number, index) => [number, 0, [0.05, 0.164, 0.164, 0.05, 0.168][index]!] as const,
    );
    const { tune } = read(file([{ notes: [...chord, [55, 0.2385, 0.622]] }]));
    const ends = tune.bars[0]!.events.map(({ at, duration }) => at + duration);
    expect(ends).toEqual([...tune.bars[0]!.events.slice(1).map(({ at }) => at), 13440]);
  });

  it('takes a short first bar as the pickup, and another one if told so', () => {
    const notes = [62, 67, 69, 71, 72, 74, 67].map((number, index) => [number, 3 + index, 1] as const);
    const { tune, taken } = read(file([{ notes }]));
    expect(taken.pickup).toBe(3360);
    expect(tune.bars[0]).toMatchObject({ length: 3360, offset: 10080 });
    expect(read(file([{ notes }]), { pickup: 0 }).tune.bars[0]!.length).toBe(13440);
  });

  it('has no room for a pickup in a bar of a sixteenth', () => {
    const notes = Array.from({ length: 40 }, (_, index) => [60 + (index % 5), index / 4, 0.25] as const);
    const read = readMidi(file([{ notes }], { metre: [1, 16] }));
    expect(read.ok && read.value.taken).toMatchObject({ metre: { beats: 1, unit: 16 }, pickup: 0 });
  });

  it('hears a pickup where long notes would fall on bar lines, and reads back what it wrote', () => {
    const tune = tuneOf('D2 | G4 B4 | d4 B4 | c4 A4 | G6 |]', { key: 'G' });
    expect(read(writeMidi(tune)).taken.pickup).toBe(3360);
    const bar = [67, 71, 74, 71, 72, 69, 71, 67];
    const played = [
      [62, 0, 1] as const,
      ...[...bar, ...bar].map((number, index) => [number, 1 + 2 * index, 2] as const),
    ];
    expect(read(file([{ notes: played }])).taken.pickup).toBe(3360);
  });

  it('lets the teacher choose metre, key and grid', () => {
    const notes = [62, 64, 66, 67, 69, 71].map((number, index) => [number, index / 2, 0.5] as const);
    const { metres, keys } = read(file([{ notes }]));
    expect(metres[0]).toEqual({ beats: 4, unit: 4 });
    expect(keys.length).toBeGreaterThan(2);
    const chosen = read(file([{ notes }]), { metre: { beats: 6, unit: 8 }, grid: 'eighth' });
    expect(chosen.tune.bars[0]!.length).toBe(10080);
  });

  it('offers each track but the drums, and leaves out keyswitches and doubled notes', () => {
    const melody = [67, 69, 71, 72, 74, 72, 71, 69].map((number, index) => [number, index, 1] as const);
    const bytes = file([
      { name: 'Drums', channel: 9, notes: [[36, 0, 1]] },
      { name: 'Fiddle', notes: [[12, 0, 0.1], ...melody, [67, 0, 1]] },
      { name: 'Cello', channel: 1, notes: [[48, 0, 4]] },
    ]);
    const { voices, tune, notices } = read(bytes);
    expect(voices).toEqual(['Fiddle', 'Cello']);
    expect(placedNotes(tune)).toHaveLength(8);
    expect(notices[0]!.message).toMatch(/keyswitches/);
    expect(placedNotes(read(bytes, { voice: 2 }).tune)).toHaveLength(1);
  });

  it('spells for the key: B flat in F, C sharp in D', () => {
    const inF = [65, 67, 69, 70, 72, 70, 69, 67, 65].map((number, index) => [number, index, 1] as const);
    expect(placedNotes(read(file([{ notes: inF }])).tune).map(({ note }) => pitchName(note.heads[0]!.pitch))[3]).toBe(
      'Bb4',
    );
    const inD = [62, 64, 66, 67, 69, 71, 73, 74].map((number, index) => [number, index, 1] as const);
    expect(placedNotes(read(file([{ notes: inD }])).tune).map(({ note }) => pitchName(note.heads[0]!.pitch))[6]).toBe(
      'C#5',
    );
  });

  it('takes the channels of a type 0 file apart', () => {
    const events = [
      [0x00, 0x90, 67, 80],
      [0x00, 0x91, 55, 80],
      [0x83, 0x60, 0x80, 67, 0],
      [0x00, 0x90, 71, 80],
      [0x83, 0x60, 0x80, 71, 0],
      [0x00, 0x81, 55, 0],
      [0x00, 0xff, 0x2f, 0x00],
    ].flat();
    const bytes = Uint8Array.from([
      0x4d,
      0x54,
      0x68,
      0x64,
      0,
      0,
      0,
      6,
      0,
      0,
      0,
      1,
      0x01,
      0xe0,
      0x4d,
      0x54,
      0x72,
      0x6b,
      0,
      0,
      0,
      events.length,
      ...events,
    ]);
    const { voices, tune } = read(bytes);
    expect(voices).toHaveLength(2);
    expect(placedNotes(tune).map(({ note }) => pitchName(note.heads[0]!.pitch))).toEqual(['G4', 'B4']);
    expect(placedNotes(read(bytes, { voice: 2 }).tune)).toHaveLength(1);
  });

  it.each([
    ['a cut file', file([{ notes: [[60, 0, 1]] }]).slice(0, 30)],
    ['no notes', file([{ notes: [] }])],
    ['only the first word', new Uint8Array([0x4d, 0x54, 0x68, 0x64])],
  ])('refuses %s with a remedy', (_, bytes) => {
    const result = readMidi(bytes);
    expect(result.ok).toBe(false);
    if (!result.ok) expect(result.problems[0]!.remedy).toBeTruthy();
  });

  describe('keys that change on the way', () => {
    /** Sharps from a quarter on, and eight bars of a scale in each. */
    const inKeys = (keys: readonly { readonly at: number; readonly sharps: number; readonly minor?: boolean }[]) => {
      const events: number[] = [0, 0xff, 0x58, 4, 4, 2, 24, 8];
      const NOTES = { 0: [69, 71, 72, 74, 76, 72, 71, 69], 3: [69, 71, 73, 74, 76, 73, 71, 69] } as const;
      let sharps: 0 | 3 = 0;
      for (let quarter = 0; quarter < 64; quarter += 1) {
        const change = keys.find(({ at }) => at === quarter);
        if (change) {
          sharps = change.sharps === 3 ? 3 : 0;
          events.push(0, 0xff, 0x59, 2, change.sharps, Number(change.minor ?? false));
        }
        const note = NOTES[sharps][quarter % 8]!;
        events.push(0, 0x90, note, 80, 120, 0x80, note, 0);
      }
      events.push(0, 0xff, 0x2f, 0);
      const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 120, 0x4d, 0x54, 0x72, 0x6b];
      return Uint8Array.from([...head, 0, 0, events.length >> 8, events.length & 0xff, ...events]);
    };
    const keysOf = (bytes: Uint8Array) => read(bytes).tune.bars.map(({ key }) => keyName(key));

    it.each([
      [
        'no sharps first',
        [
          { at: 0, sharps: 0 },
          { at: 32, sharps: 3 },
        ],
        'A minor',
        'A major',
      ],
      ['nothing said first', [{ at: 32, sharps: 3 }], 'A minor', 'A major'],
      [
        'a minor key with three sharps',
        [
          { at: 0, sharps: 0 },
          { at: 32, sharps: 3, minor: true },
        ],
        'A minor',
        'F♯ minor',
      ],
      [
        'the same key said again',
        [
          { at: 0, sharps: 3 },
          { at: 32, sharps: 3 },
        ],
        'A major',
        'A major',
      ],
    ] as const)('are the file’s, bar by bar: %s', (_, keys, first, second) => {
      const all = keysOf(inKeys(keys));
      expect(all).toHaveLength(16);
      expect(new Set(all.slice(0, 8))).toEqual(new Set([first]));
      expect(new Set(all.slice(8))).toEqual(new Set([second]));
    });
  });

  describe('notes that are let go of early, with rests between', () => {
    const early = (music: string, gate: number) => {
      const written = new toneMidi.Midi(writeMidi(tuneOf(music, { key: 'C' })));
      const played = new toneMidi.Midi();
      played.header.fromJSON(written.header.toJSON());
      const track = played.addTrack();
      for (const { midi, ticks, durationTicks } of written.tracks[0]!.notes)
        track.addNote({ midi, ticks, durationTicks: Math.max(1, Math.round(durationTicks * gate)), velocity: 0.8 });
      return read(played.toArray());
    };

    it.each([
      'A2 B2 z2 c2 | d2 z2 e4 | A2 z2 B2 c2 | d8 |',
      'A2 z2 B2 z2 | c2 z2 d2 z2 | e2 z2 f2 z2 | g2 z2 a4 |',
      'AB z2 c2 d2 | e2 z2 f4 | ABcd e2 z2 | d8 |',
      'A4cf3|e4d2z2|g2z2g2A2|z6g2|z2B3f2c|z4g4|zg2zA2A2|',
    ])('make no bar more, and no pickup: %s', (music) => {
      const bars = tuneOf(music, { key: 'C' }).bars.length;
      for (const gate of [0.1, 0.25, 0.4, 0.5, 0.75]) {
        const { tune, taken } = early(music, gate);
        expect([gate, tune.bars.length, taken.pickup]).toEqual([gate, bars, 0]);
      }
    });
  });
});

/** Warm-ups: what they hold, and that they are playable, by the rules of the field and by laws. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '../arrange/index.ts';
import { readAbc } from '../formats/index.ts';
import { INSTRUMENTS, type InstrumentId } from '../instrument/index.ts';
import { barLength, midi, pitchName, soundingNotes } from '../music/index.ts';
import { USUAL_NAMES } from '../paper/index.ts';
import { tuneOf } from '../test/testing.ts';
import { deciding } from '../test/setups.ts';
import { warmUpsOf } from './index.ts';

const TUNES = new URL('../../../server/src/demo/tunes/', import.meta.url);
const named = readdirSync(TUNES).map((file) => {
  const read = readAbc(readFileSync(new URL(file, TUNES), 'utf8'));
  if (!read.ok) throw new Error(file);
  return { file, tune: read.value.tune };
});

function setFor(file: string, instrument: InstrumentId): Arrangement {
  const { tune } = named.find((one) => one.file === file)!;
  const decisions = decided(FIRST_DECISIONS, { key: { instrument } });
  return arrange(tune, decided(decisions, { key: { transpose: bestOctave(tune, decisions) } }));
}

const drill = (arrangement: Arrangement, kind: string) =>
  warmUpsOf(arrangement).find((one) => one.kind === kind)!.arrangement;
const names = ({ fingering }: Arrangement) => fingering.notes.map(({ pitches }) => pitches.map(pitchName).join('+'));
const fingers = ({ fingering }: Arrangement) =>
  fingering.notes.map(({ stops }) => stops.map(({ string, finger }) => `${string}${finger}`).join('+'));

describe('a reel in G on the violin', () => {
  const reel = arrange(
    tuneOf('|: G2BG dGBG | ABcA BGAB | c2ec B2dB | (3ABA AG F2D2 :|', { key: 'G', tempo: '1/4=120' }),
    FIRST_DECISIONS,
  );

  it('begins with the scale of its key, up and down, and the chord', () => {
    // It lies between D4 and E5: up from its home note, back, and below it as far as the tune goes.
    expect(names(drill(reel, 'scale')).join(' ')).toBe('G4 A4 B4 C5 D5 E5 D5 C5 B4 A4 G4 F#4 E4 D4 E4 F#4 G4');
    expect(names(drill(reel, 'arpeggio')).join(' ')).toBe('G4 B4 D5 B4 G4 D4 G4');
  });

  it('has the crossings of its busiest bar on open strings, in that bar’s rhythm', () => {
    const own = drill(reel, 'crossing');
    expect(fingers(own).every((text) => text.endsWith('0'))).toBe(true);
    expect(own.tune.bars).toHaveLength(2);
    expect(soundingNotes(own.tune).length % 2).toBe(0);
  });

  it('names each after the bar that it prepares, bar or phrase first', () => {
    const crossing = warmUpsOf(reel).find(({ kind }) => kind === 'crossing')!;
    expect(crossing.title).toMatch(/^Strings of bar \d \(A\d\)$/);
    const other = warmUpsOf(reel, { ...USUAL_NAMES, places: 'phrases' }).find(({ kind }) => kind === 'crossing')!;
    expect(other.title).toMatch(/^Strings of A\d, bar \d$/);
  });

  it('is slower than the tune', () => {
    for (const { arrangement } of warmUpsOf(reel)) expect(arrangement.tempo).toBeLessThanOrEqual(reel.tempo);
  });
});

it('takes the fingers of a shift from the tune, and says how to find it', () => {
  const song = arrange(tuneOf('A,2 B,2 | C2 D2 | E2 F2 | G4 |', { key: 'C' }), deciding({ instrument: 'cello' }));
  const moved = song.fingering.notes.find(({ shift }) => shift)!;
  const own = warmUpsOf(song).find(({ kind }) => kind === 'shift')!;
  const at = song.fingering.notes.indexOf(moved);
  const place = ({ stops }: (typeof song.fingering.notes)[number]) => `${stops[0]!.string}${stops[0]!.finger}`;
  expect(fingers(own.arrangement).slice(0, 2)).toEqual([place(song.fingering.notes[at - 1]!), place(moved)]);
  expect(own.says).toContain(moved.shift!.to);
});

it('takes double stops apart and puts them together again', () => {
  const tune = tuneOf('[DA]4 [EB]4 | [FA]4 [DA]4 |', { key: 'D' });
  const own = drill(arrange(tune), 'double-stop');
  expect(
    names(own)
      .slice(0, 3)
      .map((text) => text.split('+').length),
  ).toEqual([1, 1, 2]);
});

it('plays a slur pattern on an open string: each stroke as long as its notes', () => {
  const tune = tuneOf('(GA)Bc (d2 e)f | g8 |', { key: 'G' });
  const own = drill(arrange(tune), 'bowing');
  expect(new Set(names(own)).size).toBe(1);
  expect(own.fingering.notes.slice(0, 5).map(({ duration }) => duration / 1680)).toEqual([2, 1, 1, 3, 1]);
});

it('does not drill one hard spot under two names, and fills whole bars', () => {
  for (const instrument of INSTRUMENTS)
    for (const { file } of named.slice(0, 6)) {
      const arrangement = setFor(file, instrument);
      const own = warmUpsOf(arrangement).filter(({ kind }) => ['block', 'shift', 'double-stop', 'spot'].includes(kind));
      const bars = own.map(({ note }) => arrangement.fingering.notes.find(({ id }) => id === note)!.barIndex);
      expect(new Set(bars).size, `${file} ${instrument}`).toBe(bars.length);
      expect(own.filter(({ kind }) => kind === 'spot').length).toBeLessThanOrEqual(2);
    }
});

it('shows a hard spot in even notes, and then as in the tune', () => {
  const tune = tuneOf('G3B dGBG | A3B c2A2 | c2ec B2dB | ABAG F2D2 |', { key: 'G' });
  const arrangement = arrange(
    tune,
    decided(FIRST_DECISIONS, { sheet: { warmUps: [{ kind: 'spot', note: tune.bars[0]!.events[1]!.id }] } }),
  );
  const [own] = warmUpsOf(arrangement);
  const lengths = soundingNotes(own!.arrangement.tune).map(({ duration }) => duration);
  expect(lengths.slice(0, 4)).toEqual([3360, 3360, 3360, 3360]);
  expect(lengths.slice(-5, -1)).toEqual([5040, 1680, 1680, 1680]);
});

it('keeps what the teacher kept, and leaves out what has no place any more', () => {
  const tune = tuneOf('G2BG dGBG | ABcA BGAB |', { key: 'G' });
  const kept = arrange(
    tune,
    decided(FIRST_DECISIONS, {
      sheet: {
        warmUps: [
          { kind: 'arpeggio', note: null },
          { kind: 'spot', note: 'gone' },
        ],
      },
    }),
  );
  expect(warmUpsOf(kept).map(({ kind }) => kind)).toEqual(['arpeggio']);
});

it('asks no more notes than the tune has, where it has few', () => {
  expect(names(drill(arrange(tuneOf('D2E2 F2G2 | F4 D4 |', { key: 'D' })), 'scale'))).toEqual([
    'D4',
    'E4',
    'F#4',
    'G4',
    'F#4',
    'E4',
    'D4',
  ]);
});

describe.each(INSTRUMENTS)('on the %s, for every tune of the demo', (instrument) => {
  it.each(named.map(({ file }) => file))('%s', (file) => {
    const arrangement = setFor(file, instrument);
    const highest = Math.max(...arrangement.fingering.notes.flatMap(({ pitches }) => pitches.map(midi)));
    const lowest = Math.min(...arrangement.tuning.pitches.map(midi));
    const low = Math.min(...arrangement.fingering.notes.flatMap(({ pitches }) => pitches.map(midi)));
    for (const { title, kind, arrangement: own } of warmUpsOf(arrangement)) {
      const isScale = kind === 'scale' || kind === 'arpeggio';
      expect(own.fingering.problems, title).toEqual([]);
      own.tune.bars.forEach((bar, index) => {
        const sum = bar.events.reduce((all, event) => all + event.duration, 0);
        expect(sum, `${title}, bar ${index + 1}`).toBe(bar.length);
        expect(bar.length).toBeLessThanOrEqual(barLength(bar.metre));
      });
      const pitches = own.fingering.notes.flatMap((note) => note.pitches.map(midi));
      expect(Math.min(...pitches), title).toBeGreaterThanOrEqual(isScale ? low : lowest);
      expect(Math.max(...pitches), title).toBeLessThanOrEqual(highest);
      expect(
        own.fingering.notes.every(({ stops }) => stops.length > 0),
        title,
      ).toBe(true);
      expect(own.bowing.strokes[0]?.direction, title).toBe('down');
      expect(own.tempo, title).toBeLessThanOrEqual(Math.max(arrangement.tempo, 40));
    }
  });
});

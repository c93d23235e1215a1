import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import toneMidi from '@tonejs/midi';
import { saveArrangement } from '../files/index.ts';
import { readAbc, readMusicXml, writeAbc } from '../formats/index.ts';
import { lockOf } from '../hand/index.ts';
import { INSTRUMENT, INSTRUMENTS, tuningOf } from '../instrument/index.ts';
import { barLength, barStarts, isNote, midi, placedNotes } from '../music/index.ts';
import { deciding } from '../test/setups.ts';
import { melody, tuneOf } from '../test/testing.ts';
import {
  FIRST_DECISIONS,
  arrange,
  arrangementXml,
  bestOctave,
  decided,
  goesOn,
  instrumentXml,
  lineXml,
  markedTune,
  phraseLine,
  placesOf,
  type Decisions,
} from './index.ts';

const REEL = tuneOf('D2 |: "G"G2BG dGBG | "D"(AB)cA BGAB | c2ec B2dB | "Am"ABAG FDEF :|', {
  key: 'G',
  tempo: '1/4=120',
});

describe('arrange', () => {
  it('moves every note, chord symbol and key by the same interval', () => {
    const up = arrange(REEL, deciding({ transpose: 2 }));
    expect(melody(up.tune)).toEqual(melody(REEL).map((pitch) => pitch + 2));
    expect(placedNotes(up.tune).flatMap(({ note }) => note.chordSymbol ?? [])).toEqual(['A', 'E', 'Bm']);
    expect(up.tune.bars[0]!.key.signature).toEqual({ F: 1, C: 1, G: 1 });
  });

  it('keeps bars full and ids the same in every key', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -12, max: 12 }),
        fc.constantFrom('tune' as const, 'bare' as const),
        (transpose, grade) => {
          const { tune } = arrange(REEL, deciding({ transpose, grade }));
          const full = tune.bars.slice(1);
          for (const bar of full)
            expect(bar.events.reduce((sum, { duration }) => sum + duration, 0)).toBe(barLength(bar.metre));
          expect(tune.bars.map(({ id }) => id)).toEqual(REEL.bars.map(({ id }) => id));
          expect(tune.bars[0]!.events[0]!.id).toBe('n1');
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keeps a decision for a note that the bare version keeps too', () => {
    const full = arrange(REEL, FIRST_DECISIONS);
    const a = full.fingering.notes.find(({ pitches }) => midi(pitches[0]!) === 69)!;
    const stops = [{ ...a.stops[0]!, string: 1, finger: 4 as const, semitones: 7 }];
    const locks = { [a.id]: lockOf({ stops }, 'violin') };
    for (const grade of ['tune', 'bare'] as const) {
      const note = arrange(REEL, deciding({ grade, locks })).fingering.notes.find(({ id }) => id === a.id)!;
      expect(note).toMatchObject({ locked: true, stops: [{ string: 1, finger: 4 }] });
    }
  });

  it('goes on with the usual tuning where a tuning belongs to another instrument', () => {
    expect(tuningOf({ instrument: 'cello', make: null, tuning: 'low-pair-up' }).id).toBe('standard');
    expect(arrange(REEL, deciding({ instrument: 'bass', tuning: 'A3,E4,A4,E5', transpose: -24 })).tuning.name).toBe(
      'Standard',
    );
  });

  it('works at the tempo that is set, else the tune’s, else an easy one', () => {
    expect(arrange(REEL, FIRST_DECISIONS).tempo).toBe(120);
    expect(arrange(REEL, deciding({ tempo: 60 })).tempo).toBe(60);
    expect(arrange(tuneOf('G8 |'), FIRST_DECISIONS).tempo).toBe(96);
  });

  it('works for every instrument in some octave, with every note fingered or told', () => {
    for (const instrument of INSTRUMENTS) {
      const decisions = deciding({ instrument });
      const { fingering } = arrange(REEL, deciding({ instrument, transpose: bestOctave(REEL, decisions) }));
      const silent = fingering.notes.filter(({ stops }) => stops.length === 0).map(({ id }) => id);
      expect(silent).toEqual(fingering.problems.map(({ noteId }) => noteId));
      expect(silent.length).toBeLessThan(fingering.notes.length / 3);
    }
  });
});

describe('files of an arrangement', () => {
  it('write the chosen finger and string of each head, and read back', () => {
    const double = arrange(tuneOf('[GB]4 [DA]4 | v!4!A8 |', { key: 'G' }), FIRST_DECISIONS);
    const heads = placedNotes(markedTune(double)).map(({ note }) =>
      note.heads.map(({ finger, string }) => `${finger}/${string}`),
    );
    expect(heads).toEqual([['3/3', '1/2'], ['0/3', '0/2'], [expect.stringMatching(/^[04]\//) as string]]);
    expect(arrangementXml(double)).toContain('<part-name>Violin</part-name>');
  });

  it('tell positions and retuned strings, and leave both out again when they are read', () => {
    const high = arrange(
      tuneOf('D,4 A,4 | c4 d4 |]', { key: 'D' }),
      deciding({ instrument: 'cello', tuning: 'top-down' }),
    );
    const xml = arrangementXml(high);
    expect(xml).toContain('<scordatura>');
    const read = readMusicXml(xml);
    expect(read.ok && placedNotes(read.value.tune).every(({ note }) => note.annotation === undefined)).toBe(true);
  });

  it('use the instrument’s clef and written octave', () => {
    expect(instrumentXml(INSTRUMENT.viola)).toMatchObject({ clef: { sign: 'C', line: 3 } });
    expect(arrangementXml(arrange(REEL, deciding({ instrument: 'bass', transpose: -24 })))).toContain(
      '<octave-change>-1</octave-change>',
    );
  });
});

it('tells bars and beats as people count them, pickup as bar 0', () => {
  const places = placesOf(REEL);
  expect(places.get('n1')).toMatchObject({ bar: 0, beat: 4 });
  expect(places.get('n3')).toMatchObject({ bar: 1, beat: 2 });
  const jig = readAbc('X:1\nT:t\nM:6/8\nL:1/8\nK:D\nA | d2e fed | B2d A2 |]\n');
  expect(jig.ok && placesOf(jig.value.tune).get('n1')).toMatchObject({ bar: 0, beat: 2.667 });
});

it('writes a touched octave as a harmonic', () => {
  const tune = tuneOf('A,2 B,2 A4', { tempo: '1/4=100' });
  const arrangement = arrange(tune, deciding({ instrument: 'cello' }));
  expect(arrangement.fingering.notes[2]!.stops[0]!.sign).toBe('harmonic');
  expect(arrangementXml(arrangement)).toContain('<harmonic');
});

describe('what goes out of the bow', () => {
  const out = (music: string, bow: Partial<Decisions['bow']>) =>
    arrange(tuneOf(music, { key: 'G', tempo: '1/4=60' }), decided(FIRST_DECISIONS, { bow }));

  it('are the slurs as they are played, signs where they are needed, accents, lifts and parts of the bow', () => {
    const marked = markedTune(
      out('GABc defg | a4 z2 vb2 |', { pattern: 'long-short-shuffle', regions: { n1: 'middle' } }),
    );
    expect(marked.slurs).toEqual([
      { from: 'n1', to: 'n2' },
      { from: 'n5', to: 'n6' },
    ]);
    const notes = marked.bars.flatMap(({ events }) => events).filter(isNote);
    expect(notes.map(({ bow = '' }) => bow[0] ?? '-').join('')).toBe('d--------d');
    expect(notes.filter(({ decorations }) => decorations?.includes('accent')).map(({ id }) => id)).toEqual([
      'n4',
      'n8',
    ]);
    expect(notes[0]!.annotation).toBe('middle');
  });

  it('reads back from MusicXML and ABC as it went out', () => {
    const arrangement = out('GABc defg | a4 z2 b2 |', {
      pattern: 'one-and-three',
      joints: { n11: 'lift' },
      everyMark: true,
    });
    const marked = markedTune(arrangement);
    expect(marked.bars[1]!.events[2]).toMatchObject({ annotation: 'lift', bow: 'down' });
    for (const read of [readAbc(writeAbc(marked)), readMusicXml(arrangementXml(arrangement))]) {
      if (!read.ok) throw new Error(JSON.stringify(read.problems));
      const { tune } = read.value;
      const events = tune.bars.flatMap(({ events: all }) => all).filter(isNote);
      const at = (id: string) => events.findIndex((one) => one.id === id);
      expect(tune.slurs.map(({ from, to }) => [at(from), at(to)])).toEqual([
        [1, 3],
        [5, 7],
      ]);
      expect(events.map(({ bow = '-' }) => bow[0]).join('')).toBe('du--du--dd');
      expect(events.at(-1)!.annotation).toBe('lift');
    }
  });

  it('tells slurred from separate in MIDI by where notes end', () => {
    const arrangement = out('G2 (A2 B2) c2 |', {});
    const bytes = saveArrangement(arrangement, 'mid', {
      tune: arrangement.source,
      arrangements: [],
      tags: [],
      versions: [],
    });
    const durations = new toneMidi.Midi(bytes as Uint8Array).tracks[0]!.notes.map(({ durationTicks }) => durationTicks);
    expect(durations).toEqual([3150, 3360, 3150, 3150]);
  });
});

it('prints the metre again where a line opens with another one, and not where it goes on', () => {
  const tune = tuneOf('A8 | B8 | [M:3/4] c6 | d6 | [K:D] e6 | f6 |]');
  const starts = barStarts(tune.bars);
  expect(starts.slice(0, -1).map((from) => goesOn(tune, from))).toEqual([false, true, false, true, true, true]);
  expect(goesOn(tune, starts[2]! + 3360)).toBe(true);
  const xml = (bar: number) =>
    lineXml(
      phraseLine(tune, { from: starts[bar]!, to: starts[bar + 1]! }),
      INSTRUMENT.violin,
      goesOn(tune, starts[bar]!),
    );
  const isPrinted = (bar: number) => !xml(bar).includes('<time print-object="no">');
  expect([0, 1, 2, 3].map(isPrinted)).toEqual([true, false, true, false]);
  expect(xml(4)).toContain('<fifths>2</fifths>');
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneSchema } from '../music/index.ts';
import { readAbc, writeAbc } from '../formats/index.ts';
import { barLength, keyOf, midi, pitch, pitchName, soundingNotes, type Tune } from '../music/index.ts';
import { melody, tuneOf } from '../test/testing.ts';
import {
  adoptIds,
  applyChange,
  blankBars,
  changeBetween,
  copyBars,
  cycleDots,
  deleteBars,
  deleteEvents,
  insertNote,
  invertChange,
  makeRest,
  movePitch,
  pasteBars,
  pitchNear,
  rebarred,
  setChord,
  setKey,
  setMetre,
  setPickup,
  setPitch,
  setSyllable,
  setValue,
  toggleEnding,
  toggleHead,
  toggleRepeatEnd,
  toggleRepeatStart,
  toggleSlur,
  toggleTie,
  toggleTriplet,
  transposeNotes,
} from './index.ts';

const QUARTER = { type: 'quarter', dots: 0 } as const;
const EIGHTH = { type: 'eighth', dots: 0 } as const;
const HALF = { type: 'half', dots: 0 } as const;
const GM = keyOf({ letter: 'G', alter: 0 }, 'major');

const blank = blankBars(tuneOf('G8 |]', { key: 'G' }), { metre: { beats: 4, unit: 4 }, key: GM });
const notes = (tune: Tune) =>
  tune.bars.map(({ events }) =>
    events
      .map(
        (event) =>
          (event.kind === 'note'
            ? event.heads.map(({ pitch: p, tied }) => pitchName(p) + (tied ? '-' : '')).join('+')
            : 'z') +
          event.duration / 840,
      )
      .join(' '),
  );
const idAt = (tune: Tune, place: number) => tune.bars.flatMap(({ events }) => events)[place]!.id;

function type(
  start: Tune,
  ...typed: readonly (readonly [string | null, { type: 'quarter' | 'eighth' | 'half'; dots: 0 | 1 }, ('|' | '3')?])[]
): Tune {
  let tune = start;
  let after: string | null = null;
  for (const [name, value, sign] of typed) {
    const made = insertNote(
      tune,
      after,
      { pitch: name ? pitch(name) : null, value, triplet: sign === '3' },
      sign === '|',
    );
    ({ tune } = made);
    after = made.id;
  }
  return tune;
}

describe('typing', () => {
  it('fills bars, draws bar lines by itself and ties what does not fit', () => {
    const tune = type(blank, ['G4', HALF], ['A4', QUARTER], ['B4', EIGHTH], ['D5', HALF], ['G4', QUARTER]);
    expect(notes(tune)).toEqual(['G48 A44 B42 D5-2', 'D56 G44']);
    expect(tune.bars.map(({ barline }) => barline)).toEqual(['single', 'final']);
    expect(tuneSchema.safeParse(tune).success).toBe(true);
  });

  it('makes a pickup where a bar line is asked for early', () => {
    const tune = type(blank, ['D4', EIGHTH], ['G4', HALF, '|'], ['B4', HALF]);
    expect(notes(tune)).toEqual(['D42', 'G48 B48']);
    expect(tune.bars[0]!.offset).toBe(barLength({ beats: 4, unit: 4 }) - 1680);
  });

  it('marks triplets and rests', () => {
    const tune = type(blank, ['G4', EIGHTH, '3'], ['A4', EIGHTH, '3'], ['B4', EIGHTH, '3'], [null, QUARTER]);
    expect(tune.bars[0]!.events.map(({ tuplet }) => tuplet?.edge)).toEqual(['start', undefined, 'stop', undefined]);
    expect(tune.bars[0]!.length).toBe(2 * 3360);
  });

  it('grows only the bar it is in when it is not the end', () => {
    const tune = tuneOf('G4 A4 | B4 c4 |]', { key: 'G' });
    const { tune: grown, id } = insertNote(tune, idAt(tune, 0), { pitch: pitch('E4'), value: QUARTER });
    expect(notes(grown)).toEqual(['G48 E44 A48', 'B48 C58']);
    expect(idAt(grown, 1)).toBe(id);
    expect(grown.bars[1]).toBe(tune.bars[1]);
  });

  it('takes the octave nearest to the note before, in the key', () => {
    expect(pitchName(pitchNear('F', pitch('G4'), GM))).toBe('F#4');
    expect(pitchName(pitchNear('B', pitch('D4'), GM))).toBe('B3');
    expect(pitchName(pitchNear('C', pitch('B4'), GM))).toBe('C5');
    expect(pitchName(pitchNear('D', null, GM))).toBe('D5');
  });
});

describe('changing notes', () => {
  const tune = tuneOf('"G"G2 A2 B2- B2 | c4 d4 |]', { key: 'G' });

  it('changes length, dots and triplets in place, ids kept', () => {
    const id = idAt(tune, 4);
    expect(notes(setValue(tune, new Set([id]), HALF))[1]).toBe('C58 D58');
    expect(notes(cycleDots(tune, new Set([idAt(tune, 0)])))[0]).toBe('G46 A44 B4-4 B44');
    const three = new Set([0, 1, 2].map((place) => idAt(tune, place)));
    const triplets = toggleTriplet(tune, three);
    expect(triplets.bars[0]!.events.map(({ tuplet }) => tuplet?.edge)).toEqual(['start', undefined, 'stop', undefined]);
    expect(toggleTriplet(triplets, three)).toEqual(tune);
  });

  it('takes a tie off that leads nowhere any more', () => {
    expect(notes(setPitch(tune, idAt(tune, 3), pitch('C5')))[0]).toBe('G44 A44 B44 C54');
    expect(notes(deleteEvents(tune, new Set([idAt(tune, 3)])))[0]).toBe('G44 A44 B44');
    expect(notes(makeRest(tune, new Set([idAt(tune, 3)])))[0]).toBe('G44 A44 B44 z4');
    expect(makeRest(tune, new Set([idAt(tune, 0)])).bars[0]!.events[0]).toMatchObject({
      kind: 'rest',
      chordSymbol: 'G',
    });
  });

  it('ties only to the same pitch, and unties', () => {
    expect(toggleTie(tune, idAt(tune, 0))).toBe(tune);
    expect(notes(toggleTie(tune, idAt(tune, 2)))[0]).toBe('G44 A44 B44 B44');
  });

  it('moves along the scale, by semitones and by octaves', () => {
    const one = new Set([idAt(tune, 1)]);
    expect(notes(movePitch(tune, one, 'step', 1))[0]).toContain('B44');
    expect(notes(movePitch(tune, new Set([idAt(tune, 0)]), 'step', -1))[0]).toMatch(/^F#44/);
    expect(notes(movePitch(tune, one, 'semitone', 1))[0]).toContain('A#44');
    expect(notes(movePitch(tune, one, 'octave', -1))[0]).toContain('A34');
  });

  it('slurs, and takes the slur away again', () => {
    const slurred = toggleSlur(tune, [idAt(tune, 0), idAt(tune, 1)]);
    expect(slurred.slurs).toEqual([{ from: idAt(tune, 0), to: idAt(tune, 1) }]);
    expect(toggleSlur(slurred, [idAt(tune, 0), idAt(tune, 1)]).slurs).toEqual([]);
    expect(toggleSlur(tune, [idAt(tune, 0)]).slurs).toHaveLength(1);
    expect(deleteEvents(slurred, new Set([idAt(tune, 1)])).slurs).toEqual([]);
  });

  it('makes double stops, words and chords, and takes them away', () => {
    const id = idAt(tune, 0);
    const double = toggleHead(tune, id, pitch('D4'));
    expect(notes(double)[0]).toMatch(/^D4\+G4/);
    expect(toggleHead(double, id, pitch('D4'))).toEqual(tune);
    const sung = setSyllable(tune, id, 1, { text: 'oh' });
    expect(sung.bars[0]!.events[0]).toMatchObject({ words: [null, { text: 'oh' }] });
    expect(setSyllable(sung, id, 1, null)).toEqual(tune);
    expect(setChord(setChord(tune, idAt(tune, 1), ' Am '), idAt(tune, 1), '')).toEqual(tune);
  });

  it('leaves one bar of rest where everything is deleted', () => {
    const all = new Set(tune.bars.flatMap(({ events }) => events.map(({ id }) => id)));
    expect(notes(deleteEvents(tune, all))).toEqual(['z16']);
  });
});

describe('changing bars', () => {
  const tune = tuneOf('D2 | G4 A4 | B4 (c2 d2) | e4 d4 |]', { key: 'G' });

  it('copies with slurs, under new ids', () => {
    const { tune: pasted, id } = pasteBars(tune, 3, copyBars(tune, { from: 1, to: 2 }));
    expect(notes(pasted).slice(4)).toEqual(notes(tune).slice(1, 3));
    expect(pasted.slurs).toHaveLength(2);
    expect(idAt(pasted, 8)).toBe(id);
    expect(tuneSchema.safeParse(pasted).success).toBe(true);
    expect(pasted.bars.map(({ barline }) => barline)).toEqual([
      'single',
      'single',
      'single',
      'single',
      'single',
      'final',
    ]);
  });

  it('sets repeats and endings and takes them away', () => {
    const repeated = toggleRepeatEnd(toggleRepeatStart(tune, 1), 2);
    expect(repeated.bars[1]!.repeatStart).toBe(true);
    expect(repeated.bars[2]!.repeatEnd).toBe(2);
    expect(toggleRepeatEnd(toggleRepeatStart(repeated, 1), 2)).toEqual(tune);
    const ended = toggleEnding(tune, { from: 2, to: 2 }, 1);
    expect(ended.bars[2]).toMatchObject({ endings: [1], endingStop: true });
    expect(toggleEnding(ended, { from: 2, to: 2 }, 1)).toEqual(tune);
  });

  it('draws bar lines anew for another metre without losing a sound', () => {
    fc.assert(
      fc.property(
        arbitraryTune({ repeats: false }),
        fc.constantFrom([3, 4], [6, 8], [2, 4], [5, 4]),
        (any, [beats, unit]) => {
          const next = setMetre(any, 0, { beats: beats!, unit: unit! }, true);
          const sounds = (of: Tune) => soundingNotes(of).map(({ note, duration }) => [note.id, duration]);
          expect(melody(next)).toEqual(melody(any));
          expect(sounds(next).map(([, duration]) => duration)).toEqual(sounds(any).map(([, duration]) => duration));
          expect(tuneSchema.safeParse(next).success).toBe(true);
        },
      ),
      { numRuns: 100 },
    );
  });

  it('turns the first notes into a pickup and back', () => {
    const plain = tuneOf('D2 G4 A2 | B2 c4 d2 | e8 |]', { key: 'G' });
    const lead = setPickup(plain, 3360);
    expect(notes(lead)).toEqual(['D44', 'G48 A44 B44', 'C58 D54 E5-4', 'E512']);
    expect(lead.bars[0]!.offset).toBe(3 * 3360);
    expect(melody(setPickup(lead, 0))).toEqual(melody(plain));
    expect(notes(setPickup(lead, 0))[0]).toBe('D44 G48 A44');
  });

  it('keeps repeats at their notes when bars are drawn anew', () => {
    const repeated = tuneOf('|: G4 A4 :: B4 c4 :|', { key: 'G' });
    const short = rebarred(
      { ...repeated, bars: repeated.bars.map((bar) => ({ ...bar, metre: { beats: 2, unit: 4 } })) },
      { from: 0, to: 1 },
    );
    expect(short.bars.map(({ repeatStart, repeatEnd }) => [repeatStart ?? false, repeatEnd ?? 0])).toEqual([
      [true, 0],
      [false, 2],
      [true, 0],
      [false, 2],
    ]);
  });

  it('sets a key with notes staying or following', () => {
    const D = keyOf({ letter: 'D', alter: 0 }, 'major');
    const stays = setKey(tune, 0, D, 'stay');
    expect(melody(stays)).toEqual(melody(tune));
    expect(pitchName(soundingNotes(setKey(tune, 0, D, 'with-signature'))[4]!.note.heads[0]!.pitch)).toBe('C#5');
  });

  it('transposes a selection', () => {
    const moved = transposeNotes(tune, new Set([idAt(tune, 1)]), 12);
    expect(melody(moved)).toEqual(melody(tune).map((number, place) => (place === 1 ? number + 12 : number)));
  });

  it('deletes bars but never the last one', () => {
    expect(deleteBars(tune, { from: 1, to: 1 }).bars).toHaveLength(3);
    expect(deleteBars(tune, { from: 0, to: 3 })).toBe(tune);
  });
});

/** Any edit, for laws. */
const anyEdit: fc.Arbitrary<(tune: Tune) => Tune> = fc
  .tuple(fc.nat(), fc.nat(20))
  .map(([pick, kind]) => (tune: Tune) => {
    const all = tune.bars.flatMap(({ events }) => events);
    const id = all[pick % all.length]!.id;
    const bar = pick % tune.bars.length;
    const edits: readonly ((of: Tune) => Tune)[] = [
      (of) => insertNote(of, id, { pitch: pitch('G4'), value: QUARTER }).tune,
      (of) => insertNote(of, all.at(-1)!.id, { pitch: pitch('A4'), value: HALF }).tune,
      (of) => insertNote(of, null, { pitch: null, value: EIGHTH }).tune,
      (of) => deleteEvents(of, new Set([id])),
      (of) => setValue(of, new Set([id]), QUARTER),
      (of) => cycleDots(of, new Set([id])),
      (of) => toggleTriplet(of, new Set([id])),
      (of) => makeRest(of, new Set([id])),
      (of) => setPitch(of, id, pitch('C5')),
      (of) => toggleHead(of, id, pitch('D4')),
      (of) => movePitch(of, new Set([id]), 'step', 1),
      (of) => movePitch(of, new Set([id]), 'semitone', -1),
      (of) => toggleTie(of, id),
      (of) => toggleSlur(of, [id]),
      (of) => setSyllable(of, id, 0, { text: 'la' }),
      (of) => setChord(of, id, 'Em'),
      (of) => toggleRepeatStart(of, bar),
      (of) => toggleRepeatEnd(of, bar),
      (of) => pasteBars(of, bar, copyBars(of, { from: 0, to: bar })).tune,
      (of) => deleteBars(of, { from: bar, to: bar }),
      (of) => setMetre(of, bar, { beats: 3, unit: 4 }, pick % 2 === 0),
    ];
    return edits[kind]!(tune);
  });

describe('laws of every edit', () => {
  it('leaves a sound tune, and its change applies, inverts and survives a store', () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.array(anyEdit, { minLength: 1, maxLength: 8 }), (start, edits) => {
        let tune = start;
        for (const edit of edits) {
          const next = edit(tune);
          const parsed = tuneSchema.safeParse(next);
          expect(parsed.success ? '' : JSON.stringify(parsed.error.issues)).toBe('');
          const change = changeBetween(tune, next);
          if (change) {
            const stored = JSON.parse(JSON.stringify(change)) as typeof change;
            // By structure: an edit may write the same note with its members in another order.
            expect(applyChange(tune, stored)).toEqual(next);
            expect(applyChange(next, invertChange(stored))).toEqual(tune);
          } else expect(next).toEqual(tune);
          tune = next;
        }
      }),
      { numRuns: 150 },
    );
  });

  it('is refused as a change of another tune', () => {
    const tune = tuneOf('G4 A4 | B4 c4 |]');
    const change = changeBetween(tune, deleteBars(tune, { from: 0, to: 0 }))!;
    expect(() => applyChange(tuneOf('c4 c4 | d4 d4 |]'), change)).toThrow();
  });
});

describe('taking over ids', () => {
  it('keeps them for notes that stay, whatever comes before', () => {
    const before = tuneOf('G2A2 B2c2 | d2e2 f2g2 |]', { key: 'G' });
    const after = tuneOf('E4 G2A2 | B2c2 d2e2 | f2g2 a4 |]', { key: 'G' });
    const adopted = adoptIds(before, after);
    const idOf = (tune: Tune, number: number) =>
      soundingNotes(tune).find(({ note }) => midi(note.heads[0]!.pitch) === number)!.note.id;
    for (const name of ['G4', 'B4', 'D5', 'F#5', 'G5']) {
      expect(idOf(adopted, midi(pitch(name)))).toBe(idOf(before, midi(pitch(name))));
    }
    expect(tuneSchema.safeParse(adopted).success).toBe(true);
  });

  it('keeps them for a note that was changed in place', () => {
    const before = tuneOf('G2A2 B2c2 |]');
    const adopted = adoptIds(before, tuneOf('G2A2 d2c2 |]'));
    expect(soundingNotes(adopted).map(({ note }) => note.id)).toEqual(soundingNotes(before).map(({ note }) => note.id));
  });

  it('changes nothing for a tune that was only written and read', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const read = readAbc(writeAbc(tune));
        if (!read.ok) throw new Error('unreadable');
        const ids = (of: Tune) => of.bars.flatMap(({ events }) => events.map(({ id }) => id));
        expect(ids(adoptIds(tune, read.value.tune))).toEqual(ids(tune));
      }),
      { numRuns: 40 },
    );
  });
});

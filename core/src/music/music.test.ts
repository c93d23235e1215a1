import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  TICKS_PER_QUARTER as Q,
  barLength,
  beatLength,
  beatTempoText,
  chroma,
  isStandard,
  keyName,
  keyOf,
  metricWeight,
  midi,
  nearestFifths,
  parsePitch,
  pitch,
  pitchName,
  transposeKey,
  transposePitch,
  valueLength,
  writeDuration,
  type Metre,
} from './index.ts';

const FOUR_FOUR: Metre = { beats: 4, unit: 4 };
const SIX_EIGHT: Metre = { beats: 6, unit: 8 };

describe('time', () => {
  it('knows the beat that players count', () => {
    expect(barLength(SIX_EIGHT)).toBe(3 * Q);
    expect(beatLength(SIX_EIGHT)).toBe(1.5 * Q);
    expect(beatLength({ beats: 3, unit: 8 })).toBe(Q / 2);
    expect(beatLength({ beats: 2, unit: 2 })).toBe(2 * Q);
  });

  it.each([
    [{ beats: 4, unit: 4 }, 'quarter = 150'],
    [{ beats: 6, unit: 8 }, 'dotted quarter = 100'],
    [{ beats: 2, unit: 2 }, 'half = 75'],
    [{ beats: 3, unit: 8 }, 'eighth = 300'],
  ])('says the tempo in the beat of the metre %j', (metre, text) => {
    expect(beatTempoText(metre, 150)).toBe(text);
  });

  it('weighs the first beat most, the half bar next', () => {
    const weights = [0, 1, 2, 3].map((beat) => metricWeight(beat * Q, FOUR_FOUR));
    expect(weights).toEqual([4, 2, 3, 2]);
    expect(metricWeight(Q / 2, FOUR_FOUR)).toBe(1);
  });

  it('writes five eighths as a half tied to an eighth, never hiding the beat', () => {
    const shapes = writeDuration(0, 2.5 * Q, FOUR_FOUR).map(({ value }) => `${value.type}${'.'.repeat(value.dots)}`);
    expect(shapes).toEqual(['half', 'eighth']);
    expect(writeDuration(Q / 2, 1.5 * Q, FOUR_FOUR).map(({ value }) => value.type)).toEqual(['eighth', 'quarter']);
  });

  it('always writes the whole stretch', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 15 }), fc.integer({ min: 1, max: 16 }), (from, length) => {
        const written = writeDuration((from * Q) / 4, (length * Q) / 4, FOUR_FOUR);
        expect(written.reduce((sum, { duration }) => sum + duration, 0)).toBe((length * Q) / 4);
        for (const { duration, value } of written) expect(valueLength(value)).toBe(duration);
      }),
    );
  });
});

describe('pitch', () => {
  it('spells and sounds', () => {
    expect(midi(pitch('A4'))).toBe(69);
    expect(midi(pitch('Cb4'))).toBe(59);
    expect(parsePitch('H4')).toBeNull();
    expect(pitchName(transposePitch(pitch('F#4'), 1, 1))).toBe('G4');
    expect(pitchName(transposePitch(pitch('B3'), 1, 1))).toBe('C4');
  });

  it('never leaves the note when it falls back on a plainer spelling', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Fb4', 'B#3', 'E##4', 'Abb4', 'C5'),
        fc.integer({ min: -14, max: 14 }),
        (name, semitones) => {
          const moved = transposePitch(pitch(name), Math.round((semitones * 7) / 12), semitones);
          expect(midi(moved)).toBe(midi(pitch(name)) + semitones);
        },
      ),
    );
  });
});

describe('keys', () => {
  it('has the signature of its mode', () => {
    expect(keyOf({ letter: 'E', alter: 0 }, 'dorian').signature).toEqual({ F: 1, C: 1 });
    expect(keyOf({ letter: 'B', alter: -1 }, 'major').signature).toEqual({ B: -1, E: -1 });
    expect(keyName(keyOf({ letter: 'B', alter: -1 }, 'major'))).toBe('B♭ major');
  });

  it('moves to the plainest spelling and keeps irregular signatures irregular', () => {
    const g = keyOf({ letter: 'G', alter: 0 }, 'major');
    expect(keyName(transposeKey(g, 1).key)).toBe('A♭ major');
    expect(keyName(transposeKey(g, -5).key)).toBe('D major');
    const odd = { ...g, signature: { F: 1 as const, B: -1 as const } };
    const moved = transposeKey(odd, 2).key;
    expect(isStandard(moved)).toBe(false);
    // G with F♯ and B♭ becomes A with G♯ and C natural.
    expect(moved.signature).toEqual({ F: 1, G: 1 });
  });

  it('comes back after going there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('C', 'D', 'E', 'F', 'G', 'A', 'B'),
        fc.constantFrom('major', 'minor', 'dorian', 'mixolydian'),
        fc.integer({ min: -11, max: 11 }),
        (letter, mode, semitones) => {
          const key = keyOf({ letter: letter as 'C', alter: 0 }, mode as 'major');
          const there = transposeKey(key, semitones);
          const back = transposeKey(there.key, -semitones);
          expect(chroma(back.key.tonic)).toBe(chroma(key.tonic));
          expect(Math.abs(nearestFifths(there.key))).toBeLessThanOrEqual(6);
          expect(Math.abs(there.steps - (semitones * 7) / 12)).toBeLessThan(1.2);
        },
      ),
    );
  });
});

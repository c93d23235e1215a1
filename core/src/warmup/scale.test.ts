import { describe, expect, it } from 'vitest';
import { arrange, decided, FIRST_DECISIONS, type DecisionChange } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { INSTRUMENTS } from '../instrument/index.ts';
import { MODES, barLength, midi, pitch, pitchName, tuneSchema, type Mode, type Tune } from '../music/index.ts';
import { melody } from '../test/testing.ts';
import { scaleTune, type ScaleWish } from './scale.ts';

const set = (change: DecisionChange) => decided(FIRST_DECISIONS, change);
function made(name: string, mode: Mode, octaves: ScaleWish['octaves'], change: DecisionChange = {}): Tune {
  const { letter, alter } = pitch(`${name}4`);
  const found = scaleTune({ tonic: { letter, alter }, mode, octaves }, set(change));
  if (!found.ok) throw new Error(`room for ${found.octaves}`);
  return found.tune;
}
const names = (tune: Tune) =>
  tune.bars.flatMap(({ events }) =>
    events.flatMap((event) => (event.kind === 'note' ? [pitchName(event.heads[0]!.pitch)] : [])),
  );

describe('a scale', () => {
  it('goes up and down from the lowest home note, and then the arpeggio', () => {
    expect(names(made('G', 'major', 1))).toEqual(
      'G3 A3 B3 C4 D4 E4 F#4 G4 F#4 E4 D4 C4 B3 A3 G3 G3 B3 D4 G4 D4 B3 G3'.split(' '),
    );
    expect(names(made('A', 'dorian', 1)).slice(0, 8)).toEqual('A3 B3 C4 D4 E4 F#4 G4 A4'.split(' '));
  });

  it.each(MODES)('in %s is right to the letter, and its bars add up', (mode) => {
    for (const name of ['D', 'Eb', 'F#', 'Bb']) {
      const tune = made(name, mode, 2);
      expect(tuneSchema.safeParse(tune).success).toBe(true);
      expect(tune.bars.every(({ length, metre }) => length === barLength(metre))).toBe(true);
      const up = names(tune).slice(0, 8);
      expect(new Set(up.slice(0, 7).map((one) => one[0])).size).toBe(7);
      const sounds = melody(tune);
      expect(sounds[7]! - sounds[0]!).toBe(12);
      expect(sounds[14]! - sounds[0]!).toBe(24);
    }
  });

  it.each(INSTRUMENTS)('is fingered to the last note on the %s, in one, two and three octaves', (instrument) => {
    for (const octaves of [1, 2, 3] as const) {
      const decisions = set({ key: { instrument } });
      const found = scaleTune({ tonic: { letter: 'G', alter: 0 }, mode: 'major', octaves }, decisions);
      if (!found.ok) {
        expect(octaves).toBe(3);
        expect(found.octaves).toBe(2);
        continue;
      }
      const { fingering, form } = arrange(found.tune, decisions);
      expect(fingering.notes.every(({ stops }) => stops.length === 1)).toBe(true);
      expect(phrasesOf(form)).toHaveLength(2);
    }
  });

  it('says how many octaves there is room for', () => {
    const short = set({ hand: { limits: { maxPosition: 'I' } } });
    expect(scaleTune({ tonic: { letter: 'D', alter: 0 }, mode: 'major', octaves: 3 }, short)).toEqual({
      ok: false,
      octaves: 1,
    });
  });

  it('has the same fingers in both octaves where the pairs are tuned an octave apart', () => {
    const change: DecisionChange = { key: { tuning: 'low-pair-up' } };
    const tune = made('A', 'major', 2, change);
    const { fingering } = arrange(tune, set(change));
    const [low, high] = [fingering.notes.slice(0, 7), fingering.notes.slice(7, 14)];
    expect(high.map(({ stops }) => stops[0]!.finger)).toEqual(low.map(({ stops }) => stops[0]!.finger));
    expect(high.map(({ stops }) => stops[0]!.string)).toEqual(low.map(({ stops }) => stops[0]!.string + 2));
    expect(midi(low[0]!.pitches[0]!)).toBe(57);
  });
});

import { describe, expect, it } from 'vitest';
import { INSTRUMENT, INSTRUMENTS } from '../instrument/index.ts';
import { pitch } from '../music/index.ts';
import { beatRate, beatsBetween, centsFrom, frequencyOf, nearestString, pureInterval, soundOf } from './index.ts';

/** Strings sound with partials that grow fainter; seconds of them together. */
function sounding(rate: number, seconds: number, ...tones: readonly number[]): Float32Array {
  const samples = new Float32Array(rate * seconds);
  for (const tone of tones)
    for (let partial = 1; partial <= 6; partial += 1)
      for (let at = 0; at < samples.length; at += 1)
        samples[at]! += (0.15 / partial) * Math.sin((2 * Math.PI * partial * tone * at) / rate + partial);
  return samples;
}

describe('a string', () => {
  it.each([
    ['E1', 41.2],
    ['C2', 65.41],
    ['G3', 196],
    ['D4', 293.66],
    ['A4', 440],
    ['E5', 659.26],
  ])('%s sounds at %f Hz', (name, hertz) => {
    expect(frequencyOf(pitch(name))).toBeCloseTo(hertz, 1);
  });

  it.each(INSTRUMENTS)('of the %s is found, sharp or flat', (id) => {
    const pitches = INSTRUMENT[id].strings.map(({ usual }) => usual);
    pitches.forEach((own, string) => {
      for (const cents of [-60, -7, 0, 12, 80]) {
        const found = nearestString(frequencyOf(own) * 2 ** (cents / 1200), pitches)!;
        expect(found.string).toBe(string);
        expect(found.cents).toBeCloseTo(cents, 6);
      }
    });
  });

  it('is measured from another concert pitch', () => {
    expect(nearestString(440, [pitch('A4')], 442)!.cents).toBeCloseTo(-7.85, 2);
  });

  it('is none where nothing sounds', () => {
    expect(nearestString(0, [pitch('A4')])).toBeNull();
    expect(nearestString(Number.NaN, [pitch('A4')])).toBeNull();
    expect(nearestString(440, [])).toBeNull();
  });

  it('goes by its peg and its fine tuner', () => {
    const own = { pitch: pitch('D4'), peg: 0, fine: 0 };
    expect(soundOf(own)).toBeCloseTo(293.66, 2);
    expect(centsFrom(soundOf(own), soundOf({ ...own, peg: -1 }))).toBeCloseTo(-200, 6);
    expect(centsFrom(soundOf(own), soundOf({ ...own, fine: 1 }))).toBeCloseTo(33, 6);
  });
});

describe('two strings', () => {
  it.each([
    ['G3', 'D4', 'fifth'],
    ['E1', 'A1', 'fourth'],
    ['A3', 'A4', 'octave'],
    ['A3', 'A3', 'unison'],
  ])('%s and %s are a %s', (low, high, name) => {
    expect(pureInterval(pitch(low), pitch(high))!.name).toBe(name);
  });
  it('that are nothing pure have none', () => {
    expect(pureInterval(pitch('A4'), pitch('C#5'))).toBeNull();
  });

  it('in pure fifths do not beat, in tempered ones about once a second', () => {
    const fifth = pureInterval(pitch('D4'), pitch('A4'))!;
    expect(beatsBetween(440 / 1.5, 440, fifth)).toBeCloseTo(0, 6);
    expect(beatsBetween(frequencyOf(pitch('D4')), 440, fifth)).toBeCloseTo(0.99, 2);
  });

  const cases = [1, 2, 3.5, 6].flatMap((beats) =>
    [
      ['G3', 'D4', 'fifth'],
      ['D4', 'A4', 'fifth'],
      ['C2', 'G2', 'fifth'],
      ['A1', 'D2', 'fourth'],
    ].map(([low, high, name]) => [beats, low!, high!, name!] as const),
  );
  it.each(cases)('that beat %f times a second are heard to: %s %s, a %s', (beats, low, high) => {
    const interval = pureInterval(pitch(low), pitch(high))!;
    const under = frequencyOf(pitch(low));
    // The higher one a little too low.
    const over = (interval.partials[0] * under - beats) / interval.partials[1];
    const heard = beatRate(sounding(16_000, 4, under, over), 16_000, interval.partials[0] * under);
    expect(heard).toBeGreaterThan(0.93 * beats);
    expect(heard).toBeLessThan(1.07 * beats);
  });

  it('that are pure are heard to stand still, though they fade', () => {
    const samples = sounding(16_000, 4, 196, 294).map((one, at) => one * (1 - at / 90_000));
    expect(beatRate(samples, 16_000, 588)).toBe(0);
  });
  it('that are silent tell nothing', () => {
    expect(beatRate(new Float32Array(64_000), 16_000, 588)).toBeNull();
  });
});

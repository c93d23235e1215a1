/**
 * Tuning strings: how far a sound is from a string's pitch, and how fast two strings beat against each other. Equal
 * temperament for single strings; fifths, fourths and octaves between strings are tuned pure, by their beats.
 */
import { midi, type Pitch } from '../music/index.ts';

export type Hertz = number;
export type Cents = number;

export const CONCERT_A: Hertz = 440;
const A4 = 69;

/** @example Math.round(10 * frequencyOf({ letter: 'E', alter: 0, octave: 1 })) / 10 // 41.2 */
export const frequencyOf = (pitch: Pitch, a4: Hertz = CONCERT_A): Hertz => a4 * 2 ** ((midi(pitch) - A4) / 12);

/** From one frequency up to another. @example Math.round(centsFrom(440, 445)) // 20 */
export const centsFrom = (from: Hertz, to: Hertz): Cents => 1200 * Math.log2(to / from);

export interface StringReading {
  /** By number from the lowest. */
  readonly string: number;
  /** Above the string's pitch, below if negative. */
  readonly cents: Cents;
}

/** So near is in tune: a player hears no less on a single string. */
export const IN_TUNE: Cents = 3;

/**
 * The string that a sound is nearest to; null for none.
 * @param frequency what sounds
 * @example nearestString(196, ['G3', 'D4', 'A4', 'E5'].map(pitch)).string // 0
 */
export function nearestString(
  frequency: Hertz,
  pitches: readonly Pitch[],
  a4: Hertz = CONCERT_A,
): StringReading | null {
  if (!(frequency > 0) || pitches.length === 0) return null;
  return pitches
    .map((pitch, string) => ({ string, cents: centsFrom(frequencyOf(pitch, a4), frequency) }))
    .reduce((best, one) => (Math.abs(one.cents) < Math.abs(best.cents) ? one : best));
}

/** Two strings that are tuned against each other: which of their partials coincide where they are pure. */
export interface PureInterval {
  readonly name: 'unison' | 'fourth' | 'fifth' | 'octave';
  /** Partial of the lower string, and of the higher one. */
  readonly partials: readonly [number, number];
}

const PURE: readonly (readonly [semitones: number, interval: PureInterval])[] = [
  [0, { name: 'unison', partials: [1, 1] }],
  [5, { name: 'fourth', partials: [4, 3] }],
  [7, { name: 'fifth', partials: [3, 2] }],
  [12, { name: 'octave', partials: [2, 1] }],
];

/** @example pureInterval(pitch('D4'), pitch('A4')).name // 'fifth' */
export const pureInterval = (low: Pitch, high: Pitch): PureInterval | null =>
  PURE.find(([semitones]) => semitones === midi(high) - midi(low))?.[1] ?? null;

/**
 * Beats a second between two strings: the distance of the partials that would coincide.
 * @example Math.round(10 * beatsBetween(293.66, 440, { name: 'fifth', partials: [3, 2] })) / 10 // 1
 */
export const beatsBetween = (low: Hertz, high: Hertz, { partials: [under, over] }: PureInterval): Hertz =>
  Math.abs(under * low - over * high);

/** Seconds: how finely the loudness of a partial is followed, and over what a piece of it is taken. */
const HOP = 0.02;
const WINDOW = 0.08;
/** Slowest and fastest beat that can be told, in beats a second. */
export const BEATS = { slowest: 0.5, fastest: 12 } as const;
/** Share of the loudness that must come and go: a bow alone swells and fades too. */
const DEPTH = 0.12;

/**
 * How fast the loudness of a partial comes and goes: the beats of two strings that sound together.
 * @param samples three seconds and more of both strings
 * @param rate samples a second
 * @param partial where their partials coincide
 * @returns beats a second, 0 where it stands still; null where too little sounds
 * @example beatRate(new Float32Array(10), 44100, 880) // null
 */
export function beatRate(samples: Float32Array, rate: Hertz, partial: Hertz): Hertz | null {
  const [size, hop] = [Math.round(WINDOW * rate), Math.round(HOP * rate)];
  const loud: number[] = [];
  for (let start = 0; start + size <= samples.length; start += hop)
    loud.push(loudnessAt(samples.subarray(start, start + size), rate, partial));
  return beatsIn(loud, HOP);
}

/**
 * The beats in the loudness of a partial, followed piece by piece.
 * @param hop seconds from one piece to the next
 * @returns beats a second, 0 where it stands still; null where too little sounds
 * @example beatsIn([0.2, 0.2], 0.02) // null
 */
export function beatsIn(loud: readonly number[], hop: number): Hertz | null {
  // A beat and a half of the slowest.
  if (loud.length < 1.4 / (BEATS.slowest * hop)) return null;
  const mean = loud.reduce((sum, one) => sum + one, 0) / loud.length;
  if (mean < 1e-5) return null;
  const swing = evened(loud, mean);
  const depth = Math.sqrt(swing.reduce((sum, one) => sum + one * one, 0) / swing.length);
  if (depth < DEPTH) return 0;
  const likeness = (lag: number) => {
    let sum = 0;
    for (let at = 0; at + lag < swing.length; at += 1) sum += swing[at]! * swing[at + lag]!;
    return sum / (swing.length - lag);
  };
  const shortest = Math.max(1, Math.round(1 / (BEATS.fastest * hop)));
  const longest = Math.round(1 / (BEATS.slowest * hop));
  const all = Array.from({ length: longest - shortest + 3 }, (_, index) => likeness(shortest - 1 + index));
  const best = Math.max(...all.slice(1, -1));
  // The first of the peaks that are about as high: twice the period is as like itself.
  const peak = all.findIndex(
    (own, at) => at > 0 && at < all.length - 1 && own >= 0.8 * best && own >= all[at - 1]! && own >= all[at + 1]!,
  );
  if (peak < 0 || best <= 0) return 0;
  const [before, own, after] = [all[peak - 1]!, all[peak]!, all[peak + 1]!];
  const bend = before - 2 * own + after;
  const lag = shortest - 1 + peak + (bend === 0 ? 0 : (before - after) / (2 * bend));
  return 1 / (lag * hop);
}

/**
 * How loud one partial is in a piece of sound.
 * @example loudnessAt(new Float32Array(100), 44100, 880) // 0
 */
export function loudnessAt(samples: Float32Array, rate: Hertz, partial: Hertz): number {
  const turn = (2 * Math.PI * partial) / rate;
  const size = samples.length;
  let [real, imaginary] = [0, 0];
  for (let at = 0; at < size; at += 1) {
    const weighed = samples[at]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * at) / size));
    real += weighed * Math.cos(turn * at);
    imaginary += weighed * Math.sin(turn * at);
  }
  return (2 * Math.hypot(real, imaginary)) / size;
}

/** Beside what it fades or swells to anyway, as shares of that. */
function evened(loud: readonly number[], mean: number): readonly number[] {
  const count = loud.length;
  const middle = (count - 1) / 2;
  const across = loud.reduce((sum, _, at) => sum + (at - middle) ** 2, 0);
  const slope = loud.reduce((sum, one, at) => sum + (at - middle) * (one - mean), 0) / across;
  return loud.map((one, at) => one / Math.max(mean / 10, mean + slope * (at - middle)) - 1);
}

/** A string that is not there: what its peg and its fine tuner do to it. */
export interface SimulatedString {
  readonly pitch: Pitch;
  /** Quarter turns of the peg from where the string is in tune. */
  readonly peg: number;
  /** Turns of the fine tuner. */
  readonly fine: number;
}
/** A quarter turn of a peg is about a tone; a whole turn of a fine tuner a sixth of that. */
export const PEG: Cents = 200;
export const FINE: Cents = 33;

/** @example Math.round(soundOf({ pitch: { letter: 'A', alter: 0, octave: 4 }, peg: 0, fine: 0 })) // 440 */
export const soundOf = ({ pitch, peg, fine }: SimulatedString, a4: Hertz = CONCERT_A): Hertz =>
  frequencyOf(pitch, a4) * 2 ** ((PEG * peg + FINE * fine) / 1200);

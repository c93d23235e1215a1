/**
 * Musical time in whole ticks, metres, and the written note values that fill them.
 * Section "Tune" of the domain: never floats for musical time.
 */

/** A musical duration or place in ticks; 3360 to the quarter note. */
export type Ticks = number;
/** Beats per minute. */
export type Bpm = number;
export type Seconds = number;

/** Divides by 2⁵·3·5·7, so 128ths, triplets, quintuplets and septuplets are exact. */
export const TICKS_PER_QUARTER: Ticks = 3360;
export const TICKS_PER_WHOLE: Ticks = 4 * TICKS_PER_QUARTER;

/** No note of any tune is longer; keeps forged lengths from being written out for ever. */
export const LONGEST_NOTE: Ticks = 32 * TICKS_PER_WHOLE;

export interface Metre {
  /** Upper figure. */
  readonly beats: number;
  /** Lower figure: 2, 4, 8, 16. */
  readonly unit: number;
  /** Printed as C or cut C instead of figures; in free metre each bar is as long as its notes, and nothing is printed. */
  readonly symbol?: 'common' | 'cut' | 'free';
}

export interface Tempo {
  /** The note value that one beat of the metronome stands for. */
  readonly beat: Ticks;
  readonly bpm: Bpm;
  readonly text?: string;
}

/** Length of a full bar. @example barLength({ beats: 6, unit: 8 }) // 10080 */
export function barLength(metre: Metre): Ticks {
  return (metre.beats * TICKS_PER_WHOLE) / metre.unit;
}

/**
 * Compound metres count in dotted beats: 6/8, 9/8, 12/8 and their kin, 6/4 too.
 * @example isCompound({ beats: 6, unit: 8 }) // true
 */
export function isCompound(metre: Metre): boolean {
  return metre.unit >= 4 && metre.beats > 3 && metre.beats % 3 === 0;
}

/** Length of the beat that players count. @example beatLength({ beats: 6, unit: 8 }) // 5040 */
export function beatLength(metre: Metre): Ticks {
  const unit = TICKS_PER_WHOLE / metre.unit;
  return isCompound(metre) ? 3 * unit : unit;
}

/**
 * How strong a place in the bar is, 0 (off every beat) to 4 (the first beat).
 * The half bar of an even metre comes second, other beats third, halves of beats fourth.
 * @example metricWeight(6720, { beats: 4, unit: 4 }) // 3
 */
export function metricWeight(at: Ticks, metre: Metre): 0 | 1 | 2 | 3 | 4 {
  if (at === 0) return 4;
  const beat = beatLength(metre);
  const beatsInBar = barLength(metre) / beat;
  if (beatsInBar % 2 === 0 && at === barLength(metre) / 2) return 3;
  if (at % beat === 0) return 2;
  const part = isCompound(metre) ? beat / 3 : beat / 2;
  return at % part === 0 ? 1 : 0;
}

/**
 * The bar's first beat, and the middle of a bar of four, or of six or twelve eighths.
 * @example isStrongBeat(6720, { beats: 4, unit: 4 }) // true
 */
export const isStrongBeat = (at: Ticks, metre: Metre): boolean =>
  at === 0 || (metricWeight(at, metre) === 3 && (metre.beats !== 2 || metre.unit === 2));

/**
 * Ticks at a quarter-note tempo, in seconds.
 * @example seconds(3360, 120) // 0.5
 */
export function seconds(duration: Ticks, quarterBpm: Bpm): Seconds {
  return (duration / TICKS_PER_QUARTER) * (60 / quarterBpm);
}

/**
 * The tempo's beats per minute counted in quarters.
 * @example quarterBpm({ beat: 5040, bpm: 100 }) // 150
 */
export function quarterBpm(tempo: Tempo): Bpm {
  return (tempo.bpm * tempo.beat) / TICKS_PER_QUARTER;
}

/** The tempo as players of this metre say it. @example beatTempoText({ beats: 6, unit: 8 }, 150) // 'dotted quarter = 100' */
export function beatTempoText(metre: Metre, quarters: Bpm): string {
  const beat = beatLength(metre);
  const names = new Map<Ticks, string>([
    [TICKS_PER_QUARTER / 2, 'eighth'],
    [(TICKS_PER_QUARTER * 3) / 4, 'dotted eighth'],
    [TICKS_PER_QUARTER, 'quarter'],
    [TICKS_PER_QUARTER * 1.5, 'dotted quarter'],
    [TICKS_PER_QUARTER * 2, 'half'],
  ]);
  const name = names.get(beat);
  return name ? `${name} = ${Math.round((quarters * TICKS_PER_QUARTER) / beat)}` : `quarter = ${Math.round(quarters)}`;
}

export const NOTE_TYPES = ['breve', 'whole', 'half', 'quarter', 'eighth', '16th', '32nd', '64th', '128th'] as const;
export type NoteType = (typeof NOTE_TYPES)[number];

/** A written note value, before any tuplet. */
export interface NoteValue {
  readonly type: NoteType;
  readonly dots: 0 | 1 | 2 | 3;
}

/** For people. */
export const NOTE_NAMES: Readonly<Record<NoteType, string>> = {
  breve: 'breve',
  whole: 'whole note',
  half: 'half',
  quarter: 'quarter',
  eighth: 'eighth',
  '16th': 'sixteenth',
  '32nd': 'thirty-second',
  '64th': 'sixty-fourth',
  '128th': 'hundred-twenty-eighth',
};
const DOT_NAMES = ['', 'dotted ', 'double-dotted ', 'triple-dotted '] as const;

/** @example noteValueName({ type: 'quarter', dots: 1 }) // 'dotted quarter' */
export const noteValueName = ({ type, dots }: NoteValue): string => `${DOT_NAMES[dots]}${NOTE_NAMES[type]}`;

const LENGTH_OF: Readonly<Record<NoteType, Ticks>> = Object.fromEntries(
  NOTE_TYPES.map((type, power) => [type, (2 * TICKS_PER_WHOLE) / 2 ** power]),
) as Record<NoteType, Ticks>;

/** Length of a written value. @example valueLength({ type: 'half', dots: 1 }) // 10080 */
export function valueLength({ type, dots }: NoteValue): Ticks {
  return LENGTH_OF[type] * (2 - 2 ** -dots);
}

const VALUES: readonly (NoteValue & { length: Ticks })[] = NOTE_TYPES.flatMap((type) =>
  ([0, 1, 2, 3] as const).map((dots) => ({ type, dots, length: valueLength({ type, dots }) })),
).sort((a, b) => b.length - a.length);

/**
 * The single written value of exactly this length, or null where it needs a tie.
 * @example valueOf(5040) // { type: 'quarter', dots: 1 }
 */
export function valueOf(length: Ticks): NoteValue | null {
  const found = VALUES.find((value) => value.length === length);
  return found ? { type: found.type, dots: found.dots } : null;
}

/** A stretch of time inside a bar, and how to write it. */
export interface Written {
  readonly at: Ticks;
  readonly duration: Ticks;
  readonly value: NoteValue;
}

/**
 * Splits a stretch of a bar into written values to be tied, breaking at the half bar or at
 * beats wherever one value would hide the beat.
 *
 * @param at offset from the nominal start of the bar (a pickup bar starts late in its bar)
 * @example writeDuration(1680, 3360, { beats: 4, unit: 4 }).map(({ duration }) => duration) // [3360]
 */
export function writeDuration(at: Ticks, duration: Ticks, metre: Metre): readonly Written[] {
  if (duration <= 0) return [];
  const whole = valueOf(duration);
  const beat = beatLength(metre);
  const end = at + duration;
  const firstBeat = Math.floor(at / beat) * beat;
  const insideOneBeat = end <= firstBeat + beat;
  // A value may also start on a beat and cover whole beats, or sit plainly across (a half in 3/4).
  const coversBeats = at % beat === 0 && (duration % beat === 0 || duration < beat * 2);
  const syncopated = at % (beat / 2) === 0 && duration === beat && !isCompound(metre);
  if (whole && whole.dots < 2 && (insideOneBeat || coversBeats || syncopated)) {
    return [{ at, duration, value: whole }];
  }
  const nextBeat = firstBeat + beat;
  if (end > nextBeat && at % beat !== 0) {
    return [...writeDuration(at, nextBeat - at, metre), ...writeDuration(nextBeat, end - nextBeat, metre)];
  }
  const largest = VALUES.find((value) => value.dots < 2 && value.length <= duration);
  if (!largest) return [];
  const { length, type, dots } = largest;
  return [{ at, duration: length, value: { type, dots } }, ...writeDuration(at + length, duration - length, metre)];
}

/**
 * Whether two metres are printed alike; free time is free time, however long its bars are.
 * @example isSameMetre({ beats: 4, unit: 4 }, { beats: 2, unit: 2 }) // false
 */
export function isSameMetre(one: Metre, other: Metre): boolean {
  const [free, otherFree] = [one.symbol === 'free', other.symbol === 'free'];
  if (free || otherFree) return free && otherFree;
  return one.beats === other.beats && one.unit === other.unit;
}

/** Upper figures that a bar of free metre can have; more are an eighth too fine. */
const MOST_FREE = 64;

/**
 * The metre of a bar in free time: as many quarters, eighths or shorter as it is long.
 * @example freeMetre(10080) // { beats: 3, unit: 4, symbol: 'free' }
 */
export function freeMetre(length: Ticks): Metre {
  const unit = [4, 8, 16, 32, 64].find((one) => length % (TICKS_PER_WHOLE / one) === 0) ?? 64;
  const beats = Math.max(1, Math.min(MOST_FREE, Math.round((length * unit) / TICKS_PER_WHOLE)));
  return { beats, unit, symbol: 'free' };
}

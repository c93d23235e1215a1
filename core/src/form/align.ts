/**
 * Alignment of two stretches of music: the cheapest way to make one of the other by changing, adding and
 * leaving out notes (edit distance over place in the bar, length and pitch; R. Wagner and M. Fischer,
 * "The String-to-String Correction Problem", 1974). What it keeps is the same; what it changes is the difference.
 */
import type { Ticks } from '../music/index.ts';
import type { Sound } from './reading.ts';

/** A sound with its place in the phrase. */
export interface Timed {
  /** Ticks from the phrase's first bar line; pickups are negative. */
  readonly at: Ticks;
  /** Bar within the phrase, from 0, counted by bar lines, and ticks from its line; a pickup stands in bar −1. */
  readonly bar: number;
  readonly place: Ticks;
  /** Bars from the phrase's first bar line, with the part of a bar as a fraction. */
  readonly spot: number;
  readonly sound: Sound;
  /** Its length says nothing: it is the last, and only makes room for what comes after. */
  readonly last: boolean;
}

/** What stands beside what: indexes into both, or null on the side that has nothing here. */
export interface Pair {
  readonly own: number | null;
  readonly other: number | null;
  readonly same: boolean;
}

const COST = {
  /** Another pitch at the same place with the same length. */
  pitch: 1,
  /** Another length at the same place. */
  length: 0.8,
  /** Another place in the bar. */
  place: 1.2,
  /** A note more or less. */
  gap: 1,
  /** The same note, but not the same time from the start: the plain way is preferred. */
  shifted: 0.05,
} as const;

export function samePitches(a: Sound, b: Sound, semitones = 0): boolean {
  return (
    a.pitches.length === b.pitches.length && a.pitches.every((pitch, index) => pitch === b.pitches[index]! + semitones)
  );
}

const sameLength = (a: Timed, b: Timed) => a.last || b.last || a.sound.duration === b.sound.duration;

/** What stands beside what, places compared within their bars. */
export function align(own: readonly Timed[], other: readonly Timed[]): readonly Pair[] {
  const rows = own.length + 1;
  const columns = other.length + 1;
  const cost = new Float64Array(rows * columns);
  const at = (row: number, column: number) => row * columns + column;
  for (let row = 1; row < rows; row += 1) cost[at(row, 0)] = row * COST.gap;
  for (let column = 1; column < columns; column += 1) cost[at(0, column)] = column * COST.gap;
  for (let row = 1; row < rows; row += 1) {
    for (let column = 1; column < columns; column += 1) {
      const change = cost[at(row - 1, column - 1)]! + substitution(own[row - 1]!, other[column - 1]!);
      const added = cost[at(row - 1, column)]! + COST.gap;
      const left = cost[at(row, column - 1)]! + COST.gap;
      cost[at(row, column)] = Math.min(change, added, left);
    }
  }
  const steps: Pair[] = [];
  let row = own.length;
  let column = other.length;
  while (row > 0 || column > 0) {
    const here = cost[at(row, column)]!;
    const price = row > 0 && column > 0 ? substitution(own[row - 1]!, other[column - 1]!) : Infinity;
    if (price < Infinity && here === cost[at(row - 1, column - 1)]! + price) {
      row -= 1;
      column -= 1;
      steps.push({ own: row, other: column, same: price <= COST.shifted });
    } else if (row > 0 && here === cost[at(row - 1, column)]! + COST.gap) {
      row -= 1;
      steps.push({ own: row, other: null, same: false });
    } else {
      column -= 1;
      steps.push({ own: null, other: column, same: false });
    }
  }
  return steps.reverse();
}

function substitution(a: Timed, b: Timed): number {
  return (
    (a.place === b.place ? 0 : COST.place) +
    (a.bar === b.bar ? 0 : COST.shifted) +
    (samePitches(a.sound, b.sound) ? 0 : COST.pitch) +
    (sameLength(a, b) ? 0 : COST.length)
  );
}

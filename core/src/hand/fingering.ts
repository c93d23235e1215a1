/** The result in terms that a teacher reads: strings, fingers, positions, shifts, holds, and every alternative's price. */
import { TICKS_PER_QUARTER, type Pitch, type Semitones, type Ticks } from '../music/index.ts';
import type { Instrument, Tuning } from '../instrument/index.ts';
import type { Because } from './reasons.ts';
import type { HandProblem } from './decided.ts';
import type { Finger, Position, Shape } from './vocabulary.ts';
import type { Landing } from './landmarks.ts';
import { isAcross } from './marks.ts';
import type { RuleDifference } from './detours.ts';
import type { Stop } from './state.ts';

export interface Alternative {
  readonly stops: readonly Stop[];
  readonly position: Position | null;
  /** Semitones above the open strings where the first finger is at home. */
  readonly base: Semitones;
  /** What it costs more, for the whole tune, in units of the price list. */
  readonly extra: number;
  /** Where that comes from, dearest first; empty until it is asked for. */
  readonly differences: readonly RuleDifference[];
}

/** Why a note is fingered as it is. */
export interface Why {
  /** The teacher said so, there is no other way, or it is cheaper than the next best. */
  readonly choice: 'set' | 'only' | 'cheaper';
  /** What decides, as it is said; empty where the teacher did. The prices stand with the alternatives. */
  readonly because: readonly Because[];
}

export interface Shift {
  readonly from: Position;
  readonly to: Position;
  /** Way of the hand, up positive. */
  readonly semitones: Semitones;
  /** How to find the place. */
  readonly landing: Landing | null;
}

/** A slide into a note. */
export interface Glide {
  /** The finger it begins with, and how far below the note. */
  readonly finger: Finger;
  readonly below: Semitones;
  /** The finger that plays the note. */
  readonly lands: Finger;
  /** The note before lies below on the string, and the slide begins there. */
  readonly fromBefore: boolean;
}

export interface FingeredNote {
  /** The note, or grace note, that starts the sound. */
  readonly id: string;
  /** All written notes it stands for, ties included. */
  readonly ids: readonly string[];
  /** The written note that it belongs to: itself, or the note that a grace leads to. */
  readonly of: string;
  readonly grace: boolean;
  readonly onset: Ticks;
  readonly duration: Ticks;
  readonly barIndex: number;
  readonly pitches: readonly Pitch[];
  /** Low to high; empty where the hand cannot reach. */
  readonly stops: readonly Stop[];
  readonly position: Position | null;
  readonly shape: Shape | null;
  /** Semitones above the open strings where the first finger is at home; null where the hand cannot reach. */
  readonly base: Semitones | null;
  readonly shift: Shift | null;
  readonly extension: boolean;
  /** One finger across two strings: in the chord, or from the note before or to the note after. */
  readonly block: boolean;
  /** The finger that played the note before has to jump to another place on another string. */
  readonly hop: boolean;
  /** The finger stays down until this note, where it is used again at the same place. */
  readonly hold: string | null;
  readonly glide: Glide | null;
  /** Fingered in another way than the same place of the same phrase elsewhere. */
  readonly unusual: boolean;
  readonly locked: boolean;
  /** Every other way, cheapest first. */
  readonly alternatives: readonly Alternative[];
  /** Why this one; null until it is asked for, and where nothing is fingered. */
  readonly why: Why | null;
}

export interface Fingering {
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly notes: readonly FingeredNote[];
  readonly totals: {
    /** By what is wished, in units of the price list. */
    readonly cost: number;
    /** By the plain price list, so that fingerings under different wishes, limits and keys can be compared. */
    readonly effort: number;
    readonly shifts: number;
    readonly crossings: number;
    readonly extensions: number;
    readonly blocks: number;
    readonly hops: number;
  };
  /** Notes that the hand cannot reach, and decisions that rest or contradict each other. */
  readonly problems: readonly HandProblem[];
  /** Ids whose decision does not apply at present. */
  readonly resting: readonly string[];
}

/** What is said of a note that the hand cannot reach. */
export const OUT_OF_REACH = {
  stops: [],
  position: null,
  shape: null,
  base: null,
  shift: null,
  extension: false,
  block: false,
  hop: false,
  hold: null,
  glide: null,
  unusual: false,
  locked: false,
  alternatives: [],
  why: null,
} as const;

/** @param sums in thousandths */
export function totalsOf(
  { cost, effort }: Pick<Fingering['totals'], 'cost' | 'effort'>,
  notes: readonly FingeredNote[],
): Fingering['totals'] {
  const played = notes.filter(({ stops }) => stops.length > 0);
  const crossings = played.filter((note, index) => {
    const before = played[index - 1];
    return before && !note.stops.some(({ string }) => before.stops.some((other) => other.string === string));
  });
  return {
    cost: cost / 1000,
    effort: effort / 1000,
    shifts: played.filter(({ shift }) => shift).length,
    crossings: crossings.length,
    extensions: played.filter(({ extension }) => extension).length,
    blocks: played.filter((note, index) => isAcross(note, played[index - 1])).length,
    hops: played.filter(({ hop }) => hop).length,
  };
}

/**
 * Onset in quarters, for people and other programs.
 * @example quarters(5040) // 1.5
 */
export const quarters = (ticks: Ticks): number => Math.round((ticks / TICKS_PER_QUARTER) * 10_000) / 10_000;

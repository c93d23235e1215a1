/** What each role wants of its notes, as prices: the sum over a line is least where a teacher would leave it. */
import type { LineRole } from '../grade/index.ts';

export interface LinePrices {
  /** A finger is needed. */
  readonly stopped: number;
  readonly tones: { readonly root: number; readonly third: number; readonly fifth: number; readonly seventh: number };
  /** No note of the chord: on strong beats, on others, off the beat. */
  readonly passing: { readonly strong: number; readonly beat: number; readonly off: number };
  /** Outside the signature: a note of the chord, and another. */
  readonly strange: number;
  readonly strangePassing: number;
  /** A chord that begins on another note than its root. */
  readonly turned: number;
  /** A second or seventh against the tune. */
  readonly clash: number;
  /** Over the tune, and each semitone of it. */
  readonly above: number;
  readonly aboveStep: number;
  /** Each semitone further from the tune than it may lie. */
  readonly away: number;
  /** Semitones under the tune, above it if negative. */
  readonly interval: (away: number) => number;
  /** The last note is not the chord's root, or its third in upper voices. */
  readonly rest: number;
  /** Two strings at once. */
  readonly two: number;
  /** Each octave of height. */
  readonly high: number;
  /** Each semitone beyond a step; and over a fifth. */
  readonly leap: number;
  readonly wide: number;
  /** To the next string, and over one. */
  readonly crossing: number;
  readonly skip: number;
  /** The same note again under the same chord, and over a change of it. */
  readonly again: number;
  readonly held: number;
  /** Fifths or octaves in a row with the tune. */
  readonly parallel: number;
}

const NONE = (): number => 0;

/** Thirds and sixths under the tune; a fourth or a fifth where they do not fit; never the tune itself. */
function inThirds(away: number): number {
  const under = ((away % 12) + 12) % 12;
  const octaves = away > 12 ? 1 : 0;
  if (under === 3 || under === 4) return octaves;
  if (under === 8 || under === 9) return 0.4 + octaves;
  if (under === 5) return 3 + octaves;
  if (under === 7) return 2.5 + octaves;
  if (under === 0) return 4;
  return 9;
}

const LINE: LinePrices = {
  stopped: 0,
  tones: { root: 0, third: 0, fifth: 0, seventh: 1.5 },
  passing: { strong: 20, beat: 12, off: 5 },
  strange: 1,
  strangePassing: 8,
  turned: 0,
  clash: 12,
  above: 0,
  aboveStep: 0,
  away: 0.15,
  interval: NONE,
  rest: 5,
  two: 0,
  high: 0,
  leap: 0.1,
  wide: 0.8,
  crossing: 0.2,
  skip: 3,
  again: 0,
  held: 0,
  parallel: 0,
};

/** @example LINE_PRICES.bass.tones.root // 0 */
export const LINE_PRICES: Readonly<Record<LineRole, LinePrices>> = {
  // A string that rings through: open where it can be, and the same for as long as it fits.
  drone: {
    ...LINE,
    stopped: 2.5,
    tones: { root: 0, third: 1.2, fifth: 0.5, seventh: 3 },
    passing: { strong: 9, beat: 7, off: 4 },
    away: 0,
    two: -0.8,
    crossing: 0.4,
    high: 0.1,
  },
  // Root and fifth, low, below the tune.
  bass: {
    ...LINE,
    tones: { root: 0, third: 2.2, fifth: 1, seventh: 4 },
    turned: 1.4,
    above: 8,
    aboveStep: 0.2,
    away: 0,
    high: 0.5,
    leap: 0.05,
    again: 2.2,
    held: 0.2,
    parallel: 1,
  },
  // The rest of the chord, close together, under the tune.
  'off-beats': {
    ...LINE,
    stopped: 0.1,
    tones: { root: 0.4, third: 0, fifth: 0.2, seventh: 0.8 },
    above: 1.5,
    aboveStep: 0.1,
    two: -0.9,
    leap: 0.25,
    parallel: 1,
  },
  second: {
    ...LINE,
    tones: { root: 0, third: 0, fifth: 0, seventh: 0.8 },
    passing: { strong: 3, beat: 1.2, off: 0.4 },
    above: 3,
    aboveStep: 0.2,
    interval: inThirds,
    leap: 0.2,
    parallel: 9,
  },
};

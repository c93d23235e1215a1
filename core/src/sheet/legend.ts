/** The signs of the lanes, each with its meaning. */

/** In the order in which they are explained. */
export const LEGEND_ORDER = [
  'down',
  'up',
  'slur',
  'retake',
  'hook',
  'accent',
  'region',
  'hair',
  'open',
  'low',
  'high',
  'extended',
  'back',
  'harmonic',
  'position',
  'shift',
  'block',
  'hop',
  'slide',
  'hold',
  'locked',
  'whole',
  'half',
  'quarter',
  'eighth',
  'sixteenth',
  'dotted',
  'rest',
  'tie',
  'tuplet',
] as const;
export type LegendSign = (typeof LEGEND_ORDER)[number];

export interface LegendEntry {
  readonly sign: LegendSign;
  readonly text: string;
}

const TEXT: Readonly<Record<LegendSign, string>> = {
  down: 'down bow',
  up: 'up bow',
  slur: 'on one bow',
  retake: 'lift and start again',
  hook: 'stop, and on the same way',
  accent: 'begin this stroke with an accent',
  region: 'which part of the bow',
  hair: 'where on the bow: frog below, tip above',
  open: 'open string',
  low: 'low finger',
  high: 'high finger',
  extended: 'finger reaches up',
  back: 'first finger back',
  harmonic: 'only touch: the octave',
  position: 'where the hand is',
  shift: 'the hand moves',
  block: 'one finger, two strings',
  hop: 'the finger jumps',
  slide: 'slide into it',
  hold: 'finger stays down',
  locked: 'set by your teacher',
  whole: 'four quarters long',
  half: 'two quarters long',
  quarter: 'a quarter',
  eighth: 'half a quarter',
  sixteenth: 'a quarter of a quarter, or less',
  dotted: 'half as long again',
  rest: 'silence',
  tie: 'held on, not played again',
  tuplet: 'three in the time of two',
};

/** @example legendOf(['open', 'slur']).map(({ text }) => text) // ['open string', 'on one bow'] */
export function legendOf(signs: readonly LegendSign[]): readonly LegendEntry[] {
  return signs.map((sign) => ({ sign, text: TEXT[sign] }));
}

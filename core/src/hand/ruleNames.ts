/** The rules of the left hand by name, and how much each counts. Their words are in `words`. */

export const RULE_NAMES = [
  'fourth',
  'longFourth',
  'lowFirst',
  'moved',
  'extension',
  'spread',
  'squeeze',
  'reach',
  'spelling',
  'position',
  'crossing',
  'skip',
  'slurCrossing',
  'hop',
  'slide',
  'block',
  'shift',
  'sameShift',
  'stringShift',
  'slurShift',
  'glide',
  'openTone',
  'openTurn',
  'ring',
  'pedal',
  'harmonic',
  'double',
  'wideDouble',
  'usual',
] as const;
export type RuleName = (typeof RULE_NAMES)[number];

/** How much a rule counts for a teacher: 1 as listed, 0 not at all. */
export type Weights = Readonly<Record<RuleName, number>>;

/** What some players want and others not: counts only where a preset asks for it. */
const ON_REQUEST: readonly RuleName[] = ['openTone', 'ring'];
export const PLAIN_WEIGHTS = Object.fromEntries(
  RULE_NAMES.map((name) => [name, ON_REQUEST.includes(name) ? 0 : 1]),
) as Weights;

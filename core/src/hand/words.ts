/** Positions, fingers and reasons in words and signs. */
import type { InstrumentId } from '../instrument/index.ts';
import { RULES } from './rules.ts';
import type { RuleDifference } from './solver.ts';
import type { HandState, Stop } from './state.ts';

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six'] as const;
const number = (count: number) => NUMBERS[count] ?? String(count);
/** Reasons beyond these are too small to say. */
const MAX_REASONS = 3;

/** @example reasonText([{ rule: 'crossing', count: 2, price: 1400 }]) // ['two more string crossings'] */
export function reasonTexts(differences: readonly RuleDifference[]): readonly string[] {
  return differences.slice(0, MAX_REASONS).map(({ rule, count, price }) => {
    const size = Math.abs(count);
    const words = size === 1 ? RULES[rule].one : RULES[rule].many;
    if (count > 0) return `${number(size)} more ${words}`;
    if (count < 0) return `${number(size)} fewer ${words}`;
    return `${RULES[rule].many} with ${price > 0 ? 'less' : 'more'} time`;
  });
}

/** The same from the side of the chosen fingering: what it spares, and what it costs. */
export function chosenTexts(differences: readonly RuleDifference[]): readonly string[] {
  return differences.slice(0, MAX_REASONS).flatMap(({ rule, count }) => {
    const size = Math.abs(count);
    const words = size === 1 ? RULES[rule].one : RULES[rule].many;
    if (count > 0) return [`saves ${number(size)} ${words}`];
    if (count < 0) return [`takes ${number(size)} ${words}`];
    return [];
  });
}

const COUNTED = {
  crossings: RULES.crossing,
  shifts: RULES.shift,
  extensions: RULES.extension,
  blocks: { one: 'block', many: 'blocks' },
  hops: { one: 'hop', many: 'hops' },
} as const;

/** @example totalsText(fingering.totals) // '16 string crossings, 6 extensions, 1 block in all' */
export function totalsText(totals: Readonly<Record<keyof typeof COUNTED, number>>): string {
  const told = (Object.keys(COUNTED) as (keyof typeof COUNTED)[])
    .filter((kind) => totals[kind] > 0)
    .map((kind) => `${totals[kind]} ${totals[kind] === 1 ? COUNTED[kind].one : COUNTED[kind].many}`);
  return told.length > 0 ? `${told.join(', ')} in all` : 'The hand stays, on one string';
}

const BELOW = '\u0323';
const ABOVE = '\u0307';

/** The finger sign as text: the number with a dot under it for low, over it for high; + and − for extensions. */
export function symbol(stop: Pick<Stop, 'finger' | 'sign'>, instrument: InstrumentId): string {
  const finger = String(stop.finger);
  if (stop.sign === 'low') return finger + BELOW;
  if (stop.sign === 'high') return finger + ABOVE;
  if (stop.sign === 'harmonic') return `${finger}°`;
  if (stop.sign === 'extended') return instrument === 'cello' && stop.finger === 1 ? `${finger}−` : `${finger}+`;
  return finger;
}

const SIGN_WORDS = { low: 'low ', high: 'high ', extended: 'extended ', harmonic: 'harmonic ', home: '' } as const;

/** @example stopText(stop, ['G','D','A','E']) // "low 2 on the A string" */
export function stopText(stop: Stop, stringNames: readonly string[]): string {
  const name = stringNames[stop.string]!;
  return stop.finger === 0 ? `open ${name}` : `${SIGN_WORDS[stop.sign]}${stop.finger} on the ${name} string`;
}

export function stateText(state: HandState, stringNames: readonly string[]): string {
  return state.stops.map((stop) => stopText(stop, stringNames)).join(' with ');
}

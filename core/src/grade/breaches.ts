/** Every place where a tune, as it is fingered and bowed, asks more than a contract allows. Section 6 of the domain. */
import type { Limits, Rule } from './contract.ts';
import { demandsOf, exceeds, type Demand, type Weighed } from './demands.ts';

export interface Breach {
  readonly rule: Rule;
  /** Written note, grace or rest; the first of the tune where it is about all of it. */
  readonly note: string;
}

/** What a note asks each time that it is played is told once. */
const BY_PLAYING: ReadonlySet<Rule> = new Set<Rule>(['notesPerSecond', 'crossingsPerSecond']);

/**
 * Demands beyond limits, in the order of the rules, and of the notes.
 * @example breachesBeyond(demandsOf(facts), contractFor('violin', 6).limits) // []
 */
export function breachesBeyond(demands: readonly Demand[], limits: Limits): readonly Breach[] {
  const told = new Set<string>();
  return demands.flatMap((demand) => {
    if (!exceeds(demand, limits)) return [];
    const { rule, note } = demand;
    if (BY_PLAYING.has(rule)) {
      const key = `${rule} ${note}`;
      if (told.has(key)) return [];
      told.add(key);
    }
    return [{ rule, note }];
  });
}

/**
 * What breaks a contract; nothing is measured of which it says nothing.
 * @example breachesOf(facts, contractFor('violin', 6).limits) // []
 */
export const breachesOf = (weighed: Weighed, limits: Limits): readonly Breach[] =>
  breachesBeyond(
    // A note that the hand cannot reach is out of every range.
    demandsOf(weighed, (rule) => rule === 'range' || (limits[rule] !== null && limits[rule] !== true)),
    limits,
  );

/**
 * Rules that are broken, each once.
 * @example brokenRules([{ rule: 'ties', note: 'n1' }, { rule: 'ties', note: 'n2' }]) // ['ties']
 */
export const brokenRules = (breaches: readonly Breach[]): readonly Rule[] => [
  ...new Set(breaches.map(({ rule }) => rule)),
];

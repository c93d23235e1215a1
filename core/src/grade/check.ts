/** The check stage, still thin: what the version asks that this hand cannot give. */
import type { Fingering } from '../hand/index.ts';

/** Notes that cannot be played as they are written, in their order. */
export type Check = readonly string[];

/** @example checkOf({ problems: [] }) // [] */
export function checkOf({ problems }: Pick<Fingering, 'problems'>): Check {
  const unplayable = problems.filter(({ kind }) => kind === 'out-of-reach' || kind === 'chord');
  return [...new Set(unplayable.map(({ noteId }) => noteId))];
}

/** The bow in words. */
import type { BowFlag } from '../bow/index.ts';

/**
 * A warning about a phrase's bow.
 * @example flagText({ kind: 'turns-from-before', note: 'n9', label: 'A2', starts: 'up', other: 'A1', otherStarts: 'down' }) // 'A2 starts up; A1, which is the same, started down.'
 */
export function flagText(flag: BowFlag): string {
  if (flag.kind === 'not-down') return 'This first beat comes up, and nothing near it turns the bow.';
  const { kind, label, starts, other, otherStarts } = flag;
  return kind === 'turns-on-repeat'
    ? `${label} starts ${starts} the first time and ${otherStarts} when it comes round again.`
    : `${label} starts ${starts}; ${other}, which is the same, started ${otherStarts}.`;
}

/**
 * The same, as short as it stands on a strip.
 * @example shortFlagText({ kind: 'turns-on-repeat' }) // 'other bow on the repeat'
 */
export function shortFlagText({ kind }: Pick<BowFlag, 'kind'>): string {
  if (kind === 'not-down') return 'first beat up';
  return kind === 'turns-on-repeat' ? 'other bow on the repeat' : 'other bow than before';
}

/** The bow in words. */
import type { BowFlag } from '../bow/index.ts';

/**
 * A warning about a phrase's bow.
 * @example flagText({ kind: 'turns-from-before', note: 'n9', label: 'A2', starts: 'up', other: 'A1', otherStarts: 'down' }) // 'A2 starts up; A1, which is the same, started down.'
 */
export function flagText({ kind, label, starts, other, otherStarts }: BowFlag): string {
  return kind === 'turns-on-repeat'
    ? `${label} starts ${starts} the first time and ${otherStarts} when it comes round again.`
    : `${label} starts ${starts}; ${other}, which is the same, started ${otherStarts}.`;
}

/**
 * The same, as short as it stands on a strip.
 * @example shortFlagText({ kind: 'turns-on-repeat' }) // 'other bow on the repeat'
 */
export function shortFlagText({ kind }: Pick<BowFlag, 'kind'>): string {
  return kind === 'turns-on-repeat' ? 'other bow on the repeat' : 'other bow than before';
}

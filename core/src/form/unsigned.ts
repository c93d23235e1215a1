/**
 * Parts of a section without signs: a song that is written out, or one part after the other without double bars.
 * Parts begin where phrases do, and are told by what comes back.
 */
import type { Parallels } from './parallels.ts';
import type { Reading } from './reading.ts';
import { bestCuts } from './stretches.ts';

/** What a part of so many bars costs beside one of eight. */
const PART_COST: Readonly<Record<number, number>> = { 8: 0, 16: 0.5, 12: 1, 10: 1.5, 9: 2, 6: 2.5, 7: 2.5, 20: 1.5 };
const OTHER_PART = 3;
const SHORT_PART = 5;
const LONG_PART = 0.5;
const PART_BEGINS = 1;
/** Phrases; nothing longer is one part. */
const LONGEST_PART = 12;
/** For each bar of a part that is an earlier part's. */
const BAR_AGAIN = 0.4;
/** So much of a part has to be the same before it is called the same part again. */
const SAME = 0.75;
/** Two phrases that begin alike, and then two others that do. */
const PAIRS = 3;
/** Fewer bars are one part, whatever comes back in them … */
const SHORTEST = 16;
/** … and fewer than these, if nothing does. */
const SHORTEST_NEW = 24;
/** Bars that have to agree before two beginnings are called alike. */
const ALIKE = 2;

/**
 * @param counted bars of the section
 * @param phrases numbers of the bars within the section at which its phrases begin, from 0
 * @returns those at which parts begin
 */
export function splitUnsigned(
  { contents, parallels }: Pick<Reading, 'contents'> & { readonly parallels: Parallels },
  counted: readonly number[],
  phrases: readonly number[],
): readonly number[] {
  const count = counted.length;
  if (count < SHORTEST) return [0];
  const edges = [...phrases, count];
  const alike = (a: number, b: number) =>
    Math.max(a, b) < phrases.length && parallels.notes(counted[edges[a]!]!, counted[edges[b]!]!) >= ALIKE;
  const pairs = (at: number) =>
    at >= 2 && alike(at - 1, at - 2) && alike(at + 1, at) && !alike(at, at - 2) ? PAIRS : 0;
  /** Bars of a stretch that are those from an earlier place on. */
  const again = (from: number, to: number, earlier: number) => {
    let same = 0;
    for (let bar = from; bar < to; bar += 1)
      if (contents[counted[bar]!] === contents[counted[earlier + bar - from]!]) same += 1;
    return same;
  };
  const isAgainFrom = (earlier: number, from: number, to: number) => {
    const half = from + Math.ceil((to - from) / 2);
    if (contents[counted[from]!] !== contents[counted[earlier]!] && half - from < 4) return false;
    return again(from, half, earlier) >= SAME * (half - from) && again(from, to, earlier) >= SAME * (to - from);
  };
  /** The section's beginning again, or at once what came just before. */
  const isAgain = (from: number, to: number) =>
    from > 0 && (isAgainFrom(0, from, to) || (2 * from >= to && isAgainFrom(2 * from - to, from, to)));
  let told = false;
  const cost = (from: number, to: number) => {
    const [first, last] = [edges[from]!, edges[to]!];
    const length = last - first;
    const plain = PART_COST[length] ?? (length < 6 ? SHORT_PART : OTHER_PART);
    const same = isAgain(first, last);
    told ||= same;
    return plain + LONG_PART * Math.max(0, length - 16) - (same ? BAR_AGAIN * length : 0);
  };
  const worth = (at: number) => pairs(at) - PART_BEGINS;
  const { cuts } = bestCuts(phrases.length, cost, worth, LONGEST_PART);
  if (count < SHORTEST_NEW && !told && !cuts.some((at) => pairs(at) > 0)) return [0];
  return [0, ...cuts.map((at) => edges[at]!)];
}

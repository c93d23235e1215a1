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
/** For each bar of a part that is an earlier part's, and against each that is not. */
const BAR_AGAIN = 0.4;
const BAR_OTHERWISE = 0.8;
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
  /** What speaks for a stretch being an earlier one again, whose bars it has for the greater part; else nothing. */
  const likeness = (from: number, to: number, earlier: number) => {
    const half = from + Math.ceil((to - from) / 2);
    const same = again(from, to, earlier);
    if (same < SAME * (to - from) || again(from, half, earlier) < SAME * (half - from)) return 0;
    return BAR_AGAIN * same - BAR_OTHERWISE * (to - from - same);
  };
  /** The section's beginning again, or at once what came just before. */
  const comesAgain = (from: number, to: number) => {
    if (from === 0) return 0;
    const justBefore = 2 * from >= to ? likeness(from, to, 2 * from - to) : 0;
    return Math.max(0, justBefore, likeness(from, to, 0));
  };
  let told = false;
  const cost = (from: number, to: number) => {
    const [first, last] = [edges[from]!, edges[to]!];
    const length = last - first;
    const plain = PART_COST[length] ?? (length < 6 ? SHORT_PART : OTHER_PART);
    const like = comesAgain(first, last);
    told ||= like > 0;
    return plain + LONG_PART * Math.max(0, length - 16) - like;
  };
  const worth = (at: number) => pairs(at) - PART_BEGINS;
  const { cuts } = bestCuts(phrases.length, cost, worth, LONGEST_PART);
  if (count < SHORTEST_NEW && !told && !cuts.some((at) => pairs(at) > 0)) return [0];
  return [0, ...cuts.map((at) => edges[at]!)];
}

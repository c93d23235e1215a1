/**
 * Beginnings that are like each other: how far what begins at one bar line is what begins at another, and bars at
 * which something begins that is heard elsewhere too. Parallel beginnings are the strongest thing that a tune without
 * signs says about its phrases.
 */
import { barLength } from '../music/index.ts';
import { samePitches } from './align.ts';
import { soundFrom, type Reading } from './reading.ts';

/** Bars; what agrees for longer says no more. */
const MOST_BARS = 4;
/** What comes in so many places marks none of them. */
const MOST_PLACES = 40;

export interface Parallels {
  /**
   * Bars, and parts of a bar, for which the notes from one bar line on are those from another.
   * @param skip bars to leave out at the beginning, where a held note covers it
   */
  notes(bar: number, other: number, skip?: number): number;
  /** Whole bars for which their rhythm is the same. */
  rhythm(bar: number, other: number): number;
  /** Something begins here that stands elsewhere for two bars or more, and not from a bar earlier. */
  comesBack(bar: number): boolean;
}

export function parallelsOf(reading: Reading): Parallels {
  const { bars, starts, sounds, contents, rhythms } = reading;
  const comingBack = repeatStarts(contents);
  const whole = (values: readonly number[], bar: number, other: number) => {
    let same = 0;
    while (same < MOST_BARS && bar + same < bars.length && values[bar + same] === values[other + same]) same += 1;
    return same;
  };
  /** The share of a bar for which the notes of two bars that differ are the same from their beginning. */
  const share = (bar: number, other: number): number => {
    if (bar >= bars.length || other >= bars.length || bar === other) return 0;
    const length = barLength(bars[bar]!.metre);
    let [own, theirs] = [soundFrom(reading, starts[bar]!), soundFrom(reading, starts[other]!)];
    for (; ; own += 1, theirs += 1) {
      const [a, b] = [sounds[own], sounds[theirs]];
      const at = a ? a.onset - starts[bar]! : length;
      const there = b ? b.onset - starts[other]! : length;
      const end = Math.min(at, there);
      if (end >= length || at !== there || !samePitches(a!, b!)) return Math.min(1, end / length);
    }
  };
  return {
    notes(bar, other, skip = 0) {
      // What goes on as it was begins nothing.
      if (contents[bar] === contents[bar - 1]) return 0;
      const same = whole(contents, bar + skip, other + skip);
      return same >= MOST_BARS ? MOST_BARS : same + share(bar + skip + same, other + skip + same);
    },
    rhythm: (bar, other) => whole(rhythms, bar, other),
    comesBack: (bar) => comingBack.has(bar),
  };
}

function repeatStarts(contents: readonly number[]): ReadonlySet<number> {
  const byContent = new Map<number, number[]>();
  contents.forEach((content, bar) => {
    const known = byContent.get(content);
    if (known) known.push(bar);
    else byContent.set(content, [bar]);
  });
  const found = new Set<number>();
  for (const bars of byContent.values()) {
    if (bars.length < 2 || bars.length > MOST_PLACES) continue;
    for (const bar of bars) {
      const alike = bars.some(
        (other) =>
          other !== bar && contents[bar + 1] === contents[other + 1] && contents[bar - 1] !== contents[other - 1],
      );
      if (alike) found.add(bar);
    }
  }
  return found;
}

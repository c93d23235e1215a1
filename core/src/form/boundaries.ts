/**
 * Where parts and phrases begin: parts from repeats, double bars and labels, and where there are none
 * from what comes back; phrases by the best way through all bar lines, each with the pickup that leads to it.
 */
import { barLength, isPickup, type Bar, type Ticks } from '../music/index.ts';
import { cutEvidence, joinedSounds } from './evidence.ts';
import { soundFrom, type Reading } from './reading.ts';

/** A place where a phrase begins. */
export interface Cut {
  /** Written ticks. */
  readonly at: Ticks;
  /** A part begins here too. */
  readonly part: boolean;
  /** What the source calls that part. */
  readonly label: string | null;
}

/**
 * What a phrase of so many bars costs beside one of four: what is mostly taught in one go has four bars,
 * or two. In the unit of the evidence.
 */
const PHRASE_COST: readonly number[] = [9, 4, 0.8, 1.4, 0, 1.4, 2.15, 3.6, 2.2, 4, 5];
/** Each bar beyond those. */
const LONG_PHRASE = 1;
/** A place has to earn that a phrase begins there. */
const PHRASE_BEGINS = 1.5;
/** Where nothing else decides, phrases begin on the grid of two and four bars. */
const GRID = { four: 0.2, two: 0.05 } as const;

/** The same for parts without signs. */
const PART_COST: Readonly<Record<number, number>> = { 4: 2.5, 6: 2.5, 7: 2.5, 8: 0, 9: 2.5, 10: 2.5, 12: 2, 16: 1.5 };
const OTHER_PART = 5;
const PART_BEGINS = 1;
/** Beyond two parts of eight a length must be cut. */
const LONG_PART = 0.5;

const PARALLEL = {
  /** These bars begin like the part itself … */
  likePart: 1.2,
  /** … for one bar only. */
  oneBar: 0.6,
  /** They begin something that is heard elsewhere too. */
  comesBack: 0.6,
  /** The rhythm of the part's beginning comes again. */
  rhythm: 0.5,
} as const;
/** Bars that have to agree before a beginning is called parallel. */
const PARALLEL_BARS = 2;
/** A written-out part begins like an earlier one for this many bars. */
const PART_PARALLEL_BARS = 3;
const PART_PARALLEL = 3.5;
/** How much of a phrase's evidence also speaks for a part. */
const PART_FROM_PHRASE = 0.5;

const PICKUP = {
  /** As long as the part's own, or the tune's. */
  own: 1.5,
  tune: 0.8,
  /** Of another length than any that was heard. */
  strange: -1.8,
  /** None, though the part itself began with one. */
  missing: -0.8,
} as const;

/** All phrase beginnings as the tune itself has them, in order; the first is 0. */
export function findCuts(reading: Reading): readonly Cut[] {
  const { bars, starts } = reading;
  const scorer = scorerOf(reading);
  const sections = splitSections(reading, scorer);
  return sections.flatMap(({ firstBar, lastBar, signed }, part): Cut[] => {
    const counted = countedBars(reading, firstBar, lastBar);
    const own = pickupOf(bars, firstBar, reading.pickup);
    const first: Cut = {
      at: part === 0 ? 0 : signed ? starts[firstBar]! : scorer.best(counted[0] ?? firstBar, own).at,
      part: true,
      label: bars[firstBar]!.label ?? null,
    };
    const inner = phraseBars(counted, own, scorer).map((at): Cut => ({ at, part: false, label: null }));
    return [first, ...inner];
  });
}

interface Pickup {
  readonly length: Ticks;
  /** The part itself began with it; else it is only what the tune began with. */
  readonly own: boolean;
}

function pickupOf(bars: readonly Bar[], firstBar: number, tunePickup: Ticks): Pickup {
  if (isPickup(bars, firstBar)) return { length: bars[firstBar]!.length, own: true };
  return { length: tunePickup, own: false };
}

interface Section {
  readonly firstBar: number;
  readonly lastBar: number;
  readonly signed: boolean;
}

function splitSections(reading: Reading, scorer: Scorer): readonly Section[] {
  const { bars } = reading;
  const starts = bars.flatMap((_, index) => (index === 0 || startsPart(bars, index) ? [index] : []));
  const sections = starts.map((firstBar, index) => ({
    firstBar,
    lastBar: (starts[index + 1] ?? bars.length) - 1,
    signed: true,
  }));
  return joinStrayPickups(bars, sections).flatMap((section) => splitLong(reading, section, scorer));
}

function startsPart(bars: readonly Bar[], index: number): boolean {
  const bar = bars[index]!;
  const before = bars[index - 1]!;
  if (bar.endings) return false;
  return Boolean(
    bar.label !== undefined ||
    bar.repeatStart ||
    before.repeatEnd ||
    before.endingStop ||
    before.barline === 'double' ||
    before.barline === 'final',
  );
}

/** A pickup before an opening repeat is a section of its own by its signs, but leads into the next. */
function joinStrayPickups(bars: readonly Bar[], sections: readonly Section[]): readonly Section[] {
  const joined: Section[] = [];
  for (const section of sections) {
    const last = joined.at(-1);
    const stray = last && last.firstBar === last.lastBar && isPickup(bars, last.firstBar);
    if (stray) joined[joined.length - 1] = { ...section, firstBar: last.firstBar };
    else joined.push(section);
  }
  return joined;
}

/** First bar indexes of the bars that count on the grid: no pickup, no second half, no later ending. */
export function countedBars(
  { bars, numbers }: Pick<Reading, 'bars' | 'numbers'>,
  firstBar: number,
  lastBar: number,
): readonly number[] {
  const counted: number[] = [];
  let laterEnding = false;
  for (let index = firstBar; index <= lastBar; index += 1) {
    const bar = bars[index]!;
    if (bar.endings) laterEnding = !bar.endings.includes(1);
    if (index === firstBar && isPickup(bars, index)) continue;
    if (index > firstBar && numbers[index] === numbers[index - 1]) continue;
    if (!laterEnding) counted.push(index);
  }
  return counted;
}

/** A long section played once, such as a song form without signs, falls into parts by what comes back in it. */
function splitLong(reading: Reading, section: Section, scorer: Scorer): readonly Section[] {
  const { bars } = reading;
  const repeated = bars.slice(section.firstBar, section.lastBar + 1).some((bar) => bar.repeatEnd || bar.endings);
  const counted = countedBars(reading, section.firstBar, section.lastBar);
  if (repeated || counted.length < 12) return [section];
  const own = pickupOf(bars, section.firstBar, reading.pickup);
  const cuts = bestCuts(
    counted.length,
    (from, to) => {
      const length = to - from;
      return (PART_COST[length] ?? OTHER_PART) + LONG_PART * Math.max(0, length - 16);
    },
    (place) =>
      PART_FROM_PHRASE * scorer.best(counted[place]!, own).score +
      (scorer.parallelBars(counted[place]!, counted[0]!) >= PART_PARALLEL_BARS ||
      beginsLikeEarlier(reading, counted, place)
        ? PART_PARALLEL
        : 0) +
      (place % 8 === 0 ? GRID.four : 0) -
      PART_BEGINS,
  );
  const edges = [0, ...cuts];
  return edges.map((place, index) => ({
    firstBar: index === 0 ? section.firstBar : counted[place]!,
    lastBar: index === edges.length - 1 ? section.lastBar : counted[edges[index + 1]!]! - 1,
    signed: index === 0,
  }));
}

/** Four bars from here were heard before as a whole, and what stood before them was not the same. */
function beginsLikeEarlier({ contents }: Reading, counted: readonly number[], place: number): boolean {
  for (let earlier = 1; earlier + 3 < place; earlier += 1) {
    let same = 0;
    while (same < 4 && contents[counted[earlier + same]!] === contents[counted[place + same] ?? -1]) same += 1;
    if (same >= 4 && contents[counted[earlier - 1]!] !== contents[counted[place - 1]!]) return true;
  }
  return false;
}

/** Where the later phrases of a part begin. */
function phraseBars(counted: readonly number[], own: Pickup, scorer: Scorer): readonly Ticks[] {
  const places = counted.map((bar) => scorer.best(bar, own));
  // What every bar line has, such as the long and short of a jig, marks none of them.
  const usual = Math.max(0, median(places.slice(1).map(({ score }) => score)));
  const first = counted[0];
  const cuts = bestCuts(
    counted.length,
    (from, to) => {
      const length = to - from;
      const last = PHRASE_COST.length - 1;
      return PHRASE_COST[Math.min(length, last)]! + LONG_PHRASE * Math.max(0, length - last);
    },
    (place) =>
      places[place]!.score -
      usual +
      scorer.parallel(counted[place]!, first!) +
      (place % 4 === 0 ? GRID.four : place % 2 === 0 ? GRID.two : 0) -
      PHRASE_BEGINS,
  );
  return cuts.flatMap((place) => (places[place]!.possible ? [places[place]!.at] : []));
}

function median(values: readonly number[]): number {
  const sorted = values.filter(Number.isFinite).sort((a, b) => a - b);
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
}

/**
 * The best set of cuts of a row of bars: what the cuts say for themselves less what the lengths cost.
 * Exact, by dynamic programming; of equals the one with the earlier long stretch.
 */
function bestCuts(
  count: number,
  cost: (from: number, to: number) => number,
  worth: (place: number) => number,
): readonly number[] {
  const best: number[] = [0];
  const before: number[] = [0];
  const worths = Array.from({ length: count }, (_, place) => (place === 0 ? 0 : worth(place)));
  for (let to = 1; to <= count; to += 1) {
    let highest = -Infinity;
    let from = 0;
    for (let start = Math.max(0, to - LONGEST_STRETCH); start < to; start += 1) {
      const total = best[start]! + worths[start]! - cost(start, to);
      if (total >= highest) {
        highest = total;
        from = start;
      }
    }
    best.push(highest);
    before.push(from);
  }
  const cuts: number[] = [];
  for (let at = before[count] ?? 0; at > 0; at = before[at]!) cuts.unshift(at);
  return cuts;
}

/** Bars; nothing longer is one phrase or one part without signs. */
const LONGEST_STRETCH = 64;

interface BestPlace {
  readonly at: Ticks;
  readonly score: number;
  readonly possible: boolean;
}

interface Scorer {
  /** The best place for a phrase that leads to this bar line. */
  best(bar: number, pickup: Pickup): BestPlace;
  /** What speaks for this bar by beginning as others do. */
  parallel(bar: number, partBar: number): number;
  /** Bars from here that are those from there. */
  parallelBars(bar: number, other: number): number;
}

function scorerOf(reading: Reading): Scorer {
  const { bars, starts, sounds, contents, rhythms, numbers } = reading;
  const evidence = cutEvidence(reading);
  const joined = joinedSounds(reading);
  const cut = (index: number): number =>
    index >= sounds.length || joined.has(index) ? -Infinity : (evidence[index] ?? 0);
  const agree = (values: readonly number[], bar: number, other: number) => {
    let same = 0;
    while (bar + same < bars.length && values[bar + same] === values[other + same] && same < 8) same += 1;
    return same;
  };
  const comingBack = repeatStarts(contents);
  return {
    best(bar, pickup) {
      const line = starts[bar]!;
      const before = bars[bar - 1];
      const atLine = soundFrom(reading, line);
      let best: BestPlace = { at: line, score: -Infinity, possible: false };
      const offer = (index: number, at: Ticks, more: number) => {
        const score = cut(index) + more;
        if (score > best.score) best = { at, score, possible: true };
      };
      // A sound that goes on over the bar line leaves no beginning there.
      if (sounds[atLine]?.onset === line) offer(atLine, line, pickup.length > 0 && pickup.own ? PICKUP.missing : 0);
      if (!before || numbers[bar] === numbers[bar - 1]) return best;
      const most = Math.max(barLength(before.metre) / 2, pickup.length);
      for (let index = atLine - 1; index >= 0 && line - sounds[index]!.onset <= most; index -= 1) {
        const length = line - sounds[index]!.onset;
        if (length >= barLength(before.metre)) break;
        const match = length === pickup.length ? (pickup.own ? PICKUP.own : PICKUP.tune) : PICKUP.strange;
        // A pickup that is only likely must follow a longer note or silence.
        if (!pickup.own && !followsLonger(index)) continue;
        offer(index, sounds[index]!.onset, match);
      }
      return best;
    },
    parallel(bar, partBar) {
      const same = agree(contents, bar, partBar);
      const likePart = same >= PARALLEL_BARS ? PARALLEL.likePart : same === 1 ? PARALLEL.oneBar : 0;
      const comesBack = comingBack.has(bar) ? PARALLEL.comesBack : 0;
      const rhythm = agree(rhythms, bar, partBar) >= PARALLEL_BARS ? PARALLEL.rhythm : 0;
      return Math.max(likePart, comesBack, rhythm);
    },
    parallelBars: (bar, other) => agree(contents, bar, other),
  };

  function followsLonger(index: number): boolean {
    const before = sounds[index - 1];
    const own = sounds[index]!;
    if (!before) return false;
    return before.onset + before.duration < own.onset || before.duration > own.duration;
  }
}

/** Bars at which something begins that stands elsewhere too, for two bars or more, and not from a bar earlier. */
function repeatStarts(contents: readonly number[]): ReadonlySet<number> {
  const byContent = new Map<number, number[]>();
  contents.forEach((content, bar) => byContent.set(content, [...(byContent.get(content) ?? []), bar]));
  const found = new Set<number>();
  for (const bars of byContent.values()) {
    // What comes in most bars marks none of them.
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
const MOST_PLACES = 40;

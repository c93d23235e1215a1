/**
 * Where parts and phrases begin: parts from repeats, double bars and labels, and where there are none
 * from what comes back; phrases by the best way through all bar lines, each with the pickup that leads to it.
 */
import { isPickup, type Bar, type Ticks } from '../music/index.ts';
import { parallelsOf, type Parallels } from './parallels.ts';
import { pickupOf, placesOf, type Pickup, type Place, type Places } from './places.ts';
import type { Reading } from './reading.ts';
import { bestCuts } from './stretches.ts';
import { splitUnsigned } from './unsigned.ts';

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
const PHRASE_COST: readonly number[] = [9, 4, 0.8, 1.4, 0, 1.4, 2.15, 3, 2.8, 4, 5];
/** Each bar beyond those. */
const LONG_PHRASE = 1;
/**
 * Lengths that a part may have for its own: the first phrase of that length pays, the ones after it no more. Four bars
 * are everybody's; two are half a phrase, and pay each time.
 */
const OWN_LENGTHS = [4, 3, 5, 6, 7] as const;
/** Bars; nothing longer is one phrase. */
const LONGEST_PHRASE = 24;
/** Another length than four asks for a reason. */
const OTHER_LENGTH = 0.35;
/** Eight slow bars are one phrase too: where so many notes, or fewer, begin in a bar, and phrases end plainly. */
const SLOW = { length: 8, notesInBar: 2.2, plainEnds: 2 } as const;
/**
 * Two bars are half a phrase, however long the note between the halves, but a line of their own where the page says
 * so: by fermatas or breaths, or by words in a tune that goes by the beat in bars of four, as hymns do. Where the whole
 * part has four bars, its halves may be its phrases.
 */
const TWO_BARS = { half: 3.2, line: 0.15, ofFour: 1.2 } as const;
/** Other places of the part say by so much more that a phrase ends there: then this one, which does not, is less likely. */
const UNSAID = { by: 2.5, costs: 0.4 } as const;
/** A place has to earn that a phrase begins there. */
const PHRASE_BEGINS = 1.5;
/** Where nothing else decides, phrases begin on the grid of two and four bars. */
const GRID = { four: 0.2, two: 0.05 } as const;

/** What speaks for a bar line by beginning as the part does, or as something does that is heard elsewhere. */
const PARALLEL = {
  /** For the first bar, in shares of it, … */
  firstBar: 0.9,
  /** … and for each of three more. */
  moreBars: 0.5,
  comesBack: 0.7,
  /** The rhythm of the part's beginning comes again for two bars. */
  rhythm: 0.5,
} as const;

/** Bars between two signs that are one part, whatever they hold. */
const MOST_SIGNED = 16;

interface Section {
  readonly firstBar: number;
  readonly lastBar: number;
  /** Its beginning is marked; else it was found. */
  readonly signed: boolean;
}

interface Found extends Reading {
  readonly places: Places;
  readonly parallels: Parallels;
}

/** All phrase beginnings as the tune itself has them, in order; the first is 0. */
export function findCuts(reading: Reading): readonly Cut[] {
  const { bars, starts } = reading;
  const found: Found = {
    ...reading,
    places: placesOf(reading),
    parallels: parallelsOf(reading),
  };
  return splitSections(found).flatMap(({ firstBar, lastBar, signed }, part): Cut[] => {
    const counted = countedBars(reading, firstBar, lastBar);
    const own = pickupOf(reading, firstBar);
    const begins = part === 0 ? 0 : signed && !leadsOn(bars, firstBar) ? starts[firstBar]! : null;
    const first: Cut = {
      at: begins ?? found.places.best(counted[0] ?? firstBar, own)?.at ?? starts[firstBar]!,
      part: true,
      label: bars[firstBar]!.label ?? null,
    };
    const inner = phraseStarts(found, counted, own).map(({ at }): Cut => ({ at, part: false, label: null }));
    return [first, ...inner.filter(({ at }) => at > first.at)];
  });
}

/**
 * What sounds last before this part may lead into it: before a double bar, or in a later ending. In what is played
 * again without endings it leads back as well, and stays where it stands.
 */
function leadsOn(bars: readonly Bar[], firstBar: number): boolean {
  if (isPickup(bars, firstBar)) return false;
  for (let index = firstBar - 1; index >= 0; index -= 1) {
    const { endings, repeatEnd } = bars[index]!;
    if (endings) return !endings.includes(1);
    if (repeatEnd && index === firstBar - 1) return false;
    if (index < firstBar - 1 && (bars[index]!.endingStop || repeatEnd)) break;
  }
  return true;
}

function splitSections(found: Found): readonly Section[] {
  const { bars } = found;
  const starts = bars.flatMap((_, index) => (index === 0 || startsPart(bars, index) ? [index] : []));
  const sections = starts.map((firstBar, index) => ({
    firstBar,
    lastBar: (starts[index + 1] ?? bars.length) - 1,
    signed: true,
  }));
  const joined = joinStrayPickups(bars, sections);
  return joined.flatMap((section) => splitLong(found, section, joined.length > 1));
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
function splitLong(found: Found, section: Section, isSigned: boolean): readonly Section[] {
  const { bars } = found;
  const repeated = bars.slice(section.firstBar, section.lastBar + 1).some((bar) => bar.repeatEnd || bar.endings);
  if (repeated) return [section];
  const counted = countedBars(found, section.firstBar, section.lastBar);
  // Where the page has signs, it has them where parts of a usual length begin.
  if (isSigned && counted.length <= MOST_SIGNED) return [section];
  const phrases = [0, ...phraseStarts(found, counted, pickupOf(found, section.firstBar)).map(({ place }) => place)];
  const edges = splitUnsigned(found, counted, phrases);
  return edges.map((place, index) => ({
    firstBar: index === 0 ? section.firstBar : counted[place]!,
    lastBar: index === edges.length - 1 ? section.lastBar : counted[edges[index + 1]!]! - 1,
    signed: index === 0,
  }));
}

/** Where the later phrases of a part begin: the place in written ticks, and the number of its bar in the part. */
function phraseStarts(
  found: Found,
  counted: readonly number[],
  own: Pickup,
): readonly { readonly at: Ticks; readonly place: number }[] {
  const places = counted.map((bar) => found.places.best(bar, own));
  const scores = places.map((place, index) =>
    place === null ? -Infinity : place.score + parallelScore(found, counted, index, place),
  );
  // What every bar line has, such as the long and short of a jig, marks none of them.
  const usual = Math.max(0, median(scores.slice(1)));
  const said = places.map((place) => place?.score ?? 0);
  const plainest = said.slice(1).reduce((most, score) => Math.max(most, score), 0);
  const isUnsaid = (place: number) => plainest - said[place]! >= UNSAID.by && !places[place]?.endsLine;
  const worth = (place: number) =>
    scores[place]! -
    usual +
    (place % 4 === 0 ? GRID.four : place % 2 === 0 ? GRID.two : 0) -
    (isUnsaid(place) ? UNSAID.costs : 0) -
    PHRASE_BEGINS;
  const isLine = (place: number) => place === 0 || place === counted.length || (places[place]?.endsLine ?? false);
  const cost = (ownLength: number) => (from: number, to: number) => {
    if (to - from !== 2) return phraseCost(to - from, ownLength);
    if (isLine(from) && isLine(to)) return TWO_BARS.line;
    if (counted.length === 4) return TWO_BARS.ofFour;
    return from - (from % 4) + 4 <= counted.length ? TWO_BARS.half : PHRASE_COST[2]!;
  };
  const slow = isSlow(found, counted) && plainest - median(said.slice(1)) >= SLOW.plainEnds;
  const cuts = [...OWN_LENGTHS, ...(slow ? [SLOW.length] : [])]
    .map((length) => {
      const cutting = bestCuts(counted.length, cost(length), worth, LONGEST_PHRASE);
      return { ...cutting, total: cutting.total - PHRASE_COST[length]! - (length === 4 ? 0 : OTHER_LENGTH) };
    })
    .reduce((best, other) => (other.total > best.total ? other : best)).cuts;
  return cuts.flatMap((place) => {
    const at = places[place]?.at;
    return at === undefined ? [] : [{ at, place }];
  });
}

function isSlow({ firstSound }: Found, counted: readonly number[]): boolean {
  const notes = firstSound[(counted.at(-1) ?? 0) + 1]! - firstSound[counted[0] ?? 0]!;
  return notes <= SLOW.notesInBar * counted.length;
}

function phraseCost(length: number, own: number): number {
  if (length === own) return 0;
  const last = PHRASE_COST.length - 1;
  return PHRASE_COST[Math.min(length, last)]! + LONG_PHRASE * Math.max(0, length - last);
}

function parallelScore({ parallels }: Found, counted: readonly number[], index: number, { late }: Place): number {
  const [bar, first] = [counted[index]!, counted[0]!];
  if (index === 0) return 0;
  const same = parallels.notes(bar, first, late ? 1 : 0);
  const notes = PARALLEL.firstBar * Math.min(1, same) + PARALLEL.moreBars * Math.max(0, same - 1);
  const comesBack = parallels.comesBack(bar) ? PARALLEL.comesBack : 0;
  const rhythm = parallels.rhythm(bar, first) >= 2 ? PARALLEL.rhythm : 0;
  return Math.max(notes, comesBack, rhythm);
}

function median(values: readonly number[]): number {
  const sorted = values.filter(Number.isFinite).sort((a, b) => a - b);
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
}

/**
 * Where parts and phrases begin: parts from repeats, double bars and labels, phrases by the bar grid,
 * each pickup given to the phrase that it leads into.
 */
import {
  barNumbers,
  barStarts,
  beatLength,
  isPickup,
  placedNotes,
  type Bar,
  type PlacedNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';

/** Written ticks, `to` exclusive. */
export interface Span {
  readonly from: Ticks;
  readonly to: Ticks;
}

export interface PartSpan {
  readonly label: string | null;
  /** Bar indexes, both included. */
  readonly firstBar: number;
  readonly lastBar: number;
  readonly phrases: readonly Span[];
}

/** Bars of a phrase unless the part's length says otherwise: what is mostly taught in one go. */
const PHRASE_BARS = 4;
/** A section with no signs inside is taken in parts of this many bars. */
const PART_BARS = 8;

export function findParts(tune: Tune): readonly PartSpan[] {
  const { bars } = tune;
  const numbers = barNumbers(bars);
  const sections = splitSections(bars, numbers);
  const starts = barStarts(bars);
  const notes = placedNotes(tune);
  const edges = sections.map(({ firstBar, lastBar }) => {
    const lines = phraseBars(bars, numbers, firstBar, lastBar);
    return lines.map((bar, index) => {
      const signed = index === 0 && (bar === 0 || startsSigned(bars, bar));
      return signed ? starts[bar]! : leadIn(tune, notes, starts[bar]!, pickupOf(bars, firstBar));
    });
  });
  return sections.map(({ firstBar, lastBar }, part) => ({
    label: bars[firstBar]!.label ?? null,
    firstBar,
    lastBar,
    phrases: edges[part]!.map((from, index) => ({
      from,
      to: edges[part]![index + 1] ?? edges[part + 1]?.[0] ?? starts.at(-1)!,
    })),
  }));
}

interface Pickup {
  readonly length: Ticks;
  /** The part itself began with it; else it is only what the tune began with. */
  readonly own: boolean;
}

function pickupOf(bars: readonly Bar[], firstBar: number): Pickup {
  if (isPickup(bars, firstBar)) return { length: bars[firstBar]!.length, own: true };
  return { length: isPickup(bars, 0) ? bars[0]!.length : 0, own: false };
}

/** A repeat sign stands here: what sounds before it does not lead over it in writing. */
function startsSigned(bars: readonly Bar[], index: number): boolean {
  return Boolean(bars[index]!.repeatStart ?? bars[index - 1]!.repeatEnd ?? bars[index - 1]!.endingStop);
}

interface Section {
  readonly firstBar: number;
  readonly lastBar: number;
}

function splitSections(bars: readonly Bar[], numbers: readonly number[]): readonly Section[] {
  const starts = bars.flatMap((_, index) => (index === 0 || startsPart(bars, index) ? [index] : []));
  const sections = starts.map((firstBar, index) => ({ firstBar, lastBar: (starts[index + 1] ?? bars.length) - 1 }));
  return joinStrayPickups(bars, sections).flatMap((section) => splitLong(bars, numbers, section));
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

/** A long section played once, such as a song form without signs, falls into parts of eight bars. */
function splitLong(bars: readonly Bar[], numbers: readonly number[], section: Section): readonly Section[] {
  const repeated = bars.slice(section.firstBar, section.lastBar + 1).some((bar) => bar.repeatEnd || bar.endings);
  const counted = countedBars(bars, numbers, section.firstBar, section.lastBar);
  if (repeated || counted.length < 2 * PART_BARS || counted.length % PART_BARS !== 0) return [section];
  const starts = counted.filter((_, index) => index % PART_BARS === 0);
  return starts.map((start, index) => ({
    firstBar: index === 0 ? section.firstBar : start,
    lastBar: index === starts.length - 1 ? section.lastBar : starts[index + 1]! - 1,
  }));
}

/** First bar indexes of the bars that count on the grid: no pickup, no second half, no later ending. */
function countedBars(
  bars: readonly Bar[],
  numbers: readonly number[],
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

/** Bar indexes at which the phrases of a part begin; the first is the part's own first bar. */
function phraseBars(
  bars: readonly Bar[],
  numbers: readonly number[],
  firstBar: number,
  lastBar: number,
): readonly number[] {
  const counted = countedBars(bars, numbers, firstBar, lastBar);
  const rest = counted.length % PHRASE_BARS;
  // A single bar left over is an extension of the last phrase, not a phrase.
  const phrases = Math.max(1, Math.floor(counted.length / PHRASE_BARS) + (rest > 1 ? 1 : 0));
  return Array.from({ length: phrases }, (_, index) => (index === 0 ? firstBar : counted[index * PHRASE_BARS]!));
}

/**
 * Moves a phrase edge from the bar line back to the pickup that leads over it: of the length that the
 * part or the tune began with, or else the notes after a rest. A note held or slurred over the place
 * stays whole; a pickup that is only likely must follow a longer note.
 */
function leadIn(tune: Tune, notes: readonly PlacedNote[], line: Ticks, pickup: Pickup): Ticks {
  const cut = line - pickup.length;
  if (pickup.length > 0 && canCut(tune, notes, cut) && (pickup.own || followsLonger(notes, cut))) return cut;
  const bar = tune.bars[barStarts(tune.bars).indexOf(line) - 1];
  if (!bar || pickup.own) return line;
  const lastRest = bar.events.findLast((event) => event.kind === 'rest');
  if (!lastRest) return line;
  const afterRest = line - bar.length + lastRest.at + lastRest.duration;
  const short = line - afterRest <= Math.max(beatLength(bar.metre), bar.length / 2);
  return afterRest < line && short && canCut(tune, notes, afterRest) ? afterRest : line;
}

function followsLonger(notes: readonly PlacedNote[], at: Ticks): boolean {
  const index = notes.findIndex(({ onset }) => onset === at);
  const before = notes[index - 1];
  if (!before || index < 0) return false;
  return before.onset + before.note.duration < at || before.note.duration > notes[index]!.note.duration;
}

function canCut(tune: Tune, notes: readonly PlacedNote[], at: Ticks): boolean {
  const index = notes.findIndex(({ onset }) => onset === at);
  if (index < 0) return false;
  if (notes[index - 1]?.note.heads.some(({ tied }) => tied)) return false;
  const onsetOf = new Map(notes.map(({ note, onset }) => [note.id, onset]));
  return !tune.slurs.some((slur) => (onsetOf.get(slur.from) ?? 0) < at && (onsetOf.get(slur.to) ?? 0) >= at);
}

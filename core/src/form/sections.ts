/** The phrases in their parts: how often each is played, which is written out again, and their letters. */
import { isPickup, playedOrder } from '../music/index.ts';
import { countedBars } from './boundaries.ts';
import type { LaidPhrase, Layout } from './layout.ts';
import { LEAD_IN, TAG, type BarMaterial, type PlayedPart } from './model.ts';
import { barAt, downbeatOf, type Reading } from './reading.ts';

export interface Section {
  readonly label: string;
  readonly phrases: Layout;
  /** Index of its first phrase. */
  readonly from: number;
  /** Number of its first phrase within its letter. */
  readonly firstNumber: number;
  readonly firstBar: number;
  readonly lastBar: number;
  readonly times: number;
  readonly like: number | null;
  /** Only the beginning of the part that it is like. */
  readonly beginning: boolean;
  readonly length: number;
}

interface Plain extends Pick<Section, 'from' | 'phrases' | 'firstBar' | 'lastBar'> {
  /** Bars that count, and what they hold. */
  readonly counted: readonly number[];
  readonly contents: readonly number[];
  readonly times: number;
}

export interface Sections {
  readonly sections: readonly Section[];
  readonly played: readonly PlayedPart[];
}

export function sectionsOf(layout: Layout, reading: Reading, materials: readonly BarMaterial[]): Sections {
  const starts = layout.flatMap(({ part }, index) => (part ? [index] : []));
  const spans = starts.map((from, index) => {
    const phrases = layout.slice(from, starts[index + 1] ?? layout.length);
    const firstBar = firstBarOf(reading, phrases[0]!);
    const next = layout[starts[index + 1] ?? -1];
    const lastBar = next ? Math.max(firstBar, firstBarOf(reading, next) - 1) : reading.bars.length - 1;
    return { from, phrases, firstBar, lastBar, counted: countedBars(reading, firstBar, lastBar) };
  });
  const passes = passesOf(reading, spans);
  const plain = spans.map((span, index): Plain => ({
    ...span,
    contents: span.counted.map((bar) => materials[bar]!.material),
    times: firstRun(passes, index),
  }));
  const likes = likesOf(plain);
  const labels = namesOf(plain, likes);
  const counts = new Map<string, number>();
  const sections = plain.map(({ counted, contents: _, ...section }, index): Section => {
    const label = labels[index]!;
    const firstNumber = (counts.get(label) ?? 0) + 1;
    counts.set(label, firstNumber - 1 + section.phrases.length);
    const like = likes[index]!;
    return {
      ...section,
      label,
      firstNumber,
      like: like?.part ?? null,
      beginning: like?.beginning ?? false,
      length: counted.length,
    };
  });
  const played = passes.map(({ part, whole }) => ({ part, whole: whole && !sections[part]!.beginning }));
  return { sections, played };
}

/** The bar that a part is counted from: its own pickup's, or else the one that it leads to. */
function firstBarOf(reading: Reading, { from, to }: LaidPhrase): number {
  const bar = barAt(reading, from);
  if (reading.starts[bar] === from && isPickup(reading.bars, bar)) return bar;
  return barAt(reading, downbeatOf(reading, from, to));
}

/**
 * The parts as they are played, each time one: from its beginning on, or at least half of it. A jump that ends in
 * the middle of a part leaves it unfinished.
 */
function passesOf(
  reading: Reading,
  spans: readonly { readonly firstBar: number; readonly lastBar: number; readonly counted: readonly number[] }[],
): readonly PlayedPart[] {
  const partOf = new Map<number, number>();
  spans.forEach(({ counted }, part) => counted.forEach((bar) => partOf.set(bar, part)));
  const passes: { part: number; bars: number; begins: boolean }[] = [];
  let before = -1;
  for (const { index } of playedOrder(reading.bars)) {
    const part = partOf.get(index);
    if (part === undefined) continue;
    const now = passes.at(-1);
    if (now?.part === part && index > before) now.bars += 1;
    else passes.push({ part, bars: 1, begins: index === spans[part]!.counted[0] });
    before = index;
  }
  return passes.flatMap(({ part, bars, begins }) => {
    const { length } = spans[part]!.counted;
    // A first time through may leave out what stands in later endings, but not more than a quarter.
    const whole = begins && 4 * bars >= 3 * length;
    return begins || 2 * bars >= length ? [{ part, whole }] : [];
  });
}

/** How often a part comes in a row when it comes first. */
function firstRun(passes: readonly PlayedPart[], part: number): number {
  const first = passes.findIndex((pass) => pass.part === part);
  if (first < 0) return 0;
  const after = passes.findIndex((pass, index) => index > first && pass.part !== part);
  return (after < 0 ? passes.length : after) - first;
}

interface Like {
  readonly part: number;
  readonly beginning: boolean;
}

/** Which earlier part each is written out from again; of a third time that is the first, not the second. */
function likesOf(plain: readonly Plain[]): readonly (Like | null)[] {
  // Only parts that hold the same bar at the same place can be one.
  const holding = new Map<string, number[]>();
  return plain.map(({ phrases, contents }, index): Like | null => {
    const keys = [...new Set(contents.map((material, bar) => `${bar}:${material}`))];
    const near = [...new Set(keys.flatMap((key) => holding.get(key) ?? []))].sort((a, b) => a - b);
    const again = near.find((part) => isWrittenOutAgain(plain[part]!.contents, contents));
    const begun = again ?? near.find((part) => isBeginningOf(plain[part]!.contents, contents));
    // A part that the teacher named is its own.
    if (begun !== undefined && !phrases[0]!.partNamed) return { part: begun, beginning: begun !== again };
    for (const key of keys) {
      const known = holding.get(key);
      if (known) known.push(index);
      else holding.set(key, [index]);
    }
    return null;
  });
}

/** Parts are one where they are about as long and begin with the same music; endings may differ. */
function isWrittenOutAgain(earlier: readonly number[], later: readonly number[]): boolean {
  if (later.length < 2 || Math.abs(earlier.length - later.length) > earlier.length / 4) return false;
  const half = Math.ceil(later.length / 2);
  const same = (count: number) => later.slice(0, count).filter((material, bar) => material === earlier[bar]).length;
  return same(half) >= 0.75 * half && same(later.length) >= later.length / 2;
}

/** Four bars or more that are an earlier part’s first, all but the last one, which may lead elsewhere. */
function isBeginningOf(earlier: readonly number[], later: readonly number[]): boolean {
  if (later.length < 4 || later.length >= earlier.length) return false;
  return later.slice(0, -1).every((material, bar) => material === earlier[bar]);
}

/** Labels of the source and the teacher where there are any, letters for the rest. */
function namesOf(plain: readonly Plain[], likes: readonly (Like | null)[]): readonly string[] {
  const given = plain.map(({ phrases }) => phrases[0]!.partLabel || null);
  const used = new Set<string>(given.filter((label) => label !== null));
  const free = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('').filter((letter) => !used.has(letter));
  const labels: string[] = [];
  plain.forEach(({ phrases }, index) => {
    const like = likes[index];
    const own = given[index] ?? null;
    const nameIt = (): string => {
      if (phrases[0]!.partNamed && own) return own;
      if (like) return labels[like.part]!;
      if (own && !labels.includes(own)) return own;
      return (own ? null : sideRole(plain, index)) ?? free.shift() ?? `Part ${index + 1}`;
    };
    labels.push(nameIt());
  });
  return labels;
}

const SHORT = 4;

/** A few bars before the first repeat, or after the last, are no part of their own. */
function sideRole(plain: readonly Plain[], index: number): string | null {
  const { times, counted } = plain[index]!;
  if (times !== 1 || counted.length > SHORT) return null;
  const aside = (neighbour: Plain | undefined) =>
    neighbour !== undefined && neighbour.times > 1 && neighbour.counted.length >= 2 * counted.length;
  if (index === 0) return aside(plain[1]) ? LEAD_IN : null;
  return index === plain.length - 1 && aside(plain[index - 1]) ? TAG : null;
}

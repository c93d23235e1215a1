/**
 * Bow patterns as data: groups of the run's prevailing short value, laid over the notes that are there. Section 5 of
 * the domain.
 */
import { z } from 'zod';
import { barLength, beatLength, isCompound, type Metre, type Ticks, type Tune } from '../music/index.ts';

/** How a beat of the metres that a pattern suits is divided. */
export type Division = 'simple' | 'compound' | 'any';

/** A pattern of groups that come round. */
export interface Pattern {
  readonly id: string;
  /** Short values to each stroke, in order. */
  readonly groups: readonly number[];
  /** Short values by which the groups are moved to the right. */
  readonly offset?: number;
  /** Short values, counted from 0, whose stroke begins with an accent. */
  readonly accents?: readonly number[];
  readonly suits: Division;
}

/** A pattern that a teacher recorded. */
export interface OwnPattern extends Pattern {
  readonly name: string;
}

/** Short values that a pattern can span. */
const LONGEST_SPAN = 32;

export const ownPatternSchema = z.strictObject({
  id: z.string().regex(/^own-[a-z0-9-]{1,40}$/),
  name: z.string().trim().min(1, 'A pattern needs a name.').max(40),
  groups: z.array(z.int().min(1).max(LONGEST_SPAN)).min(1).max(LONGEST_SPAN),
  offset: z.int().min(0).max(LONGEST_SPAN).optional(),
  accents: z.array(z.int().min(0).max(LONGEST_SPAN)).max(LONGEST_SPAN).optional(),
  suits: z.enum(['simple', 'compound', 'any']),
}) as unknown as z.ZodType<OwnPattern, OwnPattern>;

/** The one pattern that is not of groups: a stroke to each syllable. */
export const BY_SYLLABLE = 'by-syllable';

/** Patterns of groups, by the ids of section 5; pairs moved over the beat is added, as reels and hornpipes have it. */
export const PATTERNS: readonly Pattern[] = [
  { id: 'separate', groups: [1], suits: 'any' },
  { id: 'pairs', groups: [2], suits: 'simple' },
  { id: 'pairs-across', groups: [2], offset: 1, suits: 'simple' },
  { id: 'one-and-three', groups: [1, 3], suits: 'simple' },
  { id: 'three-and-one', groups: [3, 1], suits: 'simple' },
  { id: 'two-and-two', groups: [2, 1, 1], suits: 'simple' },
  { id: 'long-short-shuffle', groups: [2, 1, 1], accents: [3], suits: 'simple' },
  { id: 'four-to-a-bow', groups: [4], suits: 'simple' },
  { id: 'across-threes', groups: [3, 3, 2], suits: 'simple' },
  { id: 'two-and-one', groups: [2, 1], suits: 'compound' },
];

export const PATTERN_IDS: readonly string[] = [...PATTERNS.map(({ id }) => id), BY_SYLLABLE];

/** @example patternOf('pairs').groups // [2] */
export function patternOf(id: string, own: readonly OwnPattern[] = []): Pattern | null {
  return [...PATTERNS, ...own].find((pattern) => pattern.id === id) ?? null;
}

/** Short values until a pattern comes round. @example spanOf({ groups: [3, 3, 2] }) // 8 */
export const spanOf = ({ groups }: Pick<Pattern, 'groups'>): number => groups.reduce((sum, size) => sum + size, 0);

/** 3/8 is counted in one, and felt as a beat of three. */
const isInThrees = (metre: Metre) => isCompound(metre) || (metre.beats === 3 && metre.unit >= 8);

/**
 * Whether a pattern fits the bars of a metre a whole number of times, and suits how its beats are divided.
 * @param short the run's prevailing short value
 * @example suits(patternOf('pairs'), { beats: 6, unit: 8 }, 1680) // false
 */
export function suits(pattern: Pattern, metre: Metre, short: Ticks): boolean {
  const division: Division = isInThrees(metre) ? 'compound' : 'simple';
  if (pattern.suits !== 'any' && pattern.suits !== division) return false;
  return barLength(metre) % (spanOf(pattern) * short) === 0 || spanOf(pattern) === 1;
}

/**
 * Which stroke of the pattern a place in the bar falls on.
 * @returns a number that grows by one with each stroke over the bars, and the short value within the pattern
 * @example strokeAt(patternOf('one-and-three'), 3360, 1680) // { stroke: 1, slot: 2 }
 */
export function strokeAt(
  pattern: Pattern,
  at: Ticks,
  short: Ticks,
): { readonly stroke: number; readonly slot: number } {
  const span = spanOf(pattern);
  const moved = Math.floor(at / short) - (pattern.offset ?? 0);
  const round = Math.floor(moved / span);
  const slot = moved - round * span;
  let group = 0;
  for (let end = pattern.groups[0]!; slot >= end; end += pattern.groups[group]!) group += 1;
  return { stroke: round * pattern.groups.length + group, slot };
}

/** Plain divisions of a beat in two, and of one in three. */
const SIMPLE = [2, 4, 8];
const COMPOUND = [3, 6];

/**
 * The short value that prevails: of the plain divisions of the beat the one with the most notes; of equals the
 * longer. Long and short that fill two of them count as two. Where nothing is shorter than the beat, the beat.
 * @param notes lengths in their order, with the metres in which they stand
 * @example prevailingShort([{ duration: 1680, metre: { beats: 4, unit: 4 } }]) // 1680
 */
export function prevailingShort(notes: readonly { readonly duration: Ticks; readonly metre: Metre }[]): Ticks {
  const counts = new Map<Ticks, number>();
  const count = (length: Ticks, often: number) => void counts.set(length, (counts.get(length) ?? 0) + often);
  for (let index = 0; index < notes.length; index += 1) {
    const { duration, metre } = notes[index]!;
    const plain = divisionsOf(metre);
    const pair = duration + (notes[index + 1]?.duration ?? 0);
    const ratio = duration / (pair - duration);
    if ((ratio === 3 || ratio === 2) && plain.includes(pair / 2) && !isInThrees(metre)) {
      count(pair / 2, 2);
      index += 1;
    } else if (plain.includes(duration)) count(duration, 1);
  }
  const best = [...counts].sort(([a, often], [b, other]) => other - often || b - a)[0];
  return best?.[0] ?? beatLength(notes[0]?.metre ?? { beats: 4, unit: 4 });
}

function divisionsOf(metre: Metre): readonly Ticks[] {
  const compound = isInThrees(metre);
  const beat = compound && !isCompound(metre) ? barLength(metre) : beatLength(metre);
  return (compound ? COMPOUND : SIMPLE).map((parts) => beat / parts);
}

/** A stroke as far as a pattern is read from it. */
interface RecordedStroke {
  readonly notes: readonly string[];
  readonly duration: Ticks;
}

/**
 * Strokes that someone likes, as a pattern: groups of the short value that prevails among their notes, from the place
 * in the bar where they begin.
 * @param strokes that follow each other
 * @returns null where there is nothing to record, or it is longer than a pattern may be
 * @example recordedPattern(reel, [{ notes: ['n1'], duration: 3360 }, { notes: ['n2', 'n3'], duration: 3360 }]).groups // [2, 2]
 */
export function recordedPattern(
  tune: Tune,
  strokes: readonly RecordedStroke[],
): Pick<OwnPattern, 'groups' | 'offset' | 'accents' | 'suits'> | null {
  const wanted = new Set(strokes.flatMap(({ notes }) => notes));
  const notes = tune.bars.flatMap((bar) =>
    bar.events.flatMap((event) => (wanted.has(event.id) && event.kind === 'note' ? [{ event, bar }] : [])),
  );
  const [first] = notes;
  if (!first) return null;
  const short = prevailingShort(notes.map(({ event, bar }) => ({ duration: event.duration, metre: bar.metre })));
  const groups = strokes.map(({ duration }) => Math.max(1, Math.round(duration / short)));
  const span = spanOf({ groups });
  if (span > LONGEST_SPAN) return null;
  const offset = Math.round((first.bar.offset + first.event.at) / short) % span;
  const starts = new Set(strokes.map(({ notes: [id] }) => id));
  let slot = 0;
  const accents = strokes.flatMap(({ notes: own }, index) => {
    const at = slot;
    slot += groups[index]!;
    const begin = notes.find(({ event }) => event.id === own[0])?.event;
    return starts.has(own[0]) && begin?.decorations?.includes('accent') ? [at] : [];
  });
  return {
    groups,
    ...(offset > 0 && { offset }),
    ...(accents.length > 0 && { accents }),
    suits: isInThrees(first.bar.metre) ? 'compound' : 'simple',
  };
}

/** What players of a style usually do, the most usual first. Source: section 5 of the domain. */
const USUAL: readonly (readonly [style: RegExp, ids: readonly string[]])[] = [
  [/reel|breakdown|hoedown/i, ['one-and-three', 'pairs-across']],
  [/hornpipe/i, ['pairs-across', 'one-and-three']],
  [/jig/i, ['separate', 'two-and-one']],
  [/waltz|air|song|lament/i, [BY_SYLLABLE]],
  [/march|polka/i, ['separate']],
];

/**
 * Patterns that are usual for a style.
 * @example usualPatterns('slip jig') // ['separate', 'two-and-one']
 */
export const usualPatterns = (style: string): readonly string[] =>
  USUAL.find(([known]) => known.test(style))?.[1] ?? [];

/**
 * The chords that a tune without chords is carried by: the cheapest path through the chords of its key, span by span. Priced by
 * how the notes of a span fit, by how unusual a chord is, by how its root moves and by how often chords change; the ends of
 * phrases want home or the dominant. Dynamic programming, forwards and backwards, so that for each span the next best
 * chords are known too. Section 11 of the domain.
 */
import {
  barLength,
  barStarts,
  beatLength,
  isStrongBeat,
  midi,
  soundingNotes,
  type Bar,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { chordsOf, type Candidate } from './chords.ts';

/** A stretch of time under one chord. */
export interface Span {
  readonly from: Ticks;
  readonly to: Ticks;
  readonly barIndex: number;
  /** A bar begins with it. */
  readonly opens: boolean;
}

export interface Found {
  readonly span: Span;
  readonly chord: Candidate;
  /** Others that would do, the nearest first. */
  readonly other: readonly Candidate[];
}

/** Prices, in shares of a span whose notes are all outside its chord. */
const PRICE = {
  /** A note outside: one on the way from step to step; one that steps into the chord; one that does neither. */
  passing: 0.3,
  leaning: 0.65,
  strange: 1,
  /** A new chord with a bar, and inside one. */
  change: 0.05,
  changeInside: 0.35,
  /** The same chord from the second half of a bar over the bar line: harmony moves with the bars. */
  over: 0.12,
  /** Into the bar in which a phrase comes to rest: its chord would be there too early. */
  early: 0.4,
  /** Its root and its third sound. */
  root: -0.1,
  third: -0.06,
  /** What begins the span counts more. */
  first: 1.8,
  strong: 1.2,
  /** Root movements: a fifth down, home; the dominant back to the subdominant. */
  fifthDown: -0.09,
  backwards: 0.16,
  /** A secondary dominant that leads elsewhere. */
  unled: 0.8,
  /** The dominant that does not lead home. */
  dominantAway: 0.05,
  /** The tune begins and ends at home. */
  begins: 0.25,
  ends: 1.2,
  /** A phrase rests on home or the dominant. */
  rests: 0.3,
  /** A seventh that nobody sounds. */
  silentSeventh: 0.2,
} as const;
/** Another chord within this is offered. */
const NEAR = 0.6;
const MOST_OTHER = 3;

/**
 * @param rests times at which phrases come to rest: the end of each
 */
export function chordsFound(tune: Tune, rests: readonly Ticks[] = []): readonly Found[] {
  const spans = spansOf(tune);
  if (spans.length === 0) return [];
  const sounds = soundingNotes(tune);
  const restAt = new Set(rests);
  const candidates = new Map<unknown, readonly Candidate[]>();
  const chords = spans.map(({ barIndex }) => {
    const { key } = tune.bars[barIndex]!;
    const known = candidates.get(key) ?? chordsOf(key);
    candidates.set(key, known);
    return known;
  });
  let first = 0;
  const own = spans.map((span, index) => {
    while (sounds[first] && sounds[first]!.onset + sounds[first]!.duration <= span.from) first += 1;
    const inside = weighed(tune, sounds, first, span);
    const [isFirst, isLast] = [index === 0, index === spans.length - 1];
    const resting = restAt.has(span.to);
    return chords[index]!.map((chord) => {
      let cost = chord.price + fit(inside, chord);
      if (isFirst && chord.above !== 0) cost += PRICE.begins;
      if (isLast && chord.above !== 0) cost += PRICE.ends;
      if (!isLast && resting && chord.above !== 0 && chord.above !== 7) cost += PRICE.rests;
      return cost;
    });
  });
  const forwards = costs(spans, chords, own, 1, restAt);
  const backwards = costs(spans, chords, own, -1, restAt);
  return spans.map((span, index): Found => {
    const ranked = chords[index]!.map((chord, at) => ({
      chord,
      cost: forwards[index]![at]! + backwards[index]![at]! - own[index]![at]!,
    })).sort((a, b) => a.cost - b.cost || (a.chord.symbol < b.chord.symbol ? -1 : 1));
    const [best, ...rest] = ranked;
    return {
      span,
      chord: best!.chord,
      other: rest
        .filter(({ cost }) => cost <= best!.cost + NEAR)
        .slice(0, MOST_OTHER)
        .map(({ chord }) => chord),
    };
  });
}

/** Cheapest ways up to each chord of each span, itself included; from the other end where the direction is −1. */
function costs(
  spans: readonly Span[],
  chords: readonly (readonly Candidate[])[],
  own: readonly (readonly number[])[],
  direction: 1 | -1,
  restAt: ReadonlySet<Ticks>,
): readonly (readonly number[])[] {
  const found: number[][] = spans.map(() => []);
  const last = spans.length - 1;
  for (let step = 0; step <= last; step += 1) {
    const index = direction === 1 ? step : last - step;
    const before = index - direction;
    found[index] = chords[index]!.map((chord, at) => {
      if (step === 0) return own[index]![at]!;
      let least = Infinity;
      chords[before]!.forEach((other, from) => {
        const isHalf = direction === 1 ? !spans[before]!.opens : !spans[index]!.opens;
        const [one, two, span] = direction === 1 ? [other, chord, spans[index]!] : [chord, other, spans[before]!];
        least = Math.min(
          least,
          found[before]![from]! +
            moved(one, two, span, isHalf && span.opens ? (restAt.has(span.to) ? PRICE.early : PRICE.over) : 0),
        );
      });
      return own[index]![at]! + least;
    });
  }
  return found;
}

/** @param over what it costs that the chord before goes on */
function moved(from: Candidate, to: Candidate, { opens }: Span, over: number): number {
  const same = from.above === to.above;
  if (from.leadsTo !== null && !same && to.above !== from.leadsTo) return PRICE.unled;
  if (same) return over + (from.kind === to.kind || to.kind === 'seventh' ? 0 : PRICE.change);
  let cost = opens ? PRICE.change : PRICE.changeInside;
  const fifthDown = (from.above - to.above + 12) % 12 === 7;
  if (fifthDown) cost += PRICE.fifthDown;
  if (from.above === 7 && to.above === 5) cost += PRICE.backwards;
  if (from.kind === 'seventh' && from.above === 7 && to.above !== 0 && to.above !== 9) cost += PRICE.dominantAway;
  return cost;
}

interface Inside {
  readonly chroma: number;
  /** Share of the span, more where it begins it or stands on a strong beat. */
  readonly weight: number;
  /** What it costs outside the chord, given that it moves by step into what follows. */
  readonly outside: number;
}

function weighed(tune: Tune, sounds: readonly SoundingNote[], first: number, { from, to }: Span): readonly Inside[] {
  const found: Inside[] = [];
  for (let at = first; sounds[at] && sounds[at]!.onset < to; at += 1) {
    const { note, onset, duration, barIndex } = sounds[at]!;
    const both = Math.min(to, onset + duration) - Math.max(from, onset);
    if (both <= 0) continue;
    const bar = tune.bars[barIndex]!;
    const place = bar.offset + note.at;
    const pitches = note.heads.map(({ pitch }) => midi(pitch));
    const top = pitches.at(-1)!;
    const [before, after] = [sounds[at - 1], sounds[at + 1]].map((one) => one && midi(one.note.heads.at(-1)!.pitch));
    const byStep = (other: number | undefined) => other !== undefined && Math.abs(other - top) <= 2 && other !== top;
    const weak = onset > from && !isStrongBeat(place % barLength(bar.metre), bar.metre);
    const short = duration <= beatLength(bar.metre);
    const outside =
      weak && short && byStep(before) && byStep(after)
        ? PRICE.passing
        : short && byStep(after)
          ? PRICE.leaning
          : PRICE.strange;
    const strong =
      onset <= from ? PRICE.first : isStrongBeat(place % barLength(bar.metre), bar.metre) ? PRICE.strong : 1;
    for (const pitch of pitches) {
      found.push({ chroma: pitch % 12, weight: (both / (to - from)) * strong, outside });
    }
  }
  return found;
}

function fit(inside: readonly Inside[], { tones, kind }: Candidate): number {
  let cost = 0;
  for (const { chroma: own, weight, outside } of inside) if (!tones.includes(own)) cost += weight * outside;
  const sounds = (tone: number | undefined) => inside.some((one) => one.chroma === tone);
  if (sounds(tones[0])) cost += PRICE.root;
  if (sounds(tones[1])) cost += PRICE.third;
  if (kind === 'seventh' && !sounds(tones[3])) cost += PRICE.silentSeventh;
  return cost;
}

/** Bars, or their halves where a bar has an even number of beats and something begins with the second; no pickup. */
export function spansOf(tune: Tune): readonly Span[] {
  const starts = barStarts(tune.bars);
  return tune.bars.flatMap((bar, barIndex) => {
    if (barIndex === 0 && bar.length < barLength(bar.metre) && tune.bars.length > 1) return [];
    return halves(bar, starts[barIndex]!).map(([from, to], index) => ({ from, to, barIndex, opens: index === 0 }));
  });
}

function halves({ metre, length, offset, events }: Bar, start: Ticks): readonly (readonly [Ticks, Ticks])[] {
  const middle = start - offset + barLength(metre) / 2;
  const even = metre.beats % 2 === 0 && metre.beats > 2 && events.some(({ at }) => start + at === middle);
  return even && middle > start && middle < start + length
    ? [
        [start, middle],
        [middle, start + length],
      ]
    : [[start, start + length]];
}

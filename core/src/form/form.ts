/**
 * The form of a tune: parts, phrases, what is the same, what is left to learn.
 * First version: boundaries by signs and bar grid, sameness phrase by phrase and bar by bar.
 */
import {
  barLength,
  barNumbers,
  barStarts,
  beatLength,
  chroma,
  isPickup,
  playedOrder,
  soundingNotes,
  type PlayedBar,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { findParts, type Span } from './boundaries.ts';
import {
  compare,
  fingerprint,
  moreTelling,
  soundsOf,
  type Comparison,
  type RelationKind,
  type Sound,
} from './compare.ts';

/** A place as people count it. Beats count from 1 and may be fractions. */
export interface BarBeat {
  readonly bar: number;
  readonly beat: number;
}

export interface Relation {
  readonly kind: RelationKind;
  /** Id of the earlier phrase; null for new material. */
  readonly of: string | null;
  readonly differs: string;
}

export interface Phrase extends Span {
  readonly id: string;
  readonly label: string;
  readonly start: BarBeat;
  readonly end: BarBeat;
  /** Whole bars, the pickup not counted. */
  readonly bars: number;
  readonly closing: 'open' | 'closed';
  readonly relation: Relation;
  /** Ids of the written notes, in order. */
  readonly notes: readonly string[];
}

export interface Part {
  readonly label: string;
  /** As people count bars. */
  readonly bars: readonly [number, number];
  readonly times: number;
  readonly phrases: readonly Phrase[];
}

export interface Lick {
  readonly beats: number;
  readonly places: readonly BarBeat[];
}

export interface LearningPlan {
  /** Bars that have to be learned … */
  readonly newBars: number;
  /** … of so many that are played. */
  readonly totalBars: number;
  readonly share: number;
  readonly inOrder: readonly string[];
  readonly mostTuneFirst: readonly string[];
}

export interface Form {
  readonly parts: readonly Part[];
  readonly licks: readonly Lick[];
  readonly learn: LearningPlan;
}

/** @example analyseForm(tune).parts.map((part) => part.label) // ['A', 'B'] */
export function analyseForm(tune: Tune): Form {
  const numbers = barNumbers(tune.bars);
  const starts = barStarts(tune.bars);
  const sounds = soundingNotes(tune);
  const played = playedOrder(tune.bars);
  const seen: { phrase: Phrase; sounds: readonly Sound[] }[] = [];
  const spans = findParts(tune);
  const letters = partLabels(spans.map(({ label }) => label));
  const parts = spans.map((part, partIndex): Part => {
    const phrases = part.phrases.map((span, index): Phrase => {
      const notes = sounds.filter(({ onset }) => onset >= span.from && onset < span.to);
      const downbeat = firstBarLine(tune, starts, span);
      const own = soundsOf(notes, downbeat);
      const metre = tune.bars[part.firstBar]!.metre;
      const bars = Math.max(1, Math.round((span.to - downbeat) / barLength(metre)));
      const phrase: Phrase = {
        ...span,
        id: `p${seen.length + 1}`,
        label: `${letters[partIndex]}${index + 1}`,
        start: barBeat(tune, starts, numbers, span.from),
        end: barBeat(tune, starts, numbers, lastMoment(notes, span)),
        bars,
        closing: closes(tune, notes, starts) ? 'closed' : 'open',
        relation: relate(own, seen, barLength(metre), bars),
        notes: notes.flatMap(({ chain }) => chain.map(({ id }) => id)),
      };
      seen.push({ phrase, sounds: own });
      return phrase;
    });
    return {
      label: letters[partIndex]!,
      bars: [numbers[part.firstBar]!, numbers[part.lastBar]!],
      times: timesPlayed(played, part.firstBar, part.lastBar),
      phrases,
    };
  });
  return { parts, licks: findLicks(tune), learn: plan(tune, parts) };
}

/** A pickup outside the repeat is played once; the bars inside say how often the part comes. */
function timesPlayed(played: readonly PlayedBar[], firstBar: number, lastBar: number): number {
  return Math.max(...played.filter(({ index }) => index >= firstBar && index <= lastBar).map(({ time }) => time), 0);
}

/** All phrases in written order. */
export function phrasesOf(form: Form): readonly Phrase[] {
  return form.parts.flatMap(({ phrases }) => phrases);
}

/** Labels of the source where it has them, letters for the rest; never one twice. */
function partLabels(given: readonly (string | null)[]): readonly string[] {
  const used = new Set(given.filter((label) => label !== null));
  const taken = new Set<string>();
  const free = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('').filter((letter) => !used.has(letter));
  return given.map((label, index) => {
    const own = label !== null && label !== '' && !taken.has(label) ? label : (free.shift() ?? `Part ${index + 1}`);
    taken.add(own);
    return own;
  });
}

function firstBarLine(tune: Tune, starts: readonly Ticks[], span: Span): Ticks {
  const line = starts.findIndex(
    (start, index) => start >= span.from && index < tune.bars.length && !isPickup(tune.bars, index),
  );
  return line >= 0 && starts[line]! < span.to ? starts[line]! : span.from;
}

function lastMoment(notes: readonly SoundingNote[], span: Span): Ticks {
  return notes.at(-1)?.onset ?? span.from;
}

function barBeat(tune: Tune, starts: readonly Ticks[], numbers: readonly number[], at: Ticks): BarBeat {
  let index = starts.findLastIndex((start) => start <= at);
  index = Math.min(index, tune.bars.length - 1);
  const bar = tune.bars[index]!;
  return { bar: numbers[index]!, beat: round(1 + (bar.offset + at - starts[index]!) / beatLength(bar.metre)) };
}

const round = (value: number) => Math.round(value * 1000) / 1000;

function closes(tune: Tune, notes: readonly SoundingNote[], starts: readonly Ticks[]): boolean {
  const last = notes.at(-1);
  if (!last) return false;
  const bar =
    tune.bars[
      Math.max(
        0,
        starts.findLastIndex((start) => start <= last.onset),
      )
    ] ?? tune.bars.at(-1)!;
  return last.note.heads.some(({ pitch }) => chroma(pitch) === chroma(bar.key.tonic));
}

function relate(
  own: readonly Sound[],
  seen: readonly { phrase: Phrase; sounds: readonly Sound[] }[],
  bar: Ticks,
  bars: number,
): Relation {
  let best: Comparison & { of: string | null } = { kind: 'new', differs: '', of: null };
  for (const { phrase, sounds } of seen) {
    const found = compare(own, sounds, bar, bars);
    if (found.kind !== 'new' && moreTelling(found, best)) best = { ...found, of: phrase.id };
  }
  return { kind: best.kind, of: best.of, differs: best.differs };
}

/** What each bar holds, and which bars hold the same. */
function barContents(tune: Tune): readonly string[] {
  const starts = barStarts(tune.bars);
  const inBar: SoundingNote[][] = tune.bars.map(() => []);
  for (const sound of soundingNotes(tune)) inBar[sound.barIndex]!.push(sound);
  return tune.bars.map((bar, index) => `${bar.length}|${fingerprint(soundsOf(inBar[index]!, starts[index]!))}`);
}

/** For each bar the index of the first bar that holds the same: what the bead rail shows. */
export function barGroups(tune: Tune): readonly number[] {
  const contents = barContents(tune);
  return contents.map((content) => contents.indexOf(content));
}

/** Bars that come back, as the licks that are sure; shorter figures are for deeper analysis. */
function findLicks(tune: Tune): readonly Lick[] {
  const numbers = barNumbers(tune.bars);
  const places = new Map<string, number[]>();
  barContents(tune).forEach((content, index) => {
    if (tune.bars[index]!.length === barLength(tune.bars[index]!.metre))
      places.set(content, [...(places.get(content) ?? []), index]);
  });
  return [...places.values()]
    .filter((indexes) => indexes.length > 1)
    .map((indexes) => ({
      beats: tune.bars[indexes[0]!]!.length / beatLength(tune.bars[indexes[0]!]!.metre),
      places: indexes.map((index) => ({ bar: numbers[index]!, beat: 1 })),
    }));
}

function plan(tune: Tune, parts: readonly Part[]): LearningPlan {
  const contents = barContents(tune);
  const starts = barStarts(tune.bars);
  const whole = tune.bars.map((bar) => bar.length > barLength(bar.metre) / 2);
  const played = tune.bars.map(() => 0);
  for (const { index } of playedOrder(tune.bars)) played[index]! += 1;
  const newBars = new Set(contents.filter((_, index) => whole[index])).size;
  const totalBars = played.reduce((sum, times, index) => sum + (whole[index] ? times : 0), 0);
  const phrases = parts.flatMap((part) => part.phrases);
  const barsIn = (phrase: Phrase) =>
    tune.bars.flatMap((_, index) =>
      starts[index]! >= phrase.from && starts[index]! < phrase.to && whole[index] ? [index] : [],
    );
  return {
    newBars,
    totalBars,
    share: totalBars > 0 ? round(newBars / totalBars) : 0,
    inOrder: phrases.filter(({ relation }) => relation.kind !== 'same').map(({ id }) => id),
    mostTuneFirst: mostTuneFirst(phrases, barsIn, contents, played),
  };
}

/** Greedy cover: at each step the phrase that brings the most sounding bars for each bar to be learned. */
function mostTuneFirst(
  phrases: readonly Phrase[],
  barsIn: (phrase: Phrase) => readonly number[],
  contents: readonly string[],
  played: readonly number[],
): readonly string[] {
  const soundsFor = new Map<string, number>();
  contents.forEach((content, index) => soundsFor.set(content, (soundsFor.get(content) ?? 0) + played[index]!));
  const known = new Set<string>();
  const left = [...phrases];
  const order: string[] = [];
  while (left.length > 0) {
    const gains = left.map((phrase) => {
      const fresh = new Set(
        barsIn(phrase)
          .map((index) => contents[index]!)
          .filter((content) => !known.has(content)),
      );
      const covered = [...fresh].reduce((sum, content) => sum + (soundsFor.get(content) ?? 0), 0);
      return fresh.size === 0 ? 0 : covered / fresh.size;
    });
    const best = gains.indexOf(Math.max(...gains));
    const [chosen] = left.splice(best, 1);
    if (gains[best]! > 0) order.push(chosen!.id);
    for (const index of barsIn(chosen!)) known.add(contents[index]!);
  }
  return order;
}

/**
 * Licks: figures of one to four beats that come back note for note, wherever in the bar they stand. They begin on a
 * beat or after silence, end before a beat, and lie inside one phrase. A figure counts at its full length only: where
 * every place goes on the same, it is part of something longer.
 */
import { beatLength, pitchName, type Ticks } from '../music/index.ts';
import type { Layout } from './layout.ts';
import { barBeatAt, interned, type Reading, type Sound } from './reading.ts';
import type { Lick } from './model.ts';

const MOST_BEATS = 4;
const FEWEST_NOTES = 3;
/** Licks shown; beyond that a list is no help. */
const MOST_LICKS = 24;
/** What overlaps with a weightier lick for more of its length is that lick. */
const COVERED = 0.6;
/** So many places of its own a lick needs beside those inside a weightier one. */
const OWN_PLACES = 2;

/** A figure at all its places. */
interface Figure {
  /** Indexes of the first sounds, in order. */
  readonly places: readonly number[];
  readonly count: number;
}

export function findLicks(reading: Reading, layout: Layout): readonly Lick[] {
  const { sounds } = reading;
  const found = fullFigures(figuresOf(reading, layout));
  const weighed = found
    .filter((figure) => !isRun(figure) && !isInsideLonger(reading, figure))
    .map(({ places, count }) => ({
      places,
      count,
      weight: (places.length - 1) * (beatsOf(reading, places, count) + count),
    }))
    .sort((a, b) => b.weight - a.weight || a.places[0]! - b.places[0]!);
  return withoutInner(weighed, sounds).map(({ places, count }, index): Lick => ({
    id: `l${index + 1}`,
    beats: beatsOf(reading, places, count),
    pitches: sounds.slice(places[0], places[0]! + count).map(({ note }) => note.heads.at(-1)!.pitch),
    places: places.map((place) => ({
      ...barBeatAt(reading, sounds[place]!.onset),
      notes: sounds.slice(place, place + count).flatMap(({ ids }) => ids),
    })),
  }));
}

/** For each sound that a lick may begin with, the figures from it on, shortest first. */
function figuresOf(reading: Reading, layout: Layout): readonly (readonly Figure[])[] {
  const { sounds, bars, endings } = reading;
  const intern = interned();
  const alone = sounds.map(({ pitches }) => intern(pitches.join('+')));
  // What a sound is after the one before it: its pitches, how long after, and how long that one was held.
  const after = sounds.map((sound, index) => {
    const before = sounds[index - 1];
    return before ? intern(`${sound.onset - before.onset}:${before.duration}:${alone[index]}`) : 0;
  });
  const phraseOf = phrasesBySound(reading, layout);
  const inRow = (index: number) => {
    const [a, b] = [sounds[index - 1], sounds[index]];
    if (!a || !b || phraseOf[index] !== phraseOf[index - 1]) return false;
    const [before, own] = [endings[a.barIndex], endings[b.barIndex]];
    return before === null || own === null || before === own;
  };
  const beatAt = sounds.map(({ barIndex }) => beatLength(bars[barIndex]!.metre));
  const onBeat = sounds.map(({ place }, index) => place % beatAt[index]! === 0);
  const begins = (index: number) => {
    const before = sounds[index - 1];
    return onBeat[index]! || !inRow(index) || before!.onset + before!.duration < sounds[index]!.onset;
  };
  const ends = (index: number) =>
    !inRow(index + 1) ||
    onBeat[index + 1]! ||
    sounds[index]!.onset + sounds[index]!.duration < sounds[index + 1]!.onset;
  const found: Figure[][] = sounds.map(() => []);
  /** Starts that agree for so many sounds, parted by the sound that follows: what stands alone is looked at no more. */
  const grow = (starts: readonly number[], count: number): void => {
    const places = count < FEWEST_NOTES ? [] : starts.filter((start) => ends(start + count - 1));
    const figure: Figure = { places, count };
    if (places.length > 1) for (const place of places) found[place]!.push(figure);
    const next = new Map<number, number[]>();
    for (const start of starts) {
      const index = start + count;
      if (!inRow(index) || sounds[index]!.onset - sounds[start]!.onset >= MOST_BEATS * beatAt[start]!) continue;
      const known = next.get(after[index]!);
      if (known) known.push(start);
      else next.set(after[index]!, [start]);
    }
    for (const own of next.values()) if (own.length > 1) grow(own, count + 1);
  };
  const firsts = new Map<number, number[]>();
  sounds.forEach((_, index) => {
    if (!begins(index)) return;
    const known = firsts.get(alone[index]!);
    if (known) known.push(index);
    else firsts.set(alone[index]!, [index]);
  });
  for (const starts of firsts.values()) if (starts.length > 1) grow(starts, 1);
  return found;
}

/** Figures that come back, at their full length. */
function fullFigures(from: readonly (readonly Figure[])[]): readonly Figure[] {
  const full = new Set<Figure>();
  const inside = new Set<Figure>();
  let before: { at: number; figures: readonly Figure[] } | null = null;
  from.forEach((figures, at) => {
    figures.forEach((figure, index) => {
      const often = figure.places.length;
      const longer = figures.slice(index + 1).some((other) => other.places.length === often);
      const end = at + figure.count;
      const earlier = before?.figures.some(
        (other) => before!.at + other.count === end && other.places.length === often,
      );
      if (longer || earlier) inside.add(figure);
      full.add(figure);
    });
    if (figures.length > 0) before = { at, figures };
  });
  return [...full].filter((figure) => !inside.has(figure));
}

function phrasesBySound({ sounds }: Reading, layout: Layout): readonly number[] {
  let phrase = 0;
  return sounds.map(({ onset }) => {
    while (phrase + 1 < layout.length && layout[phrase + 1]!.from <= onset) phrase += 1;
    return phrase;
  });
}

/** How many beats it fills where it is held least. */
function beatsOf({ sounds, bars }: Reading, places: readonly number[], count: number): number {
  const first = sounds[places[0]!]!;
  const length = Math.min(...places.map((place) => endOf(sounds, place, count) - sounds[place]!.onset));
  return Math.min(MOST_BEATS, Math.max(1, Math.ceil(length / beatLength(bars[first.barIndex]!.metre))));
}

function endOf(sounds: readonly Sound[], place: number, count: number): Ticks {
  const last = sounds[place + count - 1]!;
  return last.onset + last.duration;
}

/** A figure that runs into itself, and stands nowhere else, is a run of one thing, not a figure that comes back. */
function isRun({ places, count }: Figure): boolean {
  const gaps = places.slice(1).map((place, index) => place - places[index]!);
  return gaps.some((gap) => gap < count) && gaps.every((gap) => gap <= count);
}

/** All places go on alike beyond what is looked at, or came from alike: then it is a piece of a longer repeat. */
function isInsideLonger({ sounds, bars }: Reading, { places, count }: Figure): boolean {
  const first = places[0]!;
  const most = MOST_BEATS * beatLength(bars[sounds[first]!.barIndex]!.metre);
  const alike = (index: number, from: number) =>
    places.every((place) => {
      const [own, other] = [sounds[place + index], sounds[first + index]];
      const [mine, theirs] = [sounds[place + from], sounds[first + from]];
      if (!own || !other || own.pitches.join() !== other.pitches.join() || own.duration !== other.duration)
        return false;
      return own.onset - mine!.onset === other.onset - theirs!.onset;
    });
  const beyond = (from: number, to: number) => {
    const [own, last] = [sounds[first + from], sounds[first + to]];
    return own !== undefined && last !== undefined && last.onset + last.duration - own.onset > most;
  };
  return (beyond(0, count) && alike(count, count - 1)) || (beyond(-1, count - 1) && alike(-1, 0));
}

interface Weighed {
  readonly places: readonly number[];
  readonly count: number;
}

/** Leaves out what is mostly covered by weightier figures, and what would be called by the same notes. */
function withoutInner<T extends Weighed>(licks: readonly T[], sounds: readonly Sound[]): readonly T[] {
  const kept: T[] = [];
  const names = new Set<string>();
  const covered = new Uint8Array(sounds.length);
  for (const lick of licks) {
    const name = sounds
      .slice(lick.places[0], lick.places[0]! + lick.count)
      .map(({ note }) => pitchName(note.heads.at(-1)!.pitch).replace(/-?\d+$/, ''))
      .join(' ');
    const own = lick.places.filter((place) => {
      const inside = covered.subarray(place, place + lick.count).reduce((sum, one) => sum + one, 0);
      return inside <= COVERED * lick.count;
    });
    if (names.has(name) || own.length < OWN_PLACES) continue;
    names.add(name);
    kept.push(lick);
    for (const place of lick.places) covered.fill(1, place, place + lick.count);
    if (kept.length === MOST_LICKS) break;
  }
  return kept;
}

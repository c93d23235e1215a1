/**
 * Which way each stroke goes, in played order: as it comes, or down on the beat with what a player does about a
 * wrong direction, in the order in which players prefer it. Section 5 of the domain.
 */
import {
  isCompound,
  isPickup,
  seconds,
  type BowMark,
  type Bpm,
  type Seconds,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import {
  beatOf,
  isArticulated,
  isCarriedOn,
  onDownbeat,
  playedSounds,
  samePitches,
  type PlayedSound,
  type StrokeGroup,
} from './grouping.ts';
import type { BowDecisions } from './slice.ts';

export interface Directed extends StrokeGroup {
  readonly direction: BowMark;
  /** The bow is lifted and set down anew, in the direction it had just used. */
  readonly retake: boolean;
  /** The bow stops and goes on in the same direction. */
  readonly hook: boolean;
}

export interface Directions {
  readonly strokes: readonly Directed[];
  /** First notes of strokes on a beat that should be down and is not. */
  readonly notDown: readonly { readonly note: string; readonly time: number }[];
  /** Notes that were slurred to the one before, to turn what follows. */
  readonly joined: ReadonlySet<string>;
}

/** Time that the hand needs to lift the bow and set it down again. */
export const RETAKE_TIME: Seconds = 0.25;
/** A note at the end of a phrase that is long enough to lend the retake its time. */
const LENDING_NOTE: Seconds = 0.5;
/** Notes in one stroke that a repair makes. */
const REPAIRED_SLUR = 2;

export interface DirectionContext {
  readonly tempo: Bpm;
  /** First notes of phrases. */
  readonly phraseStarts: ReadonlySet<string>;
  /** Most notes to a stroke; 1 plays everything separate. */
  readonly maxSlur: number;
}

const other = (direction: BowMark): BowMark => (direction === 'down' ? 'up' : 'down');

/** @example directionsOf(reel, bowSlice.first, { tempo: 96, phraseStarts: new Set(), maxSlur: 4 }).strokes[0].direction // 'down' */
export function directionsOf(tune: Tune, decided: BowDecisions, context: DirectionContext): Directions {
  const walk = new Walk(tune, decided, context);
  if (decided.school === 'as-it-comes') walk.goOn(walk.sounds.length);
  else comeDown(walk);
  const notDown = decided.school === 'as-it-comes' ? [] : walk.strokes.filter((stroke) => isWrong(tune, stroke));
  return {
    strokes: walk.strokes,
    notDown: notDown.map(({ notes, time }) => ({ note: notes[0]!, time })),
    joined: walk.plan.joined,
  };
}

/** A beat that should be down and is not. */
const isWrong = (tune: Tune, stroke: Directed) => stroke.direction === 'up' && onDownbeat(tune, stroke);

/**
 * Walks from stroke to stroke; where a beat comes up, the bar before it is walked again with the first repair that
 * turns it. What was found holds each time the notes are played: in a bar that was played before, all begins anew.
 */
function comeDown(walk: Walk): void {
  /** Played bars that nothing turns. */
  const given = new Set<number>();
  while (walk.next < walk.sounds.length) {
    walk.goOn(walk.next + 1);
    const wrong = walk.strokes.at(-1)!;
    if (!isWrong(walk.tune, wrong) || given.has(wrong.place)) continue;
    const before = walk.plan;
    const again = wrong.time > 1 || (walk.strokes.at(-2)?.time ?? 1) > 1;
    const repaired = repairsFor(walk.tune, walk.strokes, walk.strokes.length - 1, walk.decided, walk.context).some(
      (repair) => {
        walk.plan = { joined: union(before.joined, repair.join), same: union(before.same, repair.same) };
        walk.rewind(again ? 0 : wrong.place - 1);
        walk.goOn(wrong.from + 1);
        const there = walk.strokes.at(-1)!;
        return there.from === wrong.from && there.direction === 'down';
      },
    );
    if (!repaired) {
      // Nothing turns it: it is left, and said.
      given.add(wrong.place);
      walk.plan = before;
      walk.rewind(again ? 0 : wrong.place - 1);
      walk.goOn(wrong.from + 1);
    } else if (again) walk.rewind(0);
  }
}

/** What was found to turn strokes: by note, so that it holds each time the note is played. */
interface Plan {
  readonly joined: ReadonlySet<string>;
  /** First notes of strokes that go the way of the one before. */
  readonly same: ReadonlySet<string>;
}

const union = (one: ReadonlySet<string>, more: string | null): ReadonlySet<string> =>
  more === null ? one : new Set([...one, more]);

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** Strokes made one sound after the other, as far as they are wanted. */
class Walk {
  readonly sounds: readonly PlayedSound[];
  readonly strokes: Mutable<Directed>[] = [];
  plan: Plan = { joined: new Set(), same: new Set() };
  /** The sound that comes next. */
  next = 0;
  private readonly start: BowMark;

  constructor(
    readonly tune: Tune,
    readonly decided: BowDecisions,
    readonly context: DirectionContext,
  ) {
    this.sounds = playedSounds(tune);
    this.start = firstDirection(tune, this.sounds, decided);
  }

  /** @param until number of the sound before which it stops */
  goOn(until: number): void {
    for (; this.next < until; this.next += 1) this.take(this.sounds[this.next]!);
  }

  /** Takes back the strokes that begin in a played bar, and all after them. */
  rewind(place: number): void {
    const at = this.strokes.findLastIndex((stroke) => stroke.place < place) + 1;
    const first = this.strokes[at];
    if (!first) return;
    this.next = first.from;
    this.strokes.length = at;
  }

  private take(sound: PlayedSound): void {
    const last = this.strokes.at(-1);
    if (last && isCarriedOn(sound, this.decided, this.plan.joined)) {
      last.notes = [...last.notes, ...sound.ids];
      last.sounds += 1;
      last.duration += sound.duration;
      return;
    }
    const { note, ids, barIndex, place, time, onset, duration, at } = sound;
    const mark = note.bow ?? null;
    const chosen = this.decided.turns[ids[0]!] ?? mark;
    const usual = last ? (this.plan.same.has(ids[0]!) ? last.direction : other(last.direction)) : this.start;
    const direction = chosen ?? usual;
    const group = {
      notes: ids,
      from: this.next,
      sounds: 1,
      first: note,
      barIndex,
      place,
      time,
      onset,
      duration,
      at,
      mark,
    };
    const same = last?.direction === direction;
    const lifts = same && hasTimeToLift(last, group, this.context);
    this.strokes.push({ ...group, direction, retake: lifts, hook: same && !lifts });
  }
}

/** The bow can be lifted before a stroke: over a rest, or at a phrase's end whose note lends the time. */
function hasTimeToLift(before: StrokeGroup, group: StrokeGroup, context: DirectionContext): boolean {
  const rest = seconds(group.onset - before.onset - before.duration, context.tempo);
  if (rest >= RETAKE_TIME) return true;
  return context.phraseStarts.has(group.notes[0]!) && seconds(lastLength(before), context.tempo) >= LENDING_NOTE;
}

const lastLength = ({ duration, sounds }: StrokeGroup): Ticks => duration / sounds;

/**
 * The very first stroke is chosen so that the first whole bar begins down: a pickup of one stroke starts up, of two
 * down. Where that bar begins with a note that is held over, its first new stroke is down; where it begins with a
 * rest, that stroke is up.
 */
function firstDirection(tune: Tune, sounds: readonly PlayedSound[], decided: BowDecisions): BowMark {
  if (decided.start) return decided.start;
  const bar = isPickup(tune.bars, 0) ? 1 : 0;
  const begins = sounds.filter((sound, index) => index === 0 || !isCarriedOn(sound, decided, new Set()));
  const at = begins.findIndex(({ barIndex }) => barIndex >= bar);
  if (at < 0) return 'down';
  const sound = begins[at]!;
  const [event] = tune.bars[sound.barIndex]!.events;
  const wanted: BowMark = sound.at > 0 && event?.kind === 'rest' ? 'up' : 'down';
  return at % 2 === 0 ? wanted : other(wanted);
}

interface Repair {
  /** A note to slur to the one before it. */
  readonly join: string | null;
  /** A stroke that goes the way of the one before it. */
  readonly same: string | null;
}

/** What could be done about a wrong direction, the preferred first. */
function repairsFor(
  tune: Tune,
  strokes: readonly Directed[],
  at: number,
  decided: BowDecisions,
  context: DirectionContext,
): readonly Repair[] {
  const { place } = strokes[at]!;
  const first = strokes.findLastIndex((stroke) => stroke.place < place - 1) + 1;
  const before = strokes
    .slice(first, at)
    .map((stroke, index) => ({ stroke, index: first + index }))
    .filter(({ stroke }) => stroke.place === place - 1);
  return [
    ...slursIn(tune, strokes, before, decided, context),
    ...hooksIn(tune, strokes, before, decided),
    // A beat that is down already stays so.
    ...liftsAt(
      strokes,
      [...before.flatMap(({ stroke, index }) => (onDownbeat(tune, stroke) ? [] : [index])), at],
      decided,
      context,
    ),
  ];
}

type Placed = readonly { readonly stroke: Directed; readonly index: number }[];

const isFree = ({ notes, mark }: StrokeGroup, { turns, slurs }: BowDecisions): boolean =>
  mark === null && turns[notes[0]!] === undefined && slurs[notes[0]!] === undefined;

/** Two notes in the weak part of the bar: those that begin on a beat first, and of them the last. */
function slursIn(
  tune: Tune,
  strokes: readonly Directed[],
  before: Placed,
  decided: BowDecisions,
  { phraseStarts, maxSlur }: DirectionContext,
): readonly Repair[] {
  if (maxSlur < REPAIRED_SLUR) return [];
  const pairs = before.flatMap(({ stroke, index }) => {
    const next = strokes[index + 1];
    const beat = beatOf(tune, stroke.barIndex);
    const possible =
      next?.place === stroke.place &&
      stroke.at >= beat &&
      stroke.sounds === 1 &&
      next.sounds === 1 &&
      stroke.onset + stroke.duration === next.onset &&
      !phraseStarts.has(next.notes[0]!) &&
      isFree(next, decided) &&
      (!samePitches(stroke.first, next.first) || (isArticulated(stroke.first) && isArticulated(next.first)));
    return possible ? [{ note: next.notes[0]!, onBeat: stroke.at % beat === 0, at: stroke.at }] : [];
  });
  return [...pairs]
    .sort((a, b) => Number(b.onBeat) - Number(a.onBeat) || b.at - a.at)
    .map(({ note }) => ({ join: note, same: null }));
}

/** Long and short: three to one anywhere, two to one where beats are divided in three, or bars counted in three. */
function hooksIn(tune: Tune, strokes: readonly Directed[], before: Placed, decided: BowDecisions): readonly Repair[] {
  return before
    .flatMap(({ stroke, index }) => {
      const next = strokes[index + 1];
      const { metre } = tune.bars[stroke.barIndex]!;
      const ratios = isCompound(metre) || metre.beats === 3 ? [3, 2] : [3];
      const possible =
        next?.place === stroke.place &&
        stroke.onset + stroke.duration === next.onset &&
        next.sounds === 1 &&
        isFree(next, decided) &&
        ratios.includes(lastLength(stroke) / next.duration);
      return possible ? [{ join: null, same: next.notes[0]! }] : [];
    })
    .reverse();
}

/** The bow lifted: where there is time. */
function liftsAt(
  strokes: readonly Directed[],
  joints: readonly number[],
  decided: BowDecisions,
  context: DirectionContext,
): readonly Repair[] {
  return joints
    .filter(
      (index) =>
        index > 0 && isFree(strokes[index]!, decided) && hasTimeToLift(strokes[index - 1]!, strokes[index]!, context),
    )
    .reverse()
    .map((index) => ({ join: null, same: strokes[index]!.notes[0]! }));
}

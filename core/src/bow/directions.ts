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
import { beatOf, groupsOf, isArticulated, onDownbeat, samePitches, type StrokeGroup } from './grouping.ts';
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
  let plan: Plan = { joined: new Set(), same: new Set() };
  let strokes = walk(tune, decided, plan, context);
  if (decided.school === 'as-it-comes') return { strokes, notDown: [], joined: plan.joined };
  const notDown: { note: string; time: number }[] = [];
  const given = new Set<string>();
  for (;;) {
    const at = strokes.findIndex(
      (stroke) => stroke.direction === 'up' && onDownbeat(tune, stroke) && !given.has(`${stroke.place}`),
    );
    if (at < 0) return { strokes, notDown, joined: plan.joined };
    const wrong = strokes[at]!;
    const repaired = repairsFor(tune, strokes, at, decided, context).find((repair) => {
      const next = { joined: union(plan.joined, repair.join), same: union(plan.same, repair.same) };
      const tried = walk(tune, decided, next, context);
      const there = tried.find(({ place, notes }) => place === wrong.place && notes[0] === wrong.notes[0]);
      if (there?.direction !== 'down') return false;
      plan = next;
      strokes = tried;
      return true;
    });
    if (!repaired) {
      // Nothing turns it: it is left, and said.
      given.add(`${wrong.place}`);
      notDown.push({ note: wrong.notes[0]!, time: wrong.time });
    }
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

function walk(tune: Tune, decided: BowDecisions, plan: Plan, context: DirectionContext): readonly Directed[] {
  const groups = groupsOf(tune, decided, plan.joined);
  let last: BowMark | null = null;
  return groups.map((group, index): Directed => {
    const first = group.notes[0]!;
    const chosen = decided.turns[first] ?? group.mark;
    const direction: BowMark =
      chosen ?? (last === null ? firstDirection(tune, groups, decided) : plan.same.has(first) ? last : other(last));
    const same = last === direction;
    last = direction;
    const lifts = same && hasTimeToLift(groups, index, context);
    return { ...group, direction, retake: lifts, hook: same && !lifts };
  });
}

/** The bow can be lifted before a stroke: over a rest, or at a phrase's end whose note lends the time. */
function hasTimeToLift(groups: readonly StrokeGroup[], index: number, context: DirectionContext): boolean {
  const [before, group] = [groups[index - 1]!, groups[index]!];
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
function firstDirection(tune: Tune, groups: readonly StrokeGroup[], { start }: BowDecisions): BowMark {
  if (start) return start;
  const bar = isPickup(tune.bars, 0) ? 1 : 0;
  const at = groups.findIndex(({ barIndex }) => barIndex >= bar);
  if (at < 0) return 'down';
  const group = groups[at]!;
  const [event] = tune.bars[group.barIndex]!.events;
  const wanted: BowMark = group.at > 0 && event?.kind === 'rest' ? 'up' : 'down';
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
  const before = strokes
    .map((stroke, index) => ({ stroke, index }))
    .filter(({ stroke, index }) => index < at && stroke.place === place - 1);
  return [
    ...slursIn(tune, strokes, before, decided, context),
    ...hooksIn(tune, strokes, before, decided),
    ...liftsAt(strokes, [...before.map(({ index }) => index), at], decided, context),
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
    .filter((index) => index > 0 && isFree(strokes[index]!, decided) && hasTimeToLift(strokes, index, context))
    .reverse()
    .map((index) => ({ join: null, same: strokes[index]!.notes[0]! }));
}

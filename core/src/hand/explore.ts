/**
 * Other ways with a phrase, with a shift, with the whole tune: each the cheapest whole fingering of its
 * kind, with its exact extra cost and where that comes from. And two fingerings side by side.
 */
import type { Hand } from './hand.ts';
import type { FingeredNote, Fingering } from './fingering.ts';
import { differences, explainDetour, type Detour, type RuleDifference } from './detours.ts';
import { stopsKey, type HandState, type Stop } from './state.ts';

/** One note that is fingered in another way. */
export interface ChangedNote {
  readonly id: string;
  readonly stops: readonly Stop[];
}

export interface Way {
  /** What it costs more, for the whole tune, in units of the price list. */
  readonly extra: number;
  readonly differences: readonly RuleDifference[];
  /** Only the notes whose string or finger changes. */
  readonly changed: readonly ChangedNote[];
  /** Notes that the hand moves to in the stretch that was asked about. */
  readonly shifts: readonly string[];
}

/** Offered at once; more are no help. */
const MOST = 5;
/** Notes before and after a shift within which it may be made elsewhere. */
const AROUND = 6;

/**
 * Other ways with a stretch of notes, cheapest first.
 * @example waysWith(hand, phrase.notes).length > 0 // true
 */
export function waysWith(hand: Hand, noteIds: readonly string[]): readonly Way[] {
  const own = new Set(noteIds);
  const steps = stepsOf(hand, (note) => note.ids.some((id) => own.has(id)));
  return distinctWays(hand, steps, (states) => states.map(({ key }) => key).join('|'));
}

/**
 * Other places for the shift to a note, and ways without it: the best of each.
 * @example waysOfShift(hand, 'n1').length // 5
 */
export function waysOfShift(hand: Hand, noteId: string): readonly Way[] {
  const [at] = stepsOf(hand, ({ ids }) => ids.includes(noteId));
  if (at === undefined) return [];
  const from = Math.max(0, at - AROUND);
  const steps = Array.from({ length: Math.min(hand.steps.length, at + AROUND) - from }, (_, index) => from + index);
  return distinctWays(hand, steps, shiftPlaces);
}

/** Which notes of a stretch the hand has moved to since it last stopped a string. */
function shiftPlaces(states: readonly HandState[]): string {
  let base: number | null = null;
  const places: string[] = [];
  states.forEach((state, index) => {
    if (!state.stops.some(({ finger }) => finger > 0)) return;
    if (base !== null && base !== state.frame.base) places.push(`${index}:${state.frame.base - base}`);
    base = state.frame.base;
  });
  return places.join(' ');
}

/**
 * The cheapest whole fingering that is not the chosen one, as a way.
 * @example secondBest(hand).extra >= 0 // true
 */
export function secondBest(hand: Hand): Way | null {
  const best = secondDetour(hand);
  return (
    best &&
    wayOf(
      hand,
      best,
      hand.steps.map((_, index) => index),
    )
  );
}

/**
 * The same as a fingering of its own, and how it differs.
 * @example secondFingering(hand).fingering.notes.length === fingering.notes.length // true
 */
export function secondFingering(hand: Hand): { readonly fingering: Fingering; readonly comparison: Comparison } | null {
  const best = secondDetour(hand);
  if (!best) return null;
  const fingering = hand.fingeringThrough(best);
  const { extra, differences: found, changed } = wayOf(hand, best, []);
  return { fingering, comparison: { differing: changed.map(({ id }) => id), extra, differences: found } };
}

function secondDetour(hand: Hand): Detour | null {
  let best: Detour | null = null;
  hand.steps.forEach((_, step) => {
    const [detour] = hand.detoursAt(step, 1);
    if (detour && (!best || detour.cost < best.cost)) best = detour;
  });
  return best;
}

function stepsOf(hand: Hand, belongs: (note: FingeredNote) => boolean): readonly number[] {
  return hand.fingering.notes.flatMap((note, index) => {
    const step = hand.stepOf[index];
    return step !== null && step !== undefined && belongs(note) ? [step] : [];
  });
}

function distinctWays(
  hand: Hand,
  steps: readonly number[],
  signature: (states: readonly HandState[]) => string,
): readonly Way[] {
  const chosen = signature(steps.map((step) => hand.chosen(step)));
  const found = new Map<string, Detour>();
  for (const step of steps) {
    for (const detour of hand.detoursAt(step)) {
      const key = signature(steps.map((other) => stateOf(hand, detour, other)));
      const known = found.get(key);
      if (key !== chosen && (!known || detour.cost < known.cost)) found.set(key, detour);
    }
  }
  return [...found.values()]
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST)
    .map((detour) => wayOf(hand, detour, steps));
}

export const stateOf = (hand: Hand, { from, states }: Detour, step: number): HandState =>
  states[step - from] ?? hand.chosen(step);

export function wayOf(hand: Hand, detour: Detour, steps: readonly number[]): Way {
  const noteAt = (step: number) => hand.notes[hand.noteAt[step]!]!.id;
  const changed = detour.states.flatMap((state, index): ChangedNote[] => {
    const step = detour.from + index;
    if (state.key === hand.chosen(step).key) return [];
    return [{ id: noteAt(step), stops: state.stops }];
  });
  let base: number | null = null;
  const shifts = steps.flatMap((step) => {
    const state = stateOf(hand, detour, step);
    if (!state.stops.some(({ finger }) => finger > 0)) return [];
    const moved = base !== null && base !== state.frame.base;
    base = state.frame.base;
    return moved ? [noteAt(step)] : [];
  });
  return {
    extra: (detour.cost - hand.solution.cost) / 1000,
    differences: explainDetour(hand.steps, hand.solution, detour),
    changed,
    shifts,
  };
}

export interface Comparison {
  /** Notes that are fingered differently. */
  readonly differing: readonly string[];
  /** What the other costs more by the rules of this one; null where this one's hand cannot do it. */
  readonly extra: number | null;
  readonly differences: readonly RuleDifference[];
}

/**
 * Another fingering of the same notes, seen by the rules and wishes of this one.
 * @example compareFingerings(hand, fingering).differing // []
 */
export function compareFingerings(hand: Hand, other: Fingering): Comparison {
  const theirs = new Map(other.notes.map((note) => [note.id, note]));
  const differing = hand.fingering.notes.filter((note) => {
    const twin = theirs.get(note.id);
    return twin && stopsKey(note) !== stopsKey(twin);
  });
  const same = (step: number): readonly HandState[] => {
    const note = theirs.get(hand.notes[hand.noteAt[step]!]!.id);
    return note ? hand.statesAt(step).filter(({ key }) => key === stopsKey(note)) : [];
  };
  const steps = hand.steps.map((step, index) => ({ ...step, states: same(index) }));
  const ids = differing.map(({ id }) => id);
  if (steps.some(({ states }) => states.length === 0)) return { differing: ids, extra: null, differences: [] };
  const solved = hand.solveOnce(steps);
  const found = differences(
    hand.steps,
    0,
    hand.steps.length,
    (index) => hand.chosen(index),
    (index) => steps[index]!.states[solved.path[index]!]!,
  );
  return { differing: ids, extra: (solved.cost - hand.solution.cost) / 1000, differences: found };
}

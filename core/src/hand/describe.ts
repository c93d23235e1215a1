/** A way through the steps as a fingering: positions, shifts with how to find them, holds, slides, what lies across. */
import type { HandNote } from './contexts.ts';
import type { HandProblem } from './decided.ts';
import { OUT_OF_REACH, totalsOf, type FingeredNote, type Fingering, type Glide, type Shift } from './fingering.ts';
import type { Position } from './vocabulary.ts';
import { landingOf } from './landmarks.ts';
import { holdsOf, isBlock, isHop, liesAcross } from './marks.ts';
import { DISTANCES } from './rules.ts';
import { handOf, type HandSetup } from './setup.ts';
import { isStopped, positionOf, type HandState } from './state.ts';

/** A whole fingering before it is told. */
export interface Chosen {
  /** For each note what the hand does; null where it cannot reach. */
  readonly states: readonly (HandState | null)[];
  /** In thousandths. */
  readonly cost: number;
  readonly effort: number;
  readonly problems: readonly HandProblem[];
  readonly resting: readonly string[];
  /** Whether a note's decision applies. */
  speaks(noteId: string): boolean;
  /** How the same place of the same phrase is fingered elsewhere, as a `stopsKey`. */
  usualAt(index: number): string | undefined;
  alternativesAt(index: number): FingeredNote['alternatives'];
}

export function describe(notes: readonly HandNote[], setup: HandSetup, chosen: Chosen): Fingering {
  const { states } = chosen;
  const positions = positionsOf(states, setup);
  const holds = holdsOf(states);
  const told = notes.map((note, index): FingeredNote => {
    const { id, ids, grace, onset, duration, pitches, source } = note;
    const { barIndex } = source;
    const of = source.note.id;
    const state = states[index];
    if (!state) return { id, ids, of, grace, onset, duration, barIndex, pitches, ...OUT_OF_REACH };
    const before = nearest(states, index, -1);
    const after = nearest(states, index, 1);
    const usual = chosen.usualAt(index);
    const hold = holds[index];
    // Field by field: objects of this size that begin as a copy take ten times as long to make.
    return {
      id,
      ids,
      of,
      grace,
      onset,
      duration,
      barIndex,
      pitches,
      stops: state.stops,
      position: positions[index]!,
      shape: state.frame.shape,
      base: state.frame.base,
      shift: shiftTo(index, notes, states, positions, setup),
      extension: state.stops.some(({ sign }) => sign === 'extended'),
      block: liesAcross(state) || blocks(state, before) || blocks(state, after),
      hop: before !== null && isHop(before, state),
      hold: decidedHold(id, setup, chosen) ?? (hold === null || hold === undefined ? null : notes[hold]!.id),
      glide: glideInto(note, state, before),
      unusual: usual !== undefined && state.key !== usual,
      locked: chosen.speaks(id),
      alternatives: chosen.alternativesAt(index),
      why: null,
    };
  });
  return {
    instrument: setup.instrument,
    tuning: setup.tuning,
    notes: told,
    totals: totalsOf(chosen, told),
    problems: chosen.problems,
    resting: chosen.resting,
  };
}

type States = readonly (HandState | null)[];

const blocks = (state: HandState, other: HandState | null) => other !== null && isBlock(state, other);

/** The state of the next note before or after that the hand can reach. */
function nearest(states: States, from: number, by: 1 | -1): HandState | null {
  for (let index = from + by; index >= 0 && index < states.length; index += by) {
    const state = states[index];
    if (state) return state;
  }
  return null;
}

/** Open strings leave the hand's place as it was, or as it is going to be. */
function positionsOf(states: States, setup: HandSetup): readonly (Position | null)[] {
  const named = states.map((state) =>
    state && isStopped(state) ? positionOf(state, setup.tuning.pitches, handOf(setup)) : null,
  );
  const first = named.find((position) => position !== null) ?? null;
  let last = first;
  return named.map((position, index) => (states[index] === null ? null : ((last = position ?? last) ?? 'I')));
}

/** Where the hand last stopped a string. Open strings between are when it moves; they do not hide that it did. */
function shiftTo(
  index: number,
  notes: readonly HandNote[],
  states: States,
  positions: readonly (Position | null)[],
  { tuning }: HandSetup,
): Shift | null {
  const state = states[index]!;
  if (!isStopped(state)) return null;
  let last = index - 1;
  const stops = (state: HandState | null | undefined) => Boolean(state && isStopped(state));
  while (last >= 0 && !stops(states[last])) last -= 1;
  const placed = states[last];
  if (!placed || placed.frame.base === state.frame.base) return null;
  return {
    from: positions[last]!,
    to: positions[index]!,
    semitones: state.frame.base - placed.frame.base,
    landing: landingOf(placed, state, tuning.pitches, last < index - 1 || restBefore(notes, index)),
  };
}

function restBefore(notes: readonly HandNote[], index: number): boolean {
  const [before, note] = [notes[index - 1]!, notes[index]!];
  return !before.grace && note.onset > before.onset + before.duration;
}

/** A finger that was told to stay down, as far as it can. */
function decidedHold(id: string, { locks }: HandSetup, chosen: Chosen): string | null {
  return (chosen.speaks(id) && locks[id]?.holdUntil) || null;
}

/** A slide comes from the note before where that lies close below on the string, else from a semitone below. */
function glideInto({ source, grace }: HandNote, state: HandState, before: HandState | null): Glide | null {
  const stop = state.stops.at(-1)!;
  if (grace || !source.note.decorations?.includes('slide') || stop.finger === 0) return null;
  const from = before?.stops.find(({ string, finger }) => string === stop.string && finger > 0);
  const way = from ? stop.semitones - from.semitones : 0;
  return from && way >= 1 && way <= DISTANCES.glide
    ? { finger: from.finger, below: way, lands: stop.finger, fromBefore: true }
    : { finger: stop.finger, below: 1, lands: stop.finger, fromBefore: false };
}

/** What the hand may do at each sound before anything is decided, remembered from tune to tune with its prices. */
import { midi, type Pitch } from '../music/index.ts';
import { tuningText } from '../instrument/index.ts';
import { nearestPossible, partOfChord, whyImpossible } from './chords.ts';
import type { HandNote, NoteContext } from './contexts.ts';
import type { HandProblem } from './decided.ts';
import { POSITIONS, levelOf, type Position } from './vocabulary.ts';
import { reach } from './frames.ts';
import { handOf, type HandSetup } from './setup.ts';
import { PriceTable } from './prices.ts';
import { isStopped, positionOf, statesFor, type HandState } from './state.ts';

/** What the hand may do at a sound, before anything is decided. */
export interface Possible {
  readonly states: readonly HandState[];
  readonly problem?: HandProblem;
}

/** States and prices that tunes for the same instrument and tuning share. */
export interface Workspace {
  readonly states: Map<string, readonly HandState[]>;
  readonly table: PriceTable;
  /** What the hand's place is called in each state; null where nothing is stopped. */
  readonly positions: WeakMap<HandState, Position | null>;
}
const workspaces = new Map<string, Workspace>();
/** Kept at once; each instrument and tuning that a session meets has one. */
const MOST_WORKSPACES = 8;
/** Chords make many different states; beyond so many the workspace is begun anew. */
const MOST_STATES = 4000;

export function workspaceOf({ instrument, tuning }: HandSetup): Workspace {
  const key = `${instrument.hand} ${tuningText(tuning.pitches)} ${tuning.pitches.map(midi).join(' ')}`;
  const known = workspaces.get(key);
  if (known && known.states.size < MOST_STATES) return known;
  if (workspaces.size >= MOST_WORKSPACES) workspaces.clear();
  const made: Workspace = { states: new Map(), table: new PriceTable(), positions: new WeakMap() };
  workspaces.set(key, made);
  return made;
}

const frameIds = new WeakMap<object, number>();
let framesKnown = 0;

/** What the hand can do here; where not everything, as much of a chord as it can, and why. */
export function possibleAt(
  { id, pitches }: HandNote,
  { frames, profile }: NoteContext,
  setup: HandSetup,
  { states }: Workspace,
): Possible {
  let frame = frameIds.get(frames);
  if (frame === undefined) frameIds.set(frames, (frame = framesKnown += 1));
  const open = setup.tuning.pitches;
  const hand = handOf(setup);
  const { maxPosition } = profile.limits;
  // Where letters name a place, one of its names may lie beyond the limit: A flat by the first finger is in IV.
  const highest = hand.lettersDecide && maxPosition ? POSITIONS.indexOf(maxPosition) : Infinity;
  const withinName = (state: HandState) =>
    highest === Infinity || !isStopped(state) || levelOf(positionOf(state, open, hand)) <= highest;
  const statesOf = (heads: readonly Pitch[]) => {
    const key = `${frame} ${heads.map(({ letter, alter, octave }) => `${letter}${alter}${octave}`).join('+')}`;
    let found = states.get(key);
    if (!found) states.set(key, (found = statesFor(heads, open, frames).filter(withinName)));
    return found;
  };
  if (pitches.length > 1 && profile.limits.noDoubleStops) {
    const top = statesOf([pitches.at(-1)!]);
    return {
      states: top,
      problem: { noteId: id, kind: 'no-double-stops', owner: profile.owners.noDoubleStops ?? null },
    };
  }
  const all = statesOf(pitches);
  if (all.length > 0) return { states: all };
  if (pitches.length === 1) return { states: [], problem: { noteId: id, kind: 'out-of-reach', reach: reach(frames) } };
  const part = partOfChord(pitches, open, frames);
  const problem: HandProblem = {
    noteId: id,
    kind: 'chord',
    why: whyImpossible(pitches, open, frames),
    fingered: part[0]?.stops.length ?? 0,
    nearest: nearestPossible(pitches, open, frames),
  };
  return { states: part, problem };
}

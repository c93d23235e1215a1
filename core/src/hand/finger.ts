/**
 * The left hand of a whole tune: steps from notes and graces, solved, and the result in terms that a
 * teacher reads: strings, fingers, positions, shifts, blocks, holds, and the price of every alternative.
 */
import { midi, TICKS_PER_QUARTER, type Pitch, type Semitones, type Ticks, type Tune } from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { INSTRUMENT, tuningText, type InstrumentId, type Tuning } from '../instrument/index.ts';
import { nearestPossible, partOfChord, whyImpossible } from './chords.ts';
import { contextsOf, soundsOf, type Sound, type SoundContext } from './contexts.ts';
import { decide, type Decided, type HandProblem } from './decided.ts';
import { reach, type Position, type Shape } from './frames.ts';
import { landingText } from './landmarks.ts';
import { holdsOf, isBlock, isHop } from './marks.ts';
import type { HandSetup } from './setup.ts';
import {
  cheapestPath,
  detour,
  explainDetour,
  FORBIDDEN,
  gateCost,
  PriceTable,
  solve,
  throughEach,
  type Detour,
  type Solution,
  type Step,
} from './solver.ts';
import { isStopped, positionOf, statesFor, type HandState, type Stop } from './state.ts';
import { samePlaces, usualKeys } from './usual.ts';
import { chosenTexts, reasonTexts, stateText } from './words.ts';

export interface Alternative {
  readonly stops: readonly Stop[];
  readonly position: Position | null;
  /** Semitones above the open strings where the first finger is at home. */
  readonly base: Semitones;
  readonly text: string;
  /** What it costs more, for the whole tune, in units of the price list. */
  readonly extra: number;
  /** Where that comes from; empty until it is asked for. */
  readonly reasons: readonly string[];
}

export interface Shift {
  readonly from: Position;
  readonly to: Position;
  /** Way of the hand, up positive. */
  readonly semitones: Semitones;
  /** How to find the place. */
  readonly landing: string;
}

/** A slide into a note. */
export interface Glide {
  /** The finger it begins with, and how far below the note. */
  readonly finger: number;
  readonly below: Semitones;
  readonly text: string;
}

export interface FingeredNote {
  /** The note, or grace note, that starts the sound. */
  readonly id: string;
  /** All written notes it stands for, ties included. */
  readonly ids: readonly string[];
  readonly grace: boolean;
  readonly onset: Ticks;
  readonly duration: Ticks;
  readonly barIndex: number;
  readonly pitches: readonly Pitch[];
  /** Low to high; empty where the hand cannot reach. */
  readonly stops: readonly Stop[];
  readonly position: Position | null;
  readonly shape: Shape | null;
  /** Semitones above the open strings where the first finger is at home; null where the hand cannot reach. */
  readonly base: Semitones | null;
  readonly shift: Shift | null;
  readonly extension: boolean;
  /** Same finger across to this string from the note before or to the note after. */
  readonly block: boolean;
  /** The finger that played the note before has to jump to another place on another string. */
  readonly hop: boolean;
  /** The finger stays down until this note, where it is used again at the same place. */
  readonly hold: string | null;
  readonly glide: Glide | null;
  /** Fingered in another way than the same place of the same phrase elsewhere. */
  readonly unusual: boolean;
  readonly locked: boolean;
  /** Every other way, cheapest first. */
  readonly alternatives: readonly Alternative[];
  /** Why this one: what it saves over the next best; empty until it is asked for. */
  readonly why: readonly string[];
  readonly text: string;
}

export interface Fingering {
  readonly instrument: InstrumentId;
  readonly tuning: Tuning;
  readonly notes: readonly FingeredNote[];
  readonly totals: {
    readonly cost: number;
    readonly shifts: number;
    readonly crossings: number;
    readonly extensions: number;
    readonly blocks: number;
    readonly hops: number;
  };
  /** Notes that the hand cannot reach, and decisions that rest or contradict each other. */
  readonly problems: readonly HandProblem[];
  /** Ids whose decision does not apply at present. */
  readonly resting: readonly string[];
}

/** What the hand may do at a sound, before anything is decided. */
interface Possible {
  readonly states: readonly HandState[];
  readonly problem?: HandProblem;
}

/**
 * A tune's left hand, solved, with everything at hand to say more about it when asked.
 * @example new Hand(tune, analyseForm(tune), setup).fingering.notes[0].stops[0].finger
 */
export class Hand {
  readonly setup: HandSetup;
  readonly sounds: readonly Sound[];
  /** Only the sounds that the hand can reach. */
  readonly steps: readonly Step[];
  readonly solution: Solution;
  readonly fingering: Fingering;
  readonly table: PriceTable;
  /** For each sound the step it is, or null. */
  readonly stepOf: readonly (number | null)[];
  readonly soundAt: readonly number[];
  readonly #stringNames: readonly string[];
  readonly #contexts: readonly SoundContext[];
  readonly #possible: readonly Possible[];
  readonly #speaks: ReadonlySet<string>;

  constructor(tune: Tune, form: Form, setup: HandSetup) {
    this.setup = setup;
    this.#stringNames = INSTRUMENT[setup.instrument].strings.map(({ name }) => name);
    this.sounds = soundsOf(tune);
    this.#contexts = contextsOf(tune, form, this.sounds, setup);
    const shared = workspaceOf(setup);
    this.table = shared.table;
    this.#possible = this.sounds.map((sound, index) => possibleAt(sound, this.#contexts[index]!, setup, shared));
    const soundAt: number[] = [];
    this.stepOf = this.#possible.map(({ states }, index) => (states.length > 0 ? soundAt.push(index) - 1 : null));
    this.soundAt = soundAt;
    const usual = this.#usual(form);
    const decided = this.#decided(form, usual);
    this.#speaks = new Set(Object.keys(setup.locks).filter((id) => !decided.resting.includes(id)));
    const { steps, solution, problems } = this.#solved(decided.steps, usual);
    this.steps = steps;
    this.solution = solution;
    const unreached = this.#possible.flatMap(({ problem }) => problem ?? []);
    this.fingering = this.#describe([...unreached, ...decided.problems, ...problems], decided.resting);
  }

  /** The state that the cheapest fingering has at a step. */
  chosen(step: number): HandState {
    return this.steps[step]!.states[this.solution.path[step]!]!;
  }

  #step(decided: Decided, step: number, usual: ReadonlyMap<number, string>): Step {
    const sound = this.soundAt[step]!;
    const key = usual.get(sound);
    return {
      states: decided.states,
      context: this.#contexts[sound]!.context,
      ...(key !== undefined && { usual: key }),
      ...(decided.gate && step > 0 && { gate: decided.gate }),
    };
  }

  #free(): readonly Decided[] {
    return this.soundAt.map((sound) => ({ states: this.#possible[sound]!.states }));
  }

  /** How places that come back are fingered when nothing is decided. */
  #usual(form: Form): ReadonlyMap<number, string> {
    const places = samePlaces(form, this.sounds);
    if (places.size === 0) return new Map();
    const steps = this.#free().map((decided, step) => this.#step(decided, step, new Map()));
    const path = cheapestPath(steps, this.table);
    return usualKeys(places, (sound) => {
      const step = this.stepOf[sound]!;
      return step === null ? undefined : steps[step]!.states[path[step]!]!.key;
    });
  }

  /** Decisions on single notes, then those of phrases that take another's fingers, which needs those fingers. */
  #decided(form: Form, usual: ReadonlyMap<number, string>) {
    const possible = this.#possible.map(({ states }) => states);
    const decided = decide(this.sounds, possible, this.setup, new Map());
    const pairs = likePairs(form, this.sounds, this.setup);
    if (pairs.size === 0) return decided;
    const steps = this.soundAt.map((sound, step) => this.#step(decided.steps[sound]!, step, usual));
    const path = cheapestPath(steps, this.table);
    const keys = new Map<number, string>();
    for (const [sound, other] of pairs) {
      const step = this.stepOf[other];
      if (step !== null && step !== undefined) keys.set(sound, steps[step]!.states[path[step]!]!.key);
    }
    return decide(this.sounds, possible, this.setup, keys);
  }

  /** Solves; where decisions about moving contradict each other, those that cannot be kept are dropped and told. */
  #solved(decided: readonly Decided[], usual: ReadonlyMap<number, string>) {
    const problems: HandProblem[] = [];
    let steps = this.soundAt.map((sound, step) => this.#step(decided[sound]!, step, usual));
    let solution = solve(steps, this.table);
    if (solution.cost >= FORBIDDEN) {
      const at = (step: number) => steps[step]!.states[solution.path[step]!]!;
      steps = steps.map((step, index) => {
        if (index === 0 || gateCost(at(index - 1), at(index), step.gate) === 0) return step;
        if (step.gate === 'waits') return withoutGate(step);
        const noteId = this.sounds[this.soundAt[index]!]!.id;
        const message =
          step.gate === 'moves'
            ? 'The hand is to move to this note, but what is set before and here lies in one place: the move rests.'
            : 'A finger is to stay down until here, but what is set needs the hand to move: the finger is let go.';
        problems.push({ noteId, message });
        return withoutGate(step);
      });
      solution = solve(steps, this.table);
    }
    return { steps, solution, problems };
  }

  #describe(problems: readonly HandProblem[], resting: readonly string[]): Fingering {
    const states = this.stepOf.map((step) => (step === null ? null : this.chosen(step)));
    const positions = this.#positions(states);
    const holds = holdsOf(states);
    const notes = this.sounds.map((sound, index) => this.#note(sound, index, states, positions, holds[index]!));
    return {
      instrument: this.setup.instrument,
      tuning: this.setup.tuning,
      notes,
      totals: totalsOf(this.solution.cost, notes),
      problems,
      resting,
    };
  }

  /** Open strings leave the hand's place as it was, or as it is going to be. */
  #positions(states: readonly (HandState | null)[]): readonly (Position | null)[] {
    const open = this.setup.tuning.pitches;
    const named = states.map((state) =>
      state && isStopped(state) ? positionOf(state, open, this.setup.instrument) : null,
    );
    const first = named.find((position) => position !== null) ?? null;
    let last = first;
    return named.map((position, index) => (states[index] === null ? null : ((last = position ?? last) ?? 'I')));
  }

  #note(
    sound: Sound,
    index: number,
    states: readonly (HandState | null)[],
    positions: readonly (Position | null)[],
    hold: number | null,
  ): FingeredNote {
    const state = states[index] ?? null;
    const { id, ids, grace, onset, duration, pitches, source } = sound;
    const { barIndex } = source;
    if (!state) return { id, ids, grace, onset, duration, barIndex, pitches, ...OUT_OF_REACH };
    const step = this.stepOf[index]!;
    const before = step > 0 ? this.chosen(step - 1) : null;
    const after = step + 1 < this.steps.length ? this.chosen(step + 1) : null;
    const names = this.#stringNames;
    const { usual } = this.steps[step]!;
    return {
      id,
      ids,
      grace,
      onset,
      duration,
      barIndex,
      pitches,
      stops: state.stops,
      position: positions[index]!,
      shape: state.frame.shape,
      base: state.frame.base,
      shift: this.#shift(index, state, states, positions),
      extension: state.stops.some(({ sign }) => sign === 'extended'),
      block: [before, after].some((other) => other !== null && isBlock(state, other)),
      hop: before !== null && isHop(before, state),
      hold: this.#decidedHold(id) ?? (hold === null ? null : this.sounds[hold]!.id),
      glide: this.#glide(sound, state, before),
      unusual: usual !== undefined && state.key !== usual,
      locked: this.#speaks.has(id),
      alternatives: this.#alternatives(step).map(({ state: other, extra }) => this.#alternative(other, extra)),
      why: [],
      text: stateText(state, names),
    };
  }

  /** Where the hand last stopped a string. Open strings between are when it moves; they do not hide that it did. */
  #shift(
    index: number,
    state: HandState,
    states: readonly (HandState | null)[],
    positions: readonly (Position | null)[],
  ): Shift | null {
    if (!isStopped(state)) return null;
    let last = index - 1;
    while (last >= 0 && !(states[last] && isStopped(states[last]!))) last -= 1;
    const placed = states[last];
    if (!placed || placed.frame.base === state.frame.base) return null;
    return {
      from: positions[last]!,
      to: positions[index]!,
      semitones: state.frame.base - placed.frame.base,
      landing: landingText(
        placed,
        state,
        this.setup.tuning.pitches,
        this.#stringNames,
        last < index - 1 || this.#restBefore(index),
      ),
    };
  }

  /** A finger that was told to stay down, as far as it can. */
  #decidedHold(id: string): string | null {
    return (this.#speaks.has(id) && this.setup.locks[id]?.holdUntil) || null;
  }

  #restBefore(index: number): boolean {
    const [before, sound] = [this.sounds[index - 1]!, this.sounds[index]!];
    return !before.grace && sound.onset > before.onset + before.duration;
  }

  /** A slide comes from the note before where that lies close below on the string, else from a semitone below. */
  #glide({ source, grace }: Sound, state: HandState, before: HandState | null): Glide | null {
    const stop = state.stops.at(-1)!;
    if (grace || !source.note.decorations?.includes('slide') || stop.finger === 0) return null;
    const from = before?.stops.find(({ string, finger }) => string === stop.string && finger > 0);
    const way = from ? stop.semitones - from.semitones : 0;
    if (!from || way < 1 || way > 4)
      return { finger: stop.finger, below: 1, text: `slide ${stop.finger} into it from a semitone below` };
    return {
      finger: from.finger,
      below: way,
      text:
        from.finger === stop.finger
          ? `slide up on ${stop.finger}`
          : `slide up on ${from.finger}, then put ${stop.finger}`,
    };
  }

  #alternative(state: HandState, extra: number): Alternative {
    const position = isStopped(state) ? positionOf(state, this.setup.tuning.pitches, this.setup.instrument) : null;
    return {
      stops: state.stops,
      position,
      base: state.frame.base,
      text: stateText(state, this.#stringNames),
      extra: extra / 1000,
      reasons: [],
    };
  }

  /**
   * The cheapest state of each other choice of strings and fingers, with its exact extra cost. At a note
   * with a decision the others are priced as if it were not there.
   */
  #alternatives(step: number) {
    const { states, path, through } = this.#freeAt(step);
    const others: { readonly state: HandState; readonly extra: number }[] = [];
    for (const [key, indices] of this.table.choices(states)) {
      if (key === path.key) continue;
      let best = indices[0]!;
      for (const index of indices) if (through[index]! < through[best]!) best = index;
      if (through[best]! < FORBIDDEN) others.push({ state: states[best]!, extra: through[best]! - this.solution.cost });
    }
    return others.sort((a, b) => a.extra - b.extra);
  }

  /** A step's states with what goes through each, decisions at this one note left aside. */
  #freeAt(step: number) {
    const own = this.chosen(step);
    const all = this.#possible[this.soundAt[step]!]!.states;
    const { states } = this.steps[step]!;
    if (states === all)
      return {
        states,
        path: own,
        through: this.solution.through[step]!,
        before: this.solution.before[step]!,
        after: this.solution.after[step]!,
      };
    const { costs, before, after } = throughEach(this.steps, this.solution, step, all, this.table);
    return { states: all, path: own, through: costs, before, after };
  }

  /** The whole fingering that is cheapest through a state of a step. */
  detourThrough(step: number, state: HandState): Detour {
    const { states, through, before, after } = this.#freeAt(step);
    const index = states.indexOf(state);
    const links = { cost: through[index]!, before: before[index]!, after: after[index]! };
    return detour(this.steps, this.solution, step, state, links);
  }

  /** The best fingerings through other stops at a step, cheapest first. */
  detoursAt(step: number, most = Infinity): readonly Detour[] {
    return this.#alternatives(step)
      .slice(0, most)
      .map(({ state }) => this.detourThrough(step, state));
  }

  /** What the hand may do at a step before anything is decided. */
  statesAt(step: number): readonly HandState[] {
    return this.#possible[this.soundAt[step]!]!.states;
  }

  /** Solves the same tune with other steps, by the same prices. */
  solveOnce(steps: readonly Step[]): Solution {
    return solve(steps, this.table);
  }

  /** The note with the reasons for its choice and for the price of every other way. */
  explained(noteId: string): FingeredNote | null {
    const index = this.fingering.notes.findIndex(({ ids }) => ids.includes(noteId));
    const note = this.fingering.notes[index];
    const step = this.stepOf[index] ?? null;
    if (!note || step === null) return note ?? null;
    const others = this.#alternatives(step);
    const explain = (state: HandState) => explainDetour(this.steps, this.solution, this.detourThrough(step, state));
    const alternatives = note.alternatives.map((alternative, at) => ({
      ...alternative,
      reasons: reasonTexts(explain(others[at]!.state)),
    }));
    const why = note.locked
      ? ['set by you']
      : others[0]
        ? chosenTexts(explain(others[0].state))
        : ['the only way here'];
    return { ...note, alternatives, why };
  }
}

function withoutGate({ gate: _, ...free }: Step): Step {
  return free;
}

const OUT_OF_REACH = {
  stops: [],
  position: null,
  shape: null,
  base: null,
  shift: null,
  extension: false,
  block: false,
  hop: false,
  hold: null,
  glide: null,
  unusual: false,
  locked: false,
  alternatives: [],
  why: [],
  text: 'out of reach',
} as const;

/** @example fingerTune(tune, analyseForm(tune), setup).notes[0].stops[0].finger */
export function fingerTune(tune: Tune, form: Form, setup: HandSetup): Fingering {
  return new Hand(tune, form, setup).fingering;
}

/** The same with the reasons for every choice and every alternative said. */
export function fingerAndExplain(tune: Tune, form: Form, setup: HandSetup): Fingering {
  const hand = new Hand(tune, form, setup);
  return { ...hand.fingering, notes: hand.fingering.notes.map(({ id }) => hand.explained(id)!) };
}

/** States and prices that tunes for the same instrument and tuning share. */
interface Workspace {
  readonly states: Map<string, readonly HandState[]>;
  readonly table: PriceTable;
}
const workspaces = new Map<string, Workspace>();
/** Kept at once; each instrument and tuning that a session meets has one. */
const MOST_WORKSPACES = 8;
/** Chords make many different states; beyond so many the workspace is begun anew. */
const MOST_STATES = 4000;

function workspaceOf({ instrument, tuning }: HandSetup): Workspace {
  const key = `${instrument} ${tuningText(tuning.pitches)}`;
  const known = workspaces.get(key);
  if (known && known.states.size < MOST_STATES) return known;
  if (workspaces.size >= MOST_WORKSPACES) workspaces.clear();
  const made = { states: new Map<string, readonly HandState[]>(), table: new PriceTable() };
  workspaces.set(key, made);
  return made;
}

const frameIds = new WeakMap<object, number>();
let framesKnown = 0;

/** What the hand can do here; where not everything, as much of a chord as it can, and why. */
function possibleAt(
  { id, pitches }: Sound,
  { frames, profile }: SoundContext,
  setup: HandSetup,
  { states }: Workspace,
): Possible {
  let frame = frameIds.get(frames);
  if (frame === undefined) frameIds.set(frames, (frame = framesKnown += 1));
  const open = setup.tuning.pitches;
  const statesOf = (heads: readonly Pitch[]) => {
    const key = `${frame} ${heads.map(({ letter, alter, octave }) => `${letter}${alter}${octave}`).join('+')}`;
    let found = states.get(key);
    if (!found) states.set(key, (found = statesFor(heads, open, frames)));
    return found;
  };
  if (pitches.length > 1 && profile.limits.noDoubleStops) {
    const top = statesOf([pitches.at(-1)!]);
    return {
      states: top,
      problem: { noteId: id, message: 'This learner plays no double stops: the top note alone is fingered.' },
    };
  }
  const all = statesOf(pitches);
  if (all.length > 0) return { states: all };
  const instrument = INSTRUMENT[setup.instrument].name.toLowerCase();
  const tuned = `the ${instrument} tuned ${tuningText(open)}`;
  if (pitches.length === 1)
    return {
      states: [],
      problem: {
        noteId: id,
        message: `This note cannot be reached on ${tuned} (up to ${reach(frames)} semitones above a string). Try another octave or key, or allow a higher position.`,
      },
    };
  const names = INSTRUMENT[setup.instrument].strings.map(({ name }) => name);
  const part = partOfChord(pitches, open, frames);
  const why = whyImpossible(pitches, open, frames, names);
  const near = nearestPossible(pitches, open, frames).map(({ text }) => text);
  const fingered = part[0]?.stops.map(({ pitch }) => midi(pitch)) ?? [];
  const what =
    part.length === 0
      ? `None of these notes can be reached on ${tuned}.`
      : `These notes cannot be stopped together: ${why}. ${fingered.length === 1 ? 'One of them' : `${fingered.length} of them`} is fingered.`.replace(
          /(\d) of them is/,
          '$1 of them are',
        );
  return {
    states: part,
    problem: { noteId: id, message: near.length > 0 ? `${what} Possible: ${near.join('; ')}.` : what },
  };
}

/** Sounds of phrases that take over another phrase's fingers, each with the sound it follows. */
function likePairs(
  form: Form,
  sounds: readonly Sound[],
  { locks, instrument }: HandSetup,
): ReadonlyMap<number, number> {
  const pairs = new Map<number, number>();
  const phrases = phrasesOf(form);
  const soundsIn = (notes: readonly string[]) => {
    const own = new Set(notes);
    return sounds.flatMap(({ source }, index) => (own.has(source.note.id) ? [index] : []));
  };
  for (const [id, { like, instrument: on }] of Object.entries(locks)) {
    if (!like || on !== instrument) continue;
    const own = phrases.find(({ notes }) => notes.includes(id));
    const other = phrases.find(({ notes }) => notes.includes(like));
    if (!own || !other || own === other) continue;
    const [mine, theirs] = [soundsIn(own.notes), soundsIn(other.notes)];
    for (let at = 0; at < Math.min(mine.length, theirs.length); at += 1) {
      const [a, b] = [sounds[mine[at]!]!, sounds[theirs[at]!]!];
      if (a.pitches.map(midi).join() === b.pitches.map(midi).join()) pairs.set(mine[at]!, theirs[at]!);
    }
  }
  return pairs;
}

function totalsOf(cost: number, notes: readonly FingeredNote[]): Fingering['totals'] {
  const played = notes.filter(({ stops }) => stops.length > 0);
  const crossings = played.filter((note, index) => {
    const before = played[index - 1];
    return before && !note.stops.some(({ string }) => before.stops.some((other) => other.string === string));
  });
  return {
    cost: cost / 1000,
    shifts: played.filter(({ shift }) => shift).length,
    crossings: crossings.length,
    extensions: played.filter(({ extension }) => extension).length,
    blocks: played.filter((note, index) => note.block && played[index - 1]?.block).length,
    hops: played.filter(({ hop }) => hop).length,
  };
}

/** Onset in quarters, for people and other programs. */
export const quarters = (ticks: Ticks): number => Math.round((ticks / TICKS_PER_QUARTER) * 10_000) / 10_000;

/**
 * The left hand of a whole tune: steps from notes and graces, narrowed by what is decided, solved, and told
 * in a teacher's terms. Stays open to questions: reasons, other ways, other fingerings.
 */
import type { Tune } from '../music/index.ts';
import type { Form } from '../form/index.ts';
import { INSTRUMENT } from '../instrument/index.ts';
import { contextsOf, soundsOf, type Sound, type SoundContext } from './contexts.ts';
import { decide, type Decided, type HandProblem } from './decided.ts';
import {
  OUT_OF_REACH,
  totalsOf,
  type Alternative,
  type FingeredNote,
  type Fingering,
  type Glide,
  type Shift,
} from './fingering.ts';
import type { Position } from './frames.ts';
import { landingText } from './landmarks.ts';
import { holdsOf, isBlock, isHop, liesAcross } from './marks.ts';
import { possibleAt, workspaceOf, type Possible } from './possible.ts';
import type { HandSetup } from './setup.ts';
import {
  cheapestPath,
  detour,
  explainDetour,
  FORBIDDEN,
  gateCost,
  solve,
  throughEach,
  type Detour,
  type PriceTable,
  type Solution,
  type Step,
} from './solver.ts';
import { isStopped, positionOf, type HandState } from './state.ts';
import { likePairs, samePlaces, usualKeys } from './usual.ts';
import { chosenTexts, reasonTexts, stateText } from './words.ts';

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
      block: liesAcross(state) || [before, after].some((other) => other !== null && isBlock(state, other)),
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

/** @example fingerTune(tune, analyseForm(tune), setup).notes[0].stops[0].finger */
export function fingerTune(tune: Tune, form: Form, setup: HandSetup): Fingering {
  return new Hand(tune, form, setup).fingering;
}

/** The same with the reasons for every choice and every alternative said. */
export function fingerAndExplain(tune: Tune, form: Form, setup: HandSetup): Fingering {
  const hand = new Hand(tune, form, setup);
  return { ...hand.fingering, notes: hand.fingering.notes.map(({ id }) => hand.explained(id)!) };
}

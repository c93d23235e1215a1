/**
 * The left hand of a whole tune: steps from notes and graces, narrowed by what is decided, solved, and told
 * in a teacher's terms. Stays open to questions: reasons, other ways, other fingerings.
 */
import type { Tune } from '../music/index.ts';
import type { Form } from '../form/index.ts';
import { contextsOf, handNotesOf, type HandNote, type NoteContext } from './contexts.ts';
import { becauseOf } from './because.ts';
import { decide, limitsInTheWay, type Decided, type HandProblem, type SetLimit } from './decided.ts';
import { describe } from './describe.ts';
import { effortOf } from './effect.ts';
import type { Alternative, FingeredNote, Fingering, Why } from './fingering.ts';
import { possibleAt, workspaceOf, type Possible, type Workspace } from './possible.ts';
import type { Position } from './vocabulary.ts';
import { handOf, type HandSetup } from './setup.ts';
import { FORBIDDEN, gateCost, type PriceTable, type HandStep } from './prices.ts';
import { detour, explainDetour, throughEach, type Detour, type RuleDifference } from './detours.ts';
import {
  linkOf,
  sameColumn,
  sameSteps,
  solve,
  solveForward,
  throughInto,
  throughState,
  type Earlier,
  type Solution,
} from './solver.ts';
import { isStopped, positionOf, type HandState } from './state.ts';
import { likePairs, samePlaces, usualKeys } from './usual.ts';

/** How a tune is fingered with nothing decided, and from that how places that come back are usually fingered. */
interface Free {
  readonly steps: readonly HandStep[];
  readonly usual: ReadonlyMap<number, string>;
  /** Null where no place comes back, and so nothing had to be solved. */
  readonly solution: Pick<Solution, 'path' | 'forward'> | null;
}

const isSolved = (earlier: Hand | Free): earlier is Earlier & (Hand | Free) => earlier.solution !== null;

/**
 * A tune's left hand, solved, with everything at hand to say more about it when asked.
 * @example new Hand(tune, form, setup).fingering.notes[0].stops[0].finger // 3
 */
export class Hand {
  readonly setup: HandSetup;
  readonly notes: readonly HandNote[];
  /** Only the notes that the hand can reach. */
  readonly steps: readonly HandStep[];
  readonly solution: Solution;
  readonly fingering: Fingering;
  readonly table: PriceTable;
  /** For each note the step it is, or null; and for each step its note. */
  readonly stepOf: readonly (number | null)[];
  readonly noteAt: readonly number[];
  readonly #contexts: readonly NoteContext[];
  readonly #possible: readonly Possible[];
  readonly #speaks: ReadonlySet<string>;
  readonly #told: Pick<Fingering, 'problems' | 'resting'>;
  readonly #workspace: Workspace;
  /** With nothing decided: how it would be fingered, and what places that come back are fingered as. */
  readonly #free: Free;
  /** The other ways at each step that were asked for. */
  readonly #others: (readonly Alternative[] | undefined)[] = [];

  /** @param before the same tune under other decisions: what they do not change is taken over */
  constructor(tune: Tune, form: Form, setup: HandSetup, before?: Hand) {
    this.setup = setup;
    const shared = workspaceOf(setup);
    this.#workspace = shared;
    this.table = shared.table;
    this.notes = before?.notes ?? handNotesOf(tune);
    const earlier = before && before.table === this.table ? before : undefined;
    if (earlier && sameGround(earlier.setup, setup)) {
      this.#contexts = earlier.#contexts;
      this.#possible = earlier.#possible;
      this.stepOf = earlier.stepOf;
      this.noteAt = earlier.noteAt;
      this.#free = earlier.#free;
    } else {
      this.#contexts = contextsOf(tune, form, this.notes, setup);
      this.#possible = this.notes.map((sound, index) => possibleAt(sound, this.#contexts[index]!, setup, shared));
      const noteAt: number[] = [];
      this.stepOf = this.#possible.map(({ states }, index) => (states.length > 0 ? noteAt.push(index) - 1 : null));
      this.noteAt = noteAt;
      this.#free = this.#freely(form, earlier);
    }
    const { usual } = this.#free;
    const decided = this.#decided(form, usual);
    this.#speaks = new Set(Object.keys(setup.locks).filter((id) => !decided.resting.includes(id)));
    const { steps, solution, problems } = this.#solved(decided.steps, usual, earlier ?? this.#free);
    this.steps = steps;
    this.solution = solution;
    const unreached = this.#possible.flatMap(({ problem }) => problem ?? []);
    this.#told = { problems: [...unreached, ...decided.problems, ...problems], resting: decided.resting };
    if (earlier) this.#takeOthers(earlier);
    this.fingering = this.#describe((step) => this.chosen(step), solution.cost, true);
  }

  /** The state that the cheapest fingering has at a step. */
  chosen(step: number): HandState {
    return this.steps[step]!.states[this.solution.path[step]!]!;
  }

  #step(decided: Decided, step: number, usual: ReadonlyMap<number, string>): HandStep {
    const note = this.noteAt[step]!;
    const key = usual.get(note);
    return {
      states: decided.states,
      context: this.#contexts[note]!.context,
      ...(key !== undefined && { usual: key }),
      ...(decided.gate && step > 0 && { gate: decided.gate }),
    };
  }

  /** How places that come back are fingered when nothing is decided. */
  #freely(form: Form, earlier: Hand | undefined): Free {
    const none = new Map<number, string>();
    const steps = this.noteAt.map((sound, step) => this.#step({ states: this.#possible[sound]!.states }, step, none));
    if (earlier && sameSteps(steps, earlier.#free.steps, this.table)) return earlier.#free;
    const places = samePlaces(form, this.notes);
    if (places.size === 0) return { steps, usual: none, solution: null };
    const solution = solveForward(steps, this.table);
    const { path } = solution;
    const usual = usualKeys(places, (sound) => {
      const step = this.stepOf[sound]!;
      return step === null ? undefined : steps[step]!.states[path[step]!]!.key;
    });
    return { steps, usual, solution };
  }

  /** Where nothing differs but what the whole costs, the other ways are the same too, and cost as much more. */
  #takeOthers(earlier: Hand): void {
    const { steps, solution, setup } = earlier;
    const others = earlier.#others;
    const { forward, backward } = this.solution;
    if (setup.instrument !== this.setup.instrument) return;
    this.steps.forEach((step, index) => {
      const same =
        step.states === steps[index]?.states &&
        this.chosen(index) === earlier.chosen(index) &&
        sameColumn(forward[index]!, solution.forward[index]!) &&
        sameColumn(backward[index]!, solution.backward[index]!) &&
        step.states === this.#possible[this.noteAt[index]!]!.states;
      if (same) this.#others[index] = others[index];
    });
  }

  /** Decisions on single notes, then those of phrases that take another's fingers, which needs those fingers. */
  #decided(form: Form, usual: ReadonlyMap<number, string>) {
    const possible = this.#possible.map(({ states }) => states);
    const decided = decide(this.notes, possible, this.setup, new Map());
    const pairs = likePairs(form, this.notes, this.setup);
    if (pairs.size === 0) return decided;
    const steps = this.noteAt.map((sound, step) => this.#step(decided.steps[sound]!, step, usual));
    const { path } = solveForward(steps, this.table);
    const keys = new Map<number, string>();
    for (const [sound, other] of pairs) {
      const step = this.stepOf[other];
      if (step !== null && step !== undefined) keys.set(sound, steps[step]!.states[path[step]!]!.key);
    }
    return decide(this.notes, possible, this.setup, keys);
  }

  /** Solves; where decisions about moving contradict each other, those that cannot be kept are dropped and told. */
  #solved(decided: readonly Decided[], usual: ReadonlyMap<number, string>, earlier: Hand | Free) {
    const problems: HandProblem[] = [];
    const { steps: free } = this.#free;
    let steps = this.noteAt.map((sound, step): HandStep => {
      const { states, gate } = decided[sound]!;
      // Where nothing is decided and nothing is usual it is the very step of before.
      if (!gate && states === free[step]!.states && !usual.has(sound)) return free[step]!;
      return this.#step(decided[sound]!, step, usual);
    });
    let solution = solve(steps, this.table, isSolved(earlier) ? earlier : undefined);
    if (solution.cost >= FORBIDDEN) {
      const at = (step: number) => steps[step]!.states[solution.path[step]!]!;
      steps = steps.map((step, index) => {
        if (index === 0 || gateCost(at(index - 1), at(index), step.gate) === 0) return step;
        if (step.gate === 'waits') return withoutGate(step);
        const noteId = this.notes[this.noteAt[index]!]!.id;
        problems.push({ noteId, kind: step.gate === 'moves' ? 'move-in-place' : 'hold-across-move' });
        return withoutGate(step);
      });
      solution = solve(steps, this.table);
    }
    return { steps, solution, problems };
  }

  /** Another whole fingering, with positions, shifts and holds of its own. */
  fingeringThrough(way: Detour): Fingering {
    return this.#describe((step) => way.states[step - way.from] ?? this.chosen(step), way.cost, false);
  }

  #describe(stateAt: (step: number) => HandState, cost: number, alternatives: boolean): Fingering {
    const at = <Value>(index: number, read: (step: number) => Value, none: Value): Value => {
      const step = this.stepOf[index];
      return step === null || step === undefined ? none : read(step);
    };
    return describe(this.notes, this.setup, {
      states: this.stepOf.map((step) => (step === null ? null : stateAt(step))),
      cost,
      effort: effortOf(
        this.steps,
        this.steps.map((_, step) => stateAt(step)),
        cost,
      ),
      ...this.#told,
      speaks: (id) => this.#speaks.has(id),
      usualAt: (index) => at(index, (step) => this.steps[step]!.usual, undefined),
      alternativesAt: (index) =>
        alternatives ? at(index, (step) => (this.#others[step] ??= this.#otherWays(step)), []) : [],
    });
  }

  #otherWays(step: number): readonly Alternative[] {
    return this.#alternatives(step).map(({ state, extra }) => ({
      stops: state.stops,
      position: this.#positionOf(state),
      base: state.frame.base,
      extra: extra / 1000,
      differences: NOT_ASKED,
    }));
  }

  /** What goes through each state of a step, decisions at it left aside; good until the next step is asked for. */
  #costsAt(step: number, states: readonly HandState[]): Float64Array {
    if (states !== this.steps[step]!.states)
      return throughEach(this.steps, this.solution, step, states, this.table).costs;
    if (through.length < states.length) through = new Float64Array(2 * states.length);
    throughInto(this.solution, step, through);
    return through;
  }

  #positionOf(state: HandState): Position | null {
    const { positions } = this.#workspace;
    let position = positions.get(state);
    if (position === undefined) {
      position = isStopped(state) ? positionOf(state, this.setup.tuning.pitches, handOf(this.setup)) : null;
      positions.set(state, position);
    }
    return position;
  }

  /**
   * The cheapest state of each other choice of strings and fingers, with its exact extra cost. At a note
   * with a decision the others are priced as if it were not there.
   */
  #alternatives(step: number) {
    const path = this.chosen(step);
    const states = this.#possible[this.noteAt[step]!]!.states;
    const costs = this.#costsAt(step, states);
    const others: { readonly state: HandState; readonly extra: number }[] = [];
    for (const choice of this.table.choices(states)) {
      if (choice.key === path.key) continue;
      let best = choice.states[0]!;
      for (const index of choice.states) if (costs[index]! < costs[best]!) best = index;
      if (costs[best]! >= FORBIDDEN) continue;
      const other = { state: states[best]!, extra: costs[best]! - this.solution.cost };
      // Put in its place at once: so few are sorted faster so than by the library.
      let place = others.length;
      while (place > 0 && others[place - 1]!.extra > other.extra) {
        others[place] = others[place - 1]!;
        place -= 1;
      }
      others[place] = other;
    }
    return others;
  }

  /** A step's states with what goes through each, decisions at this one note left aside. */
  #freeAt(step: number) {
    const own = this.chosen(step);
    const all = this.#possible[this.noteAt[step]!]!.states;
    const { states } = this.steps[step]!;
    if (states === all)
      return {
        states,
        path: own,
        through: (state: number) => throughState(this.solution, step, state),
        before: (state: number) => linkOf(this.solution.forward[step]!, state),
        after: (state: number) => linkOf(this.solution.backward[step]!, state),
      };
    const { costs, before, after } = throughEach(this.steps, this.solution, step, all, this.table);
    return {
      states: all,
      path: own,
      through: (state: number) => costs[state]!,
      before: (state: number) => before[state]!,
      after: (state: number) => after[state]!,
    };
  }

  /** The whole fingering that is cheapest through a state of a step. */
  detourThrough(step: number, state: HandState): Detour {
    const { states, through, before, after } = this.#freeAt(step);
    const index = states.indexOf(state);
    const links = { cost: through(index), before: before(index), after: after(index) };
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
    return this.#possible[this.noteAt[step]!]!.states;
  }

  /** Limits that each alone keep such states from a step: there are some without the limit, and none with it. */
  limitsAgainst(step: number, fits: (state: HandState) => boolean): readonly SetLimit[] {
    const { pitches } = this.notes[this.noteAt[step]!]!;
    const { limits, owners } = this.#contexts[this.noteAt[step]!]!.profile;
    return limitsInTheWay(pitches, this.setup, { limits, owners }, fits);
  }

  /** Solves the same tune with other steps, by the same prices. */
  solveOnce(steps: readonly HandStep[]): Solution {
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
      differences: explain(others[at]!.state),
    }));
    const why: Why = {
      choice: note.locked ? 'set' : alternatives.length > 0 ? 'cheaper' : 'only',
      because: note.locked ? [] : becauseOf(this, step),
    };
    return { ...note, alternatives, why };
  }
}

function withoutGate({ gate: _, ...free }: HandStep): HandStep {
  return free;
}

/** Whether everything is the same but what was decided note by note. */
function sameGround(a: HandSetup, b: HandSetup): boolean {
  if (a.instrument !== b.instrument || a.tempo !== b.tempo || !sameSet(a.slurred, b.slurred)) return false;
  const rest = ({ tuning, limits, wishes, partWishes, learner, grade }: HandSetup) =>
    JSON.stringify([tuning, limits, wishes, partWishes, learner, grade]);
  return rest(a) === rest(b);
}

function sameSet(a: ReadonlySet<string> | undefined, b: ReadonlySet<string> | undefined): boolean {
  if (a === b) return true;
  return a !== undefined && b !== undefined && a.size === b.size && [...a].every((one) => b.has(one));
}

/** Memory for what goes through the states of one step. */
let through = new Float64Array(64);

/** Reasons of a way come when they are asked for. */
const NOT_ASKED: readonly RuleDifference[] = [];

/** The hand that was last worked out for a tune in a form. */
const lastHands = new WeakMap<Tune, { readonly form: Form; readonly hand: Hand }>();

/**
 * A tune's left hand. After a decision only what it can change is worked out again.
 * @example handFor(tune, form, setup).fingering.notes[0].stops[0].finger // 3
 */
export function handFor(tune: Tune, form: Form, setup: HandSetup): Hand {
  const last = lastHands.get(tune);
  const hand = new Hand(tune, form, setup, last?.form === form ? last.hand : undefined);
  lastHands.set(tune, { form, hand });
  return hand;
}

/** @example fingerTune(tune, form, setup).notes[0].stops[0].finger // 3 */
export function fingerTune(tune: Tune, form: Form, setup: HandSetup): Fingering {
  return handFor(tune, form, setup).fingering;
}

/**
 * The same with the reasons for every choice and every alternative said.
 * @example fingerAndExplain(reel, form, setup).notes[0].why.choice // 'cheaper'
 */
export function fingerAndExplain(tune: Tune, form: Form, setup: HandSetup): Fingering {
  const hand = new Hand(tune, form, setup);
  return { ...hand.fingering, notes: hand.fingering.notes.map(({ id }) => hand.explained(id)!) };
}

/**
 * The cheapest legal bowing: which way each stroke goes, and what is done so that beats come down. Dynamic
 * programming over the strokes, with two directions and whether a stroke was made of two; exact. Section 5 of the
 * domain. What another choice would cost is read from the same steps: each is a matrix over the four states, and
 * products of them are kept in a tree, so that a choice that holds each time its bar is played costs little to weigh.
 */
import { dequal } from 'dequal';
import {
  beatLength,
  isCompound,
  isPickup,
  seconds,
  barLength,
  type BowMark,
  type Bpm,
  type Seconds,
  type Tune,
} from '../music/index.ts';
import {
  isRepeated,
  markOf,
  onDownbeat,
  strokeOf,
  type Grouping,
  type PlayedSound,
  type StrokeGroup,
} from './grouping.ts';
import {
  N,
  cheapest,
  emptyMatrix,
  keepCheaper,
  timesRun,
  timesTold,
  times,
  treeOf,
  type Matrix,
  type Row,
} from './minplus.ts';
import { USUAL_SLUR, type BowDecisions, type BowSchool } from './slice.ts';

/** Time that the hand needs to lift the bow and set it down again. */
export const RETAKE_TIME: Seconds = 0.25;
/** A note at the end of a phrase that is long enough to lend the retake its time. */
const LENDING_NOTE: Seconds = 0.5;
/** Notes in one stroke that a repair makes. */
const REPAIRED_SLUR = 2;

/**
 * What is paid for; plain weights. They stand far enough apart that a slur comes before a stop, a stop before a lift,
 * and any of them before a beat that comes up, as section 5 orders them.
 */
export const PRICES = {
  /** A first beat that should be down and is not. */
  notDown: 100,
  /** A slur of two, beginning on a beat; and off it. */
  slur: 1,
  slurOffBeat: 1.5,
  stop: 3,
  lift: 5,
  /** A later place in the bar is that much better, over the whole bar. */
  later: 0.2,
  /** For each bar between a repair and the beat that it turns. */
  early: 0.5,
  /** Notes of the two slurred lie on different strings. */
  crossing: 0.2,
  /** The teacher slurs, or cuts: for each time it is played. */
  departure: 2,
  /** What no rule offers and only the teacher may decide: more for each. */
  unusual: 8,
} as const;

/** What a plan consists of, counted: the reasons of another choice are differences between two of these. */
export interface Tally {
  readonly notDown: number;
  readonly slurs: number;
  readonly stops: number;
  readonly lifts: number;
}
const TERMS = ['notDown', 'slurs', 'stops', 'lifts'] as const;
/** Counts are kept in one number, so many of each at most. */
const BASE = 4096;

export interface PlanContext {
  readonly tempo: Bpm;
  /** First notes of phrases. */
  readonly phraseStarts: ReadonlySet<string>;
  /** The school at a written note: parts may differ. */
  readonly schoolAt: (note: string) => BowSchool;
  /** First notes of parts. */
  readonly partStarts: ReadonlySet<string>;
  /** Whether two notes that follow each other lie on different strings, where the left hand is known. */
  readonly crosses?: (one: string, next: string) => boolean;
}

export interface Planned extends StrokeGroup {
  readonly direction: BowMark;
  /** The bow is lifted and set down anew, in the direction it had just used. */
  readonly retake: boolean;
  /** The bow stops and goes on in the same direction. */
  readonly hook: boolean;
}

export interface Plan {
  readonly strokes: readonly Planned[];
  readonly cost: number;
  readonly tally: Tally;
  /** Strokes on a beat that should be down and is not. */
  readonly notDown: readonly { readonly note: string; readonly time: number }[];
  /** Notes that were slurred to the one before, to turn what follows. */
  readonly joined: ReadonlySet<string>;
}

/** Another choice at a note, wherever it is played. */
export interface BowAlternative {
  /** First note of the stroke, or the note at which it is cut. */
  readonly at: string;
  readonly change: BowMark | 'slur' | 'cut';
  /** What it costs the whole tune. */
  readonly extra: number;
  /** What there would be more or fewer of. */
  readonly differences: Tally;
}

const other = (direction: BowMark): BowMark => (direction === 'down' ? 'up' : 'down');

/** A stroke to come, as far as its price depends on it. */
interface Node {
  readonly group: StrokeGroup;
  /** A direction that the teacher or the tune has set. */
  readonly set: BowMark | null;
  readonly joint: 'lift' | 'stop' | null;
  /** It may not become one with the stroke before it. */
  readonly fixed: boolean;
  readonly down: boolean;
  readonly school: BowSchool;
  /** Bars from its own to the next in which a beat should be down; a repair in the bar just before is best. */
  readonly ahead: number;
}

/** Direction, and whether the last stroke was made of two. */
interface State {
  readonly direction: BowMark;
  readonly merged: boolean;
}
const STATES: readonly State[] = [
  { direction: 'down', merged: false },
  { direction: 'up', merged: false },
  { direction: 'down', merged: true },
  { direction: 'up', merged: true },
];

const COUNT: Readonly<Record<keyof Tally, number>> = {
  notDown: 1,
  slurs: BASE,
  stops: BASE ** 2,
  lifts: BASE ** 3,
};

const tallyOf = (counts: number): Tally =>
  Object.fromEntries(TERMS.map((term) => [term, Math.floor(counts / COUNT[term]) % BASE])) as unknown as Tally;

/**
 * Weighs bowings of one tune under one set of decisions.
 * @example bowTuneWithWays(reel, form).planner instanceof BowPlanner // true
 */
export class BowPlanner {
  readonly #tune: Tune;
  readonly #decided: BowDecisions;
  readonly #context: PlanContext;
  readonly #nodes: readonly Node[];
  readonly #steps: readonly Matrix[];
  /** By played bar: how many bars lie between it and the next in which a beat should be down. */
  #nextDown: readonly number[] = [];
  /** By written note that begins a sound: where it is played. */
  readonly #places: ReadonlyMap<string, readonly Place[]>;
  /** By note: the planned stroke that it is on, the first time round. */
  readonly #planned = new Map<string, Planned>();
  /** What the teacher's own slurs and cuts cost, whatever else is done. */
  readonly #departed: number;
  readonly plan: Plan;
  #tree: readonly (readonly Matrix[])[] | null = null;

  /** @param before who planned the very same strokes, under other decisions: what those leave alone is taken over */
  constructor(
    tune: Tune,
    { strokes, departures }: Pick<Grouping, 'strokes' | 'departures'>,
    decided: BowDecisions,
    context: PlanContext,
    before: BowPlanner | null = null,
  ) {
    this.#tune = tune;
    this.#decided = decided;
    this.#context = context;
    const known = before && this.#isAsBefore(before, strokes) ? before : null;
    this.#nodes = known ? this.#nodesAfter(known) : this.#nodesOf(strokes);
    this.#steps = this.#nodes.map((node, index) => {
      const last = this.#nodes[index - 1];
      const isSame = known !== null && node === known.#nodes[index] && last === known.#nodes[index - 1];
      return isSame ? known.#steps[index]! : this.#matrix(last ?? null, node);
    });
    this.#places = known ? known.#places : placesOf(this.#nodes);
    this.#departed = departures * PRICES.departure;
    this.plan = this.#best();
    for (const stroke of this.plan.strokes) {
      for (const note of stroke.notes) if (!this.#planned.has(note)) this.#planned.set(note, stroke);
    }
  }

  /**
   * What could be done otherwise at a note, with what it costs: the bow turned, a slur to the note before, a slur cut.
   * Each holds wherever the note is played.
   */
  alternatives(note: string): readonly BowAlternative[] {
    const places = this.#places.get(note) ?? [];
    const [first] = places;
    if (!first) return [];
    const planned = this.#planned.get(note)!;
    const begins = planned.notes[0] === note;
    const found: BowAlternative[] = [];
    const weigh = (change: BowAlternative['change'], options: Options): void => {
      const alternative = this.#weighed(note, places, change, options);
      if (alternative) found.push(alternative);
    };
    if (begins) weigh(other(planned.direction), { turn: other(planned.direction) });
    if (begins && this.#canJoin(places)) weigh('slur', { join: true });
    if (!begins) weigh('cut', { cut: true });
    return found;
  }

  #weighed(
    note: string,
    places: readonly Place[],
    change: BowAlternative['change'],
    options: Options,
  ): BowAlternative | null {
    let row = this.#begin(
      this.#nodes[0]!.set !== null || (options.turn !== undefined && places[0]!.stroke === 0),
      this.#openingUnder(places[0]!, options),
    );
    let next = 0;
    for (const [index, { stroke, sound }] of places.entries()) {
      // Strokes that one change makes of others: everything that begins or follows on them is weighed anew.
      const changed = this.#changedAt(stroke, sound, options);
      const from = stroke - changed.replaces + 1;
      if (from < next) return null;
      row = this.#over(row, next, from);
      let before = this.#nodes[from - 1] ?? null;
      for (const node of changed.nodes) {
        row = times(row, this.#matrix(before, node, options));
        before = node;
      }
      next = stroke + 1;
      const after = this.#nodes[next];
      if (changed.nodes.length > 0 && after && places[index + 1]?.stroke !== next) {
        row = times(row, this.#matrix(before, after));
        next += 1;
      }
    }
    row = this.#over(row, next, this.#nodes.length);
    const best = cheapest(row);
    if (best.cost === Infinity) return null;
    const departed = options.turn ? 0 : places.length * PRICES.departure;
    const tally = tallyOf(best.counts);
    const differences = Object.fromEntries(
      TERMS.map((term) => [term, tally[term] - this.plan.tally[term]]),
    ) as unknown as Tally;
    return { at: note, change, extra: best.cost + departed + this.#departed - this.plan.cost, differences };
  }

  /** The strokes that stand in the place of one, or of the one before it too, under a change. */
  #changedAt(stroke: number, sound: number, { cut, join }: Options): { nodes: readonly Node[]; replaces: 1 | 2 } {
    const node = this.#nodes[stroke]!;
    if (cut && sound > 0) return { nodes: this.#split(node, sound), replaces: 1 };
    if (cut) return { nodes: [{ ...node, fixed: true }], replaces: 1 };
    const before = this.#nodes[stroke - 1];
    if (!join || !before) return { nodes: [node], replaces: 1 };
    const group = strokeOf([...before.group.sounds, ...node.group.sounds] as unknown as [PlayedSound]);
    return { nodes: [{ ...before, group }], replaces: 2 };
  }

  /** Whether a bow could go on over the joint before a stroke, wherever it is played. */
  #canJoin(places: readonly Place[]): boolean {
    return places.every(({ stroke }) => {
      const first = this.#nodes[stroke]!.group.sounds[0]!;
      return stroke > 0 && first.reached && !first.joint;
    });
  }

  /** A stroke cut in two at one of its sounds. */
  #split(node: Node, at: number): readonly [Node, Node] {
    const parts = [node.group.sounds.slice(0, at), node.group.sounds.slice(at)].map((sounds) =>
      strokeOf(sounds as unknown as [PlayedSound, ...PlayedSound[]]),
    );
    return parts.map((group, index) => ({
      ...this.#nodeOf(group),
      ahead: this.#aheadOf(group),
      fixed: index > 0 || node.fixed,
    })) as unknown as [Node, Node];
  }

  #over(row: Row, from: number, to: number): Row {
    return timesRun(row, (this.#tree ??= treeOf(this.#steps)), from, to);
  }

  /** Whether the same strokes were weighed at the same prices, but for what is set at single notes. */
  #isAsBefore(before: BowPlanner, strokes: readonly StrokeGroup[]): boolean {
    const [now, then] = [this.#context, before.#context];
    const [own, theirs] = [this.#decided, before.#decided];
    return (
      this.#tune === before.#tune &&
      strokes.length === before.#nodes.length &&
      strokes.every((group, index) => group === before.#nodes[index]!.group) &&
      now.tempo === then.tempo &&
      now.crosses === then.crosses &&
      now.phraseStarts === then.phraseStarts &&
      now.partStarts === then.partStarts &&
      own.school === theirs.school &&
      own.downbeats === theirs.downbeats &&
      own.maxSlur === theirs.maxSlur &&
      dequal(own.schools, theirs.schools) &&
      dequal(own.slurs, theirs.slurs)
    );
  }

  #nodesAfter(before: BowPlanner): readonly Node[] {
    this.#nextDown = before.#nextDown;
    const [own, theirs] = [this.#decided, before.#decided];
    return before.#nodes.map((node) => {
      const first = node.group.notes[0]!;
      const same = own.turns[first] === theirs.turns[first] && own.joints[first] === theirs.joints[first];
      return same ? node : { ...this.#nodeOf(node.group), ahead: node.ahead };
    });
  }

  #nodesOf(strokes: readonly StrokeGroup[]): readonly Node[] {
    // Told by the sounds, so that a slur over a bar line changes no other price.
    const downs = new Set<number>();
    for (const { sounds } of strokes) {
      for (const sound of sounds) if (this.#isBeat(sound)) downs.add(sound.place);
    }
    let next: number | null = null;
    const nextDown: number[] = [];
    for (let place = strokes.at(-1)?.sounds.at(-1)?.place ?? 0; place >= 0; place -= 1) {
      nextDown[place] = next === null ? 0 : next - place - 1;
      if (downs.has(place)) next = place;
    }
    this.#nextDown = nextDown;
    return strokes.map((group) => ({ ...this.#nodeOf(group), ahead: this.#aheadOf(group) }));
  }

  /** What stands on the beat itself turns it, and is no later than what stands before it. */
  #aheadOf({ place, sounds }: StrokeGroup): number {
    return this.#isBeat(sounds[0]!) ? 0 : this.#nextDown[place]!;
  }

  #nodeOf(group: StrokeGroup): Node {
    const first = group.notes[0]!;
    const { turns, slurs, joints } = this.#decided;
    const school = this.#context.schoolAt(first);
    return {
      group,
      set: turns[first] ?? markOf(group),
      joint: joints[first] ?? null,
      fixed: slurs[first] !== undefined || turns[first] !== undefined || markOf(group) !== null,
      down: this.#isBeat(group.sounds[0]!),
      school,
      ahead: 0,
    };
  }

  /** A beat that should be down. */
  #isBeat(sound: PlayedSound): boolean {
    if (this.#context.schoolAt(sound.ids[0]!) !== 'down-on-the-beat' || !onDownbeat(this.#tune, sound)) return false;
    return this.#decided.downbeats === 'bar' || this.#beginsPart(sound);
  }

  /** The first whole bar of a part, its pickup aside. */
  #beginsPart({ barIndex, ids }: PlayedSound): boolean {
    const before = this.#tune.bars[barIndex - 1];
    const pickup = before !== undefined && before.length < barLength(before.metre);
    const starts = [...(pickup ? before.events : []), { id: ids[0]! }];
    return starts.some(({ id }) => this.#context.partStarts.has(id));
  }

  /** What it costs to come to a stroke, from each state to each. */
  #matrix(before: Node | null, node: Node, options: Options = {}): Matrix {
    const matrix = emptyMatrix();
    const into = (from: number, to: State, price: number, term: keyof Tally | null): void => {
      const wrong = node.down && to.direction === 'up' && !to.merged;
      if (options.turn && to.direction !== options.turn) return;
      if (node.set && !options.turn && to.direction !== node.set && !to.merged) return;
      const counts = (term ? COUNT[term] : 0) + (wrong ? COUNT.notDown : 0);
      keepCheaper(price + (wrong ? PRICES.notDown : 0), counts, matrix, from * N + indexOf(to));
    };
    if (!before) {
      // Nothing comes before the first: its state is the one that it is begun in.
      for (const from of [0, 1]) into(from, STATES[from]!, 0, null);
      return matrix;
    }
    STATES.forEach((state, from) => {
      const turned = { direction: other(state.direction), merged: false };
      const same = { direction: state.direction, merged: false };
      // Lifted, the bow can also begin again in the direction that is asked for; stopped, a direction that is set goes before.
      const isSet = node.set !== null || options.turn !== undefined;
      if (!node.joint) into(from, turned, 0, null);
      else if (isSet && node.joint === 'lift') into(from, turned, PRICES.lift, 'lifts');
      else if (isSet) into(from, turned, 0, null);
      const slur = this.#slurPrice(before, node, state);
      if (slur !== null && !options.turn) into(from, { ...same, merged: true }, slur, 'slurs');
      // A direction that is set is reached in any way; else only in those that the rules offer.
      const must = isSet || node.joint !== null;
      if (node.joint !== 'stop') {
        const lift = this.#liftPrice(before, node, must);
        if (lift !== null) into(from, same, lift, 'lifts');
      }
      if (node.joint !== 'lift') {
        const stop = this.#stopPrice(before, node, must);
        if (stop !== null) into(from, same, stop, 'stops');
      }
    });
    return matrix;
  }

  /** Two notes in the weak part of the bar, the later the better, those that begin on a beat first. */
  #slurPrice(before: Node, node: Node, state: State): number | null {
    const [one, two] = [before.group, node.group];
    const [last, first] = [one.sounds.at(-1)!, two.sounds[0]!];
    if (state.merged || !first.reached || first.joint) return null;
    const { maxSlur } = this.#decided;
    const beat = beatLength(this.#tune.bars[one.barIndex]!.metre);
    const bar = barLength(this.#tune.bars[one.barIndex]!.metre);
    const usual =
      node.school === 'down-on-the-beat' &&
      before.school === 'down-on-the-beat' &&
      !node.fixed &&
      one.place === two.place &&
      one.at >= beat &&
      one.sounds.length === 1 &&
      two.sounds.length === 1 &&
      (maxSlur ?? USUAL_SLUR) >= REPAIRED_SLUR &&
      !this.#context.phraseStarts.has(two.notes[0]!) &&
      !isRepeated(last.note, first.note);
    if (!usual) return null;
    const crossing = this.#context.crosses?.(last.ids.at(-1)!, first.ids[0]!) ? PRICES.crossing : 0;
    const price = one.at % beat === 0 ? PRICES.slur : PRICES.slurOffBeat;
    return price + crossing + laterness(one.at / bar, before);
  }

  /** Long and short: three to one anywhere, two to one where beats are in three or bars counted in three. */
  #stopPrice(before: Node, node: Node, decided: boolean): number | null {
    const [one, two] = [before.group, node.group];
    const last = one.sounds.at(-1)!;
    const first = two.sounds[0]!;
    const { metre } = this.#tune.bars[one.barIndex]!;
    const ratios = isCompound(metre) || metre.beats === 3 ? [3, 2] : [3];
    const usual =
      node.school === 'down-on-the-beat' &&
      last.place === first.place &&
      first.reached &&
      two.sounds.length === 1 &&
      !node.down &&
      ratios.includes(last.duration / first.duration);
    if (!usual && !decided) return null;
    return PRICES.stop + laterness(two.at / barLength(metre), node) + (usual ? 0 : PRICES.unusual);
  }

  /** Over a rest, or at the end of a phrase whose note lends the time. */
  #liftPrice(before: Node, node: Node, decided: boolean): number | null {
    const can = this.#hasTimeToLift(before, node);
    const usual = can && node.school === 'down-on-the-beat';
    // Without the time only a lift that is asked for by name is one, and it is said that it has none.
    if (!usual && (!decided || (!can && node.joint !== 'lift'))) return null;
    const bar = barLength(this.#tune.bars[node.group.barIndex]!.metre);
    return PRICES.lift + laterness(node.down ? 1 : node.group.at / bar, node) + (usual || can ? 0 : PRICES.unusual);
  }

  #hasTimeToLift({ group: before }: Node, { group }: Node): boolean {
    return hasTimeToLift(before, group, this.#context);
  }

  /** The strokes of the opening where one of them is slurred to another, or cut: what the first direction is read from. */
  #openingUnder({ stroke, sound }: Place, { join, cut }: Options): readonly Pick<Node, 'group'>[] {
    const bar = firstBar(this.#tune);
    const reached = this.#nodes.findIndex(({ group }) => group.barIndex >= bar);
    // Where one slur from the pickup holds all, a cut may begin the whole bar.
    const until = reached < 0 ? this.#nodes.length : reached + 2;
    if (stroke >= until) return this.#nodes;
    const opening = this.#nodes.slice(0, until);
    if (join) return opening.toSpliced(stroke, 1);
    return cut && sound > 0 ? opening.toSpliced(stroke, 1, ...this.#split(this.#nodes[stroke]!, sound)) : opening;
  }

  /**
   * @param free the first stroke's direction is asked for: either can be begun with
   * @param opening strokes until the first of the first whole bar
   */
  #begin(free = this.#nodes[0]?.set != null, opening: readonly Pick<Node, 'group'>[] = this.#nodes): Row {
    const first = this.#decided.start ?? firstDirection(this.#tune, opening);
    const cost = new Float64Array(N).fill(Infinity);
    STATES.forEach(({ direction, merged }, at) => {
      if (!merged && (free || direction === first)) cost[at] = 0;
    });
    return { cost, counts: new Float64Array(N) };
  }

  /** The best path, with its steps. */
  #best(): Plan {
    const nodes = this.#nodes;
    let row = this.#begin();
    const origins = nodes.map((_, index) => {
      const { row: next, origin } = timesTold(row, this.#steps[index]!);
      row = next;
      return origin;
    });
    const best = cheapest(row);
    const path: number[] = [];
    let at = best.at;
    for (let index = nodes.length - 1; index >= 0; index -= 1) {
      path[index] = at;
      at = origins[index]![at]!;
    }
    return {
      ...this.#told(path),
      cost: (nodes.length > 0 ? best.cost : 0) + this.#departed,
      tally: tallyOf(best.counts),
    };
  }

  #told(path: readonly number[]): Omit<Plan, 'cost' | 'tally'> {
    const strokes: Planned[] = [];
    const joined = new Set<string>();
    const notDown: Plan['notDown'][number][] = [];
    path.forEach((at, index) => {
      const { direction, merged } = STATES[at]!;
      const { group, down, joint } = this.#nodes[index]!;
      const last = strokes.at(-1);
      if (merged && last) {
        const both = strokeOf([...last.sounds, ...group.sounds] as [PlayedSound]);
        strokes[strokes.length - 1] = plannedOf(both, last);
        joined.add(group.notes[0]!);
        return;
      }
      const same = last?.direction === direction;
      const before = this.#nodes[index - 1];
      const lifts =
        last !== undefined &&
        joint !== 'stop' &&
        (joint === 'lift' || (same && this.#hasTimeToLift(before!, this.#nodes[index]!)));
      if (down && direction === 'up') notDown.push({ note: group.notes[0]!, time: group.time });
      strokes.push(plannedOf(group, { direction, retake: lifts, hook: same && !lifts }));
    });
    return { strokes, joined, notDown };
  }
}

/** A sound by its stroke and its number there. */
interface Place {
  readonly stroke: number;
  readonly sound: number;
}

/** Field by field: there are thousands of these, and a spread takes several times as long. */
const plannedOf = (
  { barIndex, place, time, onset, at, sounds, duration, notes }: StrokeGroup,
  { direction, retake, hook }: Pick<Planned, 'direction' | 'retake' | 'hook'>,
): Planned => ({ barIndex, place, time, onset, at, sounds, duration, notes, direction, retake, hook });

function placesOf(nodes: readonly Node[]): ReadonlyMap<string, readonly Place[]> {
  const places = new Map<string, Place[]>();
  nodes.forEach(({ group }, stroke) =>
    group.sounds.forEach(({ ids }, sound) => {
      const known = places.get(ids[0]!);
      if (known) known.push({ stroke, sound });
      else places.set(ids[0]!, [{ stroke, sound }]);
    }),
  );
  return places;
}

/** What a weighing asks for at a note. */
interface Options {
  readonly turn?: BowMark;
  readonly join?: boolean;
  readonly cut?: boolean;
}

const indexOf = ({ direction, merged }: State): number => (direction === 'up' ? 1 : 0) + (merged ? 2 : 0);

/** The later in the bar the better, and better in the bar just before. @param share how far into the bar */
const laterness = (share: number, { ahead }: Pick<Node, 'ahead'>): number =>
  PRICES.early * ahead + PRICES.later * (1 - share);

/**
 * Whether the bow can be lifted before a stroke: over a rest, or at a phrase's end whose note lends the time.
 */
export function hasTimeToLift(
  before: StrokeGroup,
  group: StrokeGroup,
  { tempo, phraseStarts }: Pick<PlanContext, 'tempo' | 'phraseStarts'>,
): boolean {
  const rest = seconds(group.onset - before.onset - before.duration, tempo);
  if (rest >= RETAKE_TIME) return true;
  const last = before.sounds.at(-1)!;
  return phraseStarts.has(group.notes[0]!) && seconds(last.duration, tempo) >= LENDING_NOTE;
}

/**
 * The very first stroke is chosen so that the first whole bar begins down: a pickup of one stroke starts up, of two
 * down. Where that bar begins with a note that is held over, its first new stroke is down; where it begins with a
 * rest, that stroke is up.
 */
function firstDirection(tune: Tune, nodes: readonly Pick<Node, 'group'>[]): BowMark {
  const bar = firstBar(tune);
  const at = nodes.findIndex(({ group }) => group.barIndex >= bar);
  if (at < 0) return 'down';
  const { group } = nodes[at]!;
  const [event] = tune.bars[group.barIndex]!.events;
  const wanted: BowMark = group.at > 0 && event?.kind === 'rest' ? 'up' : 'down';
  return at % 2 === 0 ? wanted : other(wanted);
}

const firstBar = (tune: Tune): number => (isPickup(tune.bars, 0) ? 1 : 0);

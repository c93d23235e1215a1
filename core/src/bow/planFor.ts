/**
 * A bowing planned for a phrase, a part or the whole tune: the cheapest legal strokes under the school, the pattern, the learner's
 * longest slur and what the teacher has set, with beats, syllables, string crossings and the way along the hair weighed
 * together. Section 5 of the domain. It is offered, never taken by itself.
 */
import { beatLength, isCompound, type BowMark, type Bpm, type Tune } from '../music/index.ts';
import type { Instrument } from '../instrument/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { groupSounds, isRepeated, onDownbeat, playedSounds, type PlayedSound } from './grouping.ts';
import { PRICES, hasTimeToLift } from './plan.ts';
import { USUAL_SLUR, type BowDecisions, type BowSchool } from './slice.ts';
import { cheapestStretch, type Follows, type StretchProblem, type StretchStroke } from './stretch.ts';
import { bowTune, schoolsOf, type Bowing, type Stroke } from './strokes.ts';
import { REGION_BOUNDS, naturalLength, regionWishes, travelOf, type Travelling } from './travel.ts';
import { finished } from '../stage/index.ts';

/**
 * What is weighed beside the prices of the plan of directions; plain weights, on their scale: a stroke half as long
 * again as is natural is about as bad as an added slur.
 */
export const STRETCH_PRICES = {
  /** Times the squared logarithm of planned over natural length. */
  strain: 6,
  /** As it comes: a first beat that comes up. */
  upBeat: 0.5,
  /** A slur over the beginning of a syllable; a new stroke within a held one. */
  overSyllable: 4,
  withinSyllable: 3,
  /** What follows comes on the other bow than now. */
  turnsRest: 2,
  /** A millimetre outside the wished region. */
  outside: 0.2,
} as const;

/** Places on the hair lie so far apart here: as near as a player hits one. */
const STEP = 25;

export interface StretchContext {
  readonly tune: Tune;
  readonly form: Form;
  readonly tempo: Bpm;
  readonly instrument: Pick<Instrument, 'hair'>;
  /** Whether two notes that follow each other lie on different strings, where the left hand is known. */
  readonly crosses?: (one: string, next: string) => boolean;
}

/** What there is more or fewer of in a planned bowing; strokes of the whole tune, each time they are played. */
export interface StretchDifferences {
  readonly notDown: number;
  readonly slurred: number;
  readonly stops: number;
  readonly lifts: number;
  readonly sticksOut: number;
  readonly crossings: number;
}

export interface PlannedStretch {
  /** What has to be decided; null where nothing better is found. */
  readonly change: Pick<BowDecisions, 'slurs' | 'joints'> | null;
  /** Price of the whole tune's bowing before and after. */
  readonly before: number;
  readonly after: number;
  readonly differences: StretchDifferences;
}

/**
 * Plans the strokes of some notes: exact for each stretch of them that is played in one go, and taken only where the
 * whole tune is not worse off.
 * @param notes written notes of the phrase, the part or the tune
 * @example planStretch({ ...facts, tempo: 120 }, facts.decisions.bow, facts.form.parts[0].phrases[0].notes).before >= 0 // true
 */
export function planStretch(context: StretchContext, decided: BowDecisions, notes: Iterable<string>): PlannedStretch {
  return finished(planStretchSteps(context, decided, notes));
}

/**
 * The same in steps, as a whole tune takes a while; each gives the share that is done.
 * @example planStretchSteps({ ...facts, tempo: 120 }, facts.decisions.bow, []).next().done // true
 */
export function* planStretchSteps(
  context: StretchContext,
  decided: BowDecisions,
  notes: Iterable<string>,
): Generator<number, PlannedStretch> {
  const scope = new Set(notes);
  const scale = scaleOf(context, decided);
  const first = stateOf(context, decided, scale);
  let best = first;
  const runs = runsOf(scale.sounds, scope);
  for (const [index, run] of runs.entries()) {
    yield index / runs.length;
    const planned = planRun(context, best, scale, run);
    if (!planned) continue;
    const change = decisionsFor(best, scale, run, planned);
    const next = stateOf(context, { ...best.decided, ...change }, scale);
    if (next.price < best.price - 1e-9) best = next;
  }
  const { slurs, joints } = best.decided;
  const difference = (name: keyof StretchDifferences) => best.counts[name] - first.counts[name];
  return {
    change: best === first ? null : { slurs, joints },
    before: first.price,
    after: best.price,
    differences: {
      notDown: difference('notDown'),
      slurred: difference('slurred'),
      stops: difference('stops'),
      lifts: difference('lifts'),
      sticksOut: difference('sticksOut'),
      crossings: difference('crossings'),
    },
  };
}

/** What does not change while it is planned: the sounds, what stands between them, and prices. */
interface Scale {
  readonly sounds: readonly PlayedSound[];
  readonly phraseStarts: ReadonlySet<string>;
  readonly school: (note: string) => BowSchool;
  /** By number of a sound: whether tune, pattern or teacher now put it on the stroke of the one before. */
  readonly joined: readonly boolean[];
  /** Whether the words want a sound to begin a stroke; null where they say nothing. */
  readonly syllable: readonly (boolean | null)[];
  readonly isBeat: (sound: PlayedSound) => boolean;
}

function scaleOf({ tune, form }: StretchContext, decided: BowDecisions): Scale {
  const sounds = playedSounds(tune);
  const phraseStarts = new Set(phrasesOf(form).flatMap(({ notes }) => notes.slice(0, 1)));
  const partStarts = new Set(form.parts.flatMap(({ phrases }) => phrases[0]?.notes.slice(0, 1) ?? []));
  const { strokes } = groupSounds(tune, sounds, decided, phraseStarts);
  const school = schoolsOf(form, decided);
  const wanted = (sound: PlayedSound) =>
    onDownbeat(tune, sound) && (decided.downbeats === 'bar' || partStarts.has(sound.ids[0]!));
  return {
    sounds,
    phraseStarts,
    school,
    joined: strokes.flatMap(({ sounds: own }) => own.map((_, index) => index > 0)),
    syllable: syllablesOf(sounds, decided.verse),
    isBeat: wanted,
  };
}

function syllablesOf(sounds: readonly PlayedSound[], verse: number): readonly (boolean | null)[] {
  if (!sounds.some(({ note }) => note.words?.[verse])) return sounds.map(() => null);
  let held = false;
  return sounds.map(({ note }) => {
    const syllable = note.words?.[verse];
    if (syllable) held = syllable.extend ?? false;
    return syllable ? true : held ? false : null;
  });
}

/** A bowing under some decisions, with its way along the hair and its price. */
interface State {
  readonly decided: BowDecisions;
  readonly bowing: Bowing;
  readonly travel: Travelling;
  /** By number of a sound: the stroke that it is on. */
  readonly strokeAt: readonly number[];
  readonly price: number;
  readonly counts: StretchDifferences;
}

function stateOf(context: StretchContext, decided: BowDecisions, scale: Scale): State {
  const { tune, form, tempo, instrument } = context;
  const bowing = bowTune(tune, form, decided, tempo);
  const travel = travelOf(bowing, tune, form, tempo, instrument, decided);
  const strokeAt: number[] = [];
  const counts = { notDown: 0, slurred: 0, stops: 0, lifts: 0, sticksOut: 0, crossings: 0 };
  let price = 0;
  let at = 0;
  bowing.strokes.forEach((stroke, index) => {
    const from = at;
    at = endOf(scale.sounds, stroke, at);
    for (let sound = from; sound < at; sound += 1) strokeAt[sound] = index;
    price += strokePrice(context, scale, from, at, stroke.direction);
    if (stroke.hook) price += PRICES.stop;
    if (stroke.retake) price += PRICES.lift;
    price += STRETCH_PRICES.strain * Math.log(travel.strokes[index]!.strain) ** 2;
    counts.slurred += at - from - 1;
    counts.stops += Number(stroke.hook);
    counts.lifts += Number(stroke.retake);
    counts.crossings += crossingsIn(context, scale, from, at);
  });
  counts.notDown = bowing.flags.filter(({ kind }) => kind === 'not-down').length;
  counts.sticksOut = travel.flags.filter(({ kind }) => kind === 'sticks-out').length;
  price += PRICES.notDown * bowing.flags.filter(({ kind }) => kind === 'no-time').length;
  return { decided, bowing, travel, strokeAt, price, counts };
}

function endOf(sounds: readonly PlayedSound[], { onset, duration }: Stroke, from: number): number {
  let at = from;
  while (at < sounds.length && sounds[at]!.onset < onset + duration) at += 1;
  return Math.max(at, from + 1);
}

const crossingsIn = ({ crosses }: StretchContext, { sounds }: Scale, from: number, to: number): number => {
  let count = 0;
  for (let at = from + 1; at < to; at += 1) {
    if (crosses?.(sounds[at - 1]!.ids.at(-1)!, sounds[at]!.ids[0]!)) count += 1;
  }
  return count;
};

/** What a stroke costs by what it holds and how it falls on the beat, whether it is allowed or not. */
function strokePrice(context: StretchContext, scale: Scale, from: number, to: number, direction: BowMark): number {
  const { sounds, joined, syllable, isBeat, school } = scale;
  const first = sounds[from]!;
  let price = 0;
  if (direction === 'up' && isBeat(first)) {
    price += school(first.ids[0]!) === 'down-on-the-beat' ? PRICES.notDown : STRETCH_PRICES.upBeat;
  }
  if (from > 0 && joined[from]) price += PRICES.departure;
  if (syllable[from] === false) price += STRETCH_PRICES.withinSyllable;
  const beat = beatLength(context.tune.bars[first.barIndex]!.metre);
  const slur = first.at % beat === 0 ? PRICES.slur : PRICES.slurOffBeat;
  for (let at = from + 1; at < to; at += 1) {
    if (!joined[at]) price += syllable[at] === false ? 0 : slur;
    if (syllable[at]) price += STRETCH_PRICES.overSyllable;
  }
  return price + PRICES.crossing * crossingsIn(context, scale, from, to);
}

interface Run {
  readonly from: number;
  readonly to: number;
}

/** Stretches of the notes that are played in one go, the first time round. */
function runsOf(sounds: readonly PlayedSound[], scope: ReadonlySet<string>): readonly Run[] {
  const runs: { from: number; to: number }[] = [];
  sounds.forEach(({ ids, time }, at) => {
    if (time > 1 || !scope.has(ids[0]!)) return;
    const last = runs.at(-1);
    if (last?.to === at) last.to = at + 1;
    else runs.push({ from: at, to: at + 1 });
  });
  return runs;
}

function planRun(
  context: StretchContext,
  state: State,
  scale: Scale,
  { from, to }: Run,
): readonly StretchStroke[] | null {
  const { tune, tempo, instrument } = context;
  const { decided, bowing, travel, strokeAt } = state;
  const { sounds } = scale;
  const index = strokeAt[from]!;
  // A stroke that comes over from before the stretch is not planned here.
  if (from > 0 && strokeAt[from - 1] === index) return null;
  const natural = naturalLength(tune, bowing.accents, tempo, decided);
  const wished = regionWishes(tune, decided.regions);
  const before = bowing.strokes[index - 1];
  const beforeEnd = travel.strokes[index - 1]?.end;
  const next = bowing.strokes[strokeAt[to] ?? -1];
  const places = Math.floor(instrument.hair / STEP) + 1;
  const longest = longestRun(decided, scale, from, to);
  const problem: StretchProblem = {
    count: to - from,
    most: longest,
    places,
    step: STEP,
    stroke(first, end, direction) {
      const [one, other] = [from + first, from + end];
      if (!isAllowed(decided, scale, one, other, direction)) return Infinity;
      return strokePrice(context, scale, one, other, direction);
    },
    follows: (at, how) => followPrice(context, decided, scale, from + at, how),
    natural(first, end, direction) {
      const last = sounds[from + end - 1]!;
      const begin = sounds[from + first]!;
      return natural(begin.ids[0]!, direction, last.onset + last.duration - begin.onset);
    },
    strain: (ratio) => STRETCH_PRICES.strain * Math.log(ratio) ** 2,
    outside(at, place) {
      const [low, high] = REGION_BOUNDS[wished(sounds[from + at]!.ids[0]!)];
      const where = place * STEP;
      return STRETCH_PRICES.outside * Math.max(0, low * instrument.hair - where, where - high * instrument.hair);
    },
    before:
      before && beforeEnd !== undefined
        ? { direction: before.direction, place: Math.min(places - 1, Math.round(beforeEnd / STEP)) }
        : null,
    first: bowing.strokes[index]!.direction,
    after: (direction) =>
      next && (next.retake || next.hook ? direction !== next.direction : direction === next.direction)
        ? STRETCH_PRICES.turnsRest
        : 0,
  };
  return cheapestStretch(problem)?.strokes ?? null;
}

/** Most sounds to a stroke: the learner's longest slur, and what is on one stroke already. */
function longestRun({ maxSlur }: BowDecisions, { joined }: Scale, from: number, to: number): number {
  let most = maxSlur ?? USUAL_SLUR;
  if (maxSlur !== null) return most;
  let run = 1;
  for (let at = from + 1; at < to; at += 1) {
    run = joined[at] ? run + 1 : 1;
    most = Math.max(most, run);
  }
  return most;
}

/** Whether these sounds may be on one stroke, and begin one that goes that way. */
function isAllowed(
  decided: BowDecisions,
  { sounds, joined, phraseStarts }: Scale,
  from: number,
  to: number,
  direction: BowMark,
): boolean {
  const first = sounds[from]!.ids[0]!;
  const set = decided.turns[first] ?? sounds[from]!.note.bow;
  if (set && set !== direction) return false;
  if (from > 0 && mustJoin(decided, sounds, joined, from)) return false;
  for (let at = from + 1; at < to; at += 1) {
    const [one, sound] = [sounds[at - 1]!, sounds[at]!];
    const id = sound.ids[0]!;
    if (decided.slurs[id] === 'joined' && joined[at]) continue;
    if (decided.slurs[id] === 'cut' || decided.turns[id] || decided.joints[id] || sound.note.bow) return false;
    if (!sound.reached || sound.joint || phraseStarts.has(id) || isRepeated(one.note, sound.note)) return false;
    // A kept slur of the tune stands as it is: nothing enters it, nothing goes on from it.
    const keeps = decided.tuneSlurs === 'keep' && (sound.underSlur || one.underSlur);
    if (keeps && !joined[at]) return false;
  }
  return true;
}

/** What the teacher joined, or a kept slur of the tune, stays on one stroke. */
const mustJoin = (
  { slurs, tuneSlurs }: BowDecisions,
  sounds: readonly PlayedSound[],
  joined: readonly boolean[],
  at: number,
): boolean => joined[at]! && (slurs[sounds[at]!.ids[0]!] === 'joined' || (tuneSlurs === 'keep' && sounds[at]!.slurred));

/** Lifts and stops where the rules offer them, and where the teacher wants them. */
function followPrice(
  context: StretchContext,
  { joints }: BowDecisions,
  { sounds, school, isBeat, phraseStarts }: Scale,
  at: number,
  how: Follows,
): number {
  const sound = sounds[at]!;
  const first = sound.ids[0]!;
  const set = joints[first];
  if (set) return set === how ? 0 : Infinity;
  if (how === 'turn') return 0;
  // As it comes: strictly to and fro.
  if (school(first) !== 'down-on-the-beat') return Infinity;
  const last = sounds[at - 1];
  if (!last) return Infinity;
  if (how === 'lift') {
    const { tempo } = context;
    const can = hasTimeToLift(groupOf(last), groupOf(sound), { tempo, phraseStarts });
    return can ? PRICES.lift : Infinity;
  }
  const { metre } = context.tune.bars[last.barIndex]!;
  const ratios = isCompound(metre) || metre.beats === 3 ? [3, 2] : [3];
  const dotted = last.place === sound.place && sound.reached && ratios.includes(last.duration / sound.duration);
  return dotted && !isBeat(sound) ? PRICES.stop : Infinity;
}

const groupOf = (sound: PlayedSound) => ({ ...sound, sounds: [sound], notes: sound.ids });

/** What has to be decided so that the strokes come out as planned. */
function decisionsFor(
  { decided }: State,
  { sounds, joined }: Scale,
  { from }: Run,
  strokes: readonly StretchStroke[],
): Pick<BowDecisions, 'slurs' | 'joints'> {
  const slurs: Record<string, 'joined' | 'cut'> = { ...decided.slurs };
  const joints: Record<string, 'lift' | 'stop'> = { ...decided.joints };
  for (const stroke of strokes) {
    const at = from + stroke.from;
    const first = sounds[at]!.ids[0]!;
    if (at > 0 && joined[at]) slurs[first] = 'cut';
    if (stroke.follows !== 'turn') joints[first] = stroke.follows;
    for (let inside = at + 1; inside < from + stroke.to; inside += 1) {
      if (!joined[inside]) slurs[sounds[inside]!.ids[0]!] = 'joined';
    }
  }
  return { slurs, joints };
}

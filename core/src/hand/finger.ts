/**
 * The left hand of a whole tune: steps from notes and graces, solved, and the result in terms that a
 * teacher reads: strings, fingers, positions, shifts, blocks, holds, and the price of every alternative.
 */
import {
  quarterBpm,
  seconds,
  soundingNotes,
  TICKS_PER_QUARTER,
  type Bpm,
  type Pitch,
  type Seconds,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { INSTRUMENT, tuningText, type InstrumentId, type Tuning } from '../instrument/index.ts';
import { framesFor, reach, type Frame, type HandLimits, type Position, type Shape } from './frames.ts';
import { fitsLock, lockSpeaks, type Locks } from './locks.ts';
import { explainDifference, solve, type Solution, type Step } from './solver.ts';
import { sameStops, statesFor, stopsKey, type HandState, type Stop } from './state.ts';
import { chosenTexts, reasonTexts, stateText } from './words.ts';

export interface HandSetup {
  readonly instrument: InstrumentId;
  readonly tuning: Tuning;
  readonly limits: HandLimits;
  readonly locks: Locks;
  /** Working tempo in quarters per minute. */
  readonly tempo: Bpm;
}

/** Without a tempo of its own a tune is worked on at this many quarters per minute. */
export const DEFAULT_TEMPO: Bpm = 96;
/** Time that a grace note takes, whatever the tempo. */
const GRACE: Seconds = 0.08;
/** Notes ahead within which a finger that is needed again stays down. */
const HOLD_NOTES = 4;

export interface Alternative {
  readonly stops: readonly Stop[];
  readonly text: string;
  /** What it costs more, for the whole tune, in units of the price list. */
  readonly extra: number;
  readonly reasons: readonly string[];
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
  readonly shift: { readonly from: Position; readonly to: Position } | null;
  readonly extension: boolean;
  /** Same finger across to this string from the note before or to the note after. */
  readonly block: boolean;
  /** The finger stays down until this note, where it is used again at the same place. */
  readonly hold: string | null;
  readonly locked: boolean;
  /** Every other way, cheapest first. */
  readonly alternatives: readonly Alternative[];
  /** Why this one: what it saves over the next best. */
  readonly why: readonly string[];
  readonly text: string;
}

export interface HandProblem {
  readonly noteId: string;
  readonly message: string;
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
  };
  /** Notes that the hand cannot reach, and decisions that rest. */
  readonly problems: readonly HandProblem[];
  /** Ids whose decision does not apply at present. */
  readonly resting: readonly string[];
}

/** The tempo to work at: the one set, the tune's own, or an easy one. */
export function workingTempo(tune: Tune, set?: Bpm): Bpm {
  return set ?? (tune.tempo ? quarterBpm(tune.tempo) : DEFAULT_TEMPO);
}

interface Sound {
  readonly id: string;
  readonly ids: readonly string[];
  readonly grace: boolean;
  readonly source: SoundingNote;
  readonly onset: Ticks;
  readonly duration: Ticks;
  readonly pitches: readonly Pitch[];
}

/** @example fingerTune(tune, analyseForm(tune), setup).notes[0].stops[0].finger */
export function fingerTune(tune: Tune, form: Form, setup: HandSetup): Fingering {
  const frames = framesFor(setup.instrument, setup.limits);
  const sounds = soundsOf(tune);
  const contexts = contextsOf(tune, form, sounds, setup);
  const problems: HandProblem[] = [];
  const resting: string[] = [];
  const steps: Step[] = [];
  const stepOf: (number | null)[] = sounds.map((sound, index) => {
    const states = statesWithin(sound, setup, frames, problems);
    if (states.length === 0) return null;
    const lock = setup.locks[sound.id];
    const locked =
      lock && lockSpeaks(lock, setup.instrument, sound.pitches) ? states.filter((state) => fitsLock(state, lock)) : [];
    if (lock && locked.length === 0) resting.push(sound.id);
    steps.push({ states: locked.length > 0 ? locked : states, context: contexts[index]! });
    return steps.length - 1;
  });
  const solution = solve(steps);
  const chosen = steps.map(({ states }, index) => states[solution.path[index]!]!);
  const notes = sounds.map((sound, index) =>
    describe(sound, stepOf[index] ?? null, { steps, solution, chosen, setup, resting }),
  );
  return {
    instrument: setup.instrument,
    tuning: setup.tuning,
    notes: withHolds(notes),
    totals: totalsOf(solution.cost, notes),
    problems,
    resting,
  };
}

/** Notes and graces in written order, each grace before its note. */
function soundsOf(tune: Tune): readonly Sound[] {
  return soundingNotes(tune).flatMap((source): Sound[] => [
    ...(source.note.graces ?? []).map(({ id, pitch }) => ({
      id,
      ids: [id],
      grace: true,
      source,
      onset: source.onset,
      duration: 0,
      pitches: [pitch],
    })),
    {
      id: source.note.id,
      ids: source.chain.map(({ id }) => id),
      grace: false,
      source,
      onset: source.onset,
      duration: source.duration,
      pitches: source.note.heads.map(({ pitch }) => pitch),
    },
  ]);
}

function contextsOf(tune: Tune, form: Form, sounds: readonly Sound[], setup: HandSetup): readonly Step['context'][] {
  const phraseStarts = new Set(phrasesOf(form).map(({ notes }) => notes[0]));
  const slurred = slurredInto(tune);
  return sounds.map((sound, index) => {
    const before = sounds[index - 1];
    const span = before ? seconds(sound.onset - before.onset, setup.tempo) : Infinity;
    const rest = before && !before.grace ? seconds(sound.onset - before.onset - before.duration, setup.tempo) : 0;
    return {
      instrument: setup.instrument,
      duration: sound.grace ? GRACE : seconds(sound.duration, setup.tempo),
      available: before?.grace || sound.grace ? Math.max(GRACE, Math.min(span, GRACE)) : span,
      rest,
      slurred: slurred.has(sound.id) || Boolean(before?.grace),
      phraseStart: phraseStarts.has(sound.source.note.id) && (sound.grace || !before?.grace),
    };
  });
}

/** Notes that are on the stroke of the note before them. */
function slurredInto(tune: Tune): ReadonlySet<string> {
  const ids = tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
  const at = new Map(ids.map((id, index) => [id, index]));
  return new Set(tune.slurs.flatMap(({ from, to }) => ids.slice((at.get(from) ?? 0) + 1, (at.get(to) ?? -1) + 1)));
}

/** What the hand can do here; where not everything, as much of a chord as it can, from the top. */
function statesWithin(
  sound: Sound,
  setup: HandSetup,
  frames: readonly Frame[],
  problems: HandProblem[],
): readonly HandState[] {
  const { pitches, strings } = { pitches: setup.tuning.pitches, strings: tuningText(setup.tuning.pitches) };
  const all = statesFor(sound.pitches, pitches, frames);
  if (all.length > 0) return all;
  const instrument = INSTRUMENT[setup.instrument].name.toLowerCase();
  if (sound.pitches.length === 1) {
    const highest = reach(frames);
    problems.push({
      noteId: sound.id,
      message: `This note cannot be reached on the ${instrument} tuned ${strings} in this hand position (up to ${highest} semitones above a string). Try another octave or key.`,
    });
    return [];
  }
  const top = statesFor([sound.pitches.at(-1)!], pitches, frames);
  const message =
    top.length > 0
      ? 'These notes cannot be stopped together here; the top note alone is fingered.'
      : `None of these notes can be reached on the ${instrument} here. Try another octave or key.`;
  problems.push({ noteId: sound.id, message });
  return top;
}

interface Solved {
  readonly steps: readonly Step[];
  readonly solution: Solution;
  readonly chosen: readonly HandState[];
  readonly setup: HandSetup;
  readonly resting: readonly string[];
}

function describe(sound: Sound, step: number | null, solved: Solved): FingeredNote {
  const base = {
    id: sound.id,
    ids: sound.ids,
    grace: sound.grace,
    onset: sound.onset,
    duration: sound.duration,
    barIndex: sound.source.barIndex,
    pitches: sound.pitches,
  };
  if (step === null) {
    return {
      ...base,
      stops: [],
      position: null,
      shape: null,
      shift: null,
      extension: false,
      block: false,
      hold: null,
      locked: false,
      alternatives: [],
      why: [],
      text: 'out of reach',
    };
  }
  const { chosen, setup } = solved;
  const state = chosen[step]!;
  const before = chosen[step - 1];
  const after = chosen[step + 1];
  const names = INSTRUMENT[setup.instrument].strings.map(({ name }) => name);
  const locked = setup.locks[sound.id] !== undefined && !solved.resting.includes(sound.id);
  const { alternatives, why } = alternativesOf(step, solved, names, sound, locked);
  const placed = isStopped(state) ? lastPlaced(chosen, step) : undefined;
  const moved = placed && placed.frame.position !== state.frame.position;
  return {
    ...base,
    stops: state.stops,
    position: state.frame.position,
    shape: state.frame.shape,
    shift: moved ? { from: placed.frame.position, to: state.frame.position } : null,
    extension: state.stops.some(({ sign }) => sign === 'extended'),
    block: [before, after].some((other) => other && isBlock(state, other)),
    hold: null,
    locked,
    alternatives,
    why,
    text: stateText(state, names),
  };
}

const isStopped = ({ stops }: HandState) => stops.some(({ finger }) => finger > 0);

/** Where the hand last stopped a string. Open strings between are when it moves; they do not hide that it did. */
function lastPlaced(chosen: readonly HandState[], step: number): HandState | undefined {
  for (let index = step - 1; index >= 0; index -= 1) {
    if (isStopped(chosen[index]!)) return chosen[index];
  }
  return undefined;
}

/**
 * The cheapest state of each other choice of strings and fingers, with its exact extra cost. For a
 * locked note the others are priced by solving again without the lock.
 */
function alternativesOf(
  step: number,
  { steps, solution, chosen, setup }: Solved,
  names: readonly string[],
  sound: Sound,
  locked: boolean,
) {
  const own = chosen[step]!;
  let [pricedSteps, priced] = [steps, solution];
  if (locked) {
    const states = statesFor(sound.pitches, setup.tuning.pitches, framesFor(setup.instrument, setup.limits));
    pricedSteps = steps.map((other, index) => (index === step ? { ...other, states } : other));
    priced = solve(pricedSteps);
  }
  const { states } = pricedSteps[step]!;
  const best = new Map<string, number>();
  states.forEach((state, index) => {
    if (sameStops(state, own)) return;
    const key = stopsKey(state);
    const known = best.get(key);
    if (known === undefined || priced.through[step]![index]! < priced.through[step]![known]!) best.set(key, index);
  });
  const alternatives = [...best.values()]
    .map((index): Alternative => ({
      stops: states[index]!.stops,
      text: stateText(states[index]!, names),
      extra: (priced.through[step]![index]! - solution.cost) / 1000,
      reasons: locked ? [] : reasonTexts(explainDifference(steps, solution, step, index)),
    }))
    .sort((a, b) => a.extra - b.extra);
  const next = alternatives[0];
  if (locked) return { alternatives, why: ['set by you'] };
  if (!next) return { alternatives, why: ['the only way in this position'] };
  const nextIndex = states.findIndex((state) => state.stops === next.stops);
  return { alternatives, why: chosenTexts(explainDifference(steps, solution, step, nextIndex)) };
}

function isBlock(a: HandState, b: HandState): boolean {
  return a.stops.some((one) =>
    b.stops.some(
      (other) =>
        one.finger > 0 &&
        one.finger === other.finger &&
        one.semitones === other.semitones &&
        Math.abs(one.string - other.string) === 1,
    ),
  );
}

/** A finger stays down while only other strings, or higher fingers on its own, sound until it is needed again. */
function withHolds(notes: readonly FingeredNote[]): readonly FingeredNote[] {
  return notes.map((note, index) => {
    const stop = note.stops.length === 1 ? note.stops[0]! : null;
    if (!stop || stop.finger === 0) return note;
    for (const later of notes.slice(index + 1, index + 1 + HOLD_NOTES)) {
      const again = later.stops.some(
        (other) => other.string === stop.string && other.finger === stop.finger && other.semitones === stop.semitones,
      );
      if (again) return later === notes[index + 1] ? note : { ...note, hold: later.id };
      const stays =
        later.position === note.position &&
        later.shape === note.shape &&
        later.stops.every((other) => staysUnder(stop, other));
      if (!stays || later.stops.length === 0) return note;
    }
    return note;
  });
}

function staysUnder(held: Stop, other: Stop): boolean {
  if (other.finger === held.finger) return false;
  return other.string !== held.string || other.finger > held.finger;
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
  };
}

/** Onset in quarters, for people and other programs. */
export const quarters = (ticks: Ticks): number => Math.round((ticks / TICKS_PER_QUARTER) * 10_000) / 10_000;

/** What a hand may not do, what it cannot, where it is hard, and what helps. */
import type {
  HandLimits,
  HandProblem,
  HardPlace,
  Help,
  ImpossibleWhy,
  LimitName,
  LimitOwner,
  LockedStop,
  Nearest,
  SetLimit,
} from '../hand/index.ts';
import { stringNames, tuningText, type Instrument, type Tuning } from '../instrument/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { pitchesText } from './fingers.ts';
import { RULES } from './handRules.ts';
import { noteName, pitchText } from './naming.ts';
/** What a limit says, without who set it. */
const LIMIT_TEXT: Readonly<Record<LimitName, (value: HandLimits[LimitName]) => string>> = {
  noFourth: (value) => (value ? 'no fourth finger' : 'the fourth finger too'),
  noExtension: (value) => (value ? 'no stretches' : 'stretches too'),
  noDoubleStops: (value) => (value ? 'no double stops' : 'double stops too'),
  maxPosition: (value) => (value === 'VIII' ? 'as far up as it goes' : `positions up to ${String(value)}`),
  bassSchool: (value) => (value === 'four' ? 'fingers 1 2 3 4' : 'fingers 1 2 4'),
  celloSchool: (value) => (value === 'extend' ? 'opens the hand first' : 'shifts first'),
  reach: (value) => `nothing beyond ${String(value)} semitones above an open string`,
};

/**
 * A limit and who set it.
 * @example limitText({ limit: 'noFourth', value: true, owner: { by: 'preset', name: 'First lessons' } }) // 'no fourth finger: First lessons'
 */
export const limitText = ({ limit, value, owner }: SetLimit): string =>
  `${LIMIT_TEXT[limit](value)}: ${ownerText(owner)}`;

/** @example ownerText({ by: 'teacher', name: null }) // 'set by you' */
export function ownerText({ by, name }: LimitOwner): string {
  if (name !== null) return name;
  return {
    instrument: 'as usual',
    preset: 'the preset',
    grade: 'the grade',
    learner: 'the learner',
    teacher: 'set by you',
  }[by];
}

/**
 * A trouble of the left hand: what cannot be, and what becomes of it.
 * @example problemText({ noteId: 'n1', kind: 'unlike-other-phrase' }, INSTRUMENT.violin, standardTuning(INSTRUMENT.violin)) // 'This note cannot be fingered as in the other phrase here.'
 */
export function problemText(
  problem: HandProblem,
  instrument: Instrument,
  tuning: Tuning,
  called: Names = USUAL_NAMES,
): string {
  const names = stringNames(instrument);
  const tuned = `the ${instrument.name.toLowerCase()} tuned ${tuningText(tuning.pitches)}`;
  switch (problem.kind) {
    case 'move-in-place':
      return 'The hand is to move to this note, but what is set before and here lies in one place: the move rests.';
    case 'hold-across-move':
      return 'A finger is to stay down until here, but what is set needs the hand to move: the finger is let go.';
    case 'unlike-other-phrase':
      return 'This note cannot be fingered as in the other phrase here.';
    case 'position-rests': {
      const [lowest, highest] = problem.position;
      const range = lowest === highest ? `Position ${lowest}` : `Positions ${lowest} to ${highest}`;
      return `${range} and what else is set for this note do not go together: the position rests.`;
    }
    case 'hold-broken': {
      const name = problem.pitches.map((pitch) => noteName(pitch, called.notes)).join(' and ');
      const needs =
        problem.needs === 'the-hand-to-move' ? 'the hand to move' : 'that finger, its place, or another hand';
      return `Finger ${problem.finger} cannot stay down: the ${name} after it needs ${needs}.`;
    }
    case 'beyond-limits': {
      const who = problem.limits.length > 0 ? ` (${problem.limits.map(limitText).join('; ')})` : '';
      return `You set ${lockedText(problem.stops, names)} here. It is beyond this learner’s limits${who}, so it rests.`;
    }
    case 'cannot-be':
      return `You set ${lockedText(problem.stops, names)} here. This note cannot be played so, so it rests.`;
    case 'no-double-stops': {
      const who = problem.owner?.name ? ` (${problem.owner.name})` : '';
      return `This learner plays no double stops${who}: the top note alone is fingered.`;
    }
    case 'out-of-reach':
      return `This note cannot be reached on ${tuned} (up to ${problem.reach} semitones above a string). Try another octave or key, or allow a higher position.`;
    case 'chord': {
      const { fingered, nearest } = problem;
      const near = nearest.map((one) => nearestText(one, called)).join('; ');
      const what =
        fingered === 0
          ? `None of these notes can be reached on ${tuned}.`
          : `These notes cannot be stopped together: ${impossibleText(problem.why, names, called)}. ${fingered === 1 ? 'One of them is' : `${fingered} of them are`} fingered.`;
      return near ? `${what} Possible: ${near}.` : what;
    }
  }
}

function lockedText(stops: readonly LockedStop[], names: readonly string[]): string {
  const one = ({ string, finger }: LockedStop) => {
    const which = finger === undefined ? '' : finger === 0 ? 'open' : String(finger);
    const where = string === undefined ? '' : finger === 0 ? names[string]! : `on the ${names[string]} string`;
    return [which, where].filter(Boolean).join(' ');
  };
  return stops.map(one).join(' with ');
}

function impossibleText(why: ImpossibleWhy, names: readonly string[], called: Names): string {
  switch (why.because) {
    case 'out-of-reach':
      return `${pitchesText(why.pitches, ' and ', called)} ${why.pitches.length === 1 ? 'is' : 'are'} out of reach`;
    case 'one-string':
      return `both lie on the ${names[why.string]} string`;
    case 'strings-apart':
      return 'they do not lie on neighbouring strings';
    case 'too-wide':
      return 'no hand spans both places at once';
  }
}

function nearestText({ pitches, changed, octaves }: Nearest, called: Names): string {
  const together = pitchesText(pitches, ' with ', called);
  const name = pitchText(changed, called.notes);
  return octaves === 0
    ? `without ${name}: ${together}`
    : `${name} an octave ${octaves > 0 ? 'higher' : 'lower'}: ${together}`;
}

/**
 * What makes a place hard.
 * @example causeTexts({ causes: [{ rule: 'shift', count: 1 }], seconds: 0.42 }) // ['1 shift', 'all in 0.4 seconds']
 */
export function causeTexts({ causes, seconds }: Pick<HardPlace, 'causes' | 'seconds'>): readonly string[] {
  const counted = causes.map(({ rule, count }) => `${count} ${count === 1 ? RULES[rule].one : RULES[rule].many}`);
  return seconds === null ? counted : [...counted, `all in ${seconds.toFixed(1)} seconds`];
}

/**
 * Effort of a fingering: by the plain price list, and by the wishes where that is another sum.
 * @example effortText({ effort: 38.2, cost: 31 }) // 'Effort 38.2; by these wishes 31.0.'
 */
export function effortText({ effort, cost }: { readonly effort: number; readonly cost: number }): string {
  const [plain, wished] = [effort.toFixed(1), cost.toFixed(1)];
  return plain === wished ? `Effort ${plain}.` : `Effort ${plain}; by these wishes ${wished}.`;
}

/** What would help. @example helpText({ kind: 'slower', bpm: 80 }) // 'at ♩ = 80 this place asks no more than the rest' */
export function helpText(help: Help): string {
  switch (help.kind) {
    case 'shift-elsewhere':
      return 'shift at another note';
    case 'no-shift':
      return 'do without the shift';
    case 'other-fingers':
      return 'other fingers';
    case 'separate':
      return 'take the notes on separate bows';
    case 'slur':
      return `slur what stays on one string: ${help.strokes} strokes instead of ${help.notes}`;
    case 'slower':
      return `at ♩ = ${help.bpm} this place asks no more than the rest`;
  }
}

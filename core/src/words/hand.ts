/** Fingers, positions, reasons, troubles and hard places of the left hand in words and signs. */
import {
  HANDS,
  type Because,
  type FingeredNote,
  type Glide,
  type HandLimits,
  type HandProblem,
  type HardPlace,
  type Help,
  type ImpossibleWhy,
  type Landing,
  type LimitName,
  type LimitOwner,
  type LockedStop,
  type Nearest,
  type RuleDifference,
  type RuleName,
  type SetLimit,
  type Stop,
  type StringPattern,
} from '../hand/index.ts';
import { stringNames, tuningText, type Instrument, type Tuning } from '../instrument/index.ts';
import type { Pitch } from '../music/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { noteName, pitchText, wayText } from './naming.ts';

const RULES: Readonly<Record<RuleName, { readonly one: string; readonly many: string }>> = {
  fourth: { one: 'fourth finger', many: 'fourth fingers' },
  longFourth: { one: 'long note on the fourth finger', many: 'long notes on the fourth finger' },
  lowFirst: { one: 'low first finger', many: 'low first fingers' },
  moved: { one: 'low or high finger', many: 'low or high fingers' },
  extension: { one: 'extension', many: 'extensions' },
  spread: { one: 'low first with a high third', many: 'low first fingers with a high third' },
  squeeze: { one: 'note in a contracted hand', many: 'notes in a contracted hand' },
  reach: { one: 'change between closed and open hand', many: 'changes between closed and open hand' },
  spelling: { one: 'finger that does not fit the note’s letter', many: 'fingers that do not fit the note’s letter' },
  position: { one: 'note away from first position', many: 'notes away from first position' },
  crossing: { one: 'string crossing', many: 'string crossings' },
  skip: { one: 'skipped string', many: 'skipped strings' },
  slurCrossing: { one: 'crossing inside a slur', many: 'crossings inside a slur' },
  hop: { one: 'hop of one finger to another string', many: 'hops of one finger to another string' },
  slide: { one: 'finger sliding between low and high', many: 'fingers sliding between low and high' },
  block: { one: 'finger across two strings', many: 'fingers across two strings' },
  shift: { one: 'shift', many: 'shifts' },
  sameShift: { one: 'quick shift on one finger', many: 'quick shifts on one finger' },
  stringShift: { one: 'shift to another string', many: 'shifts to another string' },
  slurShift: { one: 'shift inside a slur', many: 'shifts inside a slur' },
  glide: { one: 'slide that changes the finger', many: 'slides that change the finger' },
  openTone: { one: 'open string that stands out', many: 'open strings that stand out' },
  openTurn: { one: 'open string where the line turns back', many: 'open strings where the line turns back' },
  ring: { one: 'stopped note where an open string would ring', many: 'stopped notes where an open string would ring' },
  pedal: { one: 'pedal note that does not ring on', many: 'pedal notes that do not ring on' },
  harmonic: { one: 'octave harmonic', many: 'octave harmonics' },
  double: { one: 'double stop', many: 'double stops' },
  wideDouble: { one: 'wide double stop', many: 'wide double stops' },
  usual: { one: 'note unlike the same phrase elsewhere', many: 'notes unlike the same phrase elsewhere' },
};

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'] as const;
const number = (count: number) => NUMBERS[count] ?? String(count);
/** Reasons beyond these are too small to say. */
const MAX_REASONS = 3;

/** @example reasonTexts([{ rule: 'crossing', count: 2, price: 1400 }]) // ['two more string crossings'] */
export function reasonTexts(differences: readonly RuleDifference[]): readonly string[] {
  return differences.slice(0, MAX_REASONS).map(({ rule, count, price }) => {
    const size = Math.abs(count);
    const words = size === 1 ? RULES[rule].one : RULES[rule].many;
    if (count > 0) return `${number(size)} more ${words}`;
    if (count < 0) return `${number(size)} fewer ${words}`;
    return `${RULES[rule].many} with ${price > 0 ? 'less' : 'more'} time`;
  });
}

/**
 * What wishes do to a tune, beside the all-round ones: what they avoid, and what they take instead.
 * @example effectTexts([{ rule: 'longFourth', count: -2, price: -500 }]) // ['avoids two long notes on the fourth finger']
 */
export function effectTexts(differences: readonly RuleDifference[]): readonly string[] {
  const counted = (sign: 1 | -1) =>
    differences
      .filter(({ count }) => count * sign > 0)
      .slice(0, MAX_REASONS)
      .map(
        ({ rule, count }) => `${number(Math.abs(count))} ${Math.abs(count) === 1 ? RULES[rule].one : RULES[rule].many}`,
      );
  const [avoided, taken] = [counted(-1), counted(1)];
  return [
    ...(avoided.length > 0 ? [`avoids ${avoided.join(', ')}`] : []),
    ...(taken.length > 0 ? [`takes ${taken.join(', ')} instead`] : []),
  ];
}

const COUNTED = {
  crossings: RULES.crossing,
  shifts: RULES.shift,
  extensions: RULES.extension,
  blocks: { one: 'block', many: 'blocks' },
  hops: { one: 'hop', many: 'hops' },
} as const;

/** @example totalsText({ crossings: 16, shifts: 0, extensions: 6, blocks: 1, hops: 0 }) // '16 string crossings, 6 extensions, 1 block in all' */
export function totalsText(totals: Readonly<Record<keyof typeof COUNTED, number>>): string {
  const told = (Object.keys(COUNTED) as (keyof typeof COUNTED)[])
    .filter((kind) => totals[kind] > 0)
    .map((kind) => `${totals[kind]} ${totals[kind] === 1 ? COUNTED[kind].one : COUNTED[kind].many}`);
  return told.length > 0 ? `${told.join(', ')} in all` : 'The hand stays, on one string';
}

const MOVING_TIMES = {
  'open-string': ', and the hand moves while the open string sounds',
  rest: ', and the hand moves in the rest',
  join: ', and the hand moves between the phrases',
} as const;

/** What decides for a finger, as a teacher says it. @example becauseText({ kind: 'reaches', position: 'I' }, fingering.notes[0], INSTRUMENT.violin) // '3 stretches, and the hand stays in I' */
export function becauseText(
  because: Because,
  { stops }: Pick<FingeredNote, 'stops'>,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): string {
  const top = stops.at(-1)!;
  const finger = top.finger === 0 ? 'open' : fingerText(top, called);
  const string = `${stringNames(instrument)[top.string]!} string`;
  const place = 'position' in because ? (because.position === 'half' ? 'half position' : because.position) : '';
  switch (because.kind) {
    case 'pedal':
      return 'open, because it rings on while the other notes move';
    case 'beside-pedal':
      return `on the ${string}, so that the open string rings on`;
    case 'turns-back':
      return `${finger}, because the line goes back down`;
    case 'same-string':
      return `${finger}, because the line is on the ${string}`;
    case 'goes-on':
      return `${finger}, because the line goes on along the ${string}`;
    case 'comes-down':
      return `${finger}, because the line comes down the ${string}`;
    case 'open':
      return `${finger}, the surest of all`;
    case 'limit':
      return `${finger}: ${because.limits.map(limitText).join('; ')}`;
    case 'across':
      return `${top.finger} stays over both strings`;
    case 'reaches':
      return `${top.finger} ${top.finger === 1 ? 'reaches back' : 'stretches'}, and the hand stays in ${place}`;
    case 'moves': {
      const when = because.during ? MOVING_TIMES[because.during] : '';
      return because.notes > 1
        ? `to ${place}: the next ${number(because.notes)} notes lie there${when}`
        : `to ${place} for this note${when}`;
    }
    case 'lies':
      return because.notes > 1
        ? `${place}: the next ${number(because.notes)} notes lie there`
        : `${place}, where the hand is`;
    case 'home':
      return `${finger}, its place in ${place}`;
    case 'again':
      return `${top.finger} stays down until it is needed again`;
    case 'usual':
      return 'as the same phrase has it elsewhere';
    case 'harmonic':
      return 'the harmonic has time to ring';
  }
}

/**
 * Why a note is fingered as it is, a reason a line.
 * @example whyTexts({ ...fingering.notes[0], why: { choice: 'only', because: [] } }, INSTRUMENT.violin) // ['the only way here']
 */
export function whyTexts(
  note: Pick<FingeredNote, 'why' | 'stops'>,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): readonly string[] {
  if (!note.why || note.stops.length === 0) return [];
  if (note.why.choice === 'set') return ['set by you'];
  const said = note.why.because.map((because) => becauseText(because, note, instrument, called));
  return note.why.choice === 'only' ? ['the only way here', ...said.slice(0, 1)] : said;
}

const BELOW = '\u0323';
const ABOVE = '\u0307';

/**
 * The finger sign as text: the number with a dot under it for low, over it for high; + and − for extensions.
 * @example symbol({ finger: 2, sign: 'extended' }, INSTRUMENT.cello) // '2+'
 */
export function symbol(stop: Pick<Stop, 'finger' | 'sign'>, { hand }: Pick<Instrument, 'hand'>): string {
  const finger = String(stop.finger);
  if (stop.sign === 'low') return finger + BELOW;
  if (stop.sign === 'high') return finger + ABOVE;
  if (stop.sign === 'harmonic') return `${finger}°`;
  if (stop.sign === 'extended') return finger + ((stop.finger === 1 && HANDS[hand].reachesBack) || '+');
  return finger;
}

const SIGN_WORDS = { low: 'low', high: 'high', extended: 'extended', harmonic: 'harmonic' } as const;
const SIGN_LETTERS = { low: 'L', high: 'H', extended: 'X', harmonic: 'O' } as const;

/**
 * A finger as it is said: "low 2", "2 low", "L2".
 * @example fingerText({ finger: 2, sign: 'low' }) // 'low 2'
 * @example fingerText({ finger: 2, sign: 'low' }, { notes: 'english', fingers: 'letter', places: 'bars' }) // 'L2'
 */
export function fingerText({ finger, sign }: Pick<Stop, 'finger' | 'sign'>, called: Names = USUAL_NAMES): string {
  if (sign === 'home') return String(finger);
  switch (called.fingers) {
    case 'sign-first':
      return `${SIGN_WORDS[sign]} ${finger}`;
    case 'finger-first':
      return `${finger} ${SIGN_WORDS[sign]}`;
    case 'letter':
      return `${SIGN_LETTERS[sign]}${finger}`;
  }
}

/** @example stopText({ string: 2, finger: 2, sign: 'low' }, ['G', 'D', 'A', 'E']) // 'low 2 on the A string' */
export function stopText(stop: Stop, stringNames: readonly string[], called: Names = USUAL_NAMES): string {
  const name = stringNames[stop.string]!;
  return stop.finger === 0 ? `open ${name}` : `${fingerText(stop, called)} on the ${name} string`;
}

/**
 * All stops of a note.
 * @example stopsText({ stops: [] }, INSTRUMENT.violin) // 'out of reach'
 */
export function stopsText(
  { stops }: { readonly stops: readonly Stop[] },
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): string {
  const names = stringNames(instrument);
  return stops.length === 0 ? 'out of reach' : stops.map((stop) => stopText(stop, names, called)).join(' with ');
}

/** What is read out of a note. */
type SpokenNote = Pick<FingeredNote, 'pitches' | 'stops' | 'grace'>;

/**
 * The note's name and what the hand does, as it is read out; the graces that lead to it first, as they sound.
 * @param graces in written order
 * @example spokenNote(fingering.notes[0], INSTRUMENT.violin) // 'G4: 3 on the D string'
 */
export function spokenNote(
  note: SpokenNote,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
  graces: readonly SpokenNote[] = [],
): string {
  const said = [...graces, note].map((one) => {
    const what = `${pitchesText(one.pitches, ' and ', called)}: ${stopsText(one, instrument, called)}`;
    return one.grace ? `grace ${what}` : what;
  });
  const text = said.join(', then ');
  return text.startsWith('grace') ? `G${text.slice(1)}` : text;
}

/** @example pitchesText([{ letter: 'G', alter: 0, octave: 4 }], ' and ') // 'G4' */
export const pitchesText = (pitches: readonly Pitch[], between: string, called: Names = USUAL_NAMES): string =>
  pitches.map((pitch) => pitchText(pitch, called.notes)).join(between);

/**
 * How to find the place after a shift; empty where no finger is put down.
 * @example landingText({ by: 'octave', finger: 3, string: 2 }, INSTRUMENT.cello) // '3 lands on the octave, halfway along the D string'
 */
export function landingText(landing: Landing | null, instrument: Instrument, called: Names = USUAL_NAMES): string {
  if (!landing) return '';
  const names = stringNames(instrument);
  const { finger } = landing;
  const string = `the ${names[landing.string]} string`;
  switch (landing.by) {
    case 'touched-octave':
      return `${finger} touches the octave, halfway along ${string}`;
    case 'octave':
      return `${finger} lands on the octave, halfway along ${string}`;
    case 'same-finger':
      return `keep ${finger} on ${string} and glide ${wayText(landing.semitones)}`;
    case 'known-finger':
      return `${finger} lands where ${landing.other} ${landing.still ? 'is' : 'was'} on ${string}`;
    case 'guide':
    case 'way': {
      const { likeOpen, pitch, guide, semitones, free } = landing;
      const check =
        likeOpen === null ? '' : `; ${noteName(pitch, called.notes)} sounds like the open ${names[likeOpen]}`;
      if (landing.by === 'guide') return `glide on ${guide} ${wayText(semitones)}, then put ${finger}${check}`;
      return `${free ? 'while the hand is free it goes' : 'the hand goes'} ${wayText(semitones)}: ${finger} on ${string}${check}`;
    }
  }
}

/** @example glideText({ finger: 1, below: 1, lands: 1, fromBefore: false }) // 'slide 1 into it from a semitone below' */
export function glideText({ finger, lands, fromBefore }: Glide): string {
  if (!fromBefore) return `slide ${finger} into it from a semitone below`;
  return finger === lands ? `slide up on ${finger}` : `slide up on ${finger}, then put ${lands}`;
}

/** @example patternText({ string: 2, places: [], touching: [[1, 2]], changes: 0, moving: [] }) // '1 and 2 touch' */
export function patternText({ places, touching, moving }: StringPattern): string {
  const pairs = [...new Set(touching.map((pair) => pair.join(' and ')))];
  const texts = [...pairs.map((pair) => `${pair} touch`), ...moving.map((finger) => `${finger} has two places`)];
  if (texts.length > 0) return texts.join('; ');
  return places.length > 1 ? 'fingers apart' : 'one finger';
}

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

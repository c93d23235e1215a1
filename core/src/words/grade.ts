/** What was changed to make a version, in words. */
import type {
  Change,
  DoubleStops,
  Feature,
  GradeChange,
  Limits,
  Rule,
  SlotFill,
  LineRole,
  VersionDecisions,
} from '../grade/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { beatTempoText, noteValueName, valueOf, type Metre, type Ticks } from '../music/index.ts';
import type { VersionOffer } from '../compare/index.ts';
import type { VersionWay } from '../version/index.ts';
import { noteName } from './naming.ts';

/**
 * One change, as a sentence.
 * @example changeText({ kind: 'grace', bar: 1, beat: 1, noteId: 'n1', kept: pitch('A4'), dropped: [] }) // 'Without the grace note.'
 */
export function changeText({ kind, kept, dropped }: Change, called: Names = USUAL_NAMES): string {
  const name = noteName(kept, called.notes);
  switch (kind) {
    case 'left-out':
      return `${name} carries the beat; ${dropped.map((pitch) => noteName(pitch, called.notes)).join(' ')} left out.`;
    case 'moved-to-beat':
      return `${name} comes on the beat.`;
    case 'one-note':
      return 'The top note alone, not the double stop.';
    case 'grace':
      return 'Without the grace note.';
    case 'sign':
      return 'Without the ornament.';
    case 'slur':
      return 'Every note has its own bow.';
  }
}

/** What is and what is not allowed, in one word each for a list. */
export const ALLOWED_RULES: readonly (readonly [Rule, string])[] = [
  ['low1', 'low first finger'],
  ['low2', 'low second finger'],
  ['high3', 'high third finger'],
  ['low4', 'low fourth finger'],
  ['extension', 'extensions'],
  ['halfPosition', 'half position'],
  ['dotted', 'dotted notes'],
  ['triplets', 'triplets'],
  ['syncopation', 'syncopation'],
  ['ties', 'ties'],
  ['pickup', 'a pickup'],
  ['rests', 'rests'],
  ['hooks', 'stopped bows'],
  ['retakes', 'lifted bows'],
  ['drones', 'drones'],
  ['graces', 'grace notes'],
  ['slides', 'slides'],
  ['skips', 'jumps over a string'],
  ['retuned', 'other tunings'],
];

const LENGTH_NAMES = new Map([
  [4, 'whole notes'],
  [2, 'halves'],
  [1, 'quarters'],
  [0.5, 'eighths'],
  [0.25, 'sixteenths'],
]);
const times = (count: number, thing: string, things = `${thing}s`) => `${count} ${count === 1 ? thing : things}`;

/**
 * A contract as a teacher would say it, one sentence for each thing.
 * @example contractTexts(contractFor('violin', 6).limits) // ['Everything that the hand and the bow can do.']
 */
export function contractTexts(limits: Limits): readonly string[] {
  const { fingers, signature, doubleStops } = limits;
  const some = (value: number | null, text: (value: number) => string) => (value === null ? [] : [text(value)]);
  const no = ALLOWED_RULES.filter(([rule]) => limits[rule] === false).map(([, name]) => name);
  const found = [
    ...some(limits.strings, (most) => `At most ${times(most, 'string')}.`),
    ...(fingers ? [`Fingers ${fingers.join(', ')}.`] : []),
    ...some(limits.patterns, (most) => `At most ${times(most, 'finger pattern')}.`),
    ...(limits.maxPosition ? [`No higher than position ${limits.maxPosition}.`] : []),
    ...some(limits.shifts, (most) =>
      most === 0 ? 'The hand stays where it is.' : `At most ${times(most, 'change')} of place in a phrase.`,
    ),
    ...some(limits.range, (most) => `From lowest to highest at most ${times(most, 'semitone')}.`),
    ...some(limits.shortest, (least) => `Nothing shorter than ${LENGTH_NAMES.get(least) ?? `${least} of a quarter`}.`),
    ...some(limits.maxSlur, (most) => (most === 1 ? 'A bow to each note.' : `At most ${most} notes to a bow.`)),
    ...(doubleStops === 'none' ? ['No double stops.'] : []),
    ...(doubleStops === 'open' ? ['Double stops with an open string only.'] : []),
    ...(doubleStops === 'simple' ? ['Double stops of two fingers in one frame.'] : []),
    ...some(limits.notesPerSecond, (most) => `At most ${most} notes a second.`),
    ...some(limits.crossingsPerSecond, (most) => `At most ${times(most, 'string crossing')} a second.`),
    ...some(limits.accidentals, (most) =>
      most === 0 ? 'No accidentals.' : `At most ${times(most, 'accidental')} in a phrase.`,
    ),
    ...(signature ? [`Keys of up to ${times(signature.sharps, 'sharp')} or ${times(signature.flats, 'flat')}.`] : []),
    ...(no.length > 0 ? [`Without: ${no.join(', ')}.`] : []),
  ];
  return found.length > 0 ? found : ['Everything that the hand and the bow can do.'];
}

const BREACHES: Readonly<Record<Rule, string>> = {
  strings: 'One string too many.',
  fingers: 'A finger that is not used yet.',
  low1: 'Low first finger.',
  low2: 'Low second finger.',
  high3: 'High third finger.',
  low4: 'Low fourth finger.',
  extension: 'The hand opens.',
  halfPosition: 'Half position.',
  maxPosition: 'A higher position.',
  shifts: 'The hand moves once too often.',
  range: 'Too far from the other notes, or off the instrument.',
  shortest: 'Too short a note.',
  dotted: 'A dotted note.',
  triplets: 'A triplet.',
  syncopation: 'It begins off the beat and sounds across it.',
  ties: 'A tie.',
  pickup: 'A pickup.',
  rests: 'A rest.',
  maxSlur: 'More notes on one bow than may be.',
  hooks: 'The bow stops and goes on the same way.',
  retakes: 'The bow is lifted.',
  doubleStops: 'A double stop that is not allowed.',
  drones: 'A drone.',
  graces: 'A grace note.',
  slides: 'A slide.',
  skips: 'A string is jumped over.',
  crossingsPerSecond: 'The string changes too often.',
  notesPerSecond: 'Too many notes in a second, at this tempo.',
  accidentals: 'An accidental too many in this phrase.',
  signature: 'A key with more sharps or flats.',
  patterns: 'Another finger pattern.',
  retuned: 'Another tuning.',
};

/** @example breachText('ties') // 'A tie.' */
export const breachText = (rule: Rule): string => BREACHES[rule];

type NamedVersion = Pick<VersionDecisions, 'grade' | 'name'> & Partial<Pick<VersionDecisions, 'line'>>;

/** What the lines are called that go with a tune, and what they are. */
export const LINE_WORDS: Readonly<Record<LineRole, { readonly name: string; readonly about: string }>> = {
  drone: { name: 'Open strings', about: 'What rings along, in the rhythm of the tune.' },
  bass: { name: 'Bass', about: 'Root and fifth on the strong beats.' },
  'off-beats': { name: 'Off-beats', about: 'Notes of the chord between the strong beats.' },
  second: { name: 'Second voice', about: 'A third or a sixth under the tune.' },
};

/**
 * Which version an arrangement is, as it stands on sheets and in lists; empty for the tune itself.
 * @example versionText({ grade: 2, name: null }) // 'grade 2'
 */
export function versionText({ grade, name, line = null }: NamedVersion): string {
  if (name) return name;
  if (grade === 'tune') return '';
  if (line) return `${LINE_WORDS[line].name.toLowerCase()}, grade ${grade}`;
  return grade === 'bare' ? 'bare version' : `grade ${grade}`;
}

/**
 * A change that makes a version, as a sentence.
 * @example gradeChangeText({ kind: 'held', was: [pitch('A4')], is: [] }) // 'What sounds goes on; A left out.'
 */
export function gradeChangeText(
  { kind, was, is, semitones = 0 }: Pick<GradeChange, 'kind' | 'was' | 'is' | 'semitones'>,
  called: Names = USUAL_NAMES,
): string {
  const names = (pitches: GradeChange['was']) => pitches.map((one) => noteName(one, called.notes)).join(' ');
  const left = was.filter((one) => !is.some((kept) => kept.letter === one.letter && kept.alter === one.alter));
  switch (kind) {
    case 'left-out':
      return left.length > 0
        ? `${names(is)} for ${names(was)}; ${names(left)} left out.`
        : `${names(is)} for ${names(was)}.`;
    case 'joined':
      return `${names(is)} once, not again and again.`;
    case 'held':
      return `What sounds goes on; ${names(was)} left out.`;
    case 'moved-to-beat':
      return `${names(is)} comes on the beat.`;
    case 'octave':
      return `${names(is)} an octave away.`;
    case 'folded':
      return `The whole phrase an octave ${semitones > 0 ? 'higher' : 'lower'}.`;
    case 'replaced':
      return `${names(is)} for ${names(left.length > 0 ? left : was)}: another note of the chord.`;
    case 'again':
      return `${names(is)} struck again, not tied.`;
    case 'rhythm':
      return `${names(is)} in a plainer rhythm.`;
    case 'rested':
      return `A rest for ${names(was)}.`;
    case 'one-note':
      return 'The top note alone, not the double stop.';
    case 'grace':
      return 'Without the grace note.';
    case 'sign':
      return 'Without the ornament.';
    case 'transposed':
      return semitones % 12 === 0
        ? `All of it ${Math.abs(semitones) === 12 ? 'an octave' : `${Math.abs(semitones) / 12} octaves`} ${semitones > 0 ? 'higher' : 'lower'}.`
        : `In another key: ${Math.abs(semitones)} semitone${Math.abs(semitones) === 1 ? '' : 's'} ${semitones > 0 ? 'higher' : 'lower'}.`;
    case 'slur':
      return 'Shorter strokes than the tune’s slurs.';
    case 'filled':
      return `${names(was)} filled with ${names(left.length > 0 ? left : is.slice(1))}.`;
    case 'varied':
      return `${names(was)}, the second time varied.`;
    case 'drone':
      return `An open string sounds along with ${names(was)}.`;
    case 'slide':
      return `Slide into ${names(was)}.`;
    case 'cut':
      return `A quick grace note before ${names(was)}.`;
    case 'double-stop':
      return `${names(is)} together.`;
    case 'hammer-on':
      return `Open ${names(is.slice(0, 1))}, and the finger drops on it for ${names(was)}.`;
    case 'roll':
      return `A roll on ${names(was)}: the finger above, the note, the one below.`;
    case 'triplet':
      return `${names(is)} in three for ${names(was)}.`;
    case 'arpeggio':
      return `${names(was)} broken into its chord: ${names(is)}.`;
    case 'shuffle':
      return 'Shuffle bow: two slurred, two apart, the weight on the last.';
    case 'even':
      return `${names(is)} evenly, not dotted.`;
  }
}

/**
 * Why a change was made: what the tune asks there that is not allowed yet; or what it has to do with the beats around it.
 * @example whyText({ rules: ['shortest', 'low2'] }) // 'too short a note; low second finger'
 */
export function whyText({ rules, because }: Pick<GradeChange, 'rules' | 'because'>): string {
  if (rules.length > 0)
    return rules
      .map((rule) => BREACHES[rule].replace(/\.$/, '').replace(/^./, (letter) => letter.toLowerCase()))
      .join('; ');
  switch (because?.by) {
    case 'alike':
      return `as in bar ${because.bar}, which is the same`;
    case 'twice':
      return 'else a note would sound twice in a row';
    case 'leap':
      return 'else the line would leap where the tune does not';
    case 'reach':
      return 'so that all of it lies under the hand';
    case 'pace':
      return 'in step with the simpler beats around it';
    default:
      return 'so that the line goes the way of the tune';
  }
}

/**
 * What a version would be before it is made: its key and octave, and how much of the tune it keeps.
 * @param key its key, where it is another
 * @example offerText({ likeness: 0.78, transpose: -5 }, 'D major') // 'In D major, 5 semitones lower; 78 % like the tune.'
 */
export function offerText({ likeness, transpose }: Pick<VersionOffer, 'likeness' | 'transpose'>, key: string): string {
  const away = Math.abs(transpose);
  const direction = transpose > 0 ? 'higher' : 'lower';
  const where =
    transpose === 0
      ? ''
      : transpose % 12 === 0
        ? `${away === 12 ? 'An octave' : `${away / 12} octaves`} ${direction}; `
        : `In ${key}, ${away} semitone${away === 1 ? '' : 's'} ${direction}; `;
  const like = `${Math.round(100 * likeness)} % like the tune.`;
  return `${where}${like}`;
}

/**
 * How much more a slower tempo keeps.
 * @example slowerText({ likeness: 0.94, tempo: 80 }, { beats: 4, unit: 4 }) // 'Slower, at quarter = 80: 94 %'
 */
export const slowerText = ({ likeness, tempo }: Pick<VersionOffer, 'likeness' | 'tempo'>, metre: Metre): string =>
  `Slower, at ${beatTempoText(metre, tempo)}: ${Math.round(100 * likeness)} %`;

const round = (value: number) => String(Math.round(10 * value) / 10);
const share = (value: number) => `${Math.round(100 * value)} % of the notes`;
const FEATURE_WORDS: Readonly<Record<Feature, readonly [name: string, value: (value: number) => string]>> = {
  speed: ['Speed', (value) => `${round(value)} notes a second`],
  range: ['Range', (value) => `${round(value)} semitones`],
  strings: ['Strings', (value) => round(value)],
  crossings: ['String crossings', (value) => `${round(value)} a second`],
  position: ['Higher positions', (value) => (value === 0 ? 'none' : `${round(value)} above the first`)],
  shifts: ['Shifts', (value) => `${round(value)} a second`],
  extensions: ['Extensions', share],
  fourth: ['Fourth finger', share],
  lowHigh: ['Low and high fingers', share],
  patterns: ['Changes of finger pattern', (value) => `${round(value)} a bar`],
  accidentals: ['Accidentals', share],
  rhythm: ['Rhythm', (value) => (value === 0 ? 'plain' : 'dotted, tied, off the beat or in threes')],
  slurs: ['Slurs', (value) => (value === 0 ? 'none' : `up to ${Math.round(value + 1)} notes`)],
  turns: ['Lifts and stops', (value) => `${round(value)} a bar`],
  doubleStops: ['Double stops', share],
  graces: ['Grace notes', share],
  tuning: ['Retuned strings', (value) => (value > 0 ? 'yes' : 'no')],
};

/** @example featureName('speed') // 'Speed' */
export const featureName = (feature: Feature): string => FEATURE_WORDS[feature][0];

/** @example featureText('speed', 4.04) // 'Speed: 4 notes a second' */
export const featureText = (feature: Feature, value: number): string =>
  `${FEATURE_WORDS[feature][0]}: ${FEATURE_WORDS[feature][1](value)}`;

/**
 * What an arrangement is called in lists: its name, or its version and instrument.
 * @example versionName({ grade: 2, name: null }, 'cello') // 'Grade 2, cello'
 */
export function versionName({ grade, name, line = null }: NamedVersion, instrument: string): string {
  if (name) return name;
  if (line) return `${LINE_WORDS[line].name}, grade ${grade}, ${instrument}`;
  const version = grade === 'tune' ? 'The tune' : grade === 'bare' ? 'Bare' : `Grade ${grade}`;
  return `${version}, ${instrument}`;
}

const DOUBLE_STOP_WORDS: Readonly<Record<DoubleStops, string>> = {
  none: 'None',
  open: 'With an open string',
  simple: 'Two fingers in one frame',
  any: 'Any',
};
/** @example doubleStopsText('open') // 'With an open string' */
export const doubleStopsText = (allowed: DoubleStops): string => DOUBLE_STOP_WORDS[allowed];

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth'];
/** @example roundText(2) // 'second time' */
export const roundText = (time: number): string => `${ORDINALS[time - 1] ?? `${time}th`} time`;

/**
 * What a phrase is when it comes again.
 * @example slotText('octave-down') // 'An octave lower'
 */
export function slotText(fill: SlotFill): string {
  if (fill === 'octave-up') return 'An octave higher';
  if (fill === 'octave-down') return 'An octave lower';
  if (fill === 'tune') return 'As in the tune';
  return fill === 'bare' ? 'Bare' : `As in grade ${fill}`;
}

const UNDONE: Readonly<Record<UndoneKind, string>> = {
  kept: 'A beat that was to stay is not in the tune any more.',
  locked: 'A note that was to stay is not in the tune any more.',
  slot: 'A phrase that was to change when it comes again does not begin so any more.',
  chosen: 'What was chosen here does not fit the tune any more.',
};
type UndoneKind = 'kept' | 'locked' | 'slot' | 'chosen';
/**
 * A wish that an edit of the tune undid.
 * @example undoneText({ kind: 'chosen', bar: 3 }) // 'Bar 3: What was chosen here does not fit the tune any more.'
 */
export const undoneText = ({ kind, bar }: { readonly kind: UndoneKind; readonly bar: number | null }): string =>
  `${bar === null ? '' : `Bar ${bar}: `}${UNDONE[kind]}`;

/**
 * Another way to fill a beat: each note with its octave and its value, so that no two ways read the same.
 * @example versionWayText({ pieces: [{ pitch: pitch('F#4'), duration: 1680 }, { pitch: null, duration: 1680 }] }) // 'F♯4 eighth, eighth rest'
 */
export function versionWayText({ pieces }: Pick<VersionWay, 'pieces'>, called: Names = USUAL_NAMES): string {
  if (pieces.length === 0) return 'what sounds goes on';
  const valueText = (duration: Ticks) => {
    const value = valueOf(duration);
    return value ? noteValueName(value) : 'tied';
  };
  return pieces
    .map(({ pitch, duration }) =>
      pitch ? `${noteName(pitch, called.notes)}${pitch.octave} ${valueText(duration)}` : `${valueText(duration)} rest`,
    )
    .join(', ');
}

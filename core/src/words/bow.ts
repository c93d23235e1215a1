/** The bow in words. */
import {
  STICKS_OUT,
  type Counting,
  type Region,
  type TuneSlurs,
  type BowAlternative,
  type BowException,
  type BowFlag,
  type BowRepair,
  type BowSchool,
  type OwnPattern,
  type StretchDifferences,
  type Stroke,
  type Tally,
  type Travel,
  type TravelFlag,
  type Travelling,
} from '../bow/index.ts';
import type { BowMark, StrokeSign } from '../music/index.ts';

/**
 * A warning about a phrase's bow.
 * @example flagText({ kind: 'turns-from-before', note: 'n9', label: 'A2', starts: 'up', other: 'A1', otherStarts: 'down' }) // 'A2 starts up; A1, which is the same, started down.'
 */
export function flagText(flag: BowFlag): string {
  if ('time' in flag) {
    return flag.kind === 'not-down'
      ? 'This first beat comes up, and nothing near it turns the bow.'
      : 'There is no time to lift the bow here: a quarter of a second is wanted.';
  }
  const { kind, label, starts, other, otherStarts } = flag;
  return kind === 'turns-on-repeat'
    ? `${label} starts ${starts} the first time and ${otherStarts} when it comes round again.`
    : `${label} starts ${starts}; ${other}, which is the same, started ${otherStarts}.`;
}

/**
 * The same, as short as it stands on a strip.
 * @example shortFlagText({ kind: 'turns-on-repeat' }) // 'other bow on the repeat'
 */
export function shortFlagText({ kind }: Pick<BowFlag, 'kind'>): string {
  if (kind === 'not-down') return 'first beat up';
  if (kind === 'no-time') return 'no time to lift';
  return kind === 'turns-on-repeat' ? 'other bow on the repeat' : 'other bow than before';
}

/** @example bowName('down') // 'down-bow' */
export const bowName = (direction: BowMark): string => (direction === 'down' ? 'down-bow' : 'up-bow');

/**
 * A school by its name, and what it means.
 * @example schoolText('as-it-comes').name // 'As it comes'
 */
export function schoolText(school: BowSchool): { readonly name: string; readonly means: string } {
  return school === 'as-it-comes'
    ? { name: 'As it comes', means: 'To and fro, whatever happens' }
    : { name: 'Down on the beat', means: 'Each bar begins down: by a slur, a stop or a lift before it' };
}

/** @example strokeText({ direction: 'down', notes: ['n1', 'n2'], retake: false, hook: false }) // 'Down-bow, two notes.' */
export function strokeText({
  direction,
  notes,
  retake,
  hook,
}: Pick<Stroke, 'direction' | 'notes' | 'retake' | 'hook'>): string {
  const name = direction === 'down' ? 'Down-bow' : 'Up-bow';
  const how = retake ? ', after a lift' : hook ? ', after a stop' : '';
  return `${name}${how}, ${countOf(notes.length, 'note')}.`;
}

const WORDS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const countOf = (count: number, thing: string) => `${WORDS[count] ?? count} ${thing}${count === 1 ? '' : 's'}`;

/** Millimetres, or inches to the nearest tenth. */
const lengthText = (length: number, inches: boolean) =>
  inches ? `${(length / 25.4).toFixed(1)} in` : `${Math.round(length)} mm`;

/**
 * Where a stroke lies on the hair, and how it differs from a natural one.
 * @example travelText({ start: 100, end: 260, length: 160, natural: 160, strain: 1 }) // 'From 100 mm to 260 mm, its natural length.'
 */
export function travelText(
  { start, end, natural, strain }: Pick<Travel, 'start' | 'end' | 'length' | 'natural' | 'strain'>,
  inches = false,
): string {
  const millimetres = (length: number) => lengthText(length, inches);
  const places = `From ${millimetres(start)} to ${millimetres(end)}`;
  if (strain > STICKS_OUT) return `${places}: faster than is natural (${millimetres(natural)}); it will stick out.`;
  if (strain < 1 / STICKS_OUT) return `${places}: slower than is natural (${millimetres(natural)}); save bow.`;
  return `${places}, ${Math.abs(strain - 1) < 0.1 ? 'its natural length' : `naturally ${millimetres(natural)}`}.`;
}

/**
 * What becomes of the bow over the tune.
 * @example hairText({ hair: 650, strokes: [], regions: new Map(), flags: [] }) // 'The bow stays on its 650 mm of hair by itself.'
 */
export function hairText({ hair, flags }: Travelling, inches = false): string {
  const out = flags.filter(({ kind }) => kind === 'out-of-bow').length;
  const strained = flags.filter(({ kind }) => kind === 'sticks-out').length;
  const first = `The bow ${out === 0 ? 'stays on' : 'runs off'} its ${lengthText(hair, inches)} of hair ${out === 0 ? 'by itself' : 'if nothing is done'}.`;
  return strained === 0
    ? first
    : `${first} In the plan ${countOf(strained, 'stroke')} stick${strained === 1 ? 's' : ''} out.`;
}

/**
 * A warning about where the bow ends up.
 * @example travelFlagText({ kind: 'out-of-bow', note: 'n9', time: 1 }) // 'If nothing is done, the bow runs out here.'
 */
export function travelFlagText({ kind, time }: TravelFlag): string {
  const when = time > 1 ? `, ${timeText(time)}` : '';
  return kind === 'out-of-bow'
    ? `If nothing is done, the bow runs out here${when}.`
    : `This stroke sticks out${when}: it is far from its natural length.`;
}

/** @example timeText(2) // 'the second time' */
export const timeText = (time: number): string => `the ${ORDINALS[time] ?? `${time}th`} time`;
const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth'];

const PATTERN_WORDS: Readonly<Record<string, readonly [name: string, means: string]>> = {
  separate: ['Separate', 'A stroke to each note'],
  pairs: ['Pairs', 'Two to a bow, on the beat'],
  'pairs-across': ['Pairs across the beat', 'Two to a bow, from the off-beat'],
  'one-and-three': ['One and three', 'The first of four alone, three in one bow'],
  'three-and-one': ['Three and one', 'Three in one bow, the fourth alone'],
  'two-and-two': ['Two and two', 'Two in one bow, two separate'],
  'long-short-shuffle': ['Long-short shuffle', 'Two in one bow, two separate, the off-beat accented'],
  'four-to-a-bow': ['Four to a bow', 'Four in one bow'],
  'across-threes': ['Across in threes', 'Three, three and two of eight'],
  'two-and-one': ['Two and one', 'For jigs: two in one bow, one alone'],
  'by-syllable': ['By syllable', 'A stroke to each syllable of the words'],
};

/**
 * A pattern by its name, and what it means.
 * @example bowPatternText('pairs').name // 'Pairs'
 */
export function bowPatternText(
  id: string,
  own: readonly OwnPattern[] = [],
): { readonly name: string; readonly means: string } {
  const known = PATTERN_WORDS[id];
  if (known) return { name: known[0], means: known[1] };
  const mine = own.find((one) => one.id === id);
  return mine ? { name: mine.name, means: `Groups of ${mine.groups.join(', ')}` } : { name: id, means: '' };
}

const EXCEPTION_WORDS: Readonly<Record<BowException['kind'], string>> = {
  rest: 'A rest cuts the slur.',
  'own-rest': 'You slur over a rest here; no bow can.',
  'repeated-pitch': 'One note twice: slurred, it would be one long note.',
  'phrase-joint': 'A phrase begins here: a new stroke.',
  'repeat-sign': 'A repeat stands here: a new stroke.',
  limit: 'More notes than a stroke may have: shared out.',
  metre: 'The pattern does not suit this metre: separate.',
  'kept-slur': 'The tune’s own slur is kept; the pattern yields.',
};

/**
 * Why a slur or pattern is not played as it was asked for.
 * @example exceptionText({ kind: 'rest', note: 'n3' }) // 'A rest cuts the slur.'
 */
export const exceptionText = ({ kind }: BowException): string => EXCEPTION_WORDS[kind];

/**
 * What another choice is called.
 * @example alternativeText({ change: 'slur' }) // 'Slur to the note before'
 */
export function alternativeText({ change }: Pick<BowAlternative, 'change'>): string {
  if (change === 'slur') return 'Slur to the note before';
  if (change === 'cut') return 'A new stroke here';
  return `Begin with ${bowName(change) === 'down-bow' ? 'a down-bow' : 'an up-bow'}`;
}

const TALLY_WORDS: Readonly<Record<keyof Tally, readonly [one: string, many: string]>> = {
  notDown: ['first beat that comes up', 'first beats that come up'],
  slurs: ['added slur', 'added slurs'],
  stops: ['stop', 'stops'],
  lifts: ['lift', 'lifts'],
};

/**
 * What there is more or fewer of under another choice, one short text each.
 * @example tallyTexts({ notDown: 1, slurs: 0, stops: -2, lifts: 0 }) // ['one more first beat that comes up', 'two fewer stops']
 */
export function tallyTexts(differences: Tally): readonly string[] {
  return (Object.keys(TALLY_WORDS) as (keyof Tally)[]).flatMap((term) => {
    const count = differences[term];
    if (count === 0) return [];
    const [one, many] = TALLY_WORDS[term];
    const size = Math.abs(count);
    return [`${WORDS[size] ?? size} ${count > 0 ? 'more' : 'fewer'} ${size === 1 ? one : many}`];
  });
}

/**
 * What a repair does.
 * @example repairText({ kind: 'shorter', pattern: null, share: 0.75, note: null, everywhere: false }) // 'Shorter strokes in this phrase: three quarters of the length'
 */
export function repairText(
  { kind, pattern, share, everywhere }: Omit<BowRepair, 'change'>,
  own: readonly OwnPattern[] = [],
): string {
  const where = everywhere ? 'in the whole tune' : 'in this phrase';
  if (kind === 'shorter') return `Shorter strokes ${where}: ${shareText(share!)} of the length`;
  const less = share === null ? '' : `, and strokes of ${shareText(share)} of the length`;
  if (kind === 'pattern') {
    return `${bowPatternText(pattern!, own).name} in the second half of each bar, ${where}${less}`;
  }
  if (kind === 'stop') return `Stop the bow in each dotted figure ${where}${less}`;
  return kind === 'slur' ? 'Slur two notes before it' : 'Lift the bow where a phrase begins';
}

const SHARE_WORDS = new Map([
  [0.75, 'three quarters'],
  [0.6, 'six tenths'],
  [0.5, 'half'],
  [0.4, 'four tenths'],
]);
const shareText = (share: number): string => SHARE_WORDS.get(share) ?? `${Math.round(share * 100)} %`;

const TUNE_SLURS_WORDS: Readonly<Record<TuneSlurs, string>> = {
  keep: 'Kept',
  prefer: 'Kept where no pattern is laid',
  ignore: 'Ignored',
};
/** @example tuneSlursText('ignore') // 'Ignored' */
export const tuneSlursText = (slurs: TuneSlurs): string => TUNE_SLURS_WORDS[slurs];

const REGION_WORDS: Readonly<Record<Region, string>> = {
  'lower half': 'Lower half',
  middle: 'Middle',
  'upper half': 'Upper half',
  whole: 'Whole bow',
};
/** @example regionText('whole') // 'Whole bow' */
export const regionText = (region: Region): string => REGION_WORDS[region];

const STRETCH_WORDS: Readonly<Record<keyof StretchDifferences, readonly [one: string, many: string]>> = {
  notDown: ['first beat that comes up', 'first beats that come up'],
  sticksOut: ['stroke that sticks out', 'strokes that stick out'],
  slurred: ['slurred note', 'slurred notes'],
  stops: ['stop', 'stops'],
  lifts: ['lift', 'lifts'],
  crossings: ['crossing within a stroke', 'crossings within strokes'],
};

/**
 * What a planned bowing changes, each time the notes are played, one short text each.
 * @example stretchTexts({ notDown: 0, slurred: 2, stops: 0, lifts: 0, sticksOut: -1, crossings: 0 }) // ['one fewer stroke that sticks out', 'two more slurred notes']
 */
export function stretchTexts(differences: StretchDifferences): readonly string[] {
  return (Object.keys(STRETCH_WORDS) as (keyof StretchDifferences)[]).flatMap((term) => {
    const count = differences[term];
    if (count === 0) return [];
    const size = Math.abs(count);
    const [one, many] = STRETCH_WORDS[term];
    return [`${WORDS[size] ?? size} ${count > 0 ? 'more' : 'fewer'} ${size === 1 ? one : many}`];
  });
}

const STROKE_SIGN_WORDS: Readonly<Record<StrokeSign, string>> = {
  accent: 'Accent',
  tenuto: 'Line: long',
  staccato: 'Dot: short',
};
/** @example strokeSignText('tenuto') // 'Line: long' */
export const strokeSignText = (sign: StrokeSign): string => STROKE_SIGN_WORDS[sign];

const COUNTING_WORDS: Readonly<Record<Counting, string>> = {
  numbers: '1 e & a, 1 la li',
  ta: 'ta, ti-ti, tri-o-la',
  takadimi: 'ta ka di mi, ta ki da',
};
/** @example countingText('takadimi') // 'ta ka di mi, ta ki da' */
export const countingText = (counting: Counting): string => COUNTING_WORDS[counting];

/**
 * How the bow stands after something was tried: mended, planned or left, in one voice wherever it is said.
 * @param changed whether strokes come out otherwise
 * @param off places that are off the bow with the strokes that hold
 * @example standingText(false, 1) // 'Nothing better is found. One place is left off the bow: “Off the bow” says what helps.'
 */
export function standingText(changed: boolean, off: number): string {
  const what = changed ? '' : 'Nothing better is found';
  if (off === 0) return changed ? '' : `${what}: the strokes stay as they are.`;
  const left = off === 1 ? 'One place is left off the bow' : `${off} places are left off the bow`;
  return `${what}${what && '. '}${left}: “Off the bow” says what helps.`;
}

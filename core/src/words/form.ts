/** Form in words: how phrases relate, what they do, what they are made of. */
import type {
  ChordName,
  Difference,
  Differs,
  Figure,
  Lick,
  Motion,
  PartingRefusal,
  Relation,
  Where,
  Phrase,
} from '../form/index.ts';
import { step, type Pitch } from '../music/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { noteName, stepsText } from './naming.ts';

/**
 * What differs between two phrases, as the end of a sentence; empty for an exact repeat.
 * @example differsText({ where: { kind: 'bars', bars: [4] }, pickup: true }) // 'bar 4 and the pickup'
 */
export const differsText = ({ where, pickup }: Differs): string =>
  [where ? whereText(where) : '', pickup ? 'the pickup' : ''].filter(Boolean).join(' and ');

function whereText(where: Where): string {
  switch (where.kind) {
    case 'bars':
      return barsText(where.bars);
    case 'from-bar':
      return `from bar ${where.bar} on`;
    case 'from-last-beat':
      return `from the last beat of bar ${where.bar} on`;
    case 'last-beats':
      return where.beats === 1 ? 'the last beat' : `the last ${where.beats} beats`;
    case 'length':
      if (Math.abs(where.more) === 1) return where.more > 0 ? 'a bar more at the end' : 'a bar less at the end';
      return where.more > 0 ? 'more at the end' : 'less at the end';
    case 'all-notes':
      return 'the notes';
    case 'middle':
      return `its beginning and its end; ${where.beats} beats in the middle stay`;
    case 'moved': {
      const amount = `${stepsText(Math.abs(where.steps))} ${where.steps > 0 ? 'higher' : 'lower'}`;
      return where.but.length > 0 ? `${amount}, but for ${barsText(where.but)}` : amount;
    }
  }
}

/**
 * Bars within a phrase.
 * @example barsText([2, 4]) // 'bars 2 and 4'
 * @example barsText([2, 3, 4]) // 'bars 2–4'
 */
export function barsText(bars: readonly number[]): string {
  if (bars.length === 1) return `bar ${bars[0]}`;
  if (bars.at(-1)! - bars[0]! === bars.length - 1) return `bars ${bars[0]}–${bars.at(-1)}`;
  return `bars ${bars.slice(0, -1).join(', ')} and ${bars.at(-1)}`;
}

/**
 * How long a phrase is.
 * @example lengthText({ bars: 4, otherBars: [{ bar: 4, beats: 6 }] }) // '4 bars, bar 4 of 6 beats'
 */
export function lengthText({ bars, otherBars }: Pick<Phrase, 'bars' | 'otherBars'>): string {
  const length = bars === 1 ? '1 bar' : `${bars} bars`;
  const [first] = otherBars;
  if (!first) return length;
  if (otherBars.some(({ beats }) => beats !== first.beats)) return `${length} of different lengths`;
  return `${length}, ${barsText(otherBars.map(({ bar }) => bar))} of ${first.beats} beats`;
}

/**
 * How a phrase relates to an earlier one; empty for new material. @param like what the earlier one is called
 * @example relationText({ ...phrase.relation, kind: 'same-rhythm' }, 'A1') // 'rhythm of A1'
 * @example relationText({ ...phrase.relation, kind: 'same-but-ending', differs: { where: { kind: 'from-bar', bar: 3 }, pickup: false } }, 'A1') // 'like A1, other from bar 3 on'
 */
export function relationText({ kind, differs }: Relation, like: string): string {
  if (kind === 'new' || !like) return '';
  const what = differsText(differs);
  const but = what ? butText(differs, what) : '';
  return {
    same: `same as ${like}${but}`,
    'same-but-ending': `like ${like}${but}`,
    'same-but-start': `like ${like}${but}`,
    'same-but-ends': `like ${like}${but}`,
    // Where only some bars are others it is like it as a whole.
    'same-start': `${differs.where?.kind === 'bars' ? '' : 'starts '}like ${like}${but}`,
    'same-rhythm': `rhythm of ${like}`,
    transposed: `like ${like}, ${what}`,
    octave: `like ${like}, ${what}`,
  }[kind];
}

/** What is not as in the other phrase: from somewhere on it is other; elsewhere it is like it but for that; longer, it is like it and goes on. */
function butText({ where, pickup }: Differs, what: string): string {
  switch (where?.kind) {
    case 'from-bar':
    case 'from-last-beat':
      return `, other ${whereText(where)}${pickup ? ' and in the pickup' : ''}`;
    case 'length':
      return `, ${whereText(where)}${pickup ? ', but for the pickup' : ''}`;
    default:
      return ` but for ${what}`;
  }
}

/**
 * One place where two phrases part company.
 * @example differenceText({ bars: [4], how: 'notes', own: [], other: [], ownPitches: [[pitch('G4')]], otherPitches: [[pitch('A4')]] }) // 'bar 4: G instead of A'
 */
export function differenceText(
  { bars, how, ownPitches, otherPitches }: Difference,
  called: Names = USUAL_NAMES,
): string {
  const own = namesText(ownPitches, called);
  const other = namesText(otherPitches, called);
  const where = bars ? barsText(bars) : 'the pickup';
  if (how === 'rhythm') return `${where}: ${own} in another rhythm`;
  if (how === 'not-moved') return `${where}: ${own} instead of ${other} moved`;
  if (ownPitches.length === 0) return `${where}: without ${other}`;
  return otherPitches.length === 0 ? `${where}: ${own} added` : `${where}: ${own} instead of ${other}`;
}

const namesText = (sounds: readonly (readonly Pitch[])[], called: Names) =>
  sounds.map((heads) => heads.map((pitch) => noteName(pitch, called.notes)).join('+')).join(' ');

/**
 * What a stretch of a phrase does.
 * @param plain without names of chords
 * @example motionText({ kind: 'scale', direction: 'up', notes: [], pitches: ['D4', 'E4', 'F#4', 'G4'].map(pitch), chord: null }) // 'runs up from D to G'
 */
export function motionText(
  { kind, direction, pitches, chord }: Motion,
  called: Names = USUAL_NAMES,
  plain = false,
): string {
  const name = (pitch: Pitch) => noteName(pitch, called.notes);
  const [first, last] = [pitches[0]!, pitches.at(-1)!];
  switch (kind) {
    case 'scale':
      return `runs ${direction} from ${name(first)} to ${name(last)}`;
    case 'chromatic':
      return `creeps ${direction} by semitones from ${name(first)} to ${name(last)}`;
    case 'arpeggio': {
      if (plain)
        return direction === 'level'
          ? `skips about from ${name(first)}`
          : `skips ${direction} from ${name(first)} to ${name(last)}`;
      const of = chord ? noteName(chord.root, called.notes) + QUALITIES[chord.quality] : name(first);
      return `arpeggio of ${of}${direction === 'level' ? '' : `, ${direction}`}`;
    }
    case 'repeated':
      return `${name(first)} ${pitches.length} times`;
    case 'turn':
      return `turns around ${name(first)}`;
    case 'pedal':
      return `keeps coming back to ${name(first)}`;
    case 'neighbour': {
      const neighbours = [...new Set(pitches.map(name))].slice(1);
      const often = pitches.length > 3 ? ', to and fro' : ', and back';
      return `${name(first)}, its neighbour${neighbours.length > 1 ? 's' : ''} ${neighbours.join(' and ')}${often}`;
    }
    case 'leap':
      return `leaps ${direction} ${stepsText(Math.abs(step(last) - step(first)))} to ${name(last)}`;
  }
}

const QUALITIES: Readonly<Record<ChordName['quality'], string>> = {
  major: '',
  minor: ' minor',
  diminished: ' diminished',
  augmented: ' augmented',
  seventh: '7',
  'minor-seventh': ' minor 7',
  'major-seventh': ' major 7',
  'half-diminished': ' half-diminished',
  'diminished-seventh': ' diminished 7',
};

const CELLS: Readonly<Record<number, string>> = { 2: 'two bars', 1: 'a bar', 0.5: 'half a bar' };

/**
 * What a phrase is made of.
 * @example figureText({ kind: 'sequence', notes: [], bars: 1, steps: -1, times: 1, pitches: [] }) // 'a bar, then the same a step lower'
 */
export function figureText({ kind, bars, steps, times, pitches }: Figure, called: Names = USUAL_NAMES): string {
  if (bars === null) {
    const names = pitches.map((pitch) => noteName(pitch, called.notes)).join(' ');
    return `${names}: a figure of ${pitches.length} notes that runs across the beat`;
  }
  const cell = CELLS[bars] ?? `${bars} bars`;
  const often = times === 1 ? '' : `, ${times} times`;
  if (kind === 'again') return `${cell}, then the same again${often}`;
  const moved = kind === 'echo' ? 'its echo an octave' : `the same ${stepsText(Math.abs(steps))}`;
  return `${cell}, then ${moved} ${steps > 0 ? 'higher' : 'lower'}${often}`;
}

/** Names of a lick's notes. @example lickText({ pitches: ['B4', 'G4', 'B4'].map(pitch) }) // 'B G B' */
export const lickText = ({ pitches }: Pick<Lick, 'pitches'>, called: Names = USUAL_NAMES): string =>
  pitches.map((pitch) => noteName(pitch, called.notes)).join(' ');

const REFUSALS: Readonly<Record<PartingRefusal, string>> = {
  'tune-begins': 'The tune begins here; this place cannot be moved.',
  'empty-phrase': 'A phrase needs at least one note.',
  'begins-already': 'A phrase begins here already.',
  'no-phrase-before': 'There is no phrase before this one.',
  'no-phrase': 'There is no such phrase.',
  'first-part': 'The tune begins here, and so does its first part.',
  'no-note': 'There is no such note.',
  'inside-tie': 'This note is held over from the one before; a phrase cannot begin inside a tie.',
  'under-slur': 'This note is under a slur that began before; take the slur away first.',
};

/**
 * Why a tune cannot be parted so.
 * @example partingText('begins-already') // 'A phrase begins here already.'
 */
export const partingText = (why: PartingRefusal): string => REFUSALS[why];

/** One `note` element: its pitch, its written value, and every sign on it. */
import {
  LETTERS,
  NOTE_TYPES,
  TICKS_PER_QUARTER,
  transposePitch,
  valueLength,
  type Alter,
  type BowMark,
  type Decoration,
  type Dynamic,
  type Head,
  type Letter,
  type NoteType,
  type NoteValue,
  type Pitch,
  type Syllable,
  type Ticks,
} from '../../music/index.ts';
import type { Notices } from '../notices.ts';
import type { Place } from '../../music/index.ts';
import { readDynamic } from './directions.ts';
import { signOf } from './signs.ts';
import { child, children, numberOf, textOf, type XmlElement } from './tree.ts';

/** How written notes of a transposing part become sounding ones. */
export interface Transposition {
  readonly steps: number;
  readonly semitones: number;
}

export interface Signs {
  readonly bow?: BowMark;
  readonly decorations?: readonly Decoration[];
  readonly dynamic?: Dynamic;
}

export interface NoteContext {
  readonly notices: Notices;
  place(at: number): Place;
}

/** Octaves as they are written; what sounds may lie beside them by a transposition. */
const LOWEST_OCTAVE = 0;
const HIGHEST_OCTAVE = 9;

const clean = (number: number) => Math.max(-2, Math.min(2, Math.round(number))) as Alter;

export function readPitch(note: XmlElement, { steps, semitones }: Transposition, context: NoteContext): Pitch | null {
  const element = child(note, 'pitch');
  const letter = textOf(element, 'step') as Letter;
  const octave = numberOf(element, 'octave');
  if (!element || !LETTERS.includes(letter) || octave === undefined) return null;
  if (!Number.isInteger(octave) || octave < LOWEST_OCTAVE || octave > HIGHEST_OCTAVE) {
    context.notices.add(
      'A note’s octave is no octave of any instrument; it was read as a rest.',
      context.place(note.at),
    );
    return null;
  }
  const alter = numberOf(element, 'alter') ?? 0;
  if (!Number.isInteger(alter)) {
    context.notices.add('Quarter tones are not carried over; the nearest note was taken.', context.place(note.at));
  }
  const written = { letter, alter: clean(alter), octave };
  return steps === 0 && semitones === 0 ? written : transposePitch(written, steps, semitones);
}

/** The written value, or null where the file gives only a duration. */
export function readValue(note: XmlElement): NoteValue | null {
  const type = textOf(note, 'type') as NoteType;
  if (!NOTE_TYPES.includes(type)) return null;
  return { type, dots: Math.min(3, children(note, 'dot').length) as 0 | 1 | 2 | 3 };
}

export interface Ratio {
  readonly actual: number;
  readonly normal: number;
}

export function readRatio(note: XmlElement): Ratio | null {
  const actual = numberOf(note, 'time-modification', 'actual-notes');
  const normal = numberOf(note, 'time-modification', 'normal-notes');
  if (!actual || !normal || actual === normal || actual > 64 || normal > 64) return null;
  return { actual: Math.round(actual), normal: Math.round(normal) };
}

/** Divisions that do not divide our ticks leave roundings; what is written says the exact length. */
export function exactLength(duration: number, value: NoteValue | null, ratio: Ratio | null): Ticks {
  if (!value) return duration;
  const written = (valueLength(value) * (ratio?.normal ?? 1)) / (ratio?.actual ?? 1);
  return Math.abs(written - duration) < TICKS_PER_QUARTER / 48 ? written : duration;
}

export function readHead(note: XmlElement, pitch: Pitch): Head {
  const technical = children(note, 'notations').flatMap((notations) => children(notations, 'technical'));
  const all = technical.flatMap(({ children: signs }) => signs);
  const fingers = all.filter(({ name, text }) => name === 'fingering' && /^[0-5]$/.test(text));
  const isOther = ({ attributes }: XmlElement) =>
    attributes['alternate'] === 'yes' || attributes['substitution'] === 'yes';
  const finger = all.some(({ name }) => name === 'thumb-position')
    ? 'T'
    : (fingers.find((sign) => !isOther(sign))?.text ??
      (all.some(({ name }) => name === 'open-string') ? '0' : undefined));
  const others = fingers.filter(isOther).map(({ text }) => text);
  const string = Number(all.find(({ name }) => name === 'string')?.text);
  const tied =
    children(note, 'tie').some(({ attributes }) => attributes['type'] === 'start') ||
    children(note, 'notations').some((notations) =>
      children(notations, 'tied').some(({ attributes }) => attributes['type'] === 'start'),
    );
  return {
    pitch,
    ...(tied && { tied }),
    ...(finger !== undefined && { finger }),
    ...(others.length > 0 && { otherFingers: others }),
    ...(Number.isInteger(string) && string >= 1 && string <= 6 && { string }),
  };
}

const BOWS: Readonly<Record<string, BowMark>> = { 'down-bow': 'down', 'up-bow': 'up' };
/** Read with the head, or drawn by whoever prints. */
const READ_ELSEWHERE = new Set([
  'fingering',
  'string',
  'open-string',
  'thumb-position',
  'fret',
  'accidental-mark',
  'wavy-line',
]);

export function readSigns(note: XmlElement, context: NoteContext): Signs {
  const decorations = new Set<Decoration>();
  let bow: BowMark | undefined;
  let dynamic: Dynamic | undefined;
  for (const element of children(note, 'notations').flatMap(({ children: list }) => list)) {
    if (element.name === 'fermata') decorations.add('fermata');
    else if (element.name === 'dynamics') dynamic = readDynamic(element) ?? dynamic;
    else if (element.name === 'ornaments' || element.name === 'articulations' || element.name === 'technical') {
      for (const sign of element.children) {
        const known = signOf(element.name, sign.name, sign.text);
        bow = BOWS[sign.name] ?? bow;
        if (known) decorations.add(known);
        else if (!BOWS[sign.name] && !READ_ELSEWHERE.has(sign.name)) leftOut(sign, context);
      }
    } else if (!['tied', 'slur', 'tuplet'].includes(element.name)) leftOut(element, context);
  }
  return {
    ...(bow && { bow }),
    ...(decorations.size > 0 && { decorations: [...decorations] }),
    ...(dynamic && { dynamic }),
  };
}

function leftOut(sign: XmlElement, { notices, place }: NoteContext): void {
  notices.add(
    `The sign “${sign.name.replaceAll('-', ' ')}” was left out; it says nothing to the fingers or the bow here.`,
    place(sign.at),
  );
}

/** Verses by their number; names that are no numbers take the next free place. */
export function readLyrics(note: XmlElement, verses: Map<string, number>): readonly (Syllable | null)[] | undefined {
  const words: (Syllable | null)[] = [];
  for (const lyric of children(note, 'lyric')) {
    const text = children(lyric, 'text')
      .map(({ text: piece }) => piece)
      .join(' ')
      .trim();
    if (text === '') continue;
    const verse = verseIndex(lyric.attributes['number'] ?? '1', verses);
    const syllabic = textOf(lyric, 'syllabic');
    while (words.length < verse) words.push(null);
    words[verse] = {
      text,
      ...((syllabic === 'begin' || syllabic === 'middle') && { hyphen: true }),
      ...(child(lyric, 'extend') && { extend: true }),
    };
  }
  return words.length > 0 ? words : undefined;
}

const MOST_VERSES = 20;

function verseIndex(name: string, verses: Map<string, number>): number {
  const number = Number(name);
  if (Number.isInteger(number) && number >= 1 && number <= MOST_VERSES) return number - 1;
  const known = verses.get(name) ?? Math.min(verses.size, MOST_VERSES - 1);
  verses.set(name, known);
  return known;
}

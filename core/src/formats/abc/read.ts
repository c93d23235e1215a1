/**
 * ABC in: abcjs parses, this maps what it found to a tune. What cannot be carried over is listed with
 * its place; a text that is no tune is refused with a reason.
 */
import {
  C_MAJOR,
  fillsBar,
  barNumbers,
  misfitText,
  transposeTune,
  type Key,
  type Metre,
  type Place,
  type Tune,
} from '../../music/index.ts';
import { finished, keepable } from '../finish.ts';
import { placeFinder } from '../places.ts';
import type { Problem, ReadResult } from '../problem.ts';
import { headerFields, splitBook, type AbcTune } from './book.ts';
import { readKey, readMetre } from './keys.ts';
import { inOrder, readOrder } from './parts.ts';
import { parseAbc, type ParsedElement, type ParsedMeter, type ParsedStaff, type ParsedTune } from './parsed.ts';
import { TO_CODA, prepare, unitTempo, type Prepared } from './prepare.ts';
import { readTempo, tempoOf } from './tempo.ts';
import { TooMuch, readVoice, type ReadVoice } from './voice.ts';
import { explainWarnings } from './warnings.ts';
import { belowLines } from './below.ts';
import { withSymbols } from './symbols.ts';
import { withWords } from './words.ts';

/** Larger than any tune book; keeps a hostile file from holding the process. */
const MAX_ABC_CHARACTERS = 8_000_000;

export interface AbcTuneEntry {
  /** From 1, in the order of the file. */
  readonly number: number;
  readonly title: string;
}

export interface AbcReading {
  readonly tune: Tune;
  /** Names of the voices, for choosing; one entry in most tunes. */
  readonly voices: readonly string[];
}

export interface AbcOptions {
  /** Which tune of the file, from 1. */
  readonly tune?: number;
  /** Which voice, from 1. */
  readonly voice?: number;
}

/** A file of tunes, taken apart once, so that a book of thousands costs each tune the same. */
export interface AbcBook {
  readonly tunes: readonly AbcTuneEntry[];
  /** Reads one tune. */
  read(options?: AbcOptions): ReadResult<AbcReading>;
}

/**
 * The tunes of a file, without reading their notes. A text that is no ABC at all is refused.
 * @example openAbcBook('X:1\nT:Tar\nK:G\nG4 |').ok // true
 */
export function openAbcBook(source: string): ReadResult<AbcBook> {
  const early = refuse(source);
  if (early) return { ok: false, problems: [early] };
  const book = splitBook(source);
  return {
    ok: true,
    value: {
      tunes: book.map(({ title }, index) => ({ number: index + 1, title: title || `Tune ${index + 1}` })),
      read: ({ tune = 1, voice = 1 } = {}) => readEntry(book, tune, voice),
    },
    notices: [],
  };
}

/**
 * Reads one tune.
 *
 * @returns the tune with notices, or the problems that keep it from being read
 * @example readAbc('X:1\nT:Lamp Oil\nM:2/4\nL:1/8\nK:D\nAd fd|').value.tune.title // 'Lamp Oil'
 */
export function readAbc(source: string, options: AbcOptions = {}): ReadResult<AbcReading> {
  const book = openAbcBook(source);
  return book.ok ? book.value.read(options) : book;
}

function readEntry(book: readonly AbcTune[], tune: number, voice: number): ReadResult<AbcReading> {
  const entry = book[tune - 1];
  if (!entry) {
    return fail(
      `The file has ${book.length} ${book.length === 1 ? 'tune' : 'tunes'}; there is no tune ${tune}.`,
      'Choose another number.',
    );
  }
  const early = tooMuch(entry);
  if (early) return { ok: false, problems: [early] };
  const ready = prepare(entry);
  // A field that was continued may have grown too long.
  const late = tooMuch(ready);
  if (late) return { ok: false, problems: [late] };
  const parsed = parseAbc(ready.text);
  const problems = [
    ...explainWarnings(parsed?.warnings ?? [], (line) => entry.lines[line - 1] ?? line),
    ...ready.notices,
  ];
  const errors = problems.filter(({ severity }) => severity === 'error');
  if (errors.length > 0) return { ok: false, problems };
  if (!parsed) return fail('No tune was found here.', 'An ABC tune has a line K: with the key, and notes after it.');
  try {
    return build(ready, parsed, voice, problems);
  } catch (error) {
    if (error instanceof TooMuch) return { ok: false, problems: [error.problem] };
    throw error;
  }
}

/** Voices laid over each other with &, in one line: the parser's time grows with their square. */
const MOST_OVERLAYS = 40;
/** Letters in one tune; a long one with many verses stays below a tenth of it. */
const MAX_TUNE_CHARACTERS = 400_000;
/** Letters in one line of music, which the parser goes through more than once. */
const MAX_LINE_CHARACTERS = 40_000;

/** Voices in one tune; the parser goes through all of them at each line. */
const MOST_VOICES = 40;
/** Slurs that begin before the first of them ends. */
const MOST_OPEN_SLURS = 40;
/** Spaces in a row, which the parser looks through again from each of them. */
const MOST_SPACES = 400;

/** What would keep the parser busy for long, said before it begins. */
function tooMuch({ text, lines }: AbcTune): Problem | null {
  const all = text.split('\n');
  const found = (index: number, column: number, message: string, remedy: string): Problem => ({
    severity: 'error',
    message,
    remedy,
    line: lines[index] ?? 1,
    column,
  });
  const long = all.findIndex((line) => line.length > MAX_LINE_CHARACTERS);
  if (long >= 0 || text.length > MAX_TUNE_CHARACTERS)
    return found(Math.max(0, long), 1, 'This tune is longer than any that can be read.', 'Split it.');
  const voices = new Set<string>();
  let slurs = 0;
  for (const [index, line] of all.entries()) {
    if (line.includes(' '.repeat(MOST_SPACES)) || line.includes('\t'.repeat(MOST_SPACES)))
      return found(index, 1, `There are more than ${MOST_SPACES} spaces in a row in this line.`, 'Take them out.');
    for (const [, name] of line.matchAll(/(?:^|\[)V:\s*([^\s\]]{1,40})/g)) voices.add(name!);
    if (voices.size > MOST_VOICES)
      return found(index, 1, `The tune has more than ${MOST_VOICES} voices.`, 'Export only the voices that you need.');
    if (/^([A-Za-z]:|%)/.test(line)) continue;
    if (line.split('&').length > MOST_OVERLAYS)
      return found(
        index,
        line.indexOf('&') + 1,
        `There are more than ${MOST_OVERLAYS} voices laid over each other (&) in this line.`,
        'Write them as voices (V:), or split the tune.',
      );
    for (const sign of line.matchAll(/\((?!\d)|\)/g)) {
      slurs = Math.max(0, slurs + (sign[0] === '(' ? 1 : -1));
      if (slurs > MOST_OPEN_SLURS)
        return found(
          index,
          sign.index + 1,
          `More than ${MOST_OPEN_SLURS} slurs have begun here, and none of them has ended.`,
          'Put ) after the last note of each.',
        );
    }
  }
  return null;
}

function fail(message: string, remedy: string, place: Partial<Place> = {}): { ok: false; problems: Problem[] } {
  return { ok: false, problems: [{ severity: 'error', message, remedy, ...place }] };
}

/** Texts that are plainly no ABC, before the parser sees them. */
function refuse(source: string): Problem | null {
  const remedy = 'An ABC tune has lines such as T: (title), M: (metre) and K: (key), then notes between bar lines.';
  if (source.length > MAX_ABC_CHARACTERS) {
    return {
      severity: 'error',
      message: 'The file is larger than 8 million characters.',
      remedy: 'Split it into smaller tune books.',
    };
  }
  if (source.trim() === '') return { severity: 'error', message: 'There is no text here.', remedy };
  // oxlint-disable-next-line no-control-regex -- such signs are what is looked for
  if (/[\u0000-\u0008\u000E-\u001F]/.test(source)) {
    return {
      severity: 'error',
      message: 'This is not a text file.',
      remedy: 'Save the tune as plain text and try again.',
    };
  }
  if (!/^K:/m.test(source) && !source.includes('|')) {
    return {
      severity: 'error',
      message: 'This does not look like ABC: it has neither a key line K: nor a bar line.',
      remedy,
      line: 1,
      column: 1,
    };
  }
  return null;
}

function build(
  entry: Prepared,
  parsed: ParsedTune,
  voice: number,
  problems: readonly Problem[],
): ReadResult<AbcReading> {
  const fields = headerFields(entry.text);
  const field = (name: string) => (fields.get(name) ?? []).map((value) => value.trim()).filter(Boolean);
  const staffLines = parsed.lines.flatMap((line) => (line.staff ? [line.staff] : []));
  const voices = voiceNames(staffLines);
  const chosen = voices[voice - 1];
  if (!chosen)
    return fail(
      'No notes were found in this tune.',
      'The notes come after the line K:, with | between the bars.',
      lastLine(entry),
    );
  const first = staffLines[0]![chosen.staff]!;
  const metre: Metre = readMetre(first.meter) ?? { beats: 4, unit: 4 };
  const free = /^(none)?$/i.test(fields.get('M')?.at(-1)?.trim() ?? 'M');
  const key: Key = first.key ? readKey(first.key, field('K').join(' ')) : C_MAJOR;
  const place = placesIn(entry);
  const read = readVoice(
    staffLines.map((staves, line): readonly ParsedElement[] => {
      const staff = staves[chosen.staff];
      const elements = staff?.voices[chosen.voice] ?? [];
      // A metre that holds for all voices from here on.
      const metre = line > 0 && staff?.meter;
      return metre ? [{ ...metre, el_type: 'meter' }, ...elements] : elements;
    }),
    {
      key,
      metre,
      free,
      daCoda: entry.text.includes(TO_CODA),
      times: (at) => entry.times.get(at),
      accidentals: propagation(entry.text),
      text: (from, to) => entry.text.slice(from, to),
      place,
    },
  );
  if (!read.bars.some((bar) => bar.events.some((event) => event.kind === 'note'))) {
    return fail(
      'No notes were found in this tune.',
      'The notes come after the line K:, with | between the bars.',
      lastLine(entry),
    );
  }
  const inUnits = unitTempo(field('Q').at(-1), field('L').at(-1), metre);
  const order = readOrder(field('P')[0] ?? '');
  const below = belowLines(read.bars, entry);
  const marked = withSymbols(read.bars, below);
  const sung = withWords(marked.bars, below);
  const ordered = (order && inOrder(sung, read.slurs, order)) ?? { bars: sung, slurs: read.slurs };
  const tune: Tune = {
    title: field('T')[0] ?? 'Untitled',
    alsoKnownAs: field('T').slice(1),
    composer: field('C').join(', '),
    origin: field('O').join(', '),
    style: field('R').join(', '),
    notes: [
      ...field('N'),
      ...field('H'),
      ...prefixed('Source', field('S')),
      ...prefixed('Book', field('B')),
      ...prefixed('Transcribed by', field('Z')),
      ...field('W'),
    ],
    tempo: inUnits ? tempoOf(inUnits) : readTempo(parsed.metaText.tempo),
    bars: ordered.bars,
    slurs: ordered.slurs,
    ...(first.clef?.type === 'bass' && { clef: 'bass' }),
  };
  const notices = [
    ...problems,
    ...headerNotices(fields),
    ...symbolNotices(marked.unknown, entry),
    ...metreNotices(first.meter, field('M').at(-1) ?? ''),
    ...read.notices,
    ...(readMetre(first.meter) ? barNotices(read) : []),
  ];
  const { semitones, notice } = transpositionOf(first.clef, entry);
  const end = finished(semitones === 0 ? tune : transposeTune(tune, semitones), [...notices, ...notice]);
  if (!end.ok) return end;
  return {
    ok: true,
    value: { tune: end.value, voices: voices.map(({ name }) => keepable(name)) },
    notices: [...end.notices].sort((a, b) => (a.line ?? 0) - (b.line ?? 0)),
  };
}

/** Semitones that a voice sounds above what is written: `transpose=`, and clefs with an 8. */
function transpositionOf(clef: ParsedStaff['clef'], entry: AbcTune): { semitones: number; notice: Problem[] } {
  const octave = /([-+])8$/.exec(clef?.type ?? '')?.[1];
  const semitones = (clef?.transpose ?? 0) + (octave ? 12 * Number(`${octave}1`) : 0);
  if (!Number.isInteger(semitones) || semitones === 0 || Math.abs(semitones) > MOST_TRANSPOSED)
    return { semitones: 0, notice: [] };
  const at = entry.text.split('\n').findIndex((line) => /transpose\s*=|[-+]8\b/.test(line));
  const message = `What is written sounds ${Math.abs(semitones)} semitones ${semitones > 0 ? 'higher' : 'lower'}; it was taken as it sounds.`;
  return { semitones, notice: [{ severity: 'notice', message, line: entry.lines[Math.max(0, at)] ?? 1, column: 1 }] };
}
/** Semitones; no instrument is written farther from its sound. */
const MOST_TRANSPOSED = 36;

const prefixed = (label: string, values: readonly string[]) => values.map((value) => `${label}: ${value}`);

const lastLine = (entry: AbcTune): Place => ({ line: entry.lines.at(-1) ?? 1, column: 1 });

interface VoiceChoice {
  readonly name: string;
  readonly staff: number;
  readonly voice: number;
}

function voiceNames(
  lines: readonly (readonly {
    readonly voices: readonly (readonly ParsedElement[])[];
    readonly title?: readonly (string | undefined)[];
  }[])[],
): readonly VoiceChoice[] {
  const staves = lines[0] ?? [];
  const choices = staves.flatMap((staff, staffIndex) =>
    staff.voices.map((_, voice) => ({ staff: staffIndex, voice, title: staff.title?.[voice] })),
  );
  return choices.map(({ staff, voice, title }, index) => ({
    staff,
    voice,
    name: title?.trim() || `Voice ${index + 1}`,
  }));
}

/** Accidentals reach all octaves of their bar unless the source says otherwise (ABC 2.1, section 11.3). */
function propagation(text: string): 'pitch' | 'octave' | 'not' {
  const match = /^(?:%%|I:)\s*propagate-accidentals\s+(\w+)/m.exec(text);
  return match?.[1] === 'octave' || match?.[1] === 'not' ? match[1] : 'pitch';
}

function placesIn({ text, lines }: AbcTune): (at: number) => Place {
  const find = placeFinder(text);
  return (at) => {
    const { line, column } = find(at);
    return { line: lines[line - 1] ?? line, column };
  };
}

/** Signs of an `s:` line that are none here. */
function symbolNotices(unknown: readonly string[], { symbols, lines }: Prepared): readonly Problem[] {
  return unknown.map((sign) => {
    const [index = 0] = [...symbols].find(([, text]) => text.includes(sign)) ?? [];
    return {
      severity: 'notice',
      message: `The sign ${sign} in a line of signs (s:) was left out; it says nothing to the fingers or the bow here.`,
      line: lines[index] ?? index + 1,
      column: 3 + (symbols.get(index)?.indexOf(sign) ?? 0),
    };
  });
}

/** A metre was written, and no music has it. */
function metreNotices(parsed: ParsedMeter | undefined, written: string): readonly Problem[] {
  if (!parsed?.value?.length || readMetre(parsed)) return [];
  return [
    {
      severity: 'notice',
      message: `The metre “${written.slice(0, 20)}” was not understood; 4/4 was taken.`,
      remedy: 'Write it like M:6/8, with at most 64 beats.',
    },
  ];
}

function headerNotices(fields: ReadonlyMap<string, readonly string[]>): readonly Problem[] {
  const order = fields.get('P')?.[0];
  return [
    ...(fields.has('K')
      ? []
      : [
          {
            severity: 'notice' as const,
            message: 'There is no line K: with the key; C major was taken.',
            remedy: 'Add the key, for example K:D.',
          },
        ]),
    ...(order && !readOrder(order)
      ? [
          {
            severity: 'notice' as const,
            message: `The order of parts “${order}” was not understood; the tune is played as it is written.`,
            remedy: 'Write it like AABB or (AB)2C, or use repeat signs.',
          },
        ]
      : []),
  ];
}

/** Bars that do not add up, but for pickups and for bars that a repeat sign splits in two. */
function barNotices({ bars }: ReadVoice): readonly Problem[] {
  const numbers = barNumbers(bars);
  return bars.flatMap((bar, index): Problem[] => {
    if (fillsBar(bars, index)) return [];
    return [
      {
        severity: 'notice',
        message: `Bar ${numbers[index]} is ${misfitText(bar)}.`,
        remedy: 'Check the note lengths in this bar.',
        ...bar.events[0]?.source,
      },
    ];
  });
}

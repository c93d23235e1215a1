/** Any file in: which tunes and voices it holds, and each of them read. */
import type { Decisions } from '../arrange/index.ts';
import {
  CONTAINER,
  decodeText,
  kindOf,
  openAbcBook,
  openZip,
  readMidi,
  readMusicXml,
  scoreIn,
  type Budget,
  type FileKind,
  type MidiOptions,
  type MidiReading,
  type Problem,
  type ReadResult,
  type ZipArchive,
} from '../formats/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Tune } from '../music/index.ts';
import { readNokta, type NamedVersion } from './nokta.ts';

/** Larger files are refused before they are looked at; in bytes. */
export const MAX_FILE_BYTES = 120_000_000;

/** A tune read from a file, with all that came along. */
export interface Incoming {
  readonly tune: Tune;
  /** Voices, parts or tracks to choose from. */
  readonly voices: readonly string[];
  /** The instrument that the part seems to be for. */
  readonly instrument: InstrumentId | null;
  readonly midi: Pick<MidiReading, 'taken' | 'metres' | 'keys'> | null;
  readonly arrangements: readonly Decisions[];
  readonly tags: readonly string[];
  readonly versions: readonly NamedVersion[];
}

export interface ReadChoice {
  /** From 1. */
  readonly tune?: number;
  /** From 1. */
  readonly voice?: number;
  readonly midi?: Omit<MidiOptions, 'voice'>;
}

export interface OpenedFile {
  readonly kind: FileKind;
  readonly tunes: readonly { readonly number: number; readonly title: string }[];
  read(choice?: ReadChoice): ReadResult<Incoming>;
}

const fail = (message: string, remedy: string): ReadResult<never> => ({
  ok: false,
  problems: [{ severity: 'error', message, remedy }],
});

/**
 * @param name file name, which helps only where the contents leave it open
 * @example openFile(new TextEncoder().encode('X:1\nT:Tar\nK:G\nG4 |'), 'tar.abc').value.kind // 'abc'
 */
export function openFile(bytes: Uint8Array, name: string): ReadResult<OpenedFile> {
  if (bytes.length === 0) return fail('The file is empty.', 'Save or export it again.');
  if (bytes.length > MAX_FILE_BYTES) return fail('The file is larger than 120 megabytes.', 'Split it, or export less.');
  const kind = kindOf(bytes, name);
  switch (kind) {
    case 'abc':
      return openAbc(decodeText(bytes));
    case 'midi':
      return one(kind, titleFrom(name), (choice) => midiTune(bytes, choice, titleFrom(name)));
    case 'musicxml': {
      const text = decodeText(bytes);
      return one(kind, titleFrom(name), (choice) => xmlTune(text, choice));
    }
    case 'mxl':
      return openArchive(bytes, name, true);
    case 'zip':
      return openArchive(bytes, name, false);
    case 'nokta':
      return one(kind, titleFrom(name), () => noktaTune(decodeText(bytes)));
  }
}

/**
 * Pasted or typed text: ABC, or whatever else it looks like.
 * @example openText('X:1\nT:Tar\nK:G\nG4 |').value.tunes.length // 1
 */
export function openText(text: string): ReadResult<OpenedFile> {
  const beginning = text.trimStart();
  if (beginning.startsWith('<')) return one('musicxml', 'Pasted tune', (choice) => xmlTune(text, choice));
  if (beginning.startsWith('{')) return one('nokta', 'Pasted tune', () => noktaTune(text));
  return openAbc(text);
}

function openAbc(text: string): ReadResult<OpenedFile> {
  const book = openAbcBook(text);
  if (!book.ok) return book;
  const { tunes, read } = book.value;
  const opened: OpenedFile = {
    kind: 'abc',
    tunes,
    read: ({ tune = 1, voice = 1 } = {}) =>
      plain(read({ tune, voice }), ({ tune: one, voices }) => ({
        tune: one,
        voices,
        instrument: instrumentNamed(voices[voice - 1] ?? ''),
      })),
  };
  return { ok: true, value: opened, notices: [] };
}

/** A file with one tune is opened only if it can be read. */
function one(
  kind: FileKind,
  title: string,
  read: (choice: ReadChoice) => ReadResult<Incoming>,
): ReadResult<OpenedFile> {
  const first = read({});
  if (!first.ok) return first;
  const known = first.value.tune.title;
  return {
    ok: true,
    value: {
      kind,
      tunes: [{ number: 1, title: known === 'Untitled' ? title : known }],
      read: (choice = {}) => (isDefault(choice) ? first : read(choice)),
    },
    notices: [],
  };
}

const isDefault = ({ voice = 1, midi }: ReadChoice) => voice === 1 && midi === undefined;

function openMxl(archive: ZipArchive, name: string): ReadResult<OpenedFile> {
  const text = scoreIn(archive);
  return text.ok ? one('mxl', titleFrom(name), (choice) => xmlTune(text.value, choice)) : text;
}

/** Unpacked bytes of all packed scores in one archive: a book of two thousand stays below. */
const MAX_NESTED = 200_000_000;
const READABLE = /\.(abc|musicxml|xml|mxl|midi?|nokta\.json)$/i;

/** An archive is a packed score, or a book: every file in it that can be read is a tune. */
function openArchive(bytes: Uint8Array, name: string, packed: boolean, budget?: Budget): ReadResult<OpenedFile> {
  const opened = openZip(bytes, budget);
  if (!opened.ok) return opened;
  const archive = opened.value;
  if (packed || archive.names.includes(CONTAINER)) return openMxl(archive, name);
  const readable = archive.names.filter((entry) => READABLE.test(entry) && !entry.startsWith('__MACOSX/')).sort();
  if (readable.length === 0)
    return fail(
      'There are no tunes in this archive.',
      'It should hold .abc, .musicxml, .mxl, .mid or .nokta.json files.',
    );
  // Scores in archives of their own are unpacked one after the other, all from one budget.
  const inside: Budget = { left: MAX_NESTED };
  const costs = new Map<string, number>();
  return {
    ok: true,
    value: {
      kind: 'zip',
      tunes: readable.map((entry, index) => ({ number: index + 1, title: titleFrom(entry) })),
      read: ({ tune = 1, ...choice } = {}) => {
        const wanted = readable[tune - 1];
        if (!wanted) return fail(`The archive has ${readable.length} tunes.`, 'Choose another one.');
        const entry = archive.entry(wanted);
        if (!entry.ok) return entry;
        // An archive inside an archive is a score at most.
        const kind = kindOf(entry.value, wanted);
        const nested = kind === 'mxl' || kind === 'zip';
        // One that is looked at again may have what it took the first time, and is not counted again.
        const known = costs.get(wanted);
        const own: Budget = { left: known ?? inside.left };
        const inner = nested ? openArchive(entry.value, wanted, true, own) : openFile(entry.value, wanted);
        if (known === undefined) {
          costs.set(wanted, inside.left - own.left);
          inside.left = own.left;
        }
        return inner.ok ? inner.value.read(choice) : inner;
      },
    },
    notices: [],
  };
}

function xmlTune(text: string, { voice = 1 }: ReadChoice): ReadResult<Incoming> {
  return plain(readMusicXml(text, { voice }), ({ tune, voices, partName }) => ({
    tune,
    voices,
    instrument: instrumentNamed(partName),
  }));
}

function midiTune(bytes: Uint8Array, { voice = 1, midi }: ReadChoice, title: string): ReadResult<Incoming> {
  return plain(readMidi(bytes, { voice, ...midi }), ({ tune, voices, partName, ...found }) => ({
    tune: tune.title === 'Untitled' ? { ...tune, title } : tune,
    voices,
    instrument: instrumentNamed(partName),
    midi: found,
  }));
}

function noktaTune(text: string): ReadResult<Incoming> {
  return plain(readNokta(text), (contents) => ({ ...contents, voices: ['Tune'], instrument: null }));
}

const NOTHING_ELSE = { midi: null, arrangements: [], tags: [], versions: [] } as const;

function plain<T>(
  result: ReadResult<T>,
  make: (value: T) => Pick<Incoming, 'tune' | 'voices' | 'instrument'> & Partial<Incoming>,
): ReadResult<Incoming> {
  if (!result.ok) return result;
  const notices: readonly Problem[] = result.notices;
  return { ok: true, value: { ...NOTHING_ELSE, ...make(result.value) }, notices };
}

const INSTRUMENT_NAMES: readonly (readonly [RegExp, InstrumentId])[] = [
  [/violoncell|cello|vcl?\b/i, 'cello'],
  [/contrabass|double bass|kontrabass|string bass|^bass\b|upright/i, 'bass'],
  [/viola|bratsche|\bvla\b|\balto\b/i, 'viola'],
  [/violin|fiddle|geige|violon\b|\bvln\b/i, 'violin'],
];

/**
 * The instrument that a part's name names, in the languages that scores come in.
 * @example instrumentNamed('Violoncello') // 'cello'
 */
export function instrumentNamed(name: string): InstrumentId | null {
  return INSTRUMENT_NAMES.find(([pattern]) => pattern.test(name))?.[1] ?? null;
}

/** "harbour-lights_2.abc" → "Harbour lights 2". */
function titleFrom(name: string): string {
  const base = (name.split(/[\\/]/).at(-1) ?? '').replace(/\.nokta\.json$|\.[^.]*$/i, '');
  const words = base.replace(/[_-]+/g, ' ').trim();
  return words === '' ? 'Untitled' : words[0]!.toUpperCase() + words.slice(1);
}

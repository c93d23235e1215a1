/** The bytes of a MIDI file as tracks of notes, in our ticks, at a cost that grows with the file and no faster. */
import { parseMidi, type MidiEvent } from 'midi-file';
import {
  TICKS_PER_QUARTER,
  keyOf,
  transposePitch,
  type Key,
  type Letter,
  type Metre,
  type Midi,
} from '../../music/index.ts';
import type { ReadResult } from '../problem.ts';
import type { PlayedNote } from './quantise.ts';
import type { From } from './sections.ts';
import { walkMidi, type Walked } from './walk.ts';

/** Hours of piano playing stay below this. */
export const MAX_MIDI_BYTES = 8_000_000;
const MAX_NOTES = 60_000;
/** Notes with all their bends and pedals; each becomes an object of its own. */
const MAX_EVENTS = 600_000;
/** An hour of a brisk tune; keeps a forged time stamp from making bars without end. */
export const MAX_QUARTERS = 8_000;
/** No note is held for longer. */
const LONGEST_QUARTERS = 128;
/** Of sixteen channels this one is the drums', counted from 0. */
const DRUMS = 9;

export interface MidiTrack {
  readonly name: string;
  /** Notes after the longest time that is read. */
  readonly late: number;
  readonly notes: readonly PlayedNote[];
}

export interface MidiHeader {
  readonly name: string;
  readonly metres: readonly From<Metre>[];
  readonly keys: readonly From<Key>[];
  /** Quarters a minute. */
  readonly tempos: readonly From<number>[];
}

/** What a file holds, and how it is damaged where it can still be read. */
export interface ParsedFile {
  readonly header: MidiHeader;
  readonly tracks: readonly MidiTrack[];
  readonly damage: readonly string[];
}

export const fail = (message: string, remedy: string): ReadResult<never> => ({
  ok: false,
  problems: [{ severity: 'error', message, remedy }],
});

/** An event and when it comes, in the file's own ticks from the beginning. */
type Timed = MidiEvent & { readonly at: number };

export function parse(bytes: Uint8Array): ReadResult<ParsedFile> {
  if (bytes.length > MAX_MIDI_BYTES)
    return fail('The MIDI file is larger than any tune.', 'Export only the track you need.');
  const damaged = () => fail('The MIDI file is damaged or cut short.', 'Save or export it again, as type 0 or type 1.');
  const walked = walkMidi(standardPart(bytes));
  if (!walked) return damaged();
  if (walked.notes > MAX_NOTES || walked.events > MAX_EVENTS)
    return fail('The file has more notes than any tune.', 'Export only the track you need.');
  const file = parsed(walked.bytes);
  if (!file) return damaged();
  const scale = TICKS_PER_QUARTER / (file.header.ticksPerBeat ?? 0);
  if (!Number.isFinite(scale))
    return fail('The MIDI file counts in film frames, not in beats.', 'Export it with a tempo in beats per minute.');
  const chunks = file.tracks.map(timed);
  const tracks = chunks.flatMap(byPlayer).flatMap((events) => trackOf(events, scale) ?? []);
  if (tracks.length === 0)
    return fail('There are no notes in this MIDI file.', 'Choose a file with a melody, not only drums or settings.');
  return { ok: true, value: { header: headerOf(chunks, scale), tracks, damage: damageOf(walked) }, notices: [] };
}

function parsed(bytes: Uint8Array): ReturnType<typeof parseMidi> | null {
  try {
    return parseMidi(bytes);
  } catch {
    return null;
  }
}

function timed(events: readonly MidiEvent[]): readonly Timed[] {
  let at = 0;
  return events.map((event) => ({ ...event, at: (at += event.deltaTime) }));
}

/** A chunk as tracks of one channel and sound each; what belongs to no channel goes with the first. */
function byPlayer(events: readonly Timed[]): readonly (readonly Timed[])[] {
  const program = new Map<number, number>();
  const tracks = new Map<string, Timed[]>();
  const common: Timed[] = [];
  for (const event of events) {
    if (!('channel' in event) || 'meta' in event) {
      common.push(event);
      continue;
    }
    if (event.type === 'programChange') program.set(event.channel, event.programNumber);
    const key = `${program.get(event.channel)} ${event.channel}`;
    const own = tracks.get(key);
    if (own) own.push(event);
    else tracks.set(key, [event]);
  }
  const [first = [], ...others] = tracks.values();
  return [[...common, ...first], ...others];
}

/** @returns null where it holds no notes, or a drummer's */
function trackOf(events: readonly Timed[], scale: number): MidiTrack | null {
  const { notes, channel } = pairs(events);
  if (notes.length === 0 || channel === DRUMS) return null;
  const early = notes.filter(({ at }) => at * scale < MAX_QUARTERS * TICKS_PER_QUARTER);
  if (early.length === 0) return null;
  const name = events.find((event) => event.type === 'trackName');
  return {
    name: printable(name?.type === 'trackName' ? name.text : ''),
    late: notes.length - early.length,
    notes: early
      .map(({ midi, at, held }) => ({
        midi,
        onset: Math.round(at * scale),
        duration: Math.round(Math.max(0, Math.min(held * scale, LONGEST_QUARTERS * TICKS_PER_QUARTER))),
      }))
      .sort((a, b) => a.onset - b.onset || a.midi - b.midi),
  };
}

interface Pair {
  readonly midi: Midi;
  /** In the file's ticks. */
  readonly at: number;
  readonly held: number;
}

/** Each note with the next end of its pitch that no earlier note has taken. */
function pairs(events: readonly Timed[]): { readonly notes: readonly Pair[]; readonly channel: number } {
  const ends = new Map<Midi, number[]>();
  for (const event of events) {
    if (event.type !== 'noteOff') continue;
    const own = ends.get(event.noteNumber);
    if (own) own.push(event.at);
    else ends.set(event.noteNumber, [event.at]);
  }
  const next = new Map<Midi, number>();
  const notes: Pair[] = [];
  let channel = 0;
  for (const event of events) {
    if (event.type !== 'noteOn') continue;
    channel = event.channel;
    const own = ends.get(event.noteNumber) ?? [];
    let index = next.get(event.noteNumber) ?? 0;
    // Notes come in order: an end before this one is before all that follow.
    while (index < own.length && own[index]! < event.at) index += 1;
    const end = own[index];
    next.set(event.noteNumber, end === undefined ? index : index + 1);
    if (end !== undefined) notes.push({ midi: event.noteNumber, at: event.at, held: end - event.at });
  }
  return { notes, channel };
}

function headerOf(chunks: readonly (readonly Timed[])[], scale: number): MidiHeader {
  const metres: From<Metre>[] = [];
  const keys: From<Key>[] = [];
  const tempos: From<number>[] = [];
  const add = <T>(list: From<T>[], at: number, value: T | null) => {
    if (value !== null) list.push({ at: Math.round(at * scale), value });
  };
  for (const event of chunks.flat()) {
    if (event.type === 'timeSignature') add(metres, event.at, metreOf(event.numerator, event.denominator));
    else if (event.type === 'keySignature') add(keys, event.at, keyWith(event.key, event.scale));
    else if (event.type === 'setTempo') add(tempos, event.at, tempoOf(60_000_000 / event.microsecondsPerBeat));
  }
  const name = chunks[0]?.findLast((event) => event.type === 'trackName');
  const inOrder = (a: From<unknown>, b: From<unknown>) => a.at - b.at;
  return {
    name: printable(name?.type === 'trackName' ? name.text : ''),
    metres: metres.sort(inOrder),
    keys: keys.sort(inOrder),
    tempos: tempos.sort(inOrder),
  };
}

function damageOf({ declared, tracks, endless, hanging }: Walked): readonly string[] {
  return [
    ...(declared > tracks
      ? [`The file says that it has ${declared} tracks, and ${tracks} are there: it may be cut short.`]
      : []),
    ...(endless > 0 ? ['A track does not end as tracks do: the file may be cut short.'] : []),
    ...(hanging > 0
      ? [
          `${hanging} ${hanging === 1 ? 'note begins and never ends' : 'notes begin and never end'}; they were left out.`,
        ]
      : []),
  ];
}

/** Some programs wrap the file once more. */
function standardPart(bytes: Uint8Array): Uint8Array {
  if (bytes[0] !== 0x52) return bytes;
  const at = bytes.findIndex(
    (byte, index) =>
      byte === 0x4d && bytes[index + 1] === 0x54 && bytes[index + 2] === 0x68 && bytes[index + 3] === 0x64,
  );
  return at > 0 ? bytes.subarray(at) : bytes;
}

/** As a title is kept: no control signs, and one space between words. */
const printable = (text: string) =>
  text
    .replace(/\p{Cc}/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim()
    .slice(0, 200);

const metreOf = (beats: number, unit: number): Metre | null =>
  beats > 0 && beats <= 32 && [1, 2, 4, 8, 16].includes(unit) ? { beats, unit } : null;

const tempoOf = (bpm: number): number | null => (bpm >= 20 && bpm <= 400 ? Math.round(bpm * 100) / 100 : null);

const MAJOR = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'];

/** @param sharps below zero for flats @param mode 0 for major, 1 for minor */
function keyWith(sharps: number, mode: number): Key | null {
  const name = MAJOR[sharps + 7];
  if (name === undefined) return null;
  const alter = name.endsWith('#') ? 1 : name.endsWith('b') ? -1 : 0;
  const major = keyOf({ letter: name[0] as Letter, alter }, 'major');
  if (mode === 0) return major;
  // The minor key with the same signature lies a third below.
  const { letter, alter: sign } = transposePitch({ ...major.tonic, octave: 4 }, -2, -3);
  return keyOf({ letter, alter: sign }, 'minor');
}

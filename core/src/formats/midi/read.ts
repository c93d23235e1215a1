/** MIDI in: a track as a written tune, with suggestions for what the file does not say for sure. */
import toneMidi from '@tonejs/midi';
import {
  TICKS_PER_QUARTER,
  barLength,
  beatLength,
  isCompound,
  keyOf,
  layBars,
  spellInKey,
  suggestKeys,
  type Key,
  type Letter,
  type Metre,
  type Ticks,
  type Tune,
} from '../../music/index.ts';
import { finished } from '../finish.ts';
import { Notices } from '../notices.ts';
import type { ReadResult } from '../problem.ts';
import { isWalkable } from './walk.ts';
import { GRIDS, quantise, suggestGrid, type GridId, type PlayedNote, type QuantisedSound } from './quantise.ts';

/** Hours of piano playing stay below this. */
export const MAX_MIDI_BYTES = 8_000_000;
const MAX_NOTES = 60_000;
/** An hour of a brisk tune; keeps a forged time stamp from making bars without end. */
const MAX_QUARTERS = 8_000;
/** No note is held for longer. */
const LONGEST_QUARTERS = 128;

/** What the teacher may choose where a MIDI file leaves it open; anything left out is suggested. */
export interface MidiOptions {
  /** Which track of `voices`, from 1. */
  readonly voice?: number;
  readonly grid?: GridId;
  readonly metre?: Metre;
  readonly key?: Key;
  /** In ticks. */
  readonly pickup?: Ticks;
}

export interface MidiReading {
  readonly tune: Tune;
  readonly voices: readonly string[];
  readonly partName: string;
  /** What was taken, and what else is likely, best first. */
  readonly taken: { readonly grid: GridId; readonly metre: Metre; readonly key: Key; readonly pickup: Ticks };
  readonly metres: readonly Metre[];
  readonly keys: readonly Key[];
}

interface MidiTrack {
  readonly name: string;
  /** Notes after the longest time that is read. */
  readonly late: number;
  readonly notes: readonly PlayedNote[];
}

const fail = (message: string, remedy: string): ReadResult<never> => ({
  ok: false,
  problems: [{ severity: 'error', message, remedy }],
});

/** @example readMidi(new Uint8Array([1, 2, 3])).ok // false */
export function readMidi(bytes: Uint8Array, options: MidiOptions = {}): ReadResult<MidiReading> {
  const parsed = parse(bytes);
  if (!parsed.ok) return parsed;
  const { header, tracks } = parsed.value;
  const voices = tracks.map(({ name }, index) => name || `Track ${index + 1}`);
  const track = tracks[(options.voice ?? 1) - 1];
  if (!track) return fail(`The file has ${tracks.length} tracks with notes.`, 'Choose another one.');
  const notices = new Notices();
  if (track.late > 0)
    notices.add(`${track.late} notes come later than beat ${MAX_QUARTERS.toLocaleString('en')} and were left out.`);
  const notes = clean(track.notes, notices);
  const grid = options.grid ?? suggestGrid(notes);
  const { sounds, tripletBeats } = quantise(notes, GRIDS[grid]);
  const metres = suggestMetres(sounds, header.metre);
  const metre = options.metre ?? metres[0]!;
  const keys = keysOf(sounds, header.key);
  const key = options.key ?? keys[0]!;
  const lead = sounds[0]!.onset % barLength(metre);
  const pickup = Math.min(options.pickup ?? suggestPickup(sounds, metre, lead), barLength(metre) - 1);
  // Time 0 becomes the nominal bar line before the first note.
  const shift = sounds[0]!.onset - (pickup > 0 ? barLength(metre) - pickup : 0);
  const shiftBeats = Math.round(shift / TICKS_PER_QUARTER);
  const onBeat = shift % TICKS_PER_QUARTER === 0;
  const bars = layBars(
    sounds.map(({ onset, duration, midis }) => ({
      onset: onset - shift,
      duration,
      pitches: midis.map((number) => spellInKey(number, key)),
    })),
    {
      metre,
      key,
      pickup,
      tripletBeats: onBeat ? new Set([...tripletBeats].map((beat) => beat - shiftBeats)) : new Set(),
    },
  );
  const tune: Tune = {
    title: header.name || track.name || 'Untitled',
    alsoKnownAs: [],
    composer: '',
    origin: '',
    style: '',
    notes: [],
    tempo: header.bpm ? tempoIn(metre, header.bpm) : null,
    bars,
    slurs: [],
  };
  const end = finished(tune, notices.all());
  if (!end.ok) return end;
  const taken = { grid, metre, key, pickup };
  return {
    ok: true,
    value: { tune: end.value, voices, partName: track.name, taken, metres, keys: keys.slice(0, 6) },
    notices: end.notices,
  };
}

interface MidiHeader {
  readonly name: string;
  readonly metre: Metre | null;
  readonly key: Key | null;
  /** Quarters a minute. */
  readonly bpm: number | null;
}

function parse(bytes: Uint8Array): ReadResult<{ header: MidiHeader; tracks: readonly MidiTrack[] }> {
  if (bytes.length > MAX_MIDI_BYTES)
    return fail('The MIDI file is larger than any tune.', 'Export only the track you need.');
  const damaged = () => fail('The MIDI file is damaged or cut short.', 'Save or export it again, as type 0 or type 1.');
  const standard = standardPart(bytes);
  if (!isWalkable(standard)) return damaged();
  let midi: InstanceType<typeof toneMidi.Midi>;
  try {
    midi = new toneMidi.Midi(standard);
  } catch {
    return damaged();
  }
  const scale = TICKS_PER_QUARTER / midi.header.ppq;
  if (!Number.isFinite(scale) || scale <= 0) {
    return fail('The MIDI file counts in film frames, not in beats.', 'Export it with a tempo in beats per minute.');
  }
  const count = midi.tracks.reduce((sum, { notes }) => sum + notes.length, 0);
  if (count > MAX_NOTES) return fail('The file has more notes than any tune.', 'Export only the track you need.');
  const tracks = midi.tracks
    .filter(({ notes, channel }) => notes.length > 0 && channel !== 9)
    .map(({ name, notes }) => ({
      name,
      notes,
      early: notes.filter(({ ticks }) => ticks * scale < MAX_QUARTERS * TICKS_PER_QUARTER),
    }))
    .map(({ name, notes, early }): MidiTrack => ({
      name: printable(name),
      late: notes.length - early.length,
      notes: early
        .map((note) => ({
          midi: note.midi,
          onset: Math.round(note.ticks * scale),
          duration: Math.round(Math.max(0, Math.min(note.durationTicks * scale, LONGEST_QUARTERS * TICKS_PER_QUARTER))),
        }))
        .sort((a, b) => a.onset - b.onset || a.midi - b.midi),
    }))
    .filter(({ notes }) => notes.length > 0);
  if (tracks.length === 0)
    return fail('There are no notes in this MIDI file.', 'Choose a file with a melody, not only drums or settings.');
  const [signature] = midi.header.timeSignatures;
  const [key] = midi.header.keySignatures;
  const bpm = midi.header.tempos[0]?.bpm;
  return {
    ok: true,
    value: {
      header: {
        name: printable(midi.header.name),
        metre: signature ? metreOf(signature.timeSignature) : null,
        key: key ? keyNamed(key.key, key.scale) : null,
        bpm: bpm && bpm >= 20 && bpm <= 400 ? Math.round(bpm * 100) / 100 : null,
      },
      tracks,
    },
    notices: [],
  };
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

const printable = (text: string) =>
  text
    .replace(/\p{Cc}/gu, '')
    .trim()
    .slice(0, 200);

function metreOf([beats, unit]: readonly number[]): Metre | null {
  return beats && unit && beats <= 32 && [1, 2, 4, 8, 16].includes(unit) ? { beats, unit } : null;
}

function keyNamed(name: string, scale: string): Key | null {
  const match = /^([A-G])([#b]?)$/.exec(name);
  if (!match) return null;
  const alter = match[2] === '#' ? 1 : match[2] === 'b' ? -1 : 0;
  return keyOf({ letter: match[1] as Letter, alter }, scale === 'minor' ? 'minor' : 'major');
}

/** Notes that no player would count: doubled ones, blips, and keyswitches far below the melody. */
function clean(notes: readonly PlayedNote[], notices: Notices): readonly PlayedNote[] {
  const blip = TICKS_PER_QUARTER / 32;
  const heard = notes.filter(({ duration }) => duration >= blip);
  const kept = heard.length >= notes.length / 2 ? heard : notes;
  if (kept.length < notes.length)
    notices.add(`${notes.length - kept.length} notes too short to be heard were left out.`);
  const melody = withoutKeyswitches(kept);
  if (melody.length < kept.length) {
    notices.add(
      `${kept.length - melody.length} notes far below the melody were taken for keyswitches and left out.`,
      {},
      'If they belong to the tune, type them in on the Tune pass.',
    );
  }
  const seen = new Set<string>();
  return melody.filter(({ midi, onset }) => {
    const key = `${midi}@${onset}`;
    return seen.has(key) ? false : seen.add(key);
  });
}

/** An octave and a half of nothing between the lowest notes and the melody, and few of the low ones. */
const KEYSWITCH_GAP = 18;
const KEYSWITCH_SHARE = 0.25;

function withoutKeyswitches(notes: readonly PlayedNote[]): readonly PlayedNote[] {
  const pitches = notes.map(({ midi }) => midi).sort((a, b) => a - b);
  const gap = pitches.findIndex((pitch, index) => index > 0 && pitch - pitches[index - 1]! >= KEYSWITCH_GAP);
  if (gap <= 0 || gap > pitches.length * KEYSWITCH_SHARE) return notes;
  return notes.filter(({ midi }) => midi >= pitches[gap]!);
}

const USUAL_METRES: readonly Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 3, unit: 4 },
  { beats: 2, unit: 4 },
  { beats: 9, unit: 8 },
];

/** The file's own metre first; then the usual ones by how much sound starts on their bar lines and beats. */
function suggestMetres(sounds: readonly QuantisedSound[], stated: Metre | null): readonly Metre[] {
  const score = (metre: Metre) => {
    const bar = barLength(metre);
    const beat = beatLength(metre);
    const first = sounds[0]!.onset;
    const weights = sounds.map(({ onset, duration }) => {
      const at = onset - first;
      const strength = at % bar === 0 ? 1 : at % beat === 0 ? 0.5 : isCompound(metre) && at % (beat / 3) ? -0.4 : 0;
      return strength * Math.min(duration, TICKS_PER_QUARTER * 2);
    });
    return weights.reduce((sum, weight) => sum + weight, 0);
  };
  const ranked = USUAL_METRES.map((metre) => ({ metre, score: score(metre) })).sort((a, b) => b.score - a.score);
  const all = [...(stated ? [stated] : []), ...ranked.map(({ metre }) => metre)];
  return all.filter(
    ({ beats, unit }, index) => all.findIndex((other) => other.beats === beats && other.unit === unit) === index,
  );
}

function keysOf(sounds: readonly QuantisedSound[], stated: Key | null): readonly Key[] {
  const notes = sounds.map(({ midis, duration }) => ({ midi: midis.at(-1)!, duration }));
  const found = suggestKeys(notes).map(({ key }) => key);
  // Keyboards write C major into every file; it counts only if the notes agree.
  const meant = stated && (stated.tonic.letter !== 'C' || stated.tonic.alter !== 0) ? [stated] : [];
  const all = [...meant, ...found];
  return all.filter((key, index) => all.findIndex((other) => sameName(other, key)) === index);
}

const sameName = (a: Key, b: Key) =>
  a.tonic.letter === b.tonic.letter && a.tonic.alter === b.tonic.alter && a.mode === b.mode;

/** Where the file's own bar lines leave a short first bar, that is the pickup; else where long notes would fall on bar lines. */
function suggestPickup(sounds: readonly QuantisedSound[], metre: Metre, lead: Ticks): Ticks {
  const full = barLength(metre);
  if (sounds.length < 2) return 0;
  if (lead > 0) return full - lead <= full / 2 ? full - lead : 0;
  const first = sounds[0]!.onset;
  if (sounds.at(-1)!.onset - first < FEWEST_BARS * full) return 0;
  const eighth = TICKS_PER_QUARTER / 2;
  const onBarLines = (pickup: Ticks) =>
    sounds
      .filter(({ onset }) => (onset - first - pickup) % full === 0 && onset - first >= pickup)
      .reduce((sum, { duration }) => sum + Math.min(duration, 2 * TICKS_PER_QUARTER), 0);
  const candidates = Array.from({ length: Math.floor(full / 2 / eighth) }, (_, index) => (index + 1) * eighth);
  // A bar of less than two eighths has no room for one.
  const best = candidates.reduce((one, other) => (onBarLines(other) > onBarLines(one) ? other : one), 0);
  return best > 0 && onBarLines(best) > PICKUP_GAIN * onBarLines(0) ? best : 0;
}

/** A pickup is only suggested if clearly more sound begins on its bar lines than without. */
const PICKUP_GAIN = 1.3;
/** Shorter scraps tell nothing about their bar lines. */
const FEWEST_BARS = 6;

function tempoIn(metre: Metre, quarters: number) {
  const beat = beatLength(metre);
  return { beat, bpm: Math.round((quarters * TICKS_PER_QUARTER * 100) / beat) / 100 };
}

/** MIDI out: the tune as it sounds, repeats unfolded, ties joined, at its tempo. */
import toneMidi from '@tonejs/midi';
import {
  TICKS_PER_QUARTER,
  heldThrough,
  midi,
  playedOrder,
  quarterBpm,
  soundingNotes,
  tiedOn,
  type Bpm,
  type Dynamic,
  type Held,
  type Key,
  type Note,
  type Ticks,
  type Tune,
} from '../../music/index.ts';
import { walkMidi } from './walk.ts';

export interface MidiWriteOptions {
  /** Name of the track: the instrument. */
  readonly partName?: string;
  /** General MIDI program, 0 to 127; violin is 40. */
  readonly program?: number;
  /** Quarters a minute where the tune has no tempo of its own. */
  readonly tempo?: Bpm;
  /**
   * Notes that go on into the next on one bow. Where some are given, all others end a little early: that is how a file of
   * sounds tells slurred from separate.
   */
  readonly slurred?: ReadonlySet<string>;
  /** The tune as it is each time round, where phrases change when they come again; of the same bars. */
  readonly rounds?: readonly { readonly time: number; readonly tune: Tune }[];
}

const VELOCITY: Readonly<Record<Dynamic, number>> = {
  pppp: 0.1,
  ppp: 0.2,
  pp: 0.3,
  p: 0.42,
  mp: 0.54,
  mf: 0.66,
  f: 0.78,
  ff: 0.9,
  fff: 0.96,
  ffff: 1,
  sfz: 0.92,
};
/** Silence after a stroke: a sixteenth of a quarter, and never more than an eighth of its last note. */
const MOST_GAP: Ticks = TICKS_PER_QUARTER / 16;
const LEAST_SHARE = 8;
const VIOLIN = 40;
const EASY_TEMPO: Bpm = 96;
const KEYS = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'];

/**
 * @returns a file of type 1 with one track of notes; 3360 ticks to the quarter, so every time is exact
 * @example String.fromCharCode(...writeMidi(reel).slice(0, 4)) // 'MThd'
 */
export function writeMidi(tune: Tune, options: MidiWriteOptions = {}): Uint8Array {
  const file = new toneMidi.Midi();
  const tempo = tune.tempo ? quarterBpm(tune.tempo) : (options.tempo ?? EASY_TEMPO);
  file.header.fromJSON({
    name: tune.title,
    ppq: TICKS_PER_QUARTER,
    meta: [],
    tempos: [{ ticks: 0, bpm: tempo }, ...tempoChanges(tune)],
    timeSignatures: metreChanges(tune).map((change, index) => (index === 0 ? { ...change, ticks: 0 } : change)),
    keySignatures: keyChanges(tune),
  });
  const track = file.addTrack();
  track.name = options.partName ?? 'Tune';
  track.instrument.number = options.program ?? VIOLIN;
  const lead = leadIn(tune);
  const { slurred = new Set() } = options;
  for (const { id, pitches, onset, duration, dynamic } of playedNotes(tune, options.rounds)) {
    const gap = slurred.size === 0 || slurred.has(id) ? 0 : Math.min(MOST_GAP, Math.floor(duration / LEAST_SHARE));
    for (const number of pitches) {
      track.addNote({ midi: number, ticks: lead + onset, durationTicks: duration - gap, velocity: VELOCITY[dynamic] });
    }
  }
  return withSignatures(file.toArray());
}

const KEY_SIGNATURE = 0x59;
/** The library writes signatures fourteen fifths too high, as no standard has them. */
const TOO_HIGH = 14;

function withSignatures(bytes: Uint8Array): Uint8Array {
  const right = bytes.slice();
  walkMidi(bytes, (type, at) => {
    if (type === KEY_SIGNATURE) right[at] = (bytes[at]! - TOO_HIGH) & 0xff;
  });
  return right;
}

/** Silence before a pickup, so that the bar lines of whoever reads the file fall where ours do. */
export const leadIn = (tune: Tune): Ticks => tune.bars[0]?.offset ?? 0;

interface PlayedSound {
  readonly id: string;
  readonly pitches: readonly number[];
  readonly onset: Ticks;
  readonly duration: Ticks;
  readonly dynamic: Dynamic;
}

/** A run of tied notes with the bar that each stands in. */
type Chain = readonly { readonly note: Note; readonly barIndex: number; readonly at: Ticks }[];

/** Sounds in played order. A tie that a repeat or a jump cuts ends there; what it led into begins anew. */
export function playedNotes(tune: Tune, rounds: MidiWriteOptions['rounds'] = []): readonly PlayedSound[] {
  const first = chainsByBar(tune);
  const later = new Map(rounds.map((round) => [round.time, chainsByBar(round.tune)]));
  const order = playedOrder(tune.bars);
  let time: Ticks = 0;
  let dynamic: Dynamic = 'mf';
  const struck = order.flatMap(({ index, time: round }, turn) => {
    const byBar = later.get(round) ?? later.get(1) ?? first;
    const comesOn = order[turn - 1]?.index === index - 1;
    const sounds = (byBar.get(index) ?? []).flatMap((chain): Held<PlayedSound>[] => {
      const begun = chain[0]!.barIndex < index;
      if (begun && comesOn) return [];
      const [first, ...rest] = chain.filter(({ barIndex }) => barIndex >= index);
      let duration = first!.note.duration;
      let last = first!.note;
      for (const { note, barIndex } of rest) {
        // The bars in between must really follow each other.
        if (order[turn + barIndex - index]?.index !== barIndex) break;
        duration += note.duration;
        last = note;
      }
      dynamic = first!.note.dynamic ?? dynamic;
      const onset = time + first!.at;
      const sound = {
        id: first!.note.id,
        onset,
        duration,
        dynamic,
        pitches: first!.note.heads.map(({ pitch }) => midi(pitch)),
      };
      return [{ at: onset, sound, tied: tiedOn(last) }];
    });
    time += tune.bars[index]!.length;
    return sounds;
  });
  return heldThrough(struck);
}

/** Every chain under each bar that it has notes in, those that come over from the bar before first. */
function chainsByBar(tune: Tune): ReadonlyMap<number, readonly Chain[]> {
  const barOf = new Map(tune.bars.flatMap(({ events }, index) => events.map(({ id }) => [id, index] as const)));
  const found = new Map<number, Chain[]>();
  for (const { chain } of soundingNotes(tune)) {
    const placed = chain.map((note) => ({ note, barIndex: barOf.get(note.id)!, at: note.at }));
    for (const barIndex of new Set(placed.map((entry) => entry.barIndex))) {
      found.set(barIndex, [...(found.get(barIndex) ?? []), placed]);
    }
  }
  return found;
}

function changes<T>(tune: Tune, at: (index: number) => T | null): readonly { ticks: Ticks; value: T }[] {
  let time: Ticks = leadIn(tune);
  return playedOrder(tune.bars).flatMap(({ index }) => {
    const value = at(index);
    const ticks = time;
    time += tune.bars[index]!.length;
    return value === null ? [] : [{ ticks, value }];
  });
}

function tempoChanges(tune: Tune) {
  return changes(tune, (index) => {
    const own = tune.bars[index]!.tempo;
    return own ? quarterBpm(own) : null;
  }).map(({ ticks, value }) => ({ ticks, bpm: value }));
}

function metreChanges(tune: Tune) {
  let last = '';
  return changes(tune, (index) => tune.bars[index]!.metre)
    .filter(({ value }) => {
      const name = `${value.beats}/${value.unit}`;
      const changed = name !== last;
      last = name;
      return changed;
    })
    .map(({ ticks, value }) => ({ ticks, timeSignature: [value.beats, value.unit] }));
}

function keyChanges(tune: Tune) {
  let last = '';
  return changes(tune, (index) => tune.bars[index]!.key).flatMap(({ ticks, value }, index) => {
    const [key, scale] = [keyText(value), value.mode === 'minor' || value.mode === 'aeolian' ? 'minor' : 'major'];
    const changed = `${key} ${scale}` !== last;
    last = `${key} ${scale}`;
    return changed ? [{ ticks: index === 0 ? 0 : ticks, key, scale }] : [];
  });
}

/** The file knows only signatures; the major key that has the same one names it. */
function keyText(key: Key): string {
  const sum = Object.values(key.signature).reduce<number>((total, alter) => total + alter, 0);
  return KEYS[Math.max(-7, Math.min(7, sum)) + 7]!;
}

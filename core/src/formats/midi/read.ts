/** MIDI in: a track as a written tune, with suggestions for what the file does not say for sure. */
import { dequal } from 'dequal';
import {
  TICKS_PER_QUARTER,
  barIndexAt,
  barLength,
  barStarts,
  beatLength,
  isCompound,
  suggestKeys,
  type Bar,
  type Key,
  type Metre,
  type Ticks,
  type Tune,
} from '../../music/index.ts';
import { finished } from '../finish.ts';
import { Notices } from '../notices.ts';
import type { ReadResult } from '../problem.ts';
import { laySections, type From } from './sections.ts';
import { MAX_QUARTERS, fail, parse } from './parse.ts';
import { GRIDS, quantise, suggestGrid, type GridId, type PlayedNote, type QuantisedSound } from './quantise.ts';

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

/** @example readMidi(new Uint8Array([1, 2, 3])).ok // false */
export function readMidi(bytes: Uint8Array, options: MidiOptions = {}): ReadResult<MidiReading> {
  const parsed = parse(bytes);
  if (!parsed.ok) return parsed;
  const { header, tracks } = parsed.value;
  const voices = tracks.map(({ name }, index) => name || `Track ${index + 1}`);
  const track = tracks[(options.voice ?? 1) - 1];
  if (!track) return fail(`The file has ${tracks.length} tracks with notes.`, 'Choose another one.');
  const notices = new Notices();
  for (const message of parsed.value.damage)
    notices.add(message, {}, 'Export it again, and compare the end of the tune.');
  if (track.late > 0)
    notices.add(`${track.late} notes come later than beat ${MAX_QUARTERS.toLocaleString('en')} and were left out.`);
  const notes = clean(track.notes, notices);
  tellOverlaps(notes, notices);
  const grid = options.grid ?? suggestGrid(notes);
  const { sounds, tripletBeats } = quantise(notes, GRIDS[grid]);
  // A short first bar of a metre of its own is a pickup, as notation programs write it.
  const written = options.metre ? [] : withoutPickupBar(header.metres);
  const metres = suggestMetres(sounds, written[0]?.value ?? header.metres[0]?.value ?? null);
  const metre = options.metre ?? metres[0]!;
  const { opening, changes: keyChanges } = keysIn(header.keys, sounds[0]!.onset);
  const until = keyChanges[0]?.at ?? Infinity;
  const keys = keysOf(
    sounds.filter(({ onset }) => onset < until),
    opening,
    keyChanges.length > 0,
  );
  const key = options.key ?? keys[0]!;
  const full = barLength(metre);
  const barLine = written[0]?.at ?? 0;
  const lead = (((sounds[0]!.onset - barLine) % full) + full) % full;
  const pickup = Math.min(options.pickup ?? (barLine > 0 ? barLine : suggestPickup(sounds, metre, lead)), full - 1);
  const changes = written.length > 1;
  // Time 0 becomes the nominal bar line before the first note; where metres change, the file's own bar lines count.
  const first = sounds[0]!.onset;
  const asWritten = barLine > 0 && options.pickup === undefined;
  const start = asWritten ? barLine - full : changes ? first - lead : first - (pickup > 0 ? full - pickup : 0);
  // Triplets are counted in beats of the file: where no bar line is at stake, time begins on one of them.
  const free = pickup === 0 && !changes && tripletBeats.size > 0;
  const shift = free ? Math.floor(start / TICKS_PER_QUARTER) * TICKS_PER_QUARTER : start;
  const onBeat = shift % TICKS_PER_QUARTER === 0;
  const shifted = <T>(list: readonly From<T>[]) => list.map(({ at, value }) => ({ at: at - shift, value }));
  const laid = laySections(
    sounds.map((sound) => ({ ...sound, onset: sound.onset - shift })),
    {
      metres: [{ at: 0, value: metre }, ...shifted(written.slice(1)).filter(({ at }) => at > 0)],
      keys: [
        { at: 0, value: key },
        // What the teacher says holds for all of it.
        ...(options.key ? [] : shifted(keyChanges)),
      ],
      pickup,
      tripletBeats: new Set(onBeat ? [...tripletBeats].map((beat) => beat - shift / TICKS_PER_QUARTER) : []),
    },
  );
  const bars = withTempos(laid, shifted(header.tempos), notices);
  const tune: Tune = {
    title: header.name || track.name || 'Untitled',
    alsoKnownAs: [],
    composer: '',
    origin: '',
    style: '',
    notes: [],
    tempo: header.tempos[0] ? tempoIn(metre, header.tempos[0].value) : null,
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

/** Without a first bar that has a shorter metre of its own; the next metre then begins at its bar line. */
function withoutPickupBar(metres: readonly From<Metre>[]): readonly From<Metre>[] {
  const [first, second] = metres;
  if (!first || !second || first.at > 0 || second.at !== barLength(first.value)) return metres;
  return barLength(first.value) < barLength(second.value) ? metres.slice(1) : metres;
}

/** A tempo that changes more often was played, and not written. */
const MOST_TEMPOS = 0.5;
/** Beats a minute, as a share, that nobody hears. */
const SAME_TEMPO = 0.01;

function withTempos(bars: readonly Bar[], tempos: readonly From<number>[], notices: Notices): readonly Bar[] {
  const first = bars[0]?.offset ?? 0;
  const starts = barStarts(bars).map((start) => start + first);
  const later = tempos
    .slice(1)
    .filter(({ value }, index) => Math.abs(value - tempos[index]!.value) > SAME_TEMPO * value)
    .filter(({ at }) => at < starts.at(-1)!)
    .map(({ at, value }) => ({ value, at, bar: barIndexAt(starts, at) }));
  if (later.length > Math.max(2, MOST_TEMPOS * bars.length)) {
    notices.add(`The tempo changes ${later.length} times, as somebody played; the first one was taken.`);
    return bars;
  }
  const inside = later.filter(({ at, bar }) => at - starts[bar]! > TICKS_PER_QUARTER / 4);
  for (const { bar } of inside)
    notices.add(`The tempo changes inside bar ${bar + 1}; it stands at the beginning of that bar.`);
  const changes = new Map(later.map(({ bar, value }) => [bar, value]));
  return bars.map((bar, index) => {
    const own = changes.get(index);
    return own !== undefined && index > 0 ? { ...bar, tempo: tempoIn(bar.metre, own) } : bar;
  });
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
  const single = melody.filter(({ midi, onset }) => {
    const key = `${midi}@${onset}`;
    return seen.has(key) ? false : seen.add(key);
  });
  const doubled = melody.length - single.length;
  if (doubled > 0)
    notices.add(
      doubled === 1
        ? 'A note that is there twice was left out once.'
        : `${doubled} notes that are there twice were left out once.`,
    );
  return single;
}

/** Notes that sound on so far into the next one are more than played legato. */
const OVERLAP: Ticks = TICKS_PER_QUARTER / 2;

/** In one voice a note ends where the next begins, and a chord has one length. */
function tellOverlaps(notes: readonly PlayedNote[], notices: Notices): void {
  const next = new Map<Ticks, Ticks>();
  const onsets = [...new Set(notes.map(({ onset }) => onset))];
  onsets.forEach((onset, index) => next.set(onset, onsets[index + 1] ?? Infinity));
  const over = notes.filter(({ onset, duration }) => onset + duration - next.get(onset)! > OVERLAP).length;
  if (over > 0)
    notices.add(
      over === 1
        ? 'A note that sounds on under the next one was cut there.'
        : `${over} notes that sound on under the next one were cut there.`,
      {},
      'If two voices share the track, export each as a track of its own.',
    );
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

/** The file's key at the beginning, null where it says none, and those that come later. */
function keysIn(
  keys: readonly From<Key>[],
  first: Ticks,
): { readonly opening: Key | null; readonly changes: readonly From<Key>[] } {
  const opening = keys.findLast(({ at }) => at <= first)?.value ?? null;
  let now = opening;
  const changes = keys.filter(({ at, value }) => {
    if (at <= first || (now && sameName(now, value))) return false;
    now = value;
    return true;
  });
  return { opening, changes };
}

/** @param sounds until the key changes @param changes whether it does: then the file means what it says of keys */
function keysOf(sounds: readonly QuantisedSound[], stated: Key | null, changes: boolean): readonly Key[] {
  const notes = sounds.map(({ midis, duration }) => ({ midi: midis.at(-1)!, duration }));
  const found = suggestKeys(notes).map(({ key }) => key);
  // Keyboards write C major into every file; it counts only if the notes agree, or where other keys follow.
  const isC = stated?.tonic.letter === 'C' && stated.tonic.alter === 0;
  const relative = isC && found[0] && dequal(found[0].signature, stated.signature);
  const meant = stated && (!isC || (changes && !relative)) ? [stated] : [];
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
  // Notes that are let go of early say nothing of how long they are.
  const room = (index: number) => (sounds[index + 1]?.onset ?? Infinity) - sounds[index]!.onset;
  // Shortest ones are joined to the next in any case, and say nothing of that.
  const telling = sounds.filter((_, index) => room(index) > eighth);
  const cut = sounds.filter(({ duration }, index) => room(index) > eighth && duration < CUT_SHARE * room(index));
  if (2 * cut.length > telling.length) return 0;
  const onBarLines = (pickup: Ticks) =>
    sounds
      .filter(({ onset }) => (onset - first - pickup) % full === 0 && onset - first >= pickup)
      .reduce((sum, { duration }) => sum + Math.min(duration, 2 * TICKS_PER_QUARTER), 0);
  const candidates = Array.from({ length: Math.floor(full / 2 / eighth) }, (_, index) => (index + 1) * eighth);
  // A bar of less than two eighths has no room for one.
  const best = candidates.reduce((one, other) => (onBarLines(other) > onBarLines(one) ? other : one), 0);
  return best > 0 && onBarLines(best) > PICKUP_GAIN * onBarLines(0) ? best : 0;
}

/** Written for a smaller share of the way to the next one, a note was let go of before its end. */
const CUT_SHARE = 0.8;
/** A pickup is only suggested if clearly more sound begins on its bar lines than without. */
const PICKUP_GAIN = 1.3;
/** Shorter scraps tell nothing about their bar lines. */
const FEWEST_BARS = 6;

function tempoIn(metre: Metre, quarters: number) {
  const beat = beatLength(metre);
  return { beat, bpm: Math.round((quarters * TICKS_PER_QUARTER * 100) / beat) / 100 };
}

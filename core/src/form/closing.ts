/** Whether a phrase comes home: the note it rests on, and the key it is heard in. */
import { LETTERS, chroma, signatureAlter, suggestKeys, type Key, type Ticks } from '../music/index.ts';
import { barAt, soundFrom, type Reading, type Sound } from './reading.ts';

/** How much better another key has to fit before the signature is not believed. */
const DISAGREES = 0.1;

export interface KeyFinding {
  /** What the tune says. */
  readonly stated: Key;
  /** What its notes say. */
  readonly heard: Key;
  /** 0 to 1: how well the notes agree with either. */
  readonly statedFit: number;
  readonly heardFit: number;
  /** The notes plainly say something else than the signature. */
  readonly disagrees: boolean;
}

const sameScale = (a: Key, b: Key) => chroma(a.tonic) === chroma(b.tonic) && family(a.mode) === family(b.mode);
const family = (mode: Key['mode']) => (mode === 'ionian' ? 'major' : mode === 'aeolian' ? 'minor' : mode);

/**
 * @returns null for a tune without notes
 * @example findKey(readForForm(reel)).disagrees // false
 */
export function findKey({ sounds: all, tune }: Pick<Reading, 'sounds' | 'tune'>): KeyFinding | null {
  // Where the signature changes on the way, the tune is heard in the key that it begins in.
  const sounds = all.filter(({ barIndex }) => sameSignature(tune.bars[barIndex]!.key, tune.bars[0]!.key));
  if (sounds.length === 0) return null;
  const suggestions = suggestKeys(sounds.map(({ top, duration }) => ({ midi: top, duration })));
  const stated = tune.bars[0]!.key;
  const best = suggestions[0]!;
  const own = suggestions.find(({ key }) => sameScale(key, stated));
  // A mode that is not among those that are looked for is believed.
  const statedFit = own?.fit ?? best.fit;
  return {
    stated,
    heard: best.key,
    statedFit,
    heardFit: best.fit,
    disagrees: best.fit - statedFit > DISAGREES,
  };
}

/**
 * The note that a phrase rests on: the last of the longest of its last bar, since what hurries on behind
 * it only leads to the next phrase. The tune's own pickup at a part's end leads back and does not count.
 */
export function restingSound(reading: Reading, sounds: readonly Sound[]): Sound | null {
  const last = sounds.at(-1);
  if (!last) return null;
  const line = reading.starts[barAt(reading, last.onset)]!;
  const inBar = sounds.filter(({ onset, duration }) => onset + duration > line);
  const own = inBar.slice(0, inBar.length - leadingBack(reading, inBar));
  const longest = Math.max(...own.map(({ duration }) => duration));
  return own.findLast(({ duration }) => duration === longest) ?? last;
}

/** How many notes at the end are the tune's pickup again. */
function leadingBack({ sounds, pickup }: Reading, inBar: readonly Sound[]): number {
  if (pickup === 0) return 0;
  const lead = sounds.filter(({ barIndex }) => barIndex === 0);
  const tail = inBar.slice(-lead.length);
  const same =
    lead.length > 0 &&
    lead.length < inBar.length &&
    tail.every(({ top, duration }, index) => top === lead[index]!.top && duration === lead[index]!.duration);
  return same ? lead.length : 0;
}

/** Whether this note is the home note of a key. */
export const isHome = ({ note }: Sound, home: Key): boolean =>
  note.heads.some(({ pitch }) => chroma(pitch) === chroma(home.tonic));

/**
 * The key in which each moment is heard: the signature's where it stands, unless the notes of that part plainly say
 * another one. Where the tune's own signature stands, that is the tune's key.
 * @param parts written ticks at which parts begin
 */
export function homesOf(reading: Reading, parts: readonly Ticks[], home: Key): (at: Ticks) => Key {
  const { bars, starts, sounds } = reading;
  const regions: { from: Ticks; key: Key }[] = [];
  const edges = new Set([0, ...parts]);
  bars.forEach(({ key }, index) => index > 0 && !sameSignature(key, bars[index - 1]!.key) && edges.add(starts[index]!));
  const sorted = [...edges].sort((a, b) => a - b);
  sorted.forEach((from, index) => {
    const own = sounds.slice(soundFrom(reading, from), soundFrom(reading, sorted[index + 1] ?? Infinity));
    const stated = bars[(own.at(-1) ?? sounds.at(-1))?.barIndex ?? 0]!.key;
    const usual = sameSignature(stated, bars[0]!.key) ? home : stated;
    regions.push({ from, key: heardIn(own, usual) });
  });
  return (at) => (regions.findLast(({ from }) => from <= at) ?? regions[0])?.key ?? home;
}

const sameSignature = (a: Key, b: Key) =>
  a === b || (LETTERS.every((letter) => signatureAlter(a, letter) === signatureAlter(b, letter)) && sameScale(a, b));

/** Another key than this one, where the notes fit it better and a note of its own is heard instead of this one's. */
function heardIn(sounds: readonly Sound[], usual: Key): Key {
  if (sounds.length < FEWEST_NOTES) return usual;
  const suggestions = suggestKeys(sounds.map(({ top, duration }) => ({ midi: top, duration })));
  const best = suggestions[0]!;
  const own = suggestions.find(({ key }) => sameScale(key, usual));
  if (best.fit - (own?.fit ?? best.fit) <= DISAGREES) return usual;
  const time = (letter: (typeof LETTERS)[number], alter: number) =>
    sounds
      .map(({ note, duration }) => ({ pitch: note.heads.at(-1)!.pitch, duration }))
      .filter(({ pitch }) => pitch.letter === letter && pitch.alter === alter)
      .reduce((sum, { duration }) => sum + duration, 0);
  const said = LETTERS.some((letter) => {
    const [there, here] = [signatureAlter(best.key, letter), signatureAlter(usual, letter)];
    return there !== here && time(letter, there) > time(letter, here);
  });
  return said ? best.key : usual;
}
/** Fewer notes make no key of their own. */
const FEWEST_NOTES = 8;

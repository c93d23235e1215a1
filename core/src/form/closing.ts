/** Whether a phrase comes home: the note it rests on, and the key it is heard in. */
import { chroma, midi, suggestKeys, type Key, type Tune } from '../music/index.ts';
import { barAt, type Reading, type Sound } from './reading.ts';

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
export function findKey({ sounds, tune }: Pick<Reading, 'sounds' | 'tune'>): KeyFinding | null {
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

/** Whether this note is the home note where it stands. */
export function isHome(tune: Tune, reading: Reading, sound: Sound, home: Key): boolean {
  const here = tune.bars[sound.barIndex]!.key;
  const first = reading.bars[0]!.key;
  // Where the key changes on the way, the place's own key counts.
  const key = here === first || (here.mode === first.mode && chroma(here.tonic) === chroma(first.tonic)) ? home : here;
  return sound.note.heads.some(({ pitch }) => ((midi(pitch) % 12) + 12) % 12 === chroma(key.tonic));
}

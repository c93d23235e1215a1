/** A tune on its way in, among many: what is shown of it before it is kept. */
import { fewBars } from '../arrange/index.ts';
import type { Tune } from '../music/index.ts';
import { melodyOf, packMelody } from '../search/index.ts';
import { tuneText } from '../words/index.ts';
import type { Incoming } from './open.ts';

export interface LookedAt {
  readonly title: string;
  /** Style, key, metre, length. */
  readonly about: string;
  readonly firstBars: Tune;
  /** Packed: what the tunes that are here already are held against. */
  readonly melody: string;
  /** All of it as JSON: a book of thousands of tunes as objects would fill the memory. */
  readonly held: string;
}

/** @example lookAt({ tune: reel, voices: [], instrument: null, midi: null, arrangements: [], tags: [], versions: [] }).about // 'G major · 4/4 · 4 bars' */
export function lookAt(incoming: Incoming): LookedAt {
  const { tune } = incoming;
  return {
    title: tune.title,
    about: tuneText(tune),
    firstBars: fewBars(tune),
    melody: packMelody(melodyOf(tune)),
    held: JSON.stringify(incoming),
  };
}

/** @example heldTune(JSON.stringify({ tune: reel })).tune.bars.length // 4 */
export const heldTune = (held: string): Incoming => JSON.parse(held) as Incoming;

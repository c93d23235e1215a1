/** Everything that a fingering is worked out from beside the tune. */
import { quarterBpm, type Bpm, type Tune } from '../music/index.ts';
import type { InstrumentId, Tuning } from '../instrument/index.ts';
import type { HandLimits } from './frames.ts';
import type { Locks } from './locks.ts';
import type { HandWishes } from './wishes.ts';

export interface HandSetup {
  readonly instrument: InstrumentId;
  readonly tuning: Tuning;
  /** The learner's own limits; they win over a preset's. */
  readonly limits: HandLimits;
  readonly locks: Locks;
  /** Working tempo in quarters per minute. */
  readonly tempo: Bpm;
  readonly wishes?: HandWishes;
  /** Wishes of single parts, by their letter. */
  readonly partWishes?: Readonly<Record<string, HandWishes>>;
}

/** Without a tempo of its own a tune is worked on at this many quarters per minute. */
export const DEFAULT_TEMPO: Bpm = 96;

/** The tempo to work at: the one set, the tune's own, or an easy one. */
export function workingTempo(tune: Tune, set?: Bpm): Bpm {
  return set ?? (tune.tempo ? quarterBpm(tune.tempo) : DEFAULT_TEMPO);
}

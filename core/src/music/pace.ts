/** The working tempo: one slice, read by all stages for which time matters. */
import { z } from 'zod';
import { present, slice } from '../stage/index.ts';
import { quarterBpm, type Bpm } from './time.ts';
import type { Tune } from './tune.ts';

export interface PaceDecisions {
  /** Quarters per minute; null takes the tune's own tempo. */
  readonly tempo: Bpm | null;
}

export const paceSlice = slice<PaceDecisions>({
  schema: z.strictObject({ tempo: z.number().min(20).max(400).nullable() }),
  first: { tempo: null },
  older: ({ tempo }) => present({ tempo }),
});

/** Without a tempo of its own a tune is worked on at this many quarters per minute. */
export const DEFAULT_TEMPO: Bpm = 96;

/**
 * The tempo to work at, in quarters per minute: the one set, the tune's own, or an easy one.
 * @example workingTempo({ tempo: { beat: 5040, bpm: 100 } }) // 150
 */
export function workingTempo({ tempo }: Pick<Tune, 'tempo'>, set?: Bpm | null): Bpm {
  return set ?? (tempo ? quarterBpm(tempo) : DEFAULT_TEMPO);
}

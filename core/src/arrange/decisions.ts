/** What the teacher decides for an arrangement. Everything else is computed from the tune and these. */
import type { Bpm, Semitones } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { HandLimits, HandWishes, Locks } from '../hand/index.ts';

export const VERSIONS = ['tune', 'bare'] as const;
/** As it is, or with only the notes that carry each beat. */
export type VersionId = (typeof VERSIONS)[number];

export interface Decisions {
  readonly instrument: InstrumentId;
  /** Preset id or low-to-high pitches. */
  readonly tuning: string;
  readonly transpose: Semitones;
  readonly version: VersionId;
  /** Quarters per minute; null takes the tune's own tempo. */
  readonly tempo: Bpm | null;
  readonly limits: HandLimits;
  readonly locks: Locks;
  /** What the hand prefers; all-round where nothing is said. */
  readonly wishes?: HandWishes;
  /** Wishes of single parts, by their letter. */
  readonly partWishes?: Readonly<Record<string, HandWishes>>;
}

export const FIRST_DECISIONS: Decisions = {
  instrument: 'violin',
  tuning: 'standard',
  transpose: 0,
  version: 'tune',
  tempo: null,
  limits: {},
  locks: {},
};

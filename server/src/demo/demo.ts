/** The demo's library: tunes composed for Nokta, each with an arrangement for its instrument. */
import { randomUUID } from 'node:crypto';
import { readFile, readdir } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { FIRST_DECISIONS, bestOctave, decided, type Decisions } from '@nokta/core/arrange';
import type { Kept } from '@nokta/core/files';
import { readAbc } from '@nokta/core/formats';
import type { GradeNumber } from '@nokta/core/grade';
import { learnerNamed } from '@nokta/core/learner';
import { MAKES, type InstrumentId } from '@nokta/core/instrument';
import type { Tune } from '@nokta/core/music';
import { learnerKind } from '../library/learners.ts';
import { addToShelf } from '../records/shelf.ts';
import { keep } from '../library/kept.ts';
import { addTunes, fresh, type Library } from '../library/tunes.ts';

const TUNES = fileURLToPath(new URL('./tunes', import.meta.url));

/** Tunes that are not for the violin as usual, and what each is for. */
const SET_FOR: Readonly<
  Record<string, { readonly key?: Partial<Decisions['key']>; readonly tags?: readonly string[] }>
> = {
  'barnacle-steps.abc': { key: { instrument: 'cello' }, tags: ['study'] },
  'deep-water-slow-oars.abc': { key: { instrument: 'cello' }, tags: ['slow'] },
  'four-barrels.abc': { key: { instrument: 'bass' }, tags: ['first month', 'Tuesday group'] },
  'keep-the-lantern-low.abc': { tags: ['harvest supper', 'slow'] },
  'kettle-on-the-stove.abc': { tags: ['harvest supper'] },
  'lamplighters-ladder.abc': { tags: ['Tuesday group'] },
  'three-buttons.abc': { tags: ['first month', 'Tuesday group'] },
  'two-bells-at-the-quay.abc': { key: { tuning: 'low-pair-up' } },
  'up-lantern-hill.abc': { tags: ['harvest supper', 'Tuesday group'] },
  'who-left-the-gate-open.abc': { tags: ['first month'] },
};

/** What the Tuesday group plays together at the harvest supper: everybody in the tune's key. */
const GROUP: readonly { readonly name: string; readonly instrument: InstrumentId; readonly grade: GradeNumber }[] = [
  { name: 'First-years, violin', instrument: 'violin', grade: 1 },
  { name: 'Second-years, violin', instrument: 'violin', grade: 2 },
  { name: 'Fifth-years, violin', instrument: 'violin', grade: 5 },
  { name: 'Viola', instrument: 'viola', grade: 2 },
  { name: 'Cellos', instrument: 'cello', grade: 2 },
  { name: 'Bass', instrument: 'bass', grade: 2 },
];
const FOR_THE_GROUP = 'up-lantern-hill.abc';

const forTheGroup = (tune: Tune): readonly Decisions[] =>
  GROUP.map(({ name, instrument, grade }) => {
    const set = decided(FIRST_DECISIONS, { key: { instrument }, version: { grade, name, kept: ['key'] } });
    return decided(set, { key: { transpose: bestOctave(tune, set) } });
  });

/** What the teacher keeps beside the tunes: the group, a learner's hand and violin, a tuning for the evening song. */
async function keepThings({ db }: Pick<Library, 'db'>): Promise<void> {
  const half = MAKES.violin.find(({ length }) => length === 285) ?? null;
  const players = GROUP.map(({ name, instrument, grade }) => ({ name, instrument, make: null, grade, hand: null }));
  const small = {
    wishes: { preset: 'small-hands' as const },
    limits: { maxPosition: 'I' as const, noExtension: true },
  };
  const learner = {
    ...learnerNamed('Small hands, half size'),
    hand: small,
    plays: { instrument: { like: 'violin' as const, make: half } },
  };
  await db.transaction((tx) => addToShelf(tx, learnerKind, randomUUID(), learner));
  const kept: readonly Omit<Kept, 'id'>[] = [
    { kind: 'group', name: 'Tuesday group', value: { players } },
    { kind: 'tuning', name: 'All down a tone', value: { instrument: 'violin', pitches: ['F3', 'C4', 'G4', 'D5'] } },
  ];
  for (const one of kept) await keep(db, { id: randomUUID(), ...one });
}

export async function loadDemo(library: Library): Promise<void> {
  const files = (await readdir(TUNES)).filter((file) => file.endsWith('.abc')).sort();
  const tunes = await Promise.all(
    files.map(async (file) => {
      const read = readAbc(await readFile(`${TUNES}/${file}`, 'utf8'));
      if (!read.ok) throw new Error(`${file}: ${read.problems[0]?.message}`);
      const { tune } = read.value;
      const decisions = decided(FIRST_DECISIONS, { key: SET_FOR[file]?.key ?? {} });
      return fresh(tune, {
        source: file,
        tags: SET_FOR[file]?.tags ?? [],
        arrangements: [
          decided(decisions, { key: { transpose: bestOctave(tune, decisions) } }),
          ...(file === FOR_THE_GROUP ? forTheGroup(tune) : []),
        ],
      });
    }),
  );
  await addTunes(library, tunes);
  await keepThings(library);
  await library.jobs.settle();
}

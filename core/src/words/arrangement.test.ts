import { expect, it } from 'vitest';
import { FIRST_DECISIONS, decided, type DecisionChange } from '../arrange/index.ts';
import { C_MAJOR } from '../music/index.ts';
import { arrangementNames } from './arrangement.ts';

const names = (...changes: readonly DecisionChange[]) =>
  arrangementNames(
    changes.map((change) => decided(FIRST_DECISIONS, change)),
    C_MAJOR,
  );
const half = {
  name: 'Half-size violin',
  strings: null,
  clef: null,
  length: 280,
  tensions: null,
  gauge: null,
  reach: null,
};
const mia = { id: 'l1', name: 'Mia', limits: {} };

it.each<[string, readonly DecisionChange[], readonly string[]]>([
  ['grade and instrument', [{}, { version: { grade: 2 } }], ['The tune, violin', 'Grade 2, violin']],
  [
    'the size',
    [{ version: { grade: 1 } }, { version: { grade: 1 }, key: { make: half } }],
    ['Grade 1, violin', 'Grade 1, half-size violin'],
  ],
  ['whose hand it is', [{}, { hand: { learner: mia } }], ['The tune, violin', 'The tune, violin, Mia']],
  ['a name of its own, alone', [{ version: { name: 'Evening' }, hand: { learner: mia } }], ['Evening']],
  [
    'the key, where all else is the same',
    [{}, { key: { transpose: 2 } }, { version: { grade: 1 } }],
    ['The tune, violin, in C major', 'The tune, violin, in D major', 'Grade 1, violin'],
  ],
  [
    'the tuning, where all else is the same',
    [{}, { key: { tuning: 'low-pair-up' } }],
    ['The tune, violin, standard', 'The tune, violin, low pair up a tone'],
  ],
  [
    'a number, where nothing tells them apart',
    [{}, {}, {}],
    ['The tune, violin', 'The tune, violin (2)', 'The tune, violin (3)'],
  ],
  [
    'a number behind names that were given twice',
    [{ version: { name: 'Trio' } }, { version: { name: 'Trio' } }],
    ['Trio', 'Trio (2)'],
  ],
])('tells arrangements apart by %s', (_, changes, expected) => {
  expect(names(...changes)).toEqual(expected);
});

it('calls a learner as they are called by now', () => {
  const [name] = arrangementNames([decided(FIRST_DECISIONS, { hand: { learner: mia } })], C_MAJOR, ({ id }) =>
    id === 'l1' ? 'Mia the second' : '?',
  );
  expect(name).toBe('The tune, violin, Mia the second');
});

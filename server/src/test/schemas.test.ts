/** Schemas: whatever comes, they answer. No check of theirs throws, however nearly right a value is. */
import { melodyOf, packMelody } from '@nokta/core/search';
import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import * as api from '@nokta/api';
import * as arrange from '@nokta/core/arrange';
import * as bow from '@nokta/core/bow';
import * as edit from '@nokta/core/edit';
import * as files from '@nokta/core/files';
import * as grade from '@nokta/core/grade';
import * as hand from '@nokta/core/hand';
import * as instrument from '@nokta/core/instrument';
import * as learner from '@nokta/core/learner';
import * as music from '@nokta/core/music';
import * as paper from '@nokta/core/paper';
import { spoiled } from './spoiled.ts';
import { tuneFrom } from './harness.ts';

const TUNE = tuneFrom(
  'X:1\nT:Tar and Twine\nM:4/4\nL:1/8\nQ:1/4=90\nK:G\nP:A\n|: "G"{a}G2B>G !trill!(dG) [BG]2 |1 (3ABc A2 z4 :|2 G8 |]\nw: tar and twine\n',
);
const MAKE = {
  name: 'Half-size violin',
  strings: ['G3', 'D4', 'A4', 'E5'],
  clef: 'treble',
  length: 285,
  tensions: [40, 41, 50, 70],
  gauge: 'light',
  reach: 14,
};
const FIRST = arrange.FIRST_DECISIONS;
const DECISIONS = {
  ...FIRST,
  key: {
    ...FIRST.key,
    make: MAKE,
    tuning: 'A3,E4,A4,E5',
    transpose: 2,
    phrases: { n1: { last: 'n4', octaves: 1, echo: 0 } },
  },
  hand: { ...FIRST.hand, locks: { n1: { instrument: 'violin', stops: [{ string: 2, finger: 1, midi: 71 }] } } },
  version: { ...FIRST.version, grade: 2, name: 'Ines', slots: { n1: { 2: 'octave-up' } } },
};
const PLAYED = { like: 'violin', make: MAKE };
const HAND = {
  id: randomUUID(),
  name: 'Ines',
  wishes: FIRST.hand.wishes,
  limits: FIRST.hand.limits,
  instrument: PLAYED,
};
const TAPES = [{ semitones: 2, label: '1', colour: '#aa3322' }];
const NOW = '2026-03-01T10:00:00Z';
const KEPT = [
  { id: randomUUID(), kind: 'instrument', name: 'Half', value: PLAYED },
  { id: randomUUID(), kind: 'tuning', name: 'Low', value: { instrument: 'violin', pitches: ['A3', 'E4', 'A4', 'E5'] } },
  {
    id: randomUUID(),
    kind: 'group',
    name: 'Tuesday',
    value: {
      players: [
        {
          name: 'Ines',
          instrument: 'violin',
          make: MAKE,
          grade: 2,
          hand: { name: 'Ines', wishes: HAND.wishes, limits: HAND.limits },
        },
      ],
    },
  },
  { id: randomUUID(), kind: 'tapes', name: 'Three', value: { tapes: TAPES } },
  {
    id: randomUUID(),
    kind: 'book',
    name: 'Spring',
    value: { line: '', tunes: [randomUUID()], players: [], paper: 'a4', binding: 'pages', warmUps: false },
  },
];
const PLAYER = { name: 'Ines', instrument: 'cello', make: null, grade: 2, hand: null };
const NEW = {
  tune: TUNE,
  source: 'a.abc',
  instrument: 'violin',
  arrangements: [DECISIONS],
  tags: ['supper'],
  versions: [{ name: 'First', madeAt: NOW, tune: TUNE }],
};
const ENTRY = randomUUID();
const PIECES = arrange.arrangementRecord.between(FIRST, DECISIONS as unknown as arrange.Decisions);
const STYLE = JSON.stringify({ paper: 'a4' });

const LEARNER = {
  person: { name: 'Ines' },
  plays: { instrument: PLAYED },
  hand: { wishes: HAND.wishes, limits: HAND.limits },
  paper: { style: { paper: 'a4' } },
};

/** A value that each of them takes, or nearly: what is tried is whatever lies around it. */
const SAMPLES: Readonly<Record<string, readonly unknown[]>> = {
  addBatchRequest: [{ tunes: [NEW] }],
  addTuneRequest: [NEW],
  alikeRequest: [{ melodies: [packMelody(melodyOf(TUNE)), ''] }],
  arrangeRequest: [{ decisions: DECISIONS }],
  arrangementRecord: [DECISIONS],
  bookRequest: [
    {
      run: ENTRY,
      title: 'Spring',
      line: '',
      tunes: [ENTRY],
      players: [PLAYER],
      style: {},
      binding: 'booklet',
      warmUps: true,
    },
  ],
  bowSlice: [DECISIONS.bow],
  compareRequest: [{ tunes: [{ id: ENTRY, updatedAt: NOW, sha256: 'a'.repeat(64) }] }],
  decideRequest: [
    { entry: ENTRY, revision: 1, decisions: DECISIONS, label: 'tempo' },
    { entry: ENTRY, revision: 1, pieces: PIECES, label: 'tempo' },
  ],
  decisionsSchema: [DECISIONS],
  editRequest: [{ entry: ENTRY, revision: 1, change: { fields: { before: {}, after: {} } }, label: 'rename' }],
  fileQuery: [{ tab: 'true', round: '2' }],
  handNameSchema: ['Ines'],
  handSlice: [DECISIONS.hand],
  incipitQuery: [{ from: '2', length: '4' }],
  keptRequest: KEPT,
  keptSchema: KEPT,
  keySlice: [DECISIONS.key],
  learnerHandSchema: [{ id: ENTRY, name: 'Ines', limits: HAND.limits, wishes: HAND.wishes }],
  learnerRecord: [LEARNER],
  limitsSchema: [HAND.limits, grade.contractFor('violin', 2).limits],
  listQuery: [{ words: 'tar', melody: 'g a b', style: ['reel'], sort: 'title', offset: '0', limit: '20' }],
  logRequest: [{ id: ENTRY, at: NOW, value: { clean: true } }],
  makeSchema: [MAKE],
  momentSchema: [NOW],
  namedHandSchema: [HAND],
  namedWishesSchema: [{ ...HAND.wishes, name: 'Ines' }],
  namesSchema: [paper.USUAL_NAMES],
  newTune: [NEW],
  ownPatternSchema: [{ id: 'own-a', name: 'Mine', groups: [1, 3], offset: 1, accents: [0], suits: 'any' }],
  paceSlice: [{ tempo: 90 }],
  pictureQuery: [{ style: STYLE, round: '1', page: '1' }],
  playedInstrumentSchema: [PLAYED],
  playerSchema: [PLAYER],
  printRequest: [{ tune: TUNE, decisions: DECISIONS, style: {} }],
  restoreRequest: [
    { madeAt: NOW, tunes: [{ ...NEW, id: ENTRY, updatedAt: NOW, how: 'both', arrangementIds: [ENTRY] }] },
  ],
  restoredTune: [{ ...NEW, id: ENTRY, updatedAt: NOW, how: 'both', arrangementIds: [ENTRY] }],
  sheetQuery: [{ style: STYLE, round: '1' }],
  sheetSlice: [paper.sheetSlice.first],
  sheetStyleSchema: [paper.USUAL_STYLE],
  signSlice: [music.signSlice.first],
  someStyleSchema: [{ paper: 'a4' }],
  linkSchema: ['https://strings.example/home'],
  staffSlice: [arrange.staffSlice.first],
  stepRequest: [{ entry: ENTRY, revision: 1 }],
  styleNameSchema: ['Big'],
  tagSchema: ['supper'],
  tagsRequest: [{ tags: ['supper'] }],
  tapeQuery: [{ name: 'Violin', length: '328', tapes: JSON.stringify(TAPES), paper: 'a4' }],
  tapesSchema: [TAPES],
  titleSchema: ['Tar and Twine'],
  tuneRecord: [TUNE],
  tuneSchema: [TUNE],
  versionRequest: [{ name: 'First' }],
  versionSlice: [DECISIONS.version],
  wishesSchema: [HAND.wishes],
};

const isSlice = (one: unknown): one is { readonly schema: z.ZodType } =>
  typeof one === 'object' && one !== null && 'schema' in one && one.schema instanceof z.ZodType;
const EXPORTED = [api, arrange, bow, edit, files, grade, hand, instrument, learner, music, paper].flatMap((folder) =>
  Object.entries(folder as Readonly<Record<string, unknown>>).flatMap(([name, one]): [string, z.ZodType][] =>
    one instanceof z.ZodType ? [[name, one]] : isSlice(one) ? [[name, one.schema]] : [],
  ),
);

describe('a change as it is sent', () => {
  it.each([
    ['an arrangement', arrange.arrangementRecord.changeSchema, PIECES],
    ['a learner', learner.learnerRecord.changeSchema, [{ slice: 'person', field: 'name', before: 'A', after: 'B' }]],
  ] as const)('of %s is answered, however nearly right it is', (_, schema, sample) => {
    expect(schema.safeParse(sample).success).toBe(true);
    fc.assert(
      fc.property(fc.array(spoiled(), { minLength: 1, maxLength: 3 }), (all) => {
        const value = all.reduce<unknown>((now, spoil) => spoil(now), sample);
        expect(typeof schema.safeParse(value).success).toBe('boolean');
      }),
      { numRuns: 300 },
    );
  });
});

describe('every schema that is exported', () => {
  it('takes its samples as they are', () => {
    const refused = EXPORTED.flatMap(([name, schema]) =>
      (SAMPLES[name] ?? []).filter((sample) => !schema.safeParse(sample).success).map(() => name),
    );
    expect(EXPORTED.length).toBeGreaterThan(40);
    // Two are called the same, of a hand and of a grade: each takes one of the two samples.
    expect(refused.filter((name) => name !== 'limitsSchema')).toEqual([]);
  });

  it.each(EXPORTED)('%s answers whatever is nearly right', (name, schema) => {
    expect(SAMPLES[name], `a sample for ${name}`).toBeDefined();
    fc.assert(
      fc.property(
        fc.constantFrom(...SAMPLES[name]!),
        fc.array(spoiled(), { minLength: 1, maxLength: 3 }),
        (sample, all) => {
          const value = all.reduce<unknown>((now, spoil) => spoil(now), sample);
          // Whether it is taken or refused: that it answers is what is asked.
          expect(typeof schema.safeParse(value).success).toBe('boolean');
        },
      ),
      { numRuns: 300 },
    );
  });
});

it('a moment is one that a calendar has', () => {
  const ok = (text: string) => files.momentSchema.safeParse(text).success;
  expect(['2026-03-01T10:00:00Z', '2026-03-01T10:00:00.123Z', '1900-01-01T00:00:00Z'].map(ok)).toEqual([
    true,
    true,
    true,
  ]);
  expect(
    ['0000-01-01T00:00:00Z', '0001-01-01T00:00:00Z', '9999-12-31T23:59:59Z', '2026-02-30T10:00:00Z', ''].map(ok),
  ).toEqual([false, false, false, false, false]);
});

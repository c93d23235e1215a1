/** Limits and who set them. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { problemText } from '../words/index.ts';
import { tuneOf } from '../test/testing.ts';
import { setupFor } from '../test/setups.ts';
import { analyseForm } from '../form/index.ts';
import {
  HANDS,
  Hand,
  OWNERS,
  POSITIONS,
  fingerTune,
  levelOf,
  profileFor,
  resolveLimits,
  teacherLimits,
  type LimitLayer,
} from './index.ts';

const layer = (by: LimitLayer['by'], limits: LimitLayer['limits'], name: string | null = by): LimitLayer => ({
  by,
  name,
  limits,
});

describe('limits', () => {
  it('are the strongest word on each, with its owner, in whatever order they come', () => {
    const layers = [
      layer('learner', { maxPosition: 'III' }, 'Ida'),
      teacherLimits({ noDoubleStops: false }),
      layer('preset', { maxPosition: 'I', noFourth: true, noDoubleStops: true }, 'First lessons'),
      layer('grade', { noFourth: false }, 'Grade 3'),
    ];
    const expected = {
      limits: { maxPosition: 'III', noFourth: false, noDoubleStops: false },
      owners: {
        maxPosition: { by: 'learner', name: 'Ida' },
        noFourth: { by: 'grade', name: 'Grade 3' },
        noDoubleStops: { by: 'teacher', name: null },
      },
    };
    expect(resolveLimits(HANDS.violin, layers)).toEqual(expected);
    expect(resolveLimits(HANDS.violin, [...layers].reverse())).toEqual(expected);
  });

  it('come from the instrument where nobody else says anything', () => {
    expect(resolveLimits(HANDS.bass, [])).toEqual({
      limits: { bassSchool: 'three' },
      owners: { bassSchool: { by: 'instrument', name: null } },
    });
    expect(resolveLimits(HANDS.bass, [teacherLimits({ bassSchool: 'four' })]).owners.bassSchool!.by).toBe('teacher');
  });

  it('of a preset about the weak fourth finger say nothing about a hand with a strong one', () => {
    const preset = layer('preset', { noFourth: true });
    expect(resolveLimits(HANDS.cello, [preset]).limits).toEqual({});
    expect(resolveLimits(HANDS.cello, [layer('teacher', { noFourth: true })]).limits).toEqual({ noFourth: true });
  });

  it('never come from a weaker side than one that speaks', () => {
    const arbitraryLayer = fc.record({
      by: fc.constantFrom(...OWNERS.slice(1)),
      name: fc.constant(null),
      limits: fc.record(
        { maxPosition: fc.constantFrom(...POSITIONS), noExtension: fc.boolean() },
        { requiredKeys: [] },
      ),
    });
    fc.assert(
      fc.property(fc.uniqueArray(arbitraryLayer, { selector: ({ by }) => by }), (layers) => {
        const { limits, owners } = resolveLimits(HANDS.violin, layers);
        for (const { by, limits: own } of layers) {
          for (const limit of Object.keys(own) as (keyof typeof own)[])
            expect(OWNERS.indexOf(owners[limit]!.by)).toBeGreaterThanOrEqual(OWNERS.indexOf(by));
        }
        expect(Object.keys(limits)).toEqual(Object.keys(owners));
      }),
    );
  });

  it('of a learner and of a part’s preset reach the hand', () => {
    const learner = { name: 'Ida', limits: { noFourth: true } };
    const setup = setupFor({ learner, partWishes: { B: { preset: 'first-lessons' } } });
    expect(profileFor(setup).owners.noFourth).toEqual({ by: 'learner', name: 'Ida' });
    expect(profileFor(setup, 'B').owners.maxPosition).toEqual({ by: 'preset', name: 'First lessons' });
  });

  it('are named where something that was set breaks them', () => {
    const tune = tuneOf('AGAB', { key: 'G' });
    const locks = { n1: { instrument: 'violin', stops: [{ finger: 4, midi: 69 }] } } as const;
    const { fingering } = new Hand(tune, analyseForm(tune), setupFor({ wishes: { preset: 'first-lessons' }, locks }));
    const [problem] = fingering.problems;
    expect(problemText(problem!, fingering.instrument, fingering.tuning)).toContain(
      '(no fourth finger: First lessons)',
    );
  });
});

describe('positions', () => {
  it('are limited by the name that the letters give them', () => {
    // A flat on the D string by the first finger would be IV.
    const tune = tuneOf('d e f g a b a g|', { key: 'Eb', unit: '1/4', tempo: '1/4=60' });
    for (const maxPosition of ['I', 'II', 'III'] as const) {
      const setup = setupFor({ limits: { maxPosition }, wishes: { preset: 'third-position' } });
      const { notes } = fingerTune(tune, analyseForm(tune), setup);
      for (const { position } of notes) expect(levelOf(position!)).toBeLessThanOrEqual(POSITIONS.indexOf(maxPosition));
    }
  });
});

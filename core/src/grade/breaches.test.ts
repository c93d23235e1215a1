/** Each rule of a contract, on a tune that breaks it in one known place, and on one that does not. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { fitOf, gradeFits, ownGrade, type GradeFit } from '../compare/index.ts';
import { HAND_IDS } from '../instrument/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { deciding, type Flat } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { breachText, contractTexts } from '../words/index.ts';
import {
  GRADE_NUMBERS,
  breachesOf,
  brokenRules,
  contractFor,
  limitsSchema,
  type GradeNumber,
  type Limits,
  type Rule,
} from './index.ts';

const EVERYTHING = contractFor('violin', 6).limits;
const SLOW: Header = { key: 'D', tempo: '1/4=60' };

/** Notes at which a rule is broken when it alone is limited. */
function broken(music: string, limit: Partial<Limits>, change: Flat = {}, header: Header = SLOW): readonly string[] {
  const facts = arrange(tuneOf(music, header), deciding(change));
  const found = breachesOf(facts, { ...EVERYTHING, ...limit });
  const [rule] = Object.keys(limit) as [Rule];
  expect(found.every((one) => one.rule === rule)).toBe(true);
  return found.map(({ note }) => note);
}

describe('a breach', () => {
  it.each<readonly [Rule, string, Partial<Limits>, readonly string[]]>([
    ['strings', 'D2 A2 e2 d2 |', { strings: 2 }, ['n3']],
    ['fingers', 'D2 F2 G2 E2 |', { fingers: [0, 1, 2] }, ['n3']],
    ['low2', 'D2 E2 =F2 G2 |', { low2: false }, ['n3']],
    ['high3', 'D2 E2 F2 ^G2 |', { high3: false }, ['n4']],
    ['range', 'D2 A2 d2 e2 |', { range: 12 }, ['n4']],
    ['shortest', 'D2 E2 FG A2 |', { shortest: 1 }, ['n3', 'n4']],
    ['dotted', 'D3 E F2 G2 |', { dotted: false }, ['n1']],
    ['triplets', 'D2 (3EFG A4 |', { triplets: false }, ['n2', 'n3', 'n4']],
    ['syncopation', 'D E2 F G4 |', { syncopation: false }, ['n2']],
    ['ties', 'D4 E4- | E4 F4 |', { ties: false }, ['n2']],
    ['pickup', 'D2 | E4 F4 |', { pickup: false }, ['n1']],
    ['rests', 'D4 z4 |', { rests: false }, ['n2']],
    ['maxSlur', '(D2 E2 F2) G2 |', { maxSlur: 2 }, ['n1']],
    ['hooks', 'D2 vE2 F4 |', { hooks: false }, ['n2']],
    ['retakes', 'D2 z2 vE4 |', { retakes: false }, ['n3']],
    ['doubleStops', 'D4 [DA]4 |', { doubleStops: 'none' }, ['n2']],
    ['drones', '[DA]4 [DB]4 |', { drones: false }, ['n2']],
    ['graces', 'D4 {F}E4 |', { graces: false }, ['n2']],
    ['slides', 'D4 !slide!E4 |', { slides: false }, ['n2']],
    ['skips', 'D4 e4 |', { skips: false }, ['n2']],
    ['accidentals', 'D2 ^D2 E2 =F2 |', { accidentals: 1 }, ['n4']],
    ['signature', 'D8 |', { signature: { sharps: 1, flats: 1 } }, ['n1']],
    ['patterns', 'D2 E2 F2 =F2 |', { patterns: 1 }, ['n4']],
  ])('of %s: %s', (_, music, limit, notes) => {
    expect(broken(music, limit)).toEqual(notes);
  });

  it('of speed is counted over any two seconds', () => {
    // Four notes a second: eight in two seconds, which is seven after the first.
    expect(broken('DEFG DEFG |', { notesPerSecond: 3 }, {}, { key: 'D', tempo: '1/4=120' })).toHaveLength(1);
    expect(broken('DEFG DEFG |', { notesPerSecond: 3.5 }, {}, { key: 'D', tempo: '1/4=120' })).toEqual([]);
    expect(broken('DADA DADA |', { crossingsPerSecond: 1 }, {}, { key: 'D', tempo: '1/4=120' }).length).toBeGreaterThan(
      0,
    );
  });

  it('of the tuning, of what is off the instrument, and of moves of the hand', () => {
    expect(broken('D8 |', { retuned: false }, { tuning: 'low-pair-up' })).toEqual(['n1']);
    expect(broken('D8 | G,,8 |', { range: 60 })).toEqual(['n2']);
    expect(broken("F2 G2 A2 B2 | e'2 f'2 g'2 e'2 |", { shifts: 0 }).length).toBeGreaterThan(0);
    expect(broken("e2 a2 c'2 e'2 |", { maxPosition: 'I' }).length).toBeGreaterThan(0);
  });

  it('is told in words, each by its own', () => {
    const rules = Object.keys(EVERYTHING) as Rule[];
    expect(new Set(rules.map(breachText)).size).toBe(rules.length);
    expect(
      brokenRules([
        { rule: 'ties', note: 'n1' },
        { rule: 'ties', note: 'n2' },
      ]),
    ).toEqual(['ties']);
  });

  it('of a quarter in a jig is none: it is two thirds of its beat', () => {
    expect(broken('D2E F3 |', { dotted: false }, {}, { key: 'D', metre: '6/8', tempo: '3/8=60' })).toEqual([]);
  });
});

describe('contracts', () => {
  it.each(HAND_IDS)('of the %s are well-formed, sayable, and allow more from step to step', (hand) => {
    const steps = GRADE_NUMBERS.map((grade) => contractFor(hand, grade).limits);
    const allows = (value: unknown): number => {
      if (value === null || value === true) return Infinity;
      if (typeof value === 'number') return value;
      if (Array.isArray(value)) return value.length;
      if (typeof value === 'object')
        return Object.values(value as object).reduce((sum: number, one: number) => sum + one, 0);
      if (typeof value === 'string') {
        const at = ['none', 'open', 'simple', 'any'].indexOf(value);
        return at >= 0 ? at : ['half', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'].indexOf(value);
      }
      return 0;
    };
    steps.forEach((limits, index) => {
      expect(limitsSchema.parse(limits)).toEqual(limits);
      expect(contractTexts(limits).length).toBeGreaterThan(0);
      const before = steps[index - 1];
      if (!before) return;
      for (const rule of Object.keys(limits) as Rule[]) {
        const [now, then] = [allows(limits[rule]), allows(before[rule])];
        if (rule === 'shortest') expect(limits[rule] ?? 0).toBeLessThanOrEqual(before[rule] ?? 0);
        else if (rule === 'doubleStops') expect(now).toBeGreaterThanOrEqual(then);
        else expect(now, `${rule} in grade ${index + 1}`).toBeGreaterThanOrEqual(then);
      }
    });
  });
});

describe('the grade of a tune', () => {
  const fits = (music: string, change: Flat = {}, header: Header = SLOW): readonly GradeFit[] => {
    const steps = gradeFits(arrange(tuneOf(music, header), deciding(change)));
    for (;;) {
      const { done, value } = steps.next();
      if (done) return value;
    }
  };
  it.each<readonly [string, string, GradeNumber]>([
    ['quarters and halves on home fingers', 'D2 E2 F2 D2 | F2 G2 A4 |', 1],
    ['eighths and a low second finger', 'D2 E=F G2 D2 | A4 D4 |', 2],
    ['a dotted note and a pickup', 'D2 | F3 G A2 F2 | D8 |', 3],
    ['a triplet', 'D2 (3EFG A2 F2 | D8 |', 4],
  ])('with %s', (_, music, grade) => {
    expect(ownGrade(fits(music))).toBe(grade);
  });

  it('is the lowest that it fits, and everything fits the last', () => {
    fc.assert(
      fc.property(arbitraryTune({ words: false }), (tune) => {
        const { breaches } = fitOf(arrange(tune), 6);
        // Only what is off the instrument is too much for everybody.
        expect(breaches.every(({ rule }) => rule === 'range')).toBe(true);
      }),
      { numRuns: 30 },
    );
    expect(ownGrade([])).toBeNull();
  });

  it('fingers each grade as it may be fingered: without a fourth finger an open string', () => {
    const steps = fits('D2 E2 F2 G2 | A2 G2 F2 E2 | D8 |');
    expect(steps[0]!.breaches).toEqual([]);
  });
});

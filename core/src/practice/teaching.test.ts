/** Slow to fast, and a lesson from a tune: their laws. */
import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { readAbc } from '../formats/index.ts';
import { barStarts, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { USUAL_CLIMB, climbTo, joinSpan, lessonPlan, lessonSteps, minutesOf, tried, type Climb } from './index.ts';

const target = fc.double({ min: 30, max: 300, noNaN: true }).map((value) => Math.round(10 * value) / 10);
const after = (climb: Climb, tries: readonly boolean[]) => tries.reduce((now, clean) => tried(now, clean), climb);

describe('slow to fast', () => {
  it('never goes above the tempo that is wanted, and gets faster step by step', () => {
    fc.assert(
      fc.property(target, (wanted) => {
        const { tempos } = climbTo(wanted);
        expect(tempos.at(-1)).toBe(wanted);
        tempos.slice(1).forEach((tempo, index) => expect(tempo).toBeGreaterThan(tempos[index]!));
        tempos.slice(1).forEach((tempo, index) => expect(tempo / tempos[index]!).toBeLessThan(1.2));
      }),
    );
  });

  it('stays on its steps whatever happens, and is reached at the last alone', () => {
    fc.assert(
      fc.property(target, fc.array(fc.boolean(), { maxLength: 80 }), (wanted, tries) => {
        let climb = climbTo(wanted);
        for (const clean of tries) {
          climb = tried(climb, clean);
          expect(climb.at).toBeGreaterThanOrEqual(0);
          expect(climb.at).toBeLessThan(climb.tempos.length);
          expect(climb.clean * climb.failed).toBe(0);
          if (climb.reached && clean) expect(climb.at).toBe(climb.tempos.length - 1);
        }
      }),
    );
  });

  it('goes back after failures, and no further than its beginning', () => {
    fc.assert(
      fc.property(target, fc.integer({ min: 0, max: 20 }), (wanted, ups) => {
        const up = after(
          climbTo(wanted),
          Array.from({ length: ups }, () => true),
        );
        const back = after(
          { ...up, clean: 0 },
          Array.from({ length: USUAL_CLIMB.failed }, () => false),
        );
        expect(back.at).toBe(Math.max(0, up.at - 1));
      }),
    );
  });

  it('ends at the tempo that is wanted for whoever gets better', () => {
    fc.assert(
      fc.property(target, fc.array(fc.boolean(), { maxLength: 40 }), (wanted, tries) => {
        const climb = after(climbTo(wanted), tries);
        const better = after(
          climb,
          Array.from({ length: USUAL_CLIMB.clean * climb.tempos.length }, () => true),
        );
        expect(better.reached).toBe(true);
        expect(better.at).toBe(better.tempos.length - 1);
      }),
    );
  });

  it('asks for clean times in a row', () => expect(after(climbTo(100), [true, false, true]).at).toBe(0));
});

const TUNES = new URL('../../../server/src/demo/tunes/', import.meta.url);
const DEMO = readdirSync(TUNES).map((name): readonly [string, Tune] => {
  const read = readAbc(readFileSync(new URL(name, TUNES), 'utf8'));
  if (!read.ok) throw new Error(name);
  return [name, read.value.tune];
});

describe('a lesson from a tune', () => {
  it.each(DEMO)('has every phrase once before its joins, every join before its part: %s', (_, tune) => {
    const form = analyseForm(tune);
    const steps = lessonSteps(tune, form, 100);
    const at = (kind: string, phrase: string) =>
      steps.findIndex((step) => step.kind === kind && step.phrases.includes(phrase));
    const learned = steps.filter(({ kind }) => kind === 'phrase').map(({ phrases: [id] }) => id!);
    expect(new Set(learned).size).toBe(learned.length);
    for (const phrase of phrasesOf(form)) if (phrase.relation.kind !== 'same') expect(learned).toContain(phrase.id);
    steps.forEach(({ kind, phrases }, index) => {
      if (kind === 'phrase') return;
      for (const id of phrases) if (learned.includes(id)) expect(at('phrase', id)).toBeLessThan(index);
      if (kind === 'part')
        steps.forEach((join, place) => {
          if (join.kind === 'join' && join.phrases.every((id) => phrases.includes(id)))
            expect(place).toBeLessThan(index);
        });
    });
    expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
    const end = barStarts(tune.bars).at(-1)!;
    for (const { from, to, minutes } of steps) {
      expect(from).toBeGreaterThanOrEqual(0);
      expect(to).toBeGreaterThan(from);
      expect(to).toBeLessThanOrEqual(end);
      expect(minutes * 2).toBe(Math.ceil(minutes * 2));
      expect(minutes).toBeGreaterThan(0);
    }
  });

  it.each(DEMO)('is the teacher’s: reordered, repeated, left out, and whole again: %s', (_, tune) => {
    const steps = lessonSteps(tune, analyseForm(tune), 100);
    const ids = steps.map(({ id }) => id);
    const asItComes = lessonPlan(steps, { order: null, out: {} });
    expect(asItComes.map(({ id }) => id)).toEqual(ids);
    expect(minutesOf(asItComes)).toBe(steps.reduce((sum, { minutes }) => sum + minutes, 0));
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...ids, 'gone'), { maxLength: 30 }), fc.subarray(ids), (order, left) => {
        const plan = lessonPlan(steps, { order, out: Object.fromEntries(left.map((id) => [id, true as const])) });
        // Nothing is lost, what is gone is not there, and what the teacher placed stands in the teacher's order.
        expect(new Set(plan.map(({ id }) => id))).toEqual(new Set(ids));
        const own = order.filter((id) => id !== 'gone');
        const placed = new Set(own);
        expect(plan.map(({ id }) => id).filter((id) => placed.has(id))).toEqual(own);
        expect(new Set(plan.map(({ key }) => key)).size).toBe(plan.length);
        expect(plan.filter(({ out }) => out).every(({ id }) => left.includes(id))).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  it('learns nothing twice: what comes again is played with its part', () => {
    const tune = tuneOf(
      'G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 | G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 |]',
      { key: 'G' },
    );
    const steps = lessonSteps(tune, analyseForm(tune), 120);
    const phrases = steps.filter(({ kind }) => kind === 'phrase').length;
    expect(phrases).toBeLessThan(phrasesOf(analyseForm(tune)).length);
  });

  it('joins the last bar of a phrase to the first of the next, a pickup with them', () => {
    const { bars } = tuneOf('D2 | G8 | A8 | B6 D2 | G8 | A8 |]', { key: 'G' });
    const starts = barStarts(bars);
    const second = { from: starts[4]! - 3360, to: starts[6]!, downbeat: starts[4]! };
    expect(joinSpan({ bars }, { from: 0, to: second.from }, second)).toEqual([starts[3], starts[5]]);
  });
});

/** What runs again for which change. */
import { describe, expect, it } from 'vitest';
import {
  FIRST_DECISIONS,
  STAGES,
  arrange,
  decided,
  type DecisionChange,
  type Decisions,
  type Facts,
} from '../arrange/index.ts';
import { lockOf } from '../hand/index.ts';
import { transposeTune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { Derivation, stageOf } from './index.ts';

const REEL = tuneOf('|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|', { key: 'G', tempo: '1/4=120' });
const ALL = STAGES.map(({ name }) => name);

function after(change: DecisionChange, source = REEL): readonly string[] {
  const derivation = new Derivation<Decisions, Facts>(STAGES);
  derivation.derive(FIRST_DECISIONS, { source: REEL, timeRound: 1 });
  return derivation.derive(decided(FIRST_DECISIONS, change), { source, timeRound: 1 }).ran;
}

describe('the stages of an arrangement', () => {
  const { notes } = arrange(REEL).fingering;

  it.each([
    ['nothing, though all objects are new', {}, []],
    ['a lock', { hand: { locks: { [notes[0]!.id]: lockOf(notes[0]!, 'violin') } } }, ['hand', 'staff', 'check']],
    ['a limit', { hand: { limits: { noFourth: true } } }, ['hand', 'staff', 'check']],
    ['the tempo', { pace: { tempo: 60 } }, ['pace', 'version', 'strokes', 'hand', 'staff', 'travel', 'check']],
    ['the bow', { bow: { school: 'down-on-the-beat' } }, ['counts', 'strokes', 'hand', 'staff', 'travel', 'check']],
    // No slur changes by it: nothing that the left hand reads.
    ['a turned stroke', { bow: { turns: { [notes[3]!.id]: 'down' } } }, ['counts', 'strokes', 'travel', 'check']],
    ['the tuning', { key: { tuning: 'low-pair-up' } }, ['key', 'version', 'hand', 'staff', 'check']],
    [
      'the instrument',
      { key: { instrument: 'viola' } },
      ['key', 'version', 'strokes', 'hand', 'staff', 'travel', 'check'],
    ],
    ['what the staff shows', { staff: { pitch: 'fingered' } }, ['staff']],
    ['the key', { key: { transpose: 2 } }, ALL.filter((name) => name !== 'pace')],
    ['the version', { version: { grade: 'bare' } }, ALL.filter((name) => name !== 'key' && name !== 'pace')],
  ] as const)('run again for %s: no others', (_, change, expected) => {
    expect(after(structuredClone(change) as DecisionChange)).toEqual(expected);
  });

  it('run again for nothing that only comes back from the store, which keeps keys in an order of its own', () => {
    const locks = Object.fromEntries(notes.slice(0, 12).map((note) => [note.id, lockOf(note, 'violin')]));
    const decisions = decided(FIRST_DECISIONS, { hand: { locks }, pace: { tempo: 60 } });
    const turned = (value: unknown): unknown =>
      typeof value !== 'object' || value === null || Array.isArray(value)
        ? value
        : Object.fromEntries(
            Object.entries(value)
              .reverse()
              .map(([key, inner]) => [key, turned(inner)]),
          );
    const derivation = new Derivation<Decisions, Facts>(STAGES);
    derivation.derive(decisions, { source: REEL, timeRound: 1 });
    expect(derivation.derive(turned(decisions) as Decisions, { source: REEL, timeRound: 1 }).ran).toEqual([]);
  });

  it('all run for another tune', () => {
    expect(after({}, transposeTune(REEL, 1))).toEqual(ALL);
  });

  it('give what working all of it out from the start gives', () => {
    const derivation = new Derivation<Decisions, Facts>(STAGES);
    const changes: readonly DecisionChange[] = [
      { key: { transpose: 5 } },
      { hand: { limits: { noFourth: true } } },
      { version: { grade: 'bare' } },
      { key: { instrument: 'cello', transpose: -12 } },
      { pace: { tempo: 50 } },
    ];
    let decisions = FIRST_DECISIONS;
    for (const change of changes) {
      decisions = decided(decisions, change);
      const { facts } = derivation.derive(decisions, { source: REEL, timeRound: 1 });
      const fresh = arrange(REEL, decisions);
      expect(facts.fingering).toEqual(fresh.fingering);
      expect(facts.bowing).toEqual(fresh.bowing);
      expect(facts.form).toEqual(fresh.form);
      expect(facts.changes).toEqual(fresh.changes);
    }
  });

  it('come each after those that they need', () => {
    const given = new Set<string>(['source', 'timeRound']);
    const facts = arrange(REEL);
    for (const stage of STAGES) {
      for (const need of stage.needs) expect(given, `${stage.name} needs ${need}`).toContain(need);
      Object.keys(stage.run(FIRST_DECISIONS, facts)).forEach((fact) => given.add(fact));
    }
    expect(given).toEqual(new Set(Object.keys(facts).filter((fact) => fact !== 'decisions')));
  });
});

describe('Derivation', () => {
  interface Choices {
    readonly first: { readonly by: number };
    readonly second: { readonly by: number };
  }
  interface Sums {
    readonly start: number;
    readonly once: number;
    readonly twice: number;
  }
  const stage = stageOf<Choices, Sums>();
  const stages = [
    stage('once', ['first'], ['start'], ({ first }, { start }) => ({ once: start + first.by })),
    stage('twice', ['second'], ['once'], ({ second }, { once }) => ({ twice: once * second.by })),
  ];

  it('stops where a stage gives the same as before', () => {
    const derivation = new Derivation<Choices, Sums>(stages);
    expect(derivation.derive({ first: { by: 1 }, second: { by: 2 } }, { start: 3 }).facts.twice).toBe(8);
    const { facts, ran } = derivation.derive({ first: { by: 2 }, second: { by: 2 } }, { start: 2 });
    expect(ran).toEqual(['once']);
    expect(facts.twice).toBe(8);
  });

  it('keeps the object of before where a fact is steady and says the same, so that what reads it does not run', () => {
    interface Lists {
      readonly start: readonly number[];
      readonly sorted: readonly number[];
      readonly total: number;
    }
    const listed = stageOf<Choices, Lists>();
    const derivation = new Derivation<Choices, Lists>([
      listed('sorted', [], ['start'], (_, { start }) => ({ sorted: start.toSorted((a, b) => a - b) }), ['sorted']),
      listed('total', [], ['sorted'], (_, { sorted }) => ({ total: sorted.reduce((sum, one) => sum + one, 0) })),
    ]);
    const choices = { first: { by: 1 }, second: { by: 2 } };
    const { sorted } = derivation.derive(choices, { start: [3, 1] }).facts;
    const again = derivation.derive(choices, { start: [1, 3] });
    expect(again.ran).toEqual(['sorted']);
    expect(again.facts.sorted).toBe(sorted);
    expect(derivation.derive(choices, { start: [1, 4] }).facts.total).toBe(5);
  });

  it('runs nothing that comes after a stage that failed, and goes on when it no longer does', () => {
    let broken = true;
    const derivation = new Derivation<Choices, Sums>([
      ...stages,
      stage('breaks', [], ['twice'], () => {
        if (broken) throw new Error('broken');
        return {};
      }),
    ]);
    const choices = { first: { by: 1 }, second: { by: 2 } };
    expect(() => derivation.derive(choices, { start: 1 })).toThrow('broken');
    broken = false;
    expect(derivation.derive(choices, { start: 1 }).ran).toEqual(['breaks']);
  });
});

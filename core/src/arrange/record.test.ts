/** Decisions piece by piece: what is different, what collides, what goes together. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deciding } from '../test/setups.ts';
import {
  FIRST_DECISIONS,
  arrangementRecord,
  decided,
  decisionsSchema,
  type DecisionChange,
  type Decisions,
} from './index.ts';

const { collisions, lay } = arrangementRecord;
const piecesBetween = (before: Decisions, after: Decisions) => arrangementRecord.between(before, after) ?? [];
const lock = (finger: 0 | 1 | 2 | 3 | 4) => ({ instrument: 'violin', stops: [{ string: 2, finger, midi: 71 }] });
const locks = (of: Readonly<Record<string, 0 | 1 | 2 | 3 | 4>>): DecisionChange => ({
  hand: { locks: Object.fromEntries(Object.entries(of).map(([id, finger]) => [id, lock(finger)])) },
});
const at = (change: DecisionChange, of: Decisions = FIRST_DECISIONS) => decided(of, change);

describe('pieces', () => {
  it('are fields, and entries of those that have many', () => {
    const next = at({ ...locks({ n1: 1, n2: 2 }), pace: { tempo: 60 }, bow: { turns: { n3: 'up' } } });
    expect(piecesBetween(FIRST_DECISIONS, next).map(({ slice, field, entry }) => [slice, field, entry])).toEqual([
      ['pace', 'tempo', undefined],
      ['bow', 'turns', 'n3'],
      ['hand', 'locks', 'n1'],
      ['hand', 'locks', 'n2'],
    ]);
    expect(piecesBetween(next, next)).toEqual([]);
  });

  it('survive a store of JSON, removals too', () => {
    const before = at(locks({ n1: 1, n2: 2 }));
    const after = at({ ...locks({ n2: 3 }), pace: { tempo: null } }, before);
    const pieces = JSON.parse(JSON.stringify(piecesBetween(before, after))) as ReturnType<typeof piecesBetween>;
    expect(lay(before, pieces)).toEqual(after);
    expect(collisions(before, pieces)).toEqual([]);
    expect(collisions(after, pieces)).toEqual([]);
  });

  it('collide where the same note is locked otherwise, and nowhere else', () => {
    const mine = piecesBetween(FIRST_DECISIONS, at(locks({ n1: 1, n2: 2 })));
    expect(collisions(at(locks({ n3: 3 })), mine)).toEqual([]);
    expect(collisions(at(locks({ n1: 1 })), mine)).toEqual([]);
    expect(collisions(at(locks({ n1: 4 })), mine).map(({ entry }) => entry)).toEqual(['n1']);
    expect(collisions(at({ bow: { start: 'up' } }), mine)).toEqual([]);
  });

  it('of two desks that touch nothing in common come to the same, whoever is first', () => {
    const change = fc.record(
      {
        tempo: fc.constantFrom(50, 60, 70),
        transpose: fc.integer({ min: -5, max: 5 }),
        start: fc.constantFrom('down' as const, 'up' as const),
        locks: fc.dictionary(
          fc.constantFrom('n1', 'n2', 'n3', 'n4'),
          fc.constantFrom(0 as const, 1 as const, 2 as const),
        ),
        turns: fc.dictionary(fc.constantFrom('n1', 'n2', 'n3'), fc.constantFrom('down' as const, 'up' as const)),
      },
      { requiredKeys: [] },
    );
    const made = (one: typeof change extends fc.Arbitrary<infer Made> ? Made : never): Decisions =>
      structuredClone(
        at({
          ...(one.tempo !== undefined && { pace: { tempo: one.tempo } }),
          ...(one.transpose !== undefined && { key: { transpose: one.transpose } }),
          bow: { ...(one.start && { start: one.start }), ...(one.turns && { turns: { ...one.turns } }) },
          ...(one.locks && locks(one.locks)),
        }),
      );
    fc.assert(
      fc.property(change, change, (one, other) => {
        const [a, b] = [piecesBetween(FIRST_DECISIONS, made(one)), piecesBetween(FIRST_DECISIONS, made(other))];
        const collide = collisions(made(one), b).length > 0;
        expect(collisions(made(other), a).length > 0).toBe(collide);
        if (collide) return;
        const together = lay(lay(FIRST_DECISIONS, a), b);
        expect(lay(lay(FIRST_DECISIONS, b), a)).toEqual(together);
        expect(decisionsSchema.safeParse(together).success).toBe(true);
        // Nothing of either is missing.
        expect(collisions(together, [...a, ...b])).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });

  it('of a whole long tune are laid in a moment', () => {
    const many = Object.fromEntries(Array.from({ length: 20_000 }, (_, index) => [`n${index}`, 'up' as const]));
    const pieces = piecesBetween(FIRST_DECISIONS, at({ bow: { turns: many } }));
    const begin = performance.now();
    expect(Object.keys(lay(FIRST_DECISIONS, pieces).bow.turns)).toHaveLength(20_000);
    expect(performance.now() - begin).toBeLessThan(1_000);
  });

  it('are a small part of all that is decided', () => {
    const before = deciding({
      locks: Object.fromEntries(Array.from({ length: 60 }, (_, index) => [`n${index + 1}`, lock(1)])),
    });
    const after = at({ bow: { turns: { n5: 'down' } } }, before);
    const bytes = (value: unknown) => JSON.stringify(value).length;
    expect(bytes(piecesBetween(before, after)) / bytes(after)).toBeLessThan(0.03);
  });
});

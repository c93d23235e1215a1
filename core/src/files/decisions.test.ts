/** Everything that can be decided for the hand goes through a Nokta file and comes back the same. */
import { describe, expect, it } from 'vitest';
import { decisionsSchema, type Decisions } from '../arrange/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import { namedHandSchema, readNokta, writeNokta } from './index.ts';

const DECIDED: Decisions = deciding({
  instrument: 'cello',
  limits: { noExtension: true, noDoubleStops: true, maxPosition: 'VI', celloSchool: 'shift' },
  wishes: { preset: 'orchestra', weights: { shift: 2, openTone: 0.5 } },
  learner: { name: 'Tuesday group', limits: { noDoubleStops: true } },
  partWishes: { B: { preset: 'small-hands' } },
  locks: {
    n1: { instrument: 'cello', stops: [{ string: 2, midi: 57 }], position: ['II', 'IV'] },
    n2: { instrument: 'cello', stops: [{ finger: 3, harmonic: true, midi: 69 }], shift: true },
    n3: { instrument: 'cello', stops: [{ string: 1, finger: 1, midi: 45 }], holdUntil: 'n4' },
    n4: { instrument: 'violin', stops: [], like: 'n1' },
  },
});

describe('decisions about the hand', () => {
  it('come back from a file as they went in', () => {
    const tune = tuneOf('A,2 A2 A,,2 A,2');
    const read = readNokta(writeNokta({ tune, arrangements: [DECIDED], tags: [], versions: [] }));
    expect(read.ok && read.value.arrangements).toEqual([DECIDED]);
  });

  it('are refused where they make no sense', () => {
    const refused = (change: Record<string, unknown>) =>
      decisionsSchema.safeParse({ ...DECIDED, hand: { ...DECIDED.hand, ...change } }).success;
    expect(refused({})).toBe(true);
    expect(refused({ wishes: { preset: 'telepathy' } })).toBe(false);
    expect(refused({ wishes: { preset: 'orchestra', weights: { shift: -1 } } })).toBe(false);
    expect(refused({ limits: { maxPosition: 'IX' } })).toBe(false);
    expect(refused({ locks: { n1: { instrument: 'cello', stops: [{ finger: 7, midi: 60 }] } } })).toBe(false);
    expect(namedHandSchema.safeParse({ id: 'x', name: '', wishes: {}, limits: {} }).success).toBe(false);
  });

  it('are refused where something is in them that nobody knows', () => {
    expect(decisionsSchema.safeParse({ ...DECIDED, bows: {} }).success).toBe(false);
    expect(decisionsSchema.safeParse({ ...DECIDED, pace: { tempo: 90, swing: 2 } }).success).toBe(false);
  });

  it('are read without the time round that was looked at, which older programs kept with them', () => {
    const older = { ...DECIDED, version: { ...DECIDED.version, round: 2 } };
    expect(decisionsSchema.parse(older)).toEqual(DECIDED);
  });

  it('of older files hold as they did', () => {
    const { key, pace, hand } = DECIDED;
    const locks = { n1: { instrument: 'cello', stops: [{ string: 2, finger: 4, midi: 55 }] } };
    const flat = { ...key, ...pace, version: 'bare', limits: { maxPosition: 'II' }, locks };
    const read = decisionsSchema.parse(flat);
    expect(read).toMatchObject({
      key,
      pace,
      version: { grade: 'bare' },
      hand: { locks, limits: { maxPosition: 'II' } },
    });
    expect(read.hand).toMatchObject({ wishes: { preset: 'all-round' }, partWishes: {}, learner: null });
    const named = { ...flat, wishes: { ...hand.wishes, name: 'Tuesday group' }, partWishes: hand.partWishes };
    expect(decisionsSchema.parse(named).hand).toEqual({
      wishes: hand.wishes,
      partWishes: hand.partWishes,
      learner: { name: 'Tuesday group', limits: { maxPosition: 'II' } },
      limits: {},
      locks,
    });
  });
});

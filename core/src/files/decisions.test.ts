/** Everything that can be decided for the hand goes through a Nokta file and comes back the same. */
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, type Decisions } from '../arrange/index.ts';
import { tuneOf } from '../test/testing.ts';
import { decisionsSchema, namedHandSchema, readNokta, writeNokta } from './index.ts';

const DECIDED: Decisions = {
  ...FIRST_DECISIONS,
  instrument: 'cello',
  limits: { noExtension: true, noDoubleStops: true, maxPosition: 'VI', celloSchool: 'shift' },
  wishes: { preset: 'orchestra', name: 'Tuesday group', weights: { shift: 2, openTone: 0.5 } },
  partWishes: { B: { preset: 'small-hands' } },
  locks: {
    n1: { instrument: 'cello', stops: [{ string: 2, midi: 57 }], position: ['II', 'IV'] },
    n2: { instrument: 'cello', stops: [{ finger: 3, harmonic: true, midi: 69 }], shift: true },
    n3: { instrument: 'cello', stops: [{ string: 1, finger: 1, midi: 45 }], holdUntil: 'n4' },
    n4: { instrument: 'violin', stops: [], like: 'n1' },
  },
};

describe('decisions about the hand', () => {
  it('come back from a file as they went in', () => {
    const tune = tuneOf('A,2 A2 A,,2 A,2');
    const read = readNokta(writeNokta({ tune, arrangements: [DECIDED], tags: [], versions: [] }));
    expect(read.ok && read.value.arrangements).toEqual([DECIDED]);
  });

  it('are refused where they make no sense', () => {
    const refused = (change: Record<string, unknown>) => decisionsSchema.safeParse({ ...DECIDED, ...change }).success;
    expect(refused({})).toBe(true);
    expect(refused({ wishes: { preset: 'telepathy' } })).toBe(false);
    expect(refused({ wishes: { preset: 'orchestra', weights: { shift: -1 } } })).toBe(false);
    expect(refused({ limits: { maxPosition: 'IX' } })).toBe(false);
    expect(refused({ locks: { n1: { instrument: 'cello', stops: [{ finger: 7, midi: 60 }] } } })).toBe(false);
    expect(namedHandSchema.safeParse({ id: 'x', name: '', wishes: {}, limits: {} }).success).toBe(false);
  });

  it('of older files hold as they did', () => {
    const { wishes: _w, partWishes: _p, ...old } = DECIDED;
    const locks = { n1: { instrument: 'cello', stops: [{ string: 2, finger: 4, midi: 55 }] } };
    expect(decisionsSchema.parse({ ...old, limits: { maxPosition: 'II' }, locks })).toMatchObject({ locks });
  });
});

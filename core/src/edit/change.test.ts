/** Changes know every field of a tune: nothing that is edited is left out of its history. */
import { describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { isSound, tuneSchema, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { applyChange, changeBetween, invertChange } from './index.ts';

const REEL = tuneOf('|: G2BG dGBG | ABcA BGAB :|', { key: 'G', tempo: '1/4=120' });

/** As a store of JSON gives it back: without what is undefined, in an order of its own. */
const stored = <T>(value: T): T =>
  JSON.parse(
    JSON.stringify(value, (_, inner: unknown) =>
      typeof inner === 'object' && inner !== null && !Array.isArray(inner)
        ? Object.fromEntries(Object.entries(inner).reverse())
        : inner,
    ),
  ) as T;

/** Another sound value for each field of a tune. */
const OTHER: { readonly [Field in keyof Tune]-?: NonNullable<Tune[Field]> } = {
  title: 'Another',
  alsoKnownAs: ['Yet another'],
  composer: 'Somebody',
  origin: 'the harbour',
  style: 'jig',
  notes: ['Slowly at first.'],
  tempo: { beat: 3360, bpm: 90 } as NonNullable<Tune['tempo']>,
  bars: tuneOf('G4 A4 |', { key: 'G' }).bars,
  slurs: [{ from: 'n1', to: 'n2' }],
  parting: { bounds: [], held: [], parts: [], order: [] } as unknown as NonNullable<Tune['parting']>,
  clef: 'bass',
};

describe('a change', () => {
  const { shape } = tuneSchema as unknown as z.ZodObject;
  const fields = Object.keys(shape) as (keyof Tune)[];

  it.each(fields)('of the field “%s” is in the history, can be undone and done again', (field) => {
    const after = { ...REEL, ...(field === 'bars' ? { slurs: [] } : {}), [field]: OTHER[field] };
    const change = changeBetween(REEL, after);
    expect(change).not.toBeNull();
    const done = applyChange(stored(REEL), stored(change!));
    expect(done).toEqual(after);
    const undone = applyChange(stored(done), stored(invertChange(change!)));
    expect(undone).toEqual(REEL);
    expect(isSound(undone)).toBe(true);
    expect(applyChange(undone, change!)).toEqual(after);
  });

  it('is none where a tune only comes back from the store', () => {
    expect(changeBetween(REEL, stored(REEL))).toBeNull();
  });

  it('of one bar is that bar, though the others come back from the store', () => {
    const bars = REEL.bars.with(1, { ...REEL.bars[1]!, events: REEL.bars[1]!.events.slice() });
    const [first] = bars[1]!.events;
    const edited = {
      ...REEL,
      bars: bars.with(1, { ...bars[1]!, events: bars[1]!.events.with(0, { ...first!, id: 'x1' }) }),
    };
    expect(changeBetween(stored(REEL), edited)!.bars).toMatchObject({ at: 1, before: [{}], after: [{}] });
  });
});

/** Edits of one tune made side by side. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isSound, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { applyChange, changeBetween, deleteBars, mergedChange, movePitch, toggleSlur, toggleTie } from './index.ts';

const REEL = tuneOf('G2 G2 A4 | B2 B2 c4 | d8 | e4 f4 |]', { key: 'G' });
const moved = (tune: Tune, id: string, by: 1 | -1 = 1) => movePitch(tune, new Set([id]), 'step', by);
const both = (one: Tune, other: Tune): Tune | null => mergedChange(one, changeBetween(REEL, other)!);

describe('two edits of a tune', () => {
  it('in different bars, of different fields, and slurs elsewhere go together', () => {
    const renamed = { ...REEL, title: 'Other', tempo: null };
    expect(both(moved(REEL, 'n1'), moved(REEL, 'n7'))).toEqual(moved(moved(REEL, 'n1'), 'n7'));
    expect(both(moved(REEL, 'n1'), renamed)).toEqual({ ...moved(REEL, 'n1'), title: 'Other' });
    const slurred = toggleSlur(REEL, ['n2', 'n3']);
    expect(both(toggleSlur(REEL, ['n8', 'n9']), slurred)!.slurs).toHaveLength(2);
  });

  it('go together where bars were taken out or put in before', () => {
    const shorter = deleteBars(REEL, { from: 0, to: 0 });
    expect(both(shorter, moved(REEL, 'n7'))!.bars.map(({ id }) => id)).toEqual(shorter.bars.map(({ id }) => id));
    expect(both(shorter, moved(REEL, 'n7'))!.bars.at(1)).toEqual(moved(REEL, 'n7').bars.at(2));
  });

  it('of the same bar, the same field or a bar that is gone are a question', () => {
    expect(both(moved(REEL, 'n1'), moved(REEL, 'n2'))).toBeNull();
    expect(both({ ...REEL, title: 'One' }, { ...REEL, title: 'Two' })).toBeNull();
    expect(both(deleteBars(REEL, { from: 2, to: 2 }), moved(REEL, 'n7'))).toBeNull();
  });

  it('that are the same are no question', () => {
    expect(both({ ...REEL, title: 'One' }, { ...REEL, title: 'One' })).toEqual({ ...REEL, title: 'One' });
  });

  it('of which one ties what the other moves are a question', () => {
    const across = tuneOf('G4 A4 | A4 B4 | c8 |]', { key: 'G' });
    const tied = toggleTie(across, 'n2');
    expect(tied).not.toBe(across);
    expect(mergedChange(moved(across, 'n3'), changeBetween(across, tied)!)).toBeNull();
  });

  it('of which one puts bars in are a question where nothing says between which', () => {
    const bar = { ...REEL.bars[0]!, id: 'b9', events: REEL.bars[2]!.events.map((event) => ({ ...event, id: 'n99' })) };
    const longer = { ...REEL, bars: REEL.bars.toSpliced(1, 0, bar) };
    const change = changeBetween(REEL, longer)!;
    expect(change.bars!.before).toEqual([]);
    expect(mergedChange(moved(REEL, 'n1'), change)).toBeNull();
  });

  it('make a sound tune with both in it, or none', () => {
    const ids = REEL.bars.flatMap(({ events }) => events.map(({ id }) => id));
    const edit = fc.tuple(fc.constantFrom(...ids), fc.nat(4)).map(([id, kind]) => (tune: Tune): Tune => {
      const bar = tune.bars.findIndex(({ events }) => events.some((event) => event.id === id));
      if (kind === 0) return moved(tune, id);
      if (kind === 1) return toggleTie(tune, id);
      if (kind === 2) return { ...tune, style: id };
      if (kind === 3) return deleteBars(tune, { from: bar, to: bar });
      return toggleSlur(tune, [id]);
    });
    fc.assert(
      fc.property(edit, edit, (one, other) => {
        const [mine, theirs] = [one(REEL), other(REEL)];
        const [a, b] = [changeBetween(REEL, mine), changeBetween(REEL, theirs)];
        if (!a || !b) return;
        const merged = mergedChange(theirs, a);
        if (!merged) return;
        expect(isSound(merged)).toBe(true);
        // What is merged the other way round is the same.
        expect(mergedChange(mine, b)).toEqual(merged);
        if (!b.bars && !b.slurs) expect(merged).toEqual({ ...applyChange(REEL, a), ...b.fields?.after });
      }),
      { numRuns: 300 },
    );
  });
});

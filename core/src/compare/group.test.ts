import { describe, expect, it } from 'vitest';
import { keyName } from '../music/index.ts';
import { finished } from '../stage/index.ts';
import { tuneOf } from '../test/testing.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { HandLimits } from '../hand/index.ts';
import { arrange } from '../arrange/index.ts';
import { decided, FIRST_DECISIONS } from '../arrange/index.ts';
import { fitOf } from './grades.ts';
import { groupKeys, type GroupMember } from './group.ts';
import { keyChoices, withinOctave } from './keys.ts';

const REEL = tuneOf('|: D2FA d2AF | G2Bd gdBG | F2Ad fdAF | E2A2 D4 :|', { key: 'D', tempo: '1/4=90' });
const member = (
  instrument: InstrumentId,
  grade: GroupMember['grade'] = null,
  limits: HandLimits = {},
): GroupMember => ({
  decisions: decided(FIRST_DECISIONS, { key: { instrument }, hand: { limits } }),
  grade,
});

describe('one key for a group', () => {
  it('gives each its own octave in the same key', () => {
    const found = finished(groupKeys(REEL, [member('violin'), member('viola'), member('cello'), member('bass')]));
    for (const { key, places, within } of found) {
      expect(places.map(({ choice }) => keyName(choice.key))).toEqual(Array(4).fill(keyName(key)));
      expect(places.map(({ choice }) => withinOctave(choice.transpose))).toEqual(Array(4).fill(within));
      expect(places.every(({ choice }) => choice.fits)).toBe(true);
    }
    expect(new Set(found.map(({ within }) => within)).size).toBe(found.length);
    const [best] = found;
    const [violin, , cello, bass] = best!.places.map(({ choice }) => choice.transpose);
    expect(violin! - cello!).toBeGreaterThanOrEqual(12);
    expect(cello! - bass!).toBeGreaterThanOrEqual(0);
  });

  it('moves nobody by an octave whom the tune fits where it is, though it were easier there', () => {
    const march = tuneOf('d3e f2d2|g3f e2A2|f3e d2B2|A6 A2|d3e f2d2|g3f e2c2|d2f2 e2c2|d8|]', {
      key: 'D',
      tempo: '1/4=90',
    });
    const members = [member('violin'), member('violin', 3), member('violin', 1), member('cello')];
    const at = finished(groupKeys(march, members)).find(({ within }) => within === 0)!;
    const [all, third, , cello] = at.places;
    expect([all!.choice.transpose, third!.choice.transpose, third!.simpler]).toEqual([0, 0, false]);
    expect(cello!.choice.transpose).toBeLessThan(0);
  });

  it('puts keys first in which the fewest need a simpler version, then the worst served keep most, then what asks least', () => {
    const found = finished(groupKeys(REEL, [member('violin', 1), member('cello', 3)]));
    const order = found.map(({ simpler, places, dearer }) => {
      const worst = Math.min(...places.map(({ keeps }) => Math.round(100 * keeps)));
      return simpler * 1_000_000 + (100 - worst) * 1000 + dearer;
    });
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });

  it('says who needs a simpler version, by the grade’s own contract', () => {
    const members = [member('violin', 1), member('violin', 6)];
    for (const { places } of finished(groupKeys(REEL, members))) {
      for (const [index, { choice, beyond, simpler }] of places.entries()) {
        const own = decided(members[index]!.decisions, { key: { transpose: choice.transpose } });
        const { breaches } = fitOf(arrange(REEL, own), members[index]!.grade!);
        expect([beyond, simpler]).toEqual([breaches.length, breaches.length > 0]);
      }
    }
  });

  it('leaves out keys that somebody without a grade cannot play, and keeps them for who can be given a version', () => {
    const limits: HandLimits = { maxPosition: 'I', noFourth: true };
    const strict = finished(groupKeys(REEL, [member('bass', null, { ...limits, noExtension: true })]));
    const graded = finished(groupKeys(REEL, [member('bass', 2, { ...limits, noExtension: true })]));
    expect(graded).toHaveLength(12);
    expect(strict.length).toBeLessThan(12);
    const lost = graded.filter(({ places }) => !places[0]!.choice.fits);
    expect(lost.length).toBe(12 - strict.length);
    expect(lost.every(({ places }) => places[0]!.simpler)).toBe(true);
  });

  it('of one has that one’s easiest key first', () => {
    const [first] = finished(groupKeys(REEL, [member('violin')]));
    expect(first).toMatchObject({ dearer: 0, simpler: 0 });
    expect(first!.places[0]!.choice).toEqual(finished(keyChoices(REEL, FIRST_DECISIONS))[0]);
  });

  it('of nobody has no key', () => {
    expect(finished(groupKeys(REEL, []))).toEqual([]);
  });
});

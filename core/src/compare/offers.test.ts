import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided } from '../arrange/index.ts';
import { finished } from '../stage/index.ts';
import { tuneOf } from '../test/testing.ts';
import { versionOffers } from './index.ts';

const slip = tuneOf('B2d BAG E2G|DEB c2A AGF|B2d BAG E2G|F2A G3 G3|]', { key: 'G', metre: '9/8', tempo: '3/8=120' });
const air = tuneOf('d4 e2|f4 d2|e2c2A2|d6|]', { key: 'D', metre: '3/4', tempo: '1/4=72' });

describe('what a version would be', () => {
  it('says how much more a slower tempo keeps, where speed costs notes; and is what is then made', () => {
    const set = arrange(slip, FIRST_DECISIONS);
    const { here, slower } = finished(versionOffers(set, 2));
    expect(here.tempo).toBe(180);
    expect(slower!.tempo).toBeLessThan(180);
    expect(slower!.likeness).toBeGreaterThan(here.likeness + 0.05);
    for (const offer of [here, slower!]) {
      const made = arrange(slip, decided(FIRST_DECISIONS, { version: { grade: 2 }, pace: { tempo: offer.tempo } }));
      expect([made.graded!.likeness, made.graded!.transpose]).toEqual([offer.likeness, offer.transpose]);
    }
  });

  it('offers no slower tempo where speed costs nothing', () => {
    expect(finished(versionOffers(arrange(air, FIRST_DECISIONS), 2)).slower).toBeNull();
  });

  it('tells the key before it is changed', () => {
    const flat = tuneOf('E2G2 B2G2|A2c2 B4|F2A2 G2F2|E8|]', { key: 'Eb', tempo: '1/4=80' });
    const { here } = finished(versionOffers(arrange(flat, FIRST_DECISIONS), 2));
    expect(here.transpose).not.toBe(0);
    expect(here.likeness).toBe(1);
  });
});

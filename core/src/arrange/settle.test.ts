/** Both hands to and fro: never dearer than before, and settled when it says so. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { arbitraryTune } from '../test/arbitrary.ts';
import { deciding } from '../test/setups.ts';
import { arrange, decided, settleHands } from './index.ts';

it('never ends dearer than it began, and has nothing to do twice', () => {
  fc.assert(
    fc.property(arbitraryTune(), (tune) => {
      const decisions = deciding({ bow: { school: 'down-on-the-beat' } });
      const settled = settleHands(arrange(tune, decisions));
      expect(settled.after).toBeLessThanOrEqual(settled.before + 1e-9);
      expect(settled.rounds).toBeLessThanOrEqual(4);
      if (settled.change) {
        const again = arrange(tune, decided(decisions, { bow: settled.change }));
        expect(again.bowing.strokes.length).toBeGreaterThan(0);
      } else expect(settled.after).toBe(settled.before);
    }),
    { numRuns: 25 },
  );
});

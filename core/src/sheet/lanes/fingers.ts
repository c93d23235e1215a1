/** Fingers over the staff, for who reads notes: the number with its dot, string by string from the top. */
import type { Shape } from '../shapes.ts';
import type { LegendSign } from '../legend.ts';
import { fingerSign } from '../signs.ts';
import type { LaneDefinition, LaneInput } from './lane.ts';
import { TAB } from './tab.ts';

const ROW = 14;

export const FINGERS: LaneDefinition = {
  name: 'Fingers over the staff',
  side: 'above',
  needs: ['notes', 'tab'],
  draw({ notes, x, tab }: LaneInput) {
    const rows = Math.max(1, ...notes.map(({ stops }) => stops.length));
    const shapes = notes.flatMap(({ id, stops, grace }): Shape[] => {
      const at = x(id);
      if (at === undefined || grace) return [];
      return [...stops].reverse().flatMap((stop, row) =>
        fingerSign(stop, at, ROW * (rows - stops.length + row) + 8, {
          signs: tab.signs,
          note: id,
          stacked: stops.length > 1,
        }),
      );
    });
    return { height: ROW * rows + 2, shapes };
  },
  signs(facts) {
    const over: readonly LegendSign[] = ['open', 'low', 'high', 'extended', 'back', 'harmonic'];
    return TAB.signs(facts).filter((sign) => over.includes(sign));
  },
};

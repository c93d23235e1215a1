/** Fingers over the staff, for who reads notes: the number with its dot, string by string from the top. */
import type { Shape } from '../shapes.ts';
import type { LegendSign } from '../legend.ts';
import { SIZES, type LaneDefinition, type LaneInput } from './lane.ts';
import { TAB } from './tab.ts';

const ROW = 14;

export const FINGERS: LaneDefinition = {
  name: 'Fingers over the staff',
  side: 'above',
  needs: ['notes'],
  draw({ notes, x }: LaneInput) {
    const rows = Math.max(1, ...notes.map(({ stops }) => stops.length));
    const shapes = notes.flatMap(({ id, stops, grace }): Shape[] => {
      const at = x(id);
      if (at === undefined || grace) return [];
      return [...stops].reverse().flatMap((stop, row): Shape[] => {
        const y = ROW * (rows - stops.length + row) + 8;
        const dot = stop.sign === 'low' ? 6.9 : stop.sign === 'high' ? -6.9 : null;
        return [
          { kind: 'text', role: 'finger', x: at, y, text: String(stop.finger), anchor: 'middle', note: id },
          ...(dot === null
            ? []
            : [{ kind: 'dot' as const, role: 'finger-dot' as const, x: at, y: y + dot, r: SIZES.dot, note: id }]),
        ];
      });
    });
    return { height: ROW * rows + 2, shapes };
  },
  signs(facts) {
    const over: readonly LegendSign[] = ['open', 'low', 'high'];
    return TAB.signs(facts).filter((sign) => over.includes(sign));
  },
};

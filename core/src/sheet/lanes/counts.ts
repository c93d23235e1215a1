/** Counts above the staff: what is said on each note, and softly on each rest. */
import type { Shape } from '../shapes.ts';
import type { LaneDefinition, LaneDrawing, LaneInput } from './lane.ts';

/** Height of the lane, and where the text stands in it. */
const HEIGHT = 15;
const MIDDLE = 7;

function draw({ counts, x }: LaneInput): LaneDrawing {
  const shapes = [...counts].flatMap(([id, { text, rest }]): Shape[] => {
    const at = x(id);
    if (at === undefined) return [];
    return [{ kind: 'text', role: rest ? 'count-rest' : 'count', x: at, y: MIDDLE, text, anchor: 'middle', note: id }];
  });
  return { height: HEIGHT, shapes };
}

export const COUNTS: LaneDefinition = { name: 'Counts', side: 'above', needs: ['counts'], draw, signs: () => [] };

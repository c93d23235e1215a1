/** The bow above the staff: down and up, what shares a stroke, where the bow is lifted, and where it stops and goes on. */
import type { Stroke } from '../../bow/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Shape } from '../shapes.ts';
import { SIZES, type LaneDefinition, type LaneInput, type LaneDrawing } from './lane.ts';

function draw(input: LaneInput): LaneDrawing {
  const shapes: Shape[] = [];
  const inPhrase = new Set(input.notes.flatMap(({ ids }) => ids));
  for (const [first, stroke] of input.starts) {
    const x = inPhrase.has(first) ? input.x(first) : undefined;
    if (x === undefined) continue;
    shapes.push({ kind: 'path', role: 'bow', d: bowSign(stroke, x), note: first });
    if (stroke.retake) shapes.push({ kind: 'path', role: 'retake', d: `M${x - 12} 13 a4 4 0 1 1 4 -4`, note: first });
    // A stop, and on from there.
    if (stroke.hook) shapes.push({ kind: 'path', role: 'hook', d: `M${x - 12} 6 v8 m0 -4 h5`, note: first });
    const last = lastX(stroke, inPhrase, input);
    if (last !== undefined && last > x) shapes.push({ kind: 'path', role: 'stroke', d: `M${x} 18 v4 H${last} v-4` });
  }
  return { height: SIZES.bow, shapes };
}

/** A squared arch for down, an open wedge for up: the signs that every string player reads. */
function bowSign({ direction }: Stroke, x: number): string {
  return direction === 'down' ? `M${x - 4.5} 15 v-9 h9 v9` : `M${x - 4} 5 l4 10 l4 -10`;
}

function lastX(stroke: Stroke, inPhrase: ReadonlySet<string>, input: LaneInput): number | undefined {
  const last = stroke.notes.findLast((id) => inPhrase.has(id));
  return last === undefined ? undefined : input.x(last);
}

export const BOW: LaneDefinition = {
  name: 'Bow',
  side: 'above',
  needs: ['notes', 'starts'],
  draw,
  signs({ bowing: { strokes } }) {
    const used: readonly (readonly [LegendSign, boolean])[] = [
      ['down', strokes.some(({ direction }) => direction === 'down')],
      ['up', strokes.some(({ direction }) => direction === 'up')],
      ['slur', strokes.some(({ notes }) => notes.length > 1)],
      ['retake', strokes.some(({ retake }) => retake)],
      ['hook', strokes.some(({ hook }) => hook)],
    ];
    return used.flatMap(([sign, is]) => (is ? [sign] : []));
  },
};

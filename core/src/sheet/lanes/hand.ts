/** The hand under the tab: where it is, where it moves, and which fingers stay down. */
import type { Position } from '../../hand/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Shape } from '../shapes.ts';
import { SIZES, type LaneDefinition, type LaneDrawing, type LaneInput } from './lane.ts';
import { linesOf } from './tab.ts';

function draw(input: LaneInput): LaneDrawing {
  const shapes: Shape[] = [];
  const runs = positionRuns(input);
  // Labels of short stays would stand on each other: every other one goes a row down.
  const ends = [-Infinity, -Infinity];
  for (const { position, from, to, shift, up } of runs) {
    const text = shortPosition(position);
    const left = from - (shift ? SIZES.arrow : 4);
    const row = left > ends[0]! ? 0 : 1;
    const y = SIZES.label + row * SIZES.hand;
    const end = from + 4 + 6 * text.length;
    ends[row] = end + 2;
    if (shift)
      shapes.push({
        kind: 'path',
        role: 'shift-arrow',
        d: up ? `M${from - 14} ${y + 3.5} l8 -7 m-4.5 0 h4.5 v4.5` : `M${from - 14} ${y - 3.5} l8 7 m-4.5 0 h4.5 v-4.5`,
      });
    shapes.push({ kind: 'text', role: shift ? 'shift' : 'position', x: from - 4, y, text, anchor: 'start' });
    if (row === 0 && to > end) {
      shapes.push({ kind: 'line', role: 'ribbon', x1: end, y1: y, x2: to + 4, y2: y });
      ends[0] = to + 4;
    }
  }
  const rows = ends[1]! > -Infinity ? 2 : 1;
  const holds = input.notes.filter(({ hold }) => hold !== null);
  let depth = 0;
  let busyUntil = -Infinity;
  for (const note of holds) {
    const [from, to] = [input.x(note.id), input.x(note.hold!)];
    if (from === undefined || to === undefined || to <= from) continue;
    depth = from < busyUntil ? depth + 1 : 0;
    busyUntil = Math.max(busyUntil, to);
    const y = rows * SIZES.hand + 1.5 + SIZES.holdGap * Math.min(depth, 2);
    shapes.push({ kind: 'path', role: 'hold', d: `M${from} ${y - 2} v2 H${to} v-2` });
    // Where it is needed again.
    shapes.push({ kind: 'dot', role: 'hold', x: to, y: y - 2, r: 1.4 });
  }
  return { height: rows * SIZES.hand + (holds.length > 0 ? 2.5 * SIZES.holdGap : 0), shapes };
}

/** As it stands in the narrow lane. */
const shortPosition = (position: Position): string =>
  position === 'half'
    ? '½'
    : position.replace(
        /^(lower|upper) (.*)$/,
        (_, side: string, name: string) => `${name} ${side === 'lower' ? 'low' : 'up'}`,
      );

interface PositionRun {
  readonly position: Position;
  readonly from: number;
  to: number;
  /** The hand has just moved here, up or down. */
  readonly shift: boolean;
  readonly up: boolean;
}

function positionRuns(input: LaneInput): readonly PositionRun[] {
  const runs: PositionRun[] = [];
  for (const note of input.notes) {
    const x = input.x(note.id);
    if (x === undefined || note.position === null) continue;
    const last = runs.at(-1);
    if (last?.position === note.position && !note.shift) last.to = x;
    else
      runs.push({
        position: note.position,
        from: x,
        to: x,
        shift: note.shift !== null || runs.length > 0,
        up: (note.shift?.semitones ?? 1) > 0,
      });
  }
  return runs;
}

export const HAND: LaneDefinition = {
  name: 'Hand',
  side: 'below',
  needs: ['notes'],
  draw,
  signs(facts) {
    const { notes } = facts;
    const held = linesOf(facts).some((line) =>
      line.some(({ hold }) => hold !== null && line.some(({ id }) => id === hold)),
    );
    const used: readonly (readonly [LegendSign, boolean])[] = [
      ['position', notes.some(({ stops }) => stops.length > 0)],
      ['shift', notes.some(({ shift }) => shift !== null)],
      ['hold', held],
    ];
    return used.flatMap(([sign, is]) => (is ? [sign] : []));
  },
};

/**
 * The hair of the bow below the notes: from frog (below, with its block) to tip. A line that rises is a down-bow, one
 * that falls an up-bow, a steep one is fast. Dashed, where the bow would be if nothing were done.
 */
import { STICKS_OUT } from '../../bow/index.ts';
import type { Role, Shape } from '../shapes.ts';
import type { HairLine, LaneDefinition, LaneDrawing, LaneInput } from './lane.ts';

/** Height of the hair in the lane, and the room above and below it for a bow that leaves it. */
const HAIR = 34;
const ROOM = 7;
const HEIGHT = HAIR + 2 * ROOM;
/** Where the hair begins at the left: there the frog's block stands. */
const LEFT = 16;
/** Lines of the strokes, from back to front. */
const LINES: readonly Role[] = ['drift', 'hair-up', 'hair-down', 'hair-strained', 'hair-dot'];
/** Half the width of the mark where a stroke begins. */
const DOT = 1.4;
/** What is left free before the next stroke. */
const GAP = 2;

const strained = (strain: number): boolean => strain > STICKS_OUT || strain < 1 / STICKS_OUT;

function draw({ hair, x, width }: LaneInput): LaneDrawing {
  if (!hair) return { height: HEIGHT, shapes: [] };
  const y = (place: number) => {
    const share = place / hair.hair;
    const kept = Math.max(-ROOM / HAIR, Math.min(1 + ROOM / HAIR, share));
    return ROOM + HAIR * (1 - kept);
  };
  const shapes: Shape[] = [
    { kind: 'line', role: 'hair', x1: LEFT, x2: width, y1: ROOM, y2: ROOM },
    { kind: 'line', role: 'hair', x1: LEFT, x2: width, y1: ROOM + HAIR, y2: ROOM + HAIR },
    { kind: 'line', role: 'hair-middle', x1: LEFT, x2: width, y1: ROOM + HAIR / 2, y2: ROOM + HAIR / 2 },
    // The frog: a block with its screw; and the tip.
    { kind: 'path', role: 'frog', d: `M3 ${ROOM + HAIR + 3} h11 v-9 h-8 l-3 3 z` },
    { kind: 'path', role: 'frog', d: `M5 ${ROOM + 3} l9 -4 v4 z` },
  ];
  // One path for each kind of line: a long tune has thousands of strokes, and all are drawn anew where one changes.
  const paths = new Map<Role, string>(LINES.map((role) => [role, '']));
  const line = (role: Role, x1: number, y1: number, x2: number, y2: number): void => {
    paths.set(role, `${paths.get(role)!}M${x1.toFixed(1)} ${y1.toFixed(1)}L${x2.toFixed(1)} ${y2.toFixed(1)}`);
  };
  spansOf(hair, x, width).forEach(([from, to], index) => {
    const { start, end, strain, drift } = hair.strokes[index]!;
    line('drift', from, y(drift.start), to, y(drift.end));
    line(strained(strain) ? 'hair-strained' : end > start ? 'hair-down' : 'hair-up', from, y(start), to, y(end));
    line('hair-dot', from - DOT, y(start), from + DOT, y(start));
  });
  for (const [role, d] of paths) if (d) shapes.push({ kind: 'path', role, d });
  return { height: HEIGHT, shapes };
}

/** From where to where each stroke reaches on the paper: to the next one, or to the end of the line. */
function spansOf(
  { strokes }: HairLine,
  x: LaneInput['x'],
  width: number,
): readonly (readonly [from: number, to: number])[] {
  const from = strokes.map(({ notes }) => x(notes[0]!) ?? LEFT);
  return strokes.map(({ notes }, index) => {
    const last = x(notes.at(-1)!) ?? from[index]!;
    return [from[index]!, Math.max(last, (from[index + 1] ?? width - GAP) - GAP)];
  });
}

export const HAIR_LANE: LaneDefinition = {
  name: 'Hair',
  side: 'below',
  needs: ['hair'],
  draw,
  signs: () => ['hair'],
};

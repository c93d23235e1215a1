/** The lanes under a staff: bow, finger tab and hand, lined up with the engraved notes. */
import type { Bowing, Stroke } from '../bow/index.ts';
import type { FingeredNote, Position, Stop } from '../hand/index.ts';
import { INSTRUMENT, type InstrumentId } from '../instrument/index.ts';
import type { Lane, Shape } from './shapes.ts';

/** A note as it is drawn: without its reasons and the prices of other ways, which change where nothing else does. */
export type DrawnNote = Omit<FingeredNote, 'alternatives' | 'why'>;

export function drawnOf({ alternatives: _, why: __, ...drawn }: FingeredNote): DrawnNote {
  return drawn;
}

export interface LaneInput {
  readonly instrument: InstrumentId;
  /** In the order they are played. */
  readonly notes: readonly DrawnNote[];
  readonly starts: Bowing['starts'];
  /** Centre of a written note. */
  x(noteId: string): number | undefined;
  readonly width: number;
  readonly barlines: readonly number[];
}

/** Lengths of the drawing, in the unit of one staff space times seven: pixels at the desk's size. */
export const SIZES = {
  row: 13,
  tabTop: 9,
  tabLeft: 20,
  bow: 22,
  hand: 12,
  holdGap: 3.5,
  /** Middle of a position's label, and how far a shift's arrow reaches before it. */
  label: 6,
  arrow: 15,
  dot: 1.8,
} as const;

/** Strings tell themselves apart by line style as well as by letter: lowest thickest, each its own dash. */
const STRING_LINES: readonly { readonly width: number; readonly dash?: string }[] = [
  { width: 2 },
  { width: 1.4, dash: '9 3' },
  { width: 1 },
  { width: 0.7, dash: '2 2' },
];

export function bowLane(input: LaneInput): Lane {
  const shapes: Shape[] = [];
  const inPhrase = new Set(input.notes.flatMap(({ ids }) => ids));
  for (const [first, stroke] of input.starts) {
    const x = inPhrase.has(first) ? input.x(first) : undefined;
    if (x === undefined) continue;
    shapes.push({ kind: 'path', role: 'bow', d: bowSign(stroke, x), note: first });
    if (stroke.retake) shapes.push({ kind: 'path', role: 'retake', d: `M${x - 12} 13 a4 4 0 1 1 4 -4`, note: first });
    const last = lastX(stroke, inPhrase, input);
    if (last !== undefined && last > x) shapes.push({ kind: 'path', role: 'stroke', d: `M${x} 18 v4 H${last} v-4` });
  }
  return { id: 'bow', height: SIZES.bow, shapes };
}

/** A squared arch for down, an open wedge for up: the signs that every string player reads. */
function bowSign({ direction }: Stroke, x: number): string {
  return direction === 'down' ? `M${x - 4.5} 15 v-9 h9 v9` : `M${x - 4} 5 l4 10 l4 -10`;
}

function lastX(stroke: Stroke, inPhrase: ReadonlySet<string>, input: LaneInput): number | undefined {
  const last = stroke.notes.findLast((id) => inPhrase.has(id));
  return last === undefined ? undefined : input.x(last);
}

/** One line for each string, the highest on top. */
export function tabLane(input: LaneInput): Lane {
  const { strings } = INSTRUMENT[input.instrument];
  const rowY = (string: number) => SIZES.tabTop + (strings.length - 1 - string) * SIZES.row;
  const bottom = rowY(0);
  const shapes: Shape[] = strings.flatMap(({ name }, index): Shape[] => {
    const y = rowY(index);
    return [
      {
        kind: 'line',
        role: 'string',
        x1: SIZES.tabLeft,
        y1: y,
        x2: input.width,
        y2: y,
        ...STRING_LINES[index % STRING_LINES.length]!,
      },
      { kind: 'text', role: 'string-name', x: SIZES.tabLeft - 6, y, text: name, anchor: 'end' },
    ];
  });
  for (const x of input.barlines)
    shapes.push({ kind: 'line', role: 'barline', x1: x, y1: rowY(strings.length - 1), x2: x, y2: bottom });
  for (const note of input.notes) {
    const x = input.x(note.id);
    if (x === undefined) continue;
    if (note.stops.length === 0)
      shapes.push({
        kind: 'text',
        role: 'unreached',
        x,
        y: (rowY(0) + rowY(strings.length - 1)) / 2,
        text: '?',
        anchor: 'middle',
        note: note.id,
      });
    for (const stop of note.stops) shapes.push(...fingerShapes(note, stop, x, rowY(stop.string)));
  }
  shapes.push(...betweenFingers(input, rowY));
  return { id: 'tab', height: bottom + SIZES.tabTop, shapes };
}

/** What joins a finger with the one before it: across two strings, jumping, or sliding up. */
function betweenFingers(input: LaneInput, rowY: (string: number) => number): readonly Shape[] {
  return input.notes.flatMap((note, index): Shape[] => {
    const x = input.x(note.id);
    const before = input.notes[index - 1];
    const from = before && input.x(before.id);
    const stop = note.stops.at(-1);
    if (x === undefined || !stop) return [];
    const y = rowY(stop.string);
    const shapes: Shape[] = [];
    if (note.glide) shapes.push({ kind: 'path', role: 'glide', d: `M${x - 14} ${y + 5} L${x - 6.5} ${y - 1}` });
    const lower = note.stops.findIndex(({ finger }, at) => finger > 0 && note.stops[at + 1]?.finger === finger);
    if (lower >= 0) {
      const [bottom, top] = [note.stops[lower]!, note.stops[lower + 1]!].map(({ string }) => rowY(string));
      shapes.push({ kind: 'path', role: 'block', d: `M${x + 7} ${top! - 5} h3 V${bottom! + 5} h-3` });
    }
    if (before === undefined || from === undefined) return shapes;
    const pairs = note.stops.flatMap((to) =>
      before.stops
        .filter((last) => last.finger > 0 && last.finger === to.finger && last.string !== to.string)
        .map((last) => [last, to] as const),
    );
    const block = pairs.find(
      ([last, to]) => last.semitones === to.semitones && Math.abs(last.string - to.string) === 1,
    );
    if (block && note.block && before.block) {
      const rows = block.map(({ string }) => rowY(string)).sort((a, b) => a - b);
      const middle = (from + x) / 2;
      shapes.push({ kind: 'path', role: 'block', d: `M${middle - 3} ${rows[0]! - 5} h3 V${rows[1]! + 5} h-3` });
    }
    const hop = note.hop && pairs.find(([last, to]) => last.semitones !== to.semitones);
    if (hop) {
      const [start, end] = [rowY(hop[0].string), rowY(hop[1].string)];
      const bow = (start + end) / 2;
      shapes.push({
        kind: 'path',
        role: 'hop',
        d: `M${from + 6} ${start} Q${(from + x) / 2} ${bow - 7} ${x - 6} ${end}`,
      });
    }
    return shapes;
  });
}

function fingerShapes(note: DrawnNote, stop: Stop, x: number, y: number): readonly Shape[] {
  const small = note.grace ? 0.75 : 1;
  const extended = stop.sign === 'extended';
  const shapes: Shape[] = [
    {
      kind: 'patch',
      role: 'finger',
      x: x - 5.5 * small,
      y: y - 7 * small,
      width: 11 * small + (extended ? 5 : 0),
      height: 14 * small,
    },
    {
      kind: 'text',
      role: note.grace ? 'finger-grace' : 'finger',
      x,
      y,
      text: String(stop.finger),
      anchor: 'middle',
      note: note.id,
    },
  ];
  if (stop.sign === 'low') shapes.push({ kind: 'dot', role: 'finger-dot', x, y: y + 6.9, r: SIZES.dot, note: note.id });
  if (stop.sign === 'high')
    shapes.push({ kind: 'dot', role: 'finger-dot', x, y: y - 6.9, r: SIZES.dot, note: note.id });
  if (stop.sign === 'harmonic')
    shapes.push({
      kind: 'path',
      role: 'finger-dot',
      d: `M${x + 5} ${y - 6.5} a2.1 2.1 0 1 0 4.2 0 a2.1 2.1 0 1 0 -4.2 0`,
      note: note.id,
    });
  if (extended) shapes.push({ kind: 'path', role: 'finger-dot', d: extensionSign(stop, x + 7.5, y), note: note.id });
  if (note.locked) shapes.push({ kind: 'path', role: 'finger-locked', d: `M${x - 6} ${y + 8} h12`, note: note.id });
  return shapes;
}

/** A small plus after a finger that reaches up, a minus after the first finger that reaches back. */
function extensionSign(stop: Stop, x: number, y: number): string {
  const minus = `M${x - 2.2} ${y} h4.4`;
  return stop.finger === 1 ? minus : `${minus} M${x} ${y - 2.2} v4.4`;
}

/** Position ribbons, fingers that stay down, and fingers across two strings. */
export function handLane(input: LaneInput): Lane {
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
  return { id: 'hand', height: rows * SIZES.hand + (holds.length > 0 ? 2.5 * SIZES.holdGap : 0), shapes };
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

export function lanesOf(input: LaneInput): readonly Lane[] {
  return [bowLane(input), tabLane(input), handLane(input)];
}

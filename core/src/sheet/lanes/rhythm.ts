/**
 * Rhythm below the tab, so that it is read without the staff: stems, beams and flags, dots, tuplets, ties and rests. A half note
 * has an open head on a short stem, a whole note the head alone.
 */
import { TICKS_PER_QUARTER, valueLength, valueOf, type NoteValue, type Ticks, type Tuplet } from '../../music/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Shape } from '../shapes.ts';
import type { WrittenEvent } from '../written.ts';
import type { LaneDefinition, LaneDrawing, LaneInput } from './lane.ts';

/** Where stems begin and end; beams lie at their ends, one above the other. */
const TOP = 2;
const END = 17;
const BEAM_GAP = 3.4;
/** A beam that leads nowhere. */
const STUB = 5;
const DOT = 1.3;
const HEIGHT = 27;
const TUPLET_Y = 23;

const BEAMS: Readonly<Record<string, number>> = { eighth: 1, '16th': 2, '32nd': 3, '64th': 4, '128th': 5 };
const beamsOf = ({ type }: NoteValue): number => BEAMS[type] ?? 0;

interface Placed extends WrittenEvent {
  readonly x: number;
}

function draw({ written, x }: LaneInput): LaneDrawing {
  const placed = joinedRests(written).flatMap((event): Placed[] => {
    const at = x(event.id);
    return at === undefined ? [] : [{ ...event, x: at }];
  });
  const shapes: Shape[] = [];
  for (const event of placed) shapes.push(...(event.rest ? restShapes(event) : noteShapes(event)));
  for (const group of groupsOf(placed)) shapes.push(...beamShapes(group));
  placed.forEach((event, index) => {
    const next = placed[index + 1];
    if (event.tied && next && !next.rest) {
      const middle = (event.x + next.x) / 2;
      shapes.push({
        kind: 'path',
        role: 'tie',
        d: `M${event.x + 3} ${END + 3} Q${middle} ${END + 8} ${next.x - 3} ${END + 3}`,
        note: event.id,
      });
    }
  });
  shapes.push(...tupletShapes(placed));
  return { height: HEIGHT, shapes };
}

/** Rests in a row that make one plain rest are one. */
function joinedRests(written: readonly WrittenEvent[]): readonly WrittenEvent[] {
  const found: WrittenEvent[] = [];
  for (const event of written) {
    const last = found.at(-1);
    const both =
      last?.rest && event.rest && last.bar === event.bar && !last.tuplet && !event.tuplet
        ? valueOf(valueLength(last.value) + valueLength(event.value))
        : null;
    if (last && both && both.dots < 2) found[found.length - 1] = { ...last, value: both };
    else found.push(event);
  }
  return found;
}

function noteShapes({ id, x, value }: Placed): readonly Shape[] {
  const shapes: Shape[] = [];
  const open = value.type === 'half' || value.type === 'whole' || value.type === 'breve';
  if (open)
    shapes.push({
      kind: 'path',
      role: 'note-head',
      d: `M${x - 3} ${TOP + 3} a3 2.6 0 1 0 6 0 a3 2.6 0 1 0 -6 0`,
      note: id,
    });
  if (value.type === 'breve')
    shapes.push({ kind: 'path', role: 'note-head', d: `M${x - 5} ${TOP} v6 M${x + 5} ${TOP} v6`, note: id });
  if (value.type === 'half') shapes.push({ kind: 'line', role: 'stem', x1: x, y1: TOP + 5.6, x2: x, y2: END - 2 });
  else if (!open) shapes.push({ kind: 'line', role: 'stem', x1: x, y1: TOP, x2: x, y2: END });
  shapes.push(...dotShapes(id, x, value));
  return shapes;
}

const dotShapes = (id: string, x: number, { dots }: NoteValue): readonly Shape[] =>
  Array.from({ length: dots }, (_, index): Shape => ({
    kind: 'dot',
    role: 'rhythm-dot',
    x: x + 5.5 + 4 * index,
    y: TOP + 4,
    r: DOT,
    note: id,
  }));

/** Runs of notes shorter than a quarter within a beat; a rest ends one. */
function groupsOf(placed: readonly Placed[]): readonly (readonly Placed[])[] {
  const groups: Placed[][] = [];
  let open = false;
  for (const event of placed) {
    const short = !event.rest && beamsOf(event.value) > 0;
    const last = groups.at(-1)?.at(-1);
    const tuplet = last?.tuplet && event.tuplet && event.tuplet.edge !== 'start';
    if (short && open && last && (last.beat === event.beat || tuplet)) groups.at(-1)!.push(event);
    else if (short) groups.push([event]);
    open = short;
  }
  return groups;
}

/** Beams of a group; a note alone has flags. */
function beamShapes(group: readonly Placed[]): readonly Shape[] {
  const [only] = group;
  if (group.length === 1) {
    return Array.from({ length: beamsOf(only!.value) }, (_, level): Shape => ({
      kind: 'path',
      role: 'flag',
      d: `M${only!.x} ${END - level * BEAM_GAP} q5 -1 5 -6`,
      note: only!.id,
    }));
  }
  return group.flatMap((event, index): Shape[] => {
    const next = group[index + 1];
    const before = group[index - 1];
    const own = beamsOf(event.value);
    const shared = next ? Math.min(own, beamsOf(next.value)) : 0;
    const held = before ? Math.min(own, beamsOf(before.value)) : 0;
    const beam = (level: number, from: number, to: number): Shape => {
      const y = END - level * BEAM_GAP;
      return { kind: 'line', role: 'beam', x1: from, y1: y, x2: to, y2: y };
    };
    const full = Array.from({ length: shared }, (_, level) => beam(level, event.x, next!.x));
    // What neither neighbour shares stands by itself, on the side of the group.
    const alone = Array.from({ length: Math.max(0, own - Math.max(shared, held)) }, (_, more) =>
      beam(Math.max(shared, held) + more, next ? event.x : event.x - STUB, next ? event.x + STUB : event.x),
    );
    return [...full, ...alone];
  });
}

function restShapes({ id, x, value }: Placed): readonly Shape[] {
  const path = (d: string): Shape => ({ kind: 'path', role: 'rest', d, note: id });
  const middle = TOP + 7;
  const signs: Shape[] = [];
  const tails = beamsOf(value);
  if (value.type === 'breve') signs.push(path(`M${x} ${middle - 4} v8`));
  // A block under its line for four quarters, on it for two.
  else if (value.type === 'whole' || value.type === 'half') {
    const line = value.type === 'whole' ? middle - 2 : middle + 2;
    signs.push(path(`M${x - 5} ${line} h10`), {
      kind: 'line',
      role: 'rest-bar',
      x1: x - 3.5,
      y1: middle,
      x2: x + 3.5,
      y2: middle,
    });
  } else if (tails === 0) signs.push(path(`M${x - 2} ${middle - 6} l4 4.5 l-4 4 l4 4.5 q-5 -1 -2 3`));
  else {
    signs.push(path(`M${x + 3} ${middle - 4} L${x - 1} ${middle + 7}`));
    for (let tail = 0; tail < tails; tail += 1)
      signs.push(path(`M${x + 3 - tail * 1.2} ${middle - 4 + tail * BEAM_GAP} q-3 2.5 -6 0`));
  }
  return [...signs, ...dotShapes(id, x + 1, value)];
}

/** The number under its notes, with a bracket where no beam joins them. */
function tupletShapes(placed: readonly Placed[]): readonly Shape[] {
  const shapes: Shape[] = [];
  let group: Placed[] = [];
  const close = (): void => {
    const [first, last] = [group[0], group.at(-1)];
    if (first?.tuplet && last) {
      const middle = (first.x + last.x) / 2;
      shapes.push({
        kind: 'text',
        role: 'tuplet',
        x: middle,
        y: TUPLET_Y,
        text: String(first.tuplet.actual),
        anchor: 'middle',
        note: first.id,
      });
      const beamed = group.every(({ value, rest }) => !rest && beamsOf(value) > 0);
      if (!beamed && group.length > 1) {
        const y = TUPLET_Y;
        shapes.push({
          kind: 'path',
          role: 'tie',
          d: `M${first.x} ${y - 3} v3 H${middle - 5} M${middle + 5} ${y} H${last.x} v-3`,
        });
      }
    }
    group = [];
  };
  for (const event of placed) {
    if (!event.tuplet || event.tuplet.edge === 'start') close();
    if (event.tuplet) group.push(event);
    if (event.tuplet?.edge === 'stop') close();
  }
  close();
  return shapes;
}

/** Lengths that are told by a sign of their own. */
const SIGNS: readonly (readonly [LegendSign, (value: NoteValue, length: Ticks) => boolean])[] = [
  ['whole', ({ type }) => type === 'whole'],
  ['half', ({ type }) => type === 'half'],
  ['quarter', ({ type }) => type === 'quarter'],
  ['eighth', ({ type }) => type === 'eighth'],
  ['sixteenth', (_, length) => length < TICKS_PER_QUARTER / 2],
  ['dotted', ({ dots }) => dots > 0],
];

/** How many in whose time, where that is usual. */
const TUPLETS: Readonly<Record<string, LegendSign>> = {
  '2:3': 'tuplet2',
  '3:2': 'tuplet3',
  '4:3': 'tuplet4',
  '5:4': 'tuplet5',
  '6:4': 'tuplet6',
  '7:4': 'tuplet7',
};
const tupletSign = ({ actual, normal }: Tuplet): LegendSign => TUPLETS[`${actual}:${normal}`] ?? 'tuplet';

export const RHYTHM: LaneDefinition = {
  name: 'Rhythm',
  side: 'below',
  needs: ['written'],
  draw,
  signs({ written }) {
    const sounding = written.filter(({ rest }) => !rest);
    const used = SIGNS.filter(([, is]) =>
      sounding.some(({ value }) => is(value, valueLength({ type: value.type, dots: 0 }))),
    ).map(([sign]) => sign);
    return [
      ...used,
      ...(written.some(({ rest }) => rest) ? (['rest'] as const) : []),
      ...(written.some(({ tied }) => tied) ? (['tie'] as const) : []),
      ...new Set(written.flatMap(({ tuplet }) => (tuplet ? [tupletSign(tuplet)] : []))),
    ];
  },
};

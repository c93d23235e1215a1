/** A line of music as its lanes draw it: the facts of its stretch, and where its notes stand. */
import type { Arrangement } from '../arrange/index.ts';
import type { BowMark } from '../music/index.ts';
import { printedLanes, type LaneId, type SheetStyle } from '../paper/index.ts';
import { drawnOf, hairLine, lanesOf, type LaneInput, type PhraseFacts } from './lanes/index.ts';
import type { SheetLine } from './lines.ts';
import type { Shape } from './shapes.ts';
import { styleOf } from './styles.ts';
import { textWidth } from './textWidth.ts';
import { barMarksIn, writtenIn } from './written.ts';

/** Lanes are drawn for a staff space of seven. */
export const LANE_UNIT = 7;

type Stretch = Pick<SheetLine, 'from' | 'to'>;

function factsOf(arrangement: Arrangement, { from, to }: Stretch, style: SheetStyle): PhraseFacts {
  const { tune, instrument, fingering, bowing, counts, tuning } = arrangement;
  const written = writtenIn(tune, { from, to });
  const own = new Set(written.map(({ id }) => id));
  return {
    instrument,
    notes: fingering.notes.filter(({ of }) => own.has(of)).map(drawnOf),
    starts: bowing.starts,
    signs: bowing,
    hair: printedLanes(style).includes('hair') ? hairLine(bowing, arrangement.travel(), own) : null,
    counts: new Map([...counts].filter(([id]) => own.has(id))),
    written,
    bars: barMarksIn(tune, { from, to }),
    names: style.names,
    tab: style.tab,
    sounds: tuning.pitches,
  };
}

/** The facts of a stretch, with the places that its notes have on paper. */
export const lineInput = (
  arrangement: Arrangement,
  line: Stretch,
  style: SheetStyle,
  places: Pick<LaneInput, 'x' | 'width' | 'barlines'>,
): LaneInput => ({ ...factsOf(arrangement, line, style), ...places });

/** So far apart that nothing on two notes meets. */
const APART = 1000;

/** The lanes of a stretch with every note as far from the others as can be, and where it was put. */
function apart(arrangement: Arrangement, line: Stretch, style: SheetStyle, turned = false) {
  const straight = factsOf(arrangement, line, style);
  const facts = turned ? onTheOtherBow(straight) : straight;
  // Grace notes stand before their note, and are placed by it.
  const ids = [
    ...new Set(facts.notes.flatMap((note) => [note.id, ...note.ids]).concat(facts.written.map(({ id }) => id))),
  ];
  const order = new Map(orderOf(ids, facts).map((id, index) => [id, index * APART]));
  const input: LaneInput = { ...facts, x: (id) => order.get(id), width: order.size * APART, barlines: [] };
  return { lanes: lanesOf(input, printedLanes(style)), order, written: facts.written };
}

/** Written events in their order, the grace notes of each before it. */
function orderOf(ids: readonly string[], { written, notes }: PhraseFacts): readonly string[] {
  const graces = new Map<string, string[]>();
  for (const { id, of, grace } of notes) if (grace) graces.set(of, [...(graces.get(of) ?? []), id]);
  const known = written.flatMap(({ id }) => [...(graces.get(id) ?? []), id]);
  const placed = new Set(known);
  return [...known, ...ids.filter((id) => !placed.has(id))];
}

/** Every stroke the other way. */
function onTheOtherBow<T extends Pick<PhraseFacts, 'starts' | 'signs'>>(facts: T): T {
  const turnedOf = <S extends { readonly direction: BowMark }>(
    strokes: ReadonlyMap<string, S>,
  ): ReadonlyMap<string, S> =>
    new Map(
      [...strokes].map(([id, stroke]) => [id, { ...stroke, direction: stroke.direction === 'down' ? 'up' : 'down' }]),
    );
  return {
    ...facts,
    starts: turnedOf(facts.starts),
    signs: { ...facts.signs, later: turnedOf(facts.signs.later) },
  };
}

/**
 * What a stretch looks like, but for which notes it is made of: two that are alike are printed alike.
 * @param turned as it would look with every stroke the other way
 * @example lookOf(arrangement, phrase, USUAL_STYLE) === lookOf(arrangement, phrase, USUAL_STYLE) // true
 */
export function lookOf(arrangement: Arrangement, line: Stretch, style: SheetStyle, turned = false): string {
  const { lanes, written } = apart(arrangement, line, style, turned);
  return JSON.stringify([
    lanes.map(({ id, shapes }) => [id, shapes.map((shape) => ({ ...shape, note: undefined }))]),
    written.map(({ rest, value, tied, tuplet, pitches }) => [rest, value, tied, tuplet, pitches]),
  ]);
}

/** What a note needs to the next one that has something on the same lane, in staff spaces. */
export interface Room {
  readonly note: string;
  readonly width: number;
}

/** Lanes whose signs can be wider than notes stand apart, with what is free between two of them, in the lanes' unit. */
const BETWEEN: { readonly [Id in LaneId]?: number } = { chords: 5, counts: 4, fingers: 3, tab: 3, names: 4, words: 4 };
/** Notes are never closer than that, in staff spaces. */
const ANYWAY = 1.5;

/**
 * How far apart the notes of a stretch have to stand so that nothing on a lane meets: for each lane that asks for more
 * than notes have anyway, what its notes need.
 * @example roomsOf(arrangement, phrase, { ...USUAL_STYLE, lanes: ['bow'] }).length // 0
 */
export function roomsOf(arrangement: Arrangement, line: Stretch, style: SheetStyle): readonly (readonly Room[])[] {
  const { lanes, order, written } = apart(arrangement, line, style);
  const events = new Set(written.map(({ id }) => id));
  return lanes.flatMap(({ id, shapes }): (readonly Room[])[] => {
    const between = BETWEEN[id];
    if (between === undefined) return [];
    const rows = new Map<number, Map<string, Extent>>();
    for (const shape of shapes) {
      if (shape.kind !== 'text' || shape.note === undefined || !events.has(shape.note)) continue;
      const row = rows.get(shape.y) ?? new Map<string, Extent>();
      rows.set(shape.y, row.set(shape.note, widened(row.get(shape.note), shape, order.get(shape.note)!)));
    }
    return [...rows.values()].flatMap((row): (readonly Room[])[] => {
      const texts = [...row];
      const rooms = texts.map(([note, { right }], index): Room => {
        const next = texts[index + 1]?.[1];
        return { note, width: (right + (next ? next.left + between : 0)) / LANE_UNIT };
      });
      return rooms.some(({ width }) => width > ANYWAY) ? [rooms] : [];
    });
  });
}

/** How far a text reaches left and right of its note. */
interface Extent {
  readonly left: number;
  readonly right: number;
}

function widened(before: Extent | undefined, shape: Shape & { readonly kind: 'text' }, at: number): Extent {
  const { left, right } = before ?? { left: 0, right: 0 };
  const { size, weight } = styleOf(shape.role).text;
  const width = textWidth(shape.text, size, weight === 'bold' ? 'bold' : 'text');
  // What stands half way to the next note, a hyphen, needs room behind this one.
  if (Math.abs(shape.x - at) > APART / 4) return { left, right: right + width + 2 };
  const own = shape.anchor === 'middle' ? width / 2 : shape.anchor === 'end' ? width : 0;
  return { left: Math.max(left, at - shape.x + own), right: Math.max(right, shape.x - at + width - own) };
}

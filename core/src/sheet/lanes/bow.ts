/**
 * The bow above the staff: down and up where a player needs it, what shares a stroke, where the bow is lifted or stops and
 * goes on, accents of a pattern, and in which part of the hair.
 */
import { REGION_BOUNDS, type Region, type Stroke } from '../../bow/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Shape } from '../shapes.ts';
import { SIZES, type LaneDefinition, type LaneInput, type LaneDrawing } from './lane.ts';

function draw(input: LaneInput): LaneDrawing {
  const shapes: Shape[] = [];
  const inPhrase = new Set(input.notes.flatMap(({ ids }) => ids));
  for (const [first, stroke] of input.starts) {
    const x = inPhrase.has(first) ? input.x(first) : undefined;
    if (x === undefined) continue;
    if (input.signs.marked.has(first)) {
      shapes.push({ kind: 'path', role: 'bow', d: bowSign(stroke, x), note: first });
      const later = input.signs.later.get(first);
      // Played again it goes the other way: told small, beside it.
      if (later) {
        shapes.push({ kind: 'text', role: 'bow-time', x: x + 8, y: 11, text: `${later.time}×`, anchor: 'start' });
        shapes.push({ kind: 'path', role: 'bow-later', d: bowSign(later, x + 25), note: first });
      }
    }
    if (input.signs.accents.has(first)) {
      shapes.push({ kind: 'path', role: 'bow', d: `M${x - 4} 0 l8 2 l-8 2`, note: first });
    }
    if (stroke.retake) shapes.push({ kind: 'path', role: 'retake', d: `M${x - 12} 13 a4 4 0 1 1 4 -4`, note: first });
    // A stop, and on from there.
    if (stroke.hook) shapes.push({ kind: 'path', role: 'hook', d: `M${x - 12} 6 v8 m0 -4 h5`, note: first });
    const last = lastX(stroke, inPhrase, input);
    if (last !== undefined && last > x) shapes.push({ kind: 'path', role: 'stroke', d: `M${x} 18 v4 H${last} v-4` });
  }
  for (const [note, region] of Object.entries(input.signs.regions)) {
    const x = inPhrase.has(note) ? input.x(note) : undefined;
    if (x !== undefined) shapes.push(...regionSign(region, x, note));
  }
  return { height: SIZES.bow, shapes };
}

/** A small bow with the part that is meant drawn thick: the frog at the left, as it is held. */
function regionSign(region: Region, x: number, note: string): readonly Shape[] {
  const [low, high] = REGION_BOUNDS[region];
  const [left, width] = [x - 34, 20];
  return [
    { kind: 'path', role: 'region', d: `M${left} 10 h${width} M${left} 7 v5`, note },
    { kind: 'path', role: 'region-part', d: `M${left + low * width} 10 h${(high - low) * width}`, note },
  ];
}

/** A squared arch for down, an open wedge for up: the signs that every string player reads. */
function bowSign({ direction }: Pick<Stroke, 'direction'>, x: number): string {
  return direction === 'down' ? `M${x - 4.5} 15 v-9 h9 v9` : `M${x - 4} 5 l4 10 l4 -10`;
}

function lastX(stroke: Stroke, inPhrase: ReadonlySet<string>, input: LaneInput): number | undefined {
  const last = stroke.notes.findLast((id) => inPhrase.has(id));
  return last === undefined ? undefined : input.x(last);
}

export const BOW: LaneDefinition = {
  name: 'Bow',
  side: 'above',
  needs: ['notes', 'starts', 'signs'],
  draw,
  signs({ bowing: { strokes, marked, later, regions, accents } }) {
    const shown = strokes.filter(({ notes }) => marked.has(notes[0]!));
    const used: readonly (readonly [LegendSign, boolean])[] = [
      ['down', shown.some(({ direction }) => direction === 'down')],
      ['up', shown.some(({ direction }) => direction === 'up')],
      ['time', [...later.keys()].some((id) => marked.has(id))],
      ['slur', strokes.some(({ notes }) => notes.length > 1)],
      ['retake', strokes.some(({ retake }) => retake)],
      ['hook', strokes.some(({ hook }) => hook)],
      ['accent', accents.size > 0],
      ['region', Object.keys(regions).length > 0],
    ];
    return used.flatMap(([sign, is]) => (is ? [sign] : []));
  },
};

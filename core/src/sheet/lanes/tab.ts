/** Finger tab: one line for each string, the highest on top, with the fingers on the lines. */
import { isAcross, type Stop } from '../../hand/index.ts';
import { keyName, midi, type Metre } from '../../music/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Shape } from '../shapes.ts';
import { noteName } from '../../words/index.ts';
import { barEnds } from '../barEnds.ts';
import { fingerSign, signRoom } from '../signs.ts';
import {
  SIZES,
  type DrawnNote,
  type LaneDefinition,
  type LaneDrawing,
  type LaneInput,
  type PhraseFacts,
  type SheetFacts,
} from './lane.ts';

/** Strings tell themselves apart by line style as well as by letter: lowest thickest, each its own dash. */
const STRING_LINES: readonly { readonly width: number; readonly dash?: string }[] = [
  { width: 2 },
  { width: 1.4, dash: '9 3' },
  { width: 1 },
  { width: 0.7, dash: '2 2' },
];

function draw(input: LaneInput): LaneDrawing {
  const { strings } = input.instrument;
  const { turned } = input.tab;
  // What is told over the first string has a row of its own.
  const tabTop = SIZES.tabTop + (input.bars.some(({ ending, key }) => ending !== null || key) ? TOLD : 0);
  const rowY = (string: number) => tabTop + (turned ? string : strings.length - 1 - string) * SIZES.row;
  const top = tabTop;
  const bottom = top + (strings.length - 1) * SIZES.row;
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
        ...stringLine(index),
        ...(input.tab.strings[name] && { colour: input.tab.strings[name] }),
      },
      { kind: 'text', role: 'string-name', x: SIZES.tabLeft - 6, y, text: calledString(input, index), anchor: 'end' },
    ];
  });
  shapes.push(...barShapes(input, top, bottom));
  for (const note of input.notes) {
    const x = input.x(note.id);
    if (x === undefined) continue;
    // To be left out, whoever plays: on no string.
    if (note.stops.length === 0 && !note.grace)
      shapes.push({
        kind: 'path',
        role: 'unreached',
        d: `M${x} ${(top + bottom) / 2 - 6} l5 6 l-5 6 l-5 -6 Z`,
        note: note.id,
      });
    for (const stop of note.stops) shapes.push(...fingerShapes(input, note, stop, x, rowY(stop.string)));
  }
  shapes.push(...betweenFingers(input, rowY));
  return { height: bottom + SIZES.tabTop, shapes };
}

/** Height of that row, and how far above the first string its texts stand. */
const TOLD = 8;
const TOLD_ABOVE = 12;

/**
 * A string as it is called at the left: by its place, with what it sounds where that is another note ("G=A"), or by
 * its sound.
 */
export function calledString(
  { instrument, sounds, tab, names }: Pick<PhraseFacts, 'instrument' | 'sounds' | 'tab' | 'names'>,
  index: number,
): string {
  const { name, usual } = instrument.strings[index]!;
  const sound = sounds[index] ?? usual;
  const called = noteName(sound, names.notes);
  if (tab.stringNames === 'sound') return called;
  return midi(sound) === midi(usual) ? name : `${name}=${called}`;
}

/**
 * How a string's line is drawn, from the lowest on.
 * @example stringLine(0).width // 2
 */
export const stringLine = (index: number): { readonly width: number; readonly dash?: string } =>
  STRING_LINES[index % STRING_LINES.length]!;

/** Bar lines; where something is repeated, heavy and thin with dots; at the end thin and heavy; endings told over the first string. */
function barShapes(input: LaneInput, top: number, bottom: number): readonly Shape[] {
  const { bars, written, notes, x } = input;
  const ends = barEnds(input);
  const middle = (top + bottom) / 2;
  const upright = (at: number, role: 'barline' | 'repeat'): Shape => ({
    kind: 'line',
    role,
    x1: at,
    y1: top,
    x2: at,
    y2: bottom,
  });
  const dots = (at: number): readonly Shape[] =>
    [-4, 4].map((dy): Shape => ({ kind: 'dot', role: 'repeat', x: at, y: middle + dy, r: 1.6 }));
  // Grace notes stand before the note that they belong to.
  const firstOf = (bar: number) => {
    const event = written.find((one) => one.bar === bar);
    const grace = event && notes.find((note) => note.of === event.id && note.grace);
    return (grace && x(grace.id)) ?? (event && x(event.id));
  };
  return bars.flatMap(({ bar, repeatStart, repeatEnd, ending, line, metre, key }, index): Shape[] => {
    const before = ends[index - 1];
    const left =
      index === 0
        ? Math.max(SIZES.tabLeft + 3, (firstOf(bar) ?? 0) - 22)
        : before === undefined || !bars[index - 1]!.repeatEnd
          ? before
          : before + THICK_AWAY;
    const right = ends[index];
    const next = bars[index + 1]?.repeatStart === true;
    const shapes: Shape[] = [];
    if (repeatStart && left !== undefined)
      shapes.push(upright(left, 'repeat'), upright(left + 3.5, 'barline'), ...dots(left + 7.5));
    if (ending !== null && left !== undefined)
      shapes.push({ kind: 'text', role: 'ending', x: left + 4, y: top - TOLD_ABOVE, text: ending, anchor: 'start' });
    if (left !== undefined && metre)
      shapes.push(
        ...metreShapes(metre, Math.max(left + (repeatStart ? 17 : 9), (firstOf(bar) ?? 0) - METRE_BEFORE), top, bottom),
      );
    if (left !== undefined && key) {
      const text = keyName(key);
      shapes.push({
        kind: 'text',
        role: 'key',
        x: left + (ending === null ? 4 : 22),
        y: top - TOLD_ABOVE,
        text,
        anchor: 'start',
      });
    }
    if (right === undefined || (line === 'invisible' && !repeatEnd)) return shapes;
    // As in the staff the thin line stands where the bar ends, clear of its last note.
    if (repeatEnd) shapes.push(upright(right, 'barline'), upright(right + THICK_AWAY, 'repeat'), ...dots(right - 4));
    else if (line === 'final') shapes.push(upright(right - 3.5, 'barline'), upright(right, 'repeat'));
    else if (line === 'double') shapes.push(upright(right - 3.5, 'barline'), upright(right, 'barline'));
    else if (!next) shapes.push(upright(right, 'barline'));
    return shapes;
  });
}

/** Of a heavy line from its thin one. */
const THICK_AWAY = 3.5;

/** Beats over their unit, as tall as the strings and clear of them, so that nobody takes them for fingers; free time says nothing. */
function metreShapes({ beats, unit, symbol }: Metre, x: number, top: number, bottom: number): readonly Shape[] {
  if (symbol === 'free') return [];
  const middle = (top + bottom) / 2;
  const figures = [beats, unit].map((figure, row): Shape => ({
    kind: 'text',
    role: 'metre',
    x,
    y: middle + (row === 0 ? -1 : 1) * METRE_AWAY,
    text: String(figure),
    anchor: 'middle',
  }));
  const width = Math.max(String(beats).length, String(unit).length) * METRE_WIDTH;
  return [{ kind: 'patch', role: 'metre', x: x - width / 2, y: top - 2, width, height: bottom - top + 4 }, ...figures];
}
/** Of the middle of a figure from the middle of the strings, how wide a figure is, and how far it stands before the first note. */
const METRE_AWAY = 10;
const METRE_WIDTH = 13;
const METRE_BEFORE = 18;

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
      const rows = [note.stops[lower]!, note.stops[lower + 1]!].map(({ string }) => rowY(string));
      const [first, last] = [Math.min(...rows), Math.max(...rows)];
      shapes.push({ kind: 'path', role: 'block', d: `M${x + 7} ${first - 5} h3 V${last + 5} h-3` });
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

function fingerShapes({ tab, notes }: LaneInput, note: DrawnNote, stop: Stop, x: number, y: number): readonly Shape[] {
  const small = note.grace ? 0.75 : 1;
  const stacked = note.stops.length > 1;
  const behind = !note.grace && notes.some((other) => other.grace && other.of === note.id);
  const { left, right } = signRoom(stop, tab.signs, { stacked, behind });
  return [
    {
      kind: 'patch',
      role: 'finger',
      x: x - left * small,
      y: y - 7 * small,
      width: (left + right) * small,
      height: 14 * small,
    },
    ...fingerSign(stop, x, y, { signs: tab.signs, note: note.id, grace: note.grace, stacked, behind }),
    ...(note.locked
      ? [{ kind: 'path' as const, role: 'finger-locked' as const, d: `M${x - 6} ${y + 8} h12`, note: note.id }]
      : []),
  ];
}

/** Signs between two notes are drawn only where both stand on one line. */
export function linesOf({ notes, phrases }: Pick<SheetFacts, 'notes' | 'phrases'>): readonly (readonly DrawnNote[])[] {
  return phrases.map((phrase) => {
    const own = new Set(phrase.notes);
    return notes.filter(({ of }) => own.has(of));
  });
}

export const TAB: LaneDefinition = {
  name: 'Finger tab',
  side: 'below',
  needs: ['instrument', 'notes', 'bars', 'written', 'tab', 'sounds'],
  draw,
  signs(facts) {
    const { notes } = facts;
    const lines = linesOf(facts);
    const stops = notes.flatMap((note) => note.stops);
    // A number alone says nothing that a legend could tell.
    const signed = facts.tab.signs !== 'plain';
    const used: readonly (readonly [LegendSign, boolean])[] = [
      ['open', stops.some(({ finger }) => finger === 0)],
      ['low', signed && stops.some(({ sign }) => sign === 'low')],
      ['high', signed && stops.some(({ sign }) => sign === 'high')],
      ['extended', signed && stops.some(({ sign, finger }) => sign === 'extended' && finger !== 1)],
      ['back', signed && stops.some(({ sign, finger }) => sign === 'extended' && finger === 1)],
      ['harmonic', signed && stops.some(({ sign }) => sign === 'harmonic')],
      ['block', lines.some((line) => line.some((note, index) => isAcross(note, line[index - 1])))],
      ['hop', lines.some((line) => line.slice(1).some(({ hop }) => hop))],
      ['slide', notes.some(({ glide }) => glide !== null)],
      ['locked', notes.some(({ locked }) => locked)],
      ['unreached', notes.some(({ stops, grace }) => stops.length === 0 && !grace)],
      ['grace', notes.some(({ grace, stops }) => grace && stops.length > 0)],
      ['repeat', facts.bars.some(({ repeatStart, repeatEnd }) => repeatStart || repeatEnd)],
      ['ending', facts.bars.some(({ ending }) => ending !== null)],
    ];
    return used.flatMap(([sign, is]) => (is ? [sign] : []));
  },
};

/** The chord page, for whoever plays along: a field for each bar, repeats as they are written, and what each chord is made of. */
import type { Arrangement } from '../arrange/index.ts';
import { bringsChords, chordAt, chordsWithin, functionOf, harmonyOf, type Harmony } from '../harmony/index.ts';
import {
  barNumbers,
  barStarts,
  beatLength,
  beatTempoText,
  isPickup,
  isSameMetre,
  keyName,
  chordNotes,
  sameKey,
  type Bar,
  type Key,
  type Ticks,
} from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { chordName, noteName } from '../words/index.ts';
import { pageHead } from './pageHead.ts';
import {
  GAP,
  LABEL,
  LEAST_SQUEEZE,
  MARGIN,
  SOFT,
  fitted,
  pageSize,
  scaleOf,
  type Block,
  type Contents,
  type Points,
} from './paperPage.ts';
import { INK, lineSvg, textSvg } from './svg.ts';
import { textWidth } from './textWidth.ts';

const ACROSS = { upright: 4, landscape: 8 } as const;
/** A field, and above it the endings and signs of its row, where there are some. */
const FIELD: Points = 34;
const OVER: Points = 15;
const SIZE: Points = 17;
const SMALL: Points = 9.5;
/** Larger where a page has the room, smaller where that saves one. */
const SIZES = [1.6, 1.3, 1, LEAST_SQUEEZE] as const;
/** Room in a field before its first chord and after its last. */
const INSIDE: Points = 9;
/** A chord of the list at the foot. */
const LISTED: Points = 15;
const MOST_LISTED_COLUMNS = 3;

/** What stands in a field. */
export interface ChordField {
  /** As people count; 0 for a pickup. */
  readonly number: number;
  /** From the start of the bar, in shares of it; a chord that goes on from the bar before stands at 0. */
  readonly chords: readonly { readonly at: number; readonly name: string; readonly goesOn: boolean }[];
  /** Beats without a chord of their own, as shares. */
  readonly beats: readonly number[];
  readonly bar: Bar;
  /** Letter of the part that begins with it. */
  readonly part: string | null;
  /** Another metre or key than before it, as text. */
  readonly changes: string;
}

/**
 * A field for each bar; a pickup has one only where a chord is written over it.
 * @example chordFields(arrangement)[0].chords[0].name // 'G'
 */
export function chordFields({ tune, form }: Pick<Arrangement, 'tune' | 'form'>): readonly ChordField[] {
  const { bars } = tune;
  const [starts, numbers] = [barStarts(bars), barNumbers(bars)];
  const all = harmonyOf(tune);
  const parts = new Map(
    form.parts.map(({ label, phrases }) => [
      starts.findLastIndex((start) => start <= (phrases[0]?.downbeat ?? 0)),
      label,
    ]),
  );
  return bars.flatMap((bar, index): ChordField[] => {
    const [from, to] = [starts[index]!, starts[index]! + bar.length];
    const begun = chordsWithin(all, from, to);
    const pickup = isPickup(bars, index);
    if (pickup && begun.length === 0) return [];
    const held = begun[0]?.from === from ? null : chordAt(all, from);
    const share = (at: Ticks) => (at - from) / bar.length;
    const own = [...(held ? [held] : []), ...begun];
    // Halves of a bar under one found chord are one.
    const shown = own.filter((one, at) => !one.found || one.name !== own[at - 1]?.name);
    const chords = shown.map((one) => ({
      at: Math.max(0, share(one.from)),
      name: one.name,
      goesOn: one.from < from || chordAt(all, one.from - 1)?.name === one.name,
    }));
    const beat = beatLength(bar.metre);
    // A bar that begins inside its metre has its first beats elsewhere.
    const first = (beat - (bar.offset % beat)) % beat;
    const beats = Array.from(
      { length: Math.max(0, Math.ceil((bar.length - first) / beat)) },
      (_, at) => first + at * beat,
    )
      .map((at) => at / bar.length)
      .filter((at) => !chords.some((chord) => Math.abs(chord.at - at) < 0.02));
    return [
      {
        number: pickup ? 0 : numbers[index]!,
        chords,
        beats,
        bar,
        part: parts.get(index) ?? null,
        changes: changesAt(bars, index),
      },
    ];
  });
}

function changesAt(bars: readonly Bar[], index: number): string {
  const [bar, before] = [bars[index]!, bars[index - 1]];
  if (!before) return '';
  const metre = isSameMetre(before.metre, bar.metre) ? '' : `${bar.metre.beats}/${bar.metre.unit}`;
  return [metre, sameKey(before.key, bar.key) ? '' : keyName(bar.key)].filter(Boolean).join(', ');
}

export function chordContents(arrangement: Arrangement, style: SheetStyle): Contents {
  const { tune, tempo } = arrangement;
  const { width } = pageSize(style);
  const first = tune.bars[0];
  const facts = first
    ? [
        bringsChords(tune) ? 'Chords to play along' : 'Chords to play along, found from the notes',
        keyName(first.key),
        `${first.metre.beats}/${first.metre.unit}`,
        beatTempoText(first.metre, tempo),
      ]
    : [];
  const scale = Math.min(1.4, scaleOf(style));
  const head = pageHead({ title: tune.title, facts: facts.join('  ·  ') }, width, scale);
  const fields = chordFields(arrangement);
  const across = style.landscape ? ACROSS.landscape : ACROSS.upright;
  const rows = rowsOf(fields, across);
  const listed = listBlock(arrangement, style, width);
  return fitted(SIZES, style, (share) => ({
    head,
    blocks: [...rows.map((row) => rowBlock(row, across, scale * share, width)), listed],
  }));
}

/** Rows end with a part, and before what is repeated. */
function rowsOf(fields: readonly ChordField[], across: number): readonly (readonly ChordField[])[] {
  const rows: ChordField[][] = [];
  for (const field of fields) {
    const last = rows.at(-1);
    const opens = field.part !== null || field.bar.repeatStart || field.bar.coda;
    // A pickup's chord belongs to the bar that it leads to.
    const afterPickup = last?.length === 1 && last[0]!.number === 0;
    const full = last && last.filter(({ number }) => number !== 0).length >= across;
    if (!last || full || (opens && !afterPickup)) rows.push([field]);
    else last.push(field);
  }
  return rows;
}

function rowBlock(row: readonly ChordField[], across: number, scale: number, width: Points): Block {
  const over = row.some((field) => aboveOf(field) !== '') ? OVER : 0;
  const left = MARGIN + LABEL;
  const unit = (width - MARGIN - left) / across;
  const widthOf = ({ number }: ChordField): Points => (number === 0 ? unit / 3 : unit);
  // A pickup's field takes from the others of its row.
  const total = row.reduce((sum, field) => sum + widthOf(field), 0);
  const fit = Math.min(1, (unit * across) / total);
  return {
    height: (over + FIELD) * scale,
    gap: GAP * 0.75,
    draw: (y) => {
      const [top, foot] = [y + over * scale, y + (over + FIELD) * scale];
      let x = left;
      const part = row.find((field) => field.part !== null)?.part;
      const drawn = [
        part ? textSvg(MARGIN, foot - 11 * scale, part, { size: 13 * scale, weight: 'bold', colour: '#9a4a1c' }) : '',
        lineSvg([x, top], [x, foot], { width: 1 }),
      ];
      for (const field of row) {
        const own = widthOf(field) * fit;
        drawn.push(fieldSvg(field, { x, width: own, top, foot, scale }));
        x += own;
      }
      return drawn.join('\n');
    },
  };
}

/** What stands over a field: endings, and where to go from here. */
function aboveOf({ bar, changes }: ChordField): string {
  const back = bar.jump
    ? `D.${bar.jump.back === 'segno' ? 'S' : 'C'}.${bar.jump.until === 'end' ? '' : ` al ${bar.jump.until}`}`
    : '';
  return [
    bar.endings ? `${bar.endings.join(', ')}.` : '',
    changes,
    bar.segno ? 'Segno' : '',
    bar.coda ? 'Coda' : '',
    bar.toCoda ? 'to Coda' : '',
    bar.fine ? 'Fine' : '',
    back,
    bar.repeatEnd && bar.repeatEnd > 2 ? `${bar.repeatEnd} times` : '',
  ]
    .filter(Boolean)
    .join('  ');
}

interface FieldPlace {
  readonly x: Points;
  readonly width: Points;
  readonly top: Points;
  readonly foot: Points;
  readonly scale: number;
}

function fieldSvg(field: ChordField, { x, width, top, foot, scale }: FieldPlace): string {
  const { bar, chords, beats, number } = field;
  const above = aboveOf(field);
  const from = x + INSIDE * scale + (bar.repeatStart ? 6 * scale : 0);
  const room = width - 2 * INSIDE * scale - (bar.repeatStart ? 6 * scale : 0) - (bar.repeatEnd ? 6 * scale : 0);
  const base = (top + foot) / 2 + SIZE * 0.36 * scale;
  // Long names that come close after one another are set smaller.
  const size = Math.min(
    SIZE * scale,
    ...chords.map(({ at, name }, index) => {
      const free =
        ((chords[index + 1]?.at ?? 1) - at) * room + (index === chords.length - 1 ? INSIDE * 0.6 * scale : -3 * scale);
      return (SIZE * scale * free) / textWidth(chordName(name), SIZE * scale, 'bold');
    }),
  );
  const ends = (at: number) => {
    const chord = chords.findLast((one) => one.at <= at);
    return chord ? from + chord.at * room + textWidth(chordName(chord.name), size, 'bold') + 2 : from;
  };
  const heavy = bar.barline === 'final' || bar.repeatEnd;
  const right = x + width;
  const dots = (at: Points) =>
    [-4, 4]
      .map(
        (dy) =>
          `<circle cx="${at.toFixed(1)}" cy="${((top + foot) / 2 + dy * scale).toFixed(1)}" r="${(1.7 * scale).toFixed(2)}" fill="${INK}"/>`,
      )
      .join('');
  return [
    `<g data-bar="${number}">`,
    above ? textSvg(x + 3, top - 3 * scale, above, { size: SMALL * scale, weight: 'bold' }) : '',
    bar.endings
      ? lineSvg([x + 1, top - (OVER - 2) * scale], [right - 3, top - (OVER - 2) * scale], { width: 0.8 })
      : '',
    bar.repeatStart ? lineSvg([x + 1.6, top], [x + 1.6, foot], { width: 3.2 }) + dots(x + 7 * scale) : '',
    ...chords.map(({ at, name, goesOn }) =>
      textSvg(from + at * room, base, chordName(name), {
        size,
        weight: 'bold',
        ...(goesOn && at === 0 && { colour: SOFT }),
      }),
    ),
    ...beats
      .filter((at) => from + at * room > ends(at))
      .map((at) => textSvg(from + at * room, base, '/', { size: SIZE * 0.8 * scale, colour: SOFT })),
    lineSvg([right - (heavy ? 1.6 : 0), top], [right - (heavy ? 1.6 : 0), foot], { width: heavy ? 3.2 : 1 }),
    heavy || bar.barline === 'double' ? lineSvg([right - 5, top], [right - 5, foot], { width: 1 }) : '',
    bar.repeatEnd ? dots(right - 9 * scale) : '',
    '</g>',
  ].join('');
}

/** Each chord once, what it is in the key, and its notes. */
function listBlock({ tune }: Arrangement, style: SheetStyle, width: Points): Block {
  const key = tune.bars[0]?.key;
  const chords = [...new Map(harmonyOf(tune).map((one) => [one.name, one])).values()].filter(({ root }) => root);
  const texts = chords.map((chord) => ({ name: chordName(chord.name), notes: notesText(chord, key, style) }));
  const room = width - 2 * MARGIN - LABEL;
  const widest = Math.max(1, ...texts.map(({ name, notes }) => textWidth(`${name}  ${notes}`, 10.5, 'bold') + 24));
  const columns = Math.max(1, Math.min(MOST_LISTED_COLUMNS, Math.floor(room / widest)));
  const rows = Math.ceil(texts.length / columns);
  return {
    height: 22 + rows * LISTED,
    draw: (y) =>
      [
        lineSvg([MARGIN, y + 4], [width - MARGIN, y + 4], { colour: SOFT, width: 0.5 }),
        ...texts.map(({ name, notes }, index) => {
          const x = MARGIN + LABEL + (index % columns) * (room / columns);
          const at = y + 22 + Math.floor(index / columns) * LISTED;
          return (
            textSvg(x, at, name, { size: 10.5, weight: 'bold' }) +
            textSvg(x + textWidth(name, 10.5, 'bold') + 7, at, notes, { size: 10.5 })
          );
        }),
      ].join('\n'),
  };
}

/** @returns such as "V7: A C♯ E G" */
function notesText(chord: Harmony, key: Key | undefined, { names }: SheetStyle): string {
  const degree = key ? functionOf(chord, key) : '';
  const notes = chordNotes(chord.name).map((note) => noteName(note, names.notes));
  return `${degree ? `(${degree}) ` : ''}${notes.join(' ')}`;
}

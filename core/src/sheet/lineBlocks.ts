/** The lines of a tune as blocks: staff and lanes lined up, beside the phrase's name. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf, relationInTune, type Phrase } from '../form/index.ts';
import { printedLanes, type SheetStyle } from '../paper/index.ts';
import { relationText } from '../words/index.ts';
import { barIndexAt, barNumbers, barStarts, type Ticks, type Tune } from '../music/index.ts';
import { barEnds } from './barEnds.ts';
import { drawnOf, lanesOf, type Lane, type LaneInput } from './lanes/index.ts';
import { BOARD_WIDTH, fingerboardSvg } from './fingerboard.ts';
import { LANE_UNIT, lineInput } from './lineInput.ts';
import type { Cuts, SheetLine } from './lines.ts';
import { lineRoom, printedLines, wishedSpace, type Printed, type PrintedLine } from './printedLines.ts';
import { INK, TEXT_FONT, richText, shapeSvg, textSvg } from './svg.ts';
import { LABEL, MARGIN, SOFT, group, pageSize, scaleOf, type Block, type Points } from './paperPage.ts';
import { textWidth } from './textWidth.ts';

/** A line's staff, as the engraver gives it; lengths in staff spaces. */
export interface EngravedLineOfSheet {
  readonly lineId: string;
  readonly markup: string;
  readonly viewBox: string;
  readonly width: number;
  readonly height: number;
  readonly heads: Readonly<Record<string, { readonly x: number; readonly y: number }>>;
  readonly barlines: readonly number[];
}

/** Staves of lines, and in how many lines phrases are cut. */
export interface EngravedLines {
  readonly staves: readonly EngravedLineOfSheet[];
  readonly cuts?: Cuts | undefined;
}

/** Lines are never set smaller than that. */
const LEAST_SPACE: Points = 3.6;

/** Lines of the sheet from top to bottom; by width several stand beside each other. */
export function lineBlocks(
  arrangement: Arrangement,
  { staves, cuts }: EngravedLines,
  style: SheetStyle,
  squeeze: number,
): readonly Block[] {
  const withBoard = style.fingerboard && style.layout !== 'width';
  const available = lineRoom(style);
  const byId = new Map(staves.map((staff) => [staff.lineId, staff]));
  const all = printedLines(arrangement, style, cuts);
  const lines = all.flatMap((line) => {
    const staff = byId.get(line.id);
    return staff && line.as === null ? [{ line, staff }] : [];
  });
  const headOf = ({ label, phrase }: SheetLine) => (label && likeText(arrangement, phrase) ? NOTE_ROOM : 0);
  const widest = Math.max(1, ...lines.map(({ staff }) => staff.width));
  // One size for the whole sheet; a line wider than the paper is set smaller alone.
  const common = Math.max(LEAST_SPACE, Math.min(wishedSpace(style), available / widest)) * squeeze;
  const writing = writingBlock(style);
  const behind = (line: PrintedLine, index: number): readonly Block[] =>
    writing && all[index + 1]?.phrase.id !== line.phrase.id ? [writing] : [];
  if (style.layout !== 'width') {
    return all.flatMap((line, index): readonly Block[] => {
      const staff = byId.get(line.id);
      if (line.as !== null) return [namedBlock(line, line.as, style), ...behind(line, index)];
      if (!staff) return [];
      return [
        {
          ...besideBoard(
            lineBlock(arrangement, line, staff, style, {
              space: Math.min(common, available / staff.width),
              x: MARGIN,
              head: headOf(line),
            }),
            withBoard && line.label !== '' ? line.phrase : null,
            arrangement,
            style,
          ),
          phrase: line.phrase.id,
          // Its lanes keep large music apart anyway.
          ...(style.layout === 'big' && { gap: BIG_GAP }),
          ...(line.label === '' ? { goesOn: true } : { begins: true }),
        },
        ...behind(line, index),
      ];
    });
  }
  // By width nothing is folded: a name among the music would be overlooked.
  const rows: (typeof lines)[] = [];
  for (const one of lines) {
    const last = rows.at(-1);
    const used = (last ?? []).reduce((sum, { staff }) => sum + staff.width * common + LABEL, 0);
    if (last && used + one.staff.width * common + LABEL <= available + LABEL) last.push(one);
    else rows.push([one]);
  }
  return rows.map((row): Block => {
    const wide = row.reduce((sum, { staff }) => sum + staff.width, 0);
    // Lines use the paper's width evenly: a full row is drawn out to it, a single phrase is left as it is.
    const space =
      row.length > 1
        ? Math.min(common * MOST_STRETCH, (available - LABEL * (row.length - 1)) / wide)
        : Math.min(common, available / wide);
    let x = MARGIN;
    // What stands beside each other stands on one line.
    const head = Math.max(...row.map(({ line }) => headOf(line)));
    const blocks = row.map(({ line, staff }) => {
      const block = lineBlock(arrangement, line, staff, style, { space, x, head });
      x += staff.width * space + LABEL;
      return block;
    });
    return {
      height: Math.max(...blocks.map((block) => block.height)),
      draw: (y) => blocks.map((block) => block.draw(y)).join('\n'),
    };
  });
}

const BIG_GAP: Points = 6;

/** A row is drawn out by no more than this. */
const MOST_STRETCH = 1.25;

/** Where a line stands, and how large it is set. */
interface LinePlace {
  /** A staff space on paper. */
  readonly space: Points;
  readonly x: Points;
  /** Room above it for what it is like. */
  readonly head: Points;
}

/** A fingerboard needs so much height to be read. */
const BOARD_HEIGHT: Points = 104;

/** A line with the phrase's fingerboard at the right. */
function besideBoard(block: Block, phrase: Phrase | null, arrangement: Arrangement, style: SheetStyle): Block {
  if (!phrase) return block;
  const own = new Set(phrase.notes);
  const height = Math.max(block.height, BOARD_HEIGHT);
  const facts = {
    instrument: arrangement.instrument,
    notes: arrangement.fingering.notes.filter(({ of }) => own.has(of)).map(drawnOf),
    names: style.names,
    tab: style.tab,
    sounds: arrangement.tuning.pitches,
  };
  const board = fingerboardSvg(facts, style, Math.min(height, 1.4 * BOARD_HEIGHT));
  const left = pageSize(style).width - MARGIN - BOARD_WIDTH + 6;
  return { height, draw: (y) => [block.draw(y), group(left, y, 1, board)].join('\n') };
}

/** One line of music at a place. */
export function lineBlock(
  arrangement: Arrangement,
  { phrase, from, to, label }: SheetLine,
  staff: EngravedLineOfSheet,
  style: SheetStyle,
  { space, x, head }: LinePlace,
): Block {
  const scale = space / LANE_UNIT;
  const large = Math.min(LARGEST_LABEL, scaleOf(style));
  const unitsPerSpace = Number(staff.viewBox.split(' ')[2]) / staff.width;
  const places = lineInput(arrangement, { from, to }, style, {
    x: (id) => (staff.heads[id] ? staff.heads[id].x * LANE_UNIT : undefined),
    width: staff.width * LANE_UNIT,
    barlines: staff.barlines.map((at) => at * LANE_UNIT),
  });
  const all = lanesOf(places, printedLanes(style)).map(closed);
  // Words stand under the staff that they are sung to.
  const words = style.staff ? all.filter(({ id }) => id === 'words') : [];
  const lanes = [...words, ...all.filter((lane) => !words.includes(lane))];
  const numbers = style.barNumbers === 'bars' ? barNumberTexts(arrangement.tune, places) : [];
  const numbersRoom = numbers.length > 0 ? NUMBERS_ROOM * scale : 0;
  const staffHeight = style.staff ? staff.height * space : 0;
  const height = numbersRoom + staffHeight + lanes.reduce((sum, lane) => sum + lane.height * scale, 0);
  const said = label ? likeText(arrangement, phrase) : '';
  const note = said ? textSvg(x + LABEL, -4, said, { size: 8.5, colour: SOFT }) : '';
  return {
    height: height + head,
    draw: (top) => {
      const left = x + LABEL;
      const drawn: string[] = [];
      let y = top + head + numbersRoom;
      if (numbers.length > 0) drawn.push(group(left, top + head, scale, numbers.join('')));
      const stack = (side: 'above' | 'below') => {
        for (const lane of lanes.filter((one) => one.side === side)) {
          drawn.push(group(left, y, scale, lane.shapes.map(shapeSvg).join('')));
          y += lane.height * scale;
        }
      };
      stack('above');
      const staffTop = y;
      y += staffHeight;
      stack('below');
      const middle = style.staff ? staffTop + staffHeight / 2 : top + head + height / 2;
      return [
        note ? group(0, top + head, 1, note) : '',
        label ? textSvg(x, middle, label, { size: 11 * large, weight: 'bold', colour: '#9a4a1c' }) : '',
        style.barNumbers === 'lines'
          ? textSvg(
              x,
              middle + (label ? 9 * large : 0),
              firstBarText(arrangement.tune, label ? phrase.downbeat : from, large),
              { size: NUMBER * large, colour: SOFT },
            )
          : '',
        style.staff ? staffSvg(staff, left, staffTop, space / unitsPerSpace) : '',
        ...drawn,
      ].join('\n');
    },
  };
}

/** A lane takes no room on paper for what does not stand on it. */
function closed(lane: Lane): Lane {
  if (lane.shapes.length === 0) return { ...lane, height: 0 };
  const bracketed = lane.id !== 'bow' || lane.shapes.some(({ role }) => role === 'stroke');
  return bracketed ? lane : { ...lane, height: BOW_ALONE };
}
/** Of signs of the bow without a bracket under them. */
const BOW_ALONE = 17;

/** The bar that a line begins with, as people count; its pickup belongs to it. */
function firstBarText({ bars }: Tune, from: Ticks, large: number): string {
  const number = Math.max(1, barNumbers(bars)[barIndexAt(barStarts(bars), from)] ?? 1);
  const text = `bar ${number}`;
  return textWidth(text, NUMBER * large) <= LABEL - 2 ? text : String(number);
}
/** Size of a bar's number at the left, and how much larger than usual names at the left become at the most. */
const NUMBER: Points = 6.5;
const LARGEST_LABEL = 1.4;

/** A phrase that stands on the sheet already: its name, and whose it is like. */
function namedBlock({ phrase, label }: PrintedLine, as: Printed, style: SheetStyle): Block {
  const large = Math.min(LARGEST_LABEL, scaleOf(style));
  const size = 11 * large;
  return {
    height: size * 1.6,
    phrase: phrase.id,
    draw: (y) =>
      textSvg(MARGIN, y + size, label, { size, weight: 'bold', colour: '#9a4a1c' }) +
      textSvg(
        MARGIN + LABEL + 6,
        y + size,
        `once more, all as ${as.label}${as.begins ? `, on the other bow: begin ${as.begins}` : ''}`,
        { size },
      ),
  };
}

/** Empty lines to write on. */
function writingBlock(style: SheetStyle): Block | null {
  const { writingLines } = style;
  if (writingLines === 0) return null;
  const { width } = pageSize(style);
  return {
    height: writingLines * WRITING_ROW,
    goesOn: true,
    draw: (y) =>
      Array.from({ length: writingLines }, (_, row) => {
        const at = y + (row + 1) * WRITING_ROW - 4;
        return `<line x1="${MARGIN + LABEL}" y1="${at}" x2="${width - MARGIN}" y2="${at}" stroke="${SOFT}" stroke-width="0.4"/>`;
      }).join(''),
  };
}
/** A hand writes that high. */
const WRITING_ROW: Points = 18;

/** Each bar's number over its beginning; one that a repeat parts is counted once, a pickup not at all. */
function barNumberTexts({ bars }: Tune, places: LaneInput): readonly string[] {
  const numbers = barNumbers(bars);
  const ends = barEnds(places);
  return places.bars.flatMap(({ bar, opens }, index) => {
    const first = places.written.find((event) => event.bar === bar);
    const at = index === 0 ? first && (places.x(first.id) ?? 0) - 8 : ends[index - 1];
    const number = numbers[bar]!;
    if (!opens || at === undefined || number === 0 || number === numbers[bar - 1]) return [];
    return [textSvg(at, NUMBERS_ROOM - 2, String(number), { size: 8, colour: SOFT })];
  });
}
/** Room above a line for the numbers of its bars, in the unit of the lanes. */
const NUMBERS_ROOM = 11;

/** Room above a phrase that is like another one, where that is said. */
const NOTE_ROOM: Points = 11;

/** What an earlier phrase a phrase is like; empty for new material. */
const likeText = (arrangement: Arrangement, phrase: Phrase): string =>
  relationText(relationInTune(arrangement.tune, phrase), labelOf(arrangement, phrase.relation.of));

const labelOf = ({ form }: Arrangement, id: string | null): string =>
  phrasesOf(form).find((phrase) => phrase.id === id)?.label ?? '';

/** The engraver's markup in the sheet's ink and fonts. */
function staffSvg(staff: EngravedLineOfSheet, x: number, y: number, scale: number): string {
  const markup = staff.markup
    .replaceAll('currentColor', INK)
    .replace(/ font-family="[^"]*"/g, '')
    .replace(/>\s+</g, '><')
    .replace(
      /(<tspan[^>]*>)([^<]+)(<\/tspan>)/g,
      (_, open: string, text: string, close: string) => open + richText(decode(text)) + close,
    );
  const top = Number(staff.viewBox.split(' ')[1]) * scale;
  return `<g transform="translate(${x.toFixed(2)} ${(y - top).toFixed(2)}) scale(${scale.toFixed(6)})" font-family="${TEXT_FONT}" fill="${INK}" stroke="${INK}" stroke-width="0">${markup}</g>`;
}

const decode = (text: string) =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

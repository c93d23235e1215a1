/** The lines of a tune as blocks: staff and lanes lined up, beside the phrase's name. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf, relationInTune, type Phrase } from '../form/index.ts';
import { shownLanes, type SheetStyle } from '../paper/index.ts';
import { relationText } from '../words/index.ts';
import { barIndexAt, barNumbers, barStarts, type Ticks, type Tune } from '../music/index.ts';
import { barEnds } from './barEnds.ts';
import { drawnOf, hairLine, lanesOf, type LaneInput } from './lanes/index.ts';
import { BOARD_WIDTH, fingerboardSvg } from './fingerboard.ts';
import { sheetLines, type SheetLine } from './lines.ts';
import { INK, TEXT_FONT, richText, shapeSvg, textSvg } from './svg.ts';
import { LABEL, MARGIN, SOFT, group, pageSize, type Block, type Points } from './paperPage.ts';
import { barMarksIn, writtenIn } from './written.ts';

/** Size of a staff space on paper, and the least it may shrink to so that a phrase fits the line. */
const SPACE: Points = 6.6;
const LEAST_SPACE: Points = 3.6;
/** Lanes are drawn for a staff space of seven. */
const LANE_UNIT = 7;

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

/** A card, and big print, are set as large as the line allows, up to this. */
const LARGEST_SPACE: Points = 13;

/** Lines of the sheet from top to bottom; by width several stand beside each other. */
export function lineBlocks(
  arrangement: Arrangement,
  staves: readonly EngravedLineOfSheet[],
  style: SheetStyle,
  squeeze: number,
): readonly Block[] {
  const { width } = pageSize(style);
  const withBoard = style.fingerboard && style.layout !== 'width';
  const available = width - 2 * MARGIN - LABEL - (withBoard ? BOARD_WIDTH : 0);
  const byId = new Map(staves.map((staff) => [staff.lineId, staff]));
  const lines = sheetLines(arrangement.tune, arrangement.form, style).flatMap((line) => {
    const staff = byId.get(line.id);
    return staff ? [{ line, staff }] : [];
  });
  const headOf = ({ label, phrase }: SheetLine) => (label && likeText(arrangement, phrase) ? NOTE_ROOM : 0);
  const widest = Math.max(1, ...lines.map(({ staff }) => staff.width));
  const large = style.layout === 'big' || style.layout === 'cue';
  // One size for the whole sheet; a line wider than the paper is set smaller alone.
  const common = Math.max(LEAST_SPACE, Math.min(large ? LARGEST_SPACE : SPACE, available / widest)) * squeeze;
  if (style.layout !== 'width') {
    return lines.map(({ line, staff }) => ({
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
      ...(line.label === '' ? { goesOn: true } : { begins: true }),
    }));
  }
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
  const ids = shownLanes(style);
  const unitsPerSpace = Number(staff.viewBox.split(' ')[2]) / staff.width;
  const written = writtenIn(arrangement.tune, { from, to });
  const inLine = new Set(written.map(({ id }) => id));
  const places: LaneInput = {
    instrument: arrangement.instrument,
    notes: arrangement.fingering.notes.filter(({ of }) => inLine.has(of)).map(drawnOf),
    starts: arrangement.bowing.starts,
    signs: arrangement.bowing,
    hair: ids.includes('hair') ? hairLine(arrangement.bowing, arrangement.travel(), inLine) : null,
    counts: new Map([...arrangement.counts].filter(([id]) => inLine.has(id))),
    written,
    bars: barMarksIn(arrangement.tune, { from, to }),
    names: style.names,
    tab: style.tab,
    sounds: arrangement.tuning.pitches,
    x: (id) => (staff.heads[id] ? staff.heads[id].x * LANE_UNIT : undefined),
    width: staff.width * LANE_UNIT,
    barlines: staff.barlines.map((at) => at * LANE_UNIT),
  };
  const lanes = lanesOf(places, ids);
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
        label ? textSvg(x, middle, label, { size: 11, weight: 'bold', colour: '#9a4a1c' }) : '',
        style.barNumbers === 'lines'
          ? textSvg(x, middle + (label ? 9 : 0), firstBarText(arrangement.tune, label ? phrase.downbeat : from), {
              size: 6.5,
              colour: SOFT,
            })
          : '',
        style.staff ? staffSvg(staff, left, staffTop, space / unitsPerSpace) : '',
        ...drawn,
      ].join('\n');
    },
  };
}

/** The bar that a line begins with, as people count; its pickup belongs to it. */
function firstBarText({ bars }: Tune, from: Ticks): string {
  const number = barNumbers(bars)[barIndexAt(barStarts(bars), from)] ?? 1;
  return number < 100 ? `bar ${Math.max(1, number)}` : String(number);
}

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
  return `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${scale.toFixed(6)})" font-family="${TEXT_FONT}" fill="${INK}" stroke="${INK}" stroke-width="0">${markup}</g>`;
}

const decode = (text: string) =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

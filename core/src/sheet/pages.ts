/**
 * The printed sheet: title, one phrase a line with staff and lanes, and a legend of the signs it uses.
 * The staff comes engraved; what is laid out here is everything around it.
 */
import { beatTempoText, keyName, type Metre, type Tune } from '../music/index.ts';
import { phrasesOf, type Phrase } from '../form/index.ts';
import { tuningText } from '../instrument/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { drawnOf, hairLine, lanesOf, signsOf, type SheetFacts } from './lanes/index.ts';
import { sheetLines, type SheetLine } from './lines.ts';
import { USUAL_STYLE, shownLanes, type Paper, type SheetStyle } from './style.ts';
import { USUAL_NAMING, relationText, versionText } from '../words/index.ts';
import { barMarksIn, writtenIn } from './written.ts';
import { legendOf } from './legend.ts';
import { INK, TEXT_FONT, TITLE_FONT, legendSvg, richText, shapeSvg, textSvg } from './svg.ts';

/** Points, 72 to the inch. */
type Points = number;

export const PAPER_SIZE: Readonly<
  Record<Paper, { readonly width: Points; readonly height: Points; readonly name: string }>
> = {
  a4: { width: 595.28, height: 841.89, name: 'A4' },
  letter: { width: 612, height: 792, name: 'Letter' },
};

/**
 * @example pageSize({ paper: 'letter', landscape: true }).width // 792
 */
export function pageSize({ paper, landscape }: Pick<SheetStyle, 'paper' | 'landscape'>) {
  const { width, height } = PAPER_SIZE[paper];
  return landscape ? { width: height, height: width } : { width, height };
}

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

const MARGIN: Points = 40;
const LABEL: Points = 24;
/** Size of a staff space on paper, and the least it may shrink to so that a phrase fits the line. */
const SPACE: Points = 6.6;
const LEAST_SPACE: Points = 3.6;
/** A sheet a little too long for one page is set smaller, down to this share, rather than run over. */
const LEAST_SQUEEZE = 0.72;
/** Lanes are drawn for a staff space of seven. */
const LANE_UNIT = 7;
const GAP: Points = 13;
const HEADER: Points = 78;
const LEGEND_ROW: Points = 17;
const FOOTER: Points = 24;

interface Block {
  readonly height: Points;
  /** A phrase begins with it, or goes on in it from the line before. */
  readonly begins?: boolean;
  readonly goesOn?: boolean;
  /** Id of the phrase that it is of. */
  readonly phrase?: string;
  draw(y: Points): string;
}

/** A card, and big print, are set as large as the line allows, up to this. */
const LARGEST_SPACE: Points = 13;

/**
 * @param said what to say of a phrase, by its id, where that is wished
 * @returns one SVG document for each page
 * @example sheetPages(arrangement, []).length // 1
 */
export function sheetPages(
  arrangement: Arrangement,
  staves: readonly EngravedLineOfSheet[],
  style: SheetStyle = USUAL_STYLE,
  said: ReadonlyMap<string, string> = new Map(),
): readonly string[] {
  const { width, height } = pageSize(style);
  const bottom = height - MARGIN - FOOTER;
  const legend = legendBlock(arrangement, style, width);
  const full = withTalk(lineBlocks(arrangement, staves, style, width, 1), said, style, width);
  const sum = full.reduce((all, block) => all + block.height, 0);
  const room = bottom - MARGIN - HEADER - legend.height - GAP * full.length;
  const squeeze = room / sum;
  const fits = squeeze < 1 && squeeze >= LEAST_SQUEEZE && style.layout !== 'big' && !style.talk;
  const blocks = [...(fits ? lineBlocks(arrangement, staves, style, width, squeeze * 0.99) : full), legend];
  const pages: string[][] = [[header(arrangement, style, width)]];
  let y = MARGIN + HEADER;
  for (const [index, block] of blocks.entries()) {
    // A phrase that is cut into lines is not cut by the page where it can stand on the next one whole.
    const together = phraseHeight(blocks, index);
    const over = y + block.height > bottom || (y + together > bottom && MARGIN + together <= bottom);
    if (over && y > MARGIN + HEADER) {
      pages.push([]);
      y = MARGIN;
    }
    pages.at(-1)!.push(block.draw(y));
    y += block.height + GAP;
  }
  return pages.map((content, index) =>
    page(content.join('\n'), width, height, footer(arrangement.tune, index, pages.length, width, height)),
  );
}

/** What is said stands under the last line of its phrase. */
function withTalk(
  blocks: readonly Block[],
  said: ReadonlyMap<string, string>,
  style: SheetStyle,
  width: Points,
): readonly Block[] {
  if (!style.talk) return blocks;
  const size = style.layout === 'cue' || style.layout === 'big' ? 15 : 10.5;
  return blocks.flatMap((block, index): Block[] => {
    const text = block.phrase !== undefined && !blocks[index + 1]?.goesOn ? said.get(block.phrase) : undefined;
    if (!text) return [block];
    const lines = wrapped(text, (width - 2 * MARGIN - LABEL) / (size * LETTER_WIDTH));
    const leading = size * 1.4;
    return [
      block,
      {
        height: lines.length * leading,
        goesOn: true,
        draw: (y) =>
          lines.map((line, row) => textSvg(MARGIN + LABEL, y + size + row * leading, line, { size })).join('\n'),
      },
    ];
  });
}

/** A letter is so wide at the most, on the average of a line, beside its size. */
const LETTER_WIDTH = 0.56;

/** A text in lines of so many letters. */
function wrapped(text: string, most: number): readonly string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** From a line that begins a phrase, the height of all its lines; else of the line alone. */
function phraseHeight(blocks: readonly Block[], at: number): Points {
  let sum = blocks[at]!.height;
  if (!blocks[at]!.begins) return sum;
  for (let next = at + 1; blocks[next]?.goesOn; next += 1) sum += GAP + blocks[next]!.height;
  return sum;
}

function page(content: string, width: Points, height: Points, foot: string): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>\n${content}\n${foot}</svg>`;
}

const COMMON: Metre = { beats: 4, unit: 4 };
const metreText = ({ beats, unit }: Metre) => `${beats}/${unit}`;

function header(
  { tune, decisions, instrument: { name }, tuning, tempo }: Arrangement,
  { staff }: SheetStyle,
  width: Points,
): string {
  const key = tune.bars[0] ? keyName(tune.bars[0].key) : '';
  const version = versionText(decisions.version);
  const facts = [
    name,
    version,
    key,
    // The staff says it itself.
    staff ? '' : metreText(tune.bars[0]?.metre ?? COMMON),
    `strings ${tuningText(tuning.pitches)}`,
    beatTempoText(tune.bars[0]?.metre ?? COMMON, tempo),
  ]
    .filter(Boolean)
    .join('  ·  ');
  const by = [tune.composer, tune.origin].filter(Boolean).join(', ');
  return [
    textSvg(MARGIN, MARGIN + 22, tune.title, { size: titleSize(tune.title), font: TITLE_FONT, weight: 'bold' }),
    textSvg(MARGIN, MARGIN + 42, facts, { size: 10 }),
    by || tune.style
      ? textSvg(MARGIN, MARGIN + 57, [tune.style, by].filter(Boolean).join('  ·  '), { size: 10, colour: '#6b6257' })
      : '',
    `<circle cx="${width - MARGIN - 5}" cy="${MARGIN + 15}" r="5" fill="#9a4a1c"/>`,
  ].join('\n');
}

/** Long titles are set smaller, so that they stay on the line. */
const titleSize = (title: string) => (title.length > 60 ? 14 : title.length > 38 ? 18 : 24);

function footer(tune: Tune, index: number, count: number, width: Points, height: Points): string {
  if (count === 1) return '';
  return textSvg(width - MARGIN, height - MARGIN + 8, `${tune.title}  ·  ${index + 1} of ${count}`, {
    size: 8.5,
    anchor: 'end',
    colour: '#6b6257',
  });
}

/** Lines of the sheet from top to bottom; by width several stand beside each other. */
function lineBlocks(
  arrangement: Arrangement,
  staves: readonly EngravedLineOfSheet[],
  style: SheetStyle,
  width: Points,
  squeeze: number,
): readonly Block[] {
  const available = width - 2 * MARGIN - LABEL;
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
      ...lineBlock(arrangement, line, staff, style, Math.min(common, available / staff.width), MARGIN, headOf(line)),
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
      const block = lineBlock(arrangement, line, staff, style, space, x, head);
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

function lineBlock(
  arrangement: Arrangement,
  { phrase, from, to, label }: SheetLine,
  staff: EngravedLineOfSheet,
  style: SheetStyle,
  space: Points,
  x: Points,
  head: Points,
): Block {
  const scale = space / LANE_UNIT;
  const ids = shownLanes(style);
  const unitsPerSpace = Number(staff.viewBox.split(' ')[2]) / staff.width;
  const written = writtenIn(arrangement.tune, { from, to });
  const inLine = new Set(written.map(({ id }) => id));
  const lanes = lanesOf(
    {
      instrument: arrangement.instrument,
      notes: arrangement.fingering.notes.filter(({ of }) => inLine.has(of)).map(drawnOf),
      starts: arrangement.bowing.starts,
      signs: arrangement.bowing,
      hair: ids.includes('hair') ? hairLine(arrangement.bowing, arrangement.travel(), inLine) : null,
      counts: new Map([...arrangement.counts].filter(([id]) => inLine.has(id))),
      ...{ written, bars: barMarksIn(arrangement.tune, { from, to }), naming: style.naming },
      x: (id) => (staff.heads[id] ? staff.heads[id].x * LANE_UNIT : undefined),
      width: staff.width * LANE_UNIT,
      barlines: staff.barlines.map((at) => at * LANE_UNIT),
    },
    ids,
  );
  const staffHeight = style.staff ? staff.height * space : 0;
  const height = staffHeight + lanes.reduce((sum, lane) => sum + lane.height * scale, 0);
  const said = label ? likeText(arrangement, phrase) : '';
  const note = said ? textSvg(x + LABEL, -4, said, { size: 8.5, colour: '#6b6257' }) : '';
  return {
    height: height + head,
    draw: (top) => {
      const left = x + LABEL;
      const drawn: string[] = [];
      let y = top + head;
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
        style.staff ? staffSvg(staff, left, staffTop, space / unitsPerSpace) : '',
        ...drawn,
      ].join('\n');
    },
  };
}

/** Room above a phrase that is like another one, where that is said. */
const NOTE_ROOM: Points = 11;

/** What an earlier phrase a phrase is like; empty for new material. */
const likeText = (arrangement: Arrangement, { relation }: Phrase): string =>
  relationText(relation, labelOf(arrangement, relation.of));

const labelOf = ({ form }: Arrangement, id: string | null): string =>
  phrasesOf(form).find((phrase) => phrase.id === id)?.label ?? '';

const group = (x: number, y: number, scale: number, content: string) =>
  `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${scale.toFixed(4)})">${content}</g>`;

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

/**
 * The facts of a whole arrangement, for its legend.
 * @example sheetFacts(arrangement).phrases.length // 2
 */
export function sheetFacts({ tune, instrument, fingering, bowing, counts, form }: Arrangement): SheetFacts {
  return {
    instrument,
    notes: fingering.notes.map(drawnOf),
    starts: bowing.starts,
    signs: bowing,
    hair: null,
    bowing,
    counts,
    written: phrasesOf(form).flatMap((phrase) => writtenIn(tune, phrase)),
    bars: [],
    naming: USUAL_NAMING,
    phrases: phrasesOf(form),
  };
}

/** The facts of what stands on the sheet: a card shows one phrase only. */
function shownFacts(arrangement: Arrangement, style: SheetStyle): SheetFacts {
  const all = sheetFacts(arrangement);
  const lines = sheetLines(arrangement.tune, arrangement.form, style);
  const own = new Set(lines.flatMap((line) => writtenIn(arrangement.tune, line).map(({ id }) => id)));
  const { strokes, marked, accents, regions } = all.bowing;
  return {
    ...all,
    notes: all.notes.filter(({ of }) => own.has(of)),
    written: all.written.filter(({ id }) => own.has(id)),
    bowing: {
      ...all.bowing,
      strokes: strokes.filter(({ notes }) => own.has(notes[0]!)),
      marked: new Set([...marked].filter((id) => own.has(id))),
      accents: new Set([...accents].filter((id) => own.has(id))),
      regions: Object.fromEntries(Object.entries(regions).filter(([id]) => own.has(id))),
    },
    // What leads from one line to the next is drawn on neither.
    phrases: lines.map((line) => ({ notes: writtenIn(arrangement.tune, line).map(({ id }) => id) })),
  };
}

function legendBlock(arrangement: Arrangement, style: SheetStyle, width: Points): Block {
  const entries = legendOf(signsOf(shownFacts(arrangement, style), shownLanes(style)));
  const columns = style.landscape ? 6 : 4;
  const column = (width - 2 * MARGIN) / columns;
  return {
    height: Math.ceil(entries.length / columns) * LEGEND_ROW + 8,
    draw: (top) =>
      [
        `<line x1="${MARGIN}" y1="${top}" x2="${width - MARGIN}" y2="${top}" stroke="#6b6257" stroke-width="0.5"/>`,
        ...entries.map(({ sign, text }, index) => {
          const x = MARGIN + (index % columns) * column;
          const y = top + 16 + Math.floor(index / columns) * LEGEND_ROW;
          return legendSvg(sign, x + 8, y) + textSvg(x + 22, y + 3, text, { size: 9 });
        }),
      ].join('\n'),
  };
}

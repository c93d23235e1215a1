/**
 * The printed sheet: title, one phrase a line with staff and lanes, and a legend of the signs it uses.
 * The staff comes engraved; what is laid out here is everything around it.
 */
import { beatTempoText, keyName, type Metre, type Tune } from '../music/index.ts';
import { phrasesOf, type Phrase } from '../form/index.ts';
import { tuningText } from '../instrument/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { drawnOf, hairLine, lanesOf, signsOf, USUAL_LANES, type LaneId, type SheetFacts } from './lanes/index.ts';
import { versionText } from '../words/index.ts';
import { legendOf } from './legend.ts';
import { INK, TEXT_FONT, TITLE_FONT, legendSvg, richText, shapeSvg, textSvg } from './svg.ts';

export const PAPERS = ['a4', 'letter'] as const;
export type Paper = (typeof PAPERS)[number];
/** Points, 72 to the inch. */
type Points = number;

export const PAPER_SIZE: Readonly<
  Record<Paper, { readonly width: Points; readonly height: Points; readonly name: string }>
> = {
  a4: { width: 595.28, height: 841.89, name: 'A4' },
  letter: { width: 612, height: 792, name: 'Letter' },
};

/** A phrase's staff, as the engraver gives it; lengths in staff spaces. */
export interface EngravedPhrase {
  readonly phraseId: string;
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
  draw(y: Points): string;
}

/**
 * @returns one SVG document for each page
 * @example sheetPages(arrangement, []).length // 1
 */
export function sheetPages(
  arrangement: Arrangement,
  staves: readonly EngravedPhrase[],
  paper: Paper = 'a4',
  lanes: readonly LaneId[] = USUAL_LANES,
): readonly string[] {
  const { width, height } = PAPER_SIZE[paper];
  const bottom = height - MARGIN - FOOTER;
  const legend = legendBlock(arrangement, lanes, width);
  const full = phraseBlocks(arrangement, staves, lanes, width, 1);
  const room = bottom - MARGIN - HEADER - legend.height - GAP * full.length;
  const squeeze = room / full.reduce((sum, block) => sum + block.height, 0);
  const fits = squeeze < 1 && squeeze >= LEAST_SQUEEZE;
  const blocks = [...(fits ? phraseBlocks(arrangement, staves, lanes, width, squeeze * 0.99) : full), legend];
  const pages: string[][] = [[header(arrangement, width)]];
  let y = MARGIN + HEADER;
  for (const block of blocks) {
    if (y + block.height > bottom && y > MARGIN + HEADER) {
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

function page(content: string, width: Points, height: Points, foot: string): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>\n${content}\n${foot}</svg>`;
}

const COMMON: Metre = { beats: 4, unit: 4 };

function header({ tune, decisions, instrument: { name }, tuning, tempo }: Arrangement, width: Points): string {
  const key = tune.bars[0] ? keyName(tune.bars[0].key) : '';
  const version = versionText(decisions.version);
  const facts = [
    name,
    version,
    key,
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

function phraseBlocks(
  arrangement: Arrangement,
  staves: readonly EngravedPhrase[],
  ids: readonly LaneId[],
  width: Points,
  squeeze: number,
): readonly Block[] {
  const available = width - 2 * MARGIN - LABEL;
  const widest = Math.max(1, ...staves.map((staff) => staff.width));
  // One size for the whole sheet; a phrase wider than the line is set smaller alone.
  const common = Math.max(LEAST_SPACE, Math.min(SPACE, available / widest)) * squeeze;
  return phrasesOf(arrangement.form).flatMap((phrase) => {
    const staff = staves.find(({ phraseId }) => phraseId === phrase.id);
    return staff ? [phraseBlock(arrangement, phrase, staff, ids, Math.min(common, available / staff.width))] : [];
  });
}

function phraseBlock(
  arrangement: Arrangement,
  phrase: Phrase,
  staff: EngravedPhrase,
  ids: readonly LaneId[],
  space: Points,
): Block {
  const scale = space / LANE_UNIT;
  const unitsPerSpace = Number(staff.viewBox.split(' ')[2]) / staff.width;
  const inPhrase = new Set(phrase.notes);
  const lanes = lanesOf(
    {
      instrument: arrangement.instrument,
      notes: arrangement.fingering.notes.filter(({ of }) => inPhrase.has(of)).map(drawnOf),
      starts: arrangement.bowing.starts,
      signs: arrangement.bowing,
      hair: ids.includes('hair') ? hairLine(arrangement.bowing, arrangement.travel(), inPhrase) : null,
      counts: arrangement.counts,
      x: (id) => (staff.heads[id] ? staff.heads[id].x * LANE_UNIT : undefined),
      width: staff.width * LANE_UNIT,
      barlines: staff.barlines.map((x) => x * LANE_UNIT),
    },
    ids,
  );
  const staffHeight = staff.height * space;
  const height = staffHeight + lanes.reduce((sum, lane) => sum + lane.height * scale, 0);
  return {
    height,
    draw: (top) => {
      const left = MARGIN + LABEL;
      const drawn: string[] = [];
      let y = top;
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
      return [
        textSvg(MARGIN, staffTop + staffHeight / 2, phrase.label, { size: 11, weight: 'bold', colour: '#9a4a1c' }),
        staffSvg(staff, left, staffTop, space / unitsPerSpace),
        ...drawn,
      ].join('\n');
    },
  };
}

const group = (x: number, y: number, scale: number, content: string) =>
  `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${scale.toFixed(4)})">${content}</g>`;

/** The engraver's markup in the sheet's ink and fonts. */
function staffSvg(staff: EngravedPhrase, x: number, y: number, scale: number): string {
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
export function sheetFacts({ instrument, fingering, bowing, counts, form }: Arrangement): SheetFacts {
  return {
    instrument,
    notes: fingering.notes.map(drawnOf),
    starts: bowing.starts,
    signs: bowing,
    hair: null,
    bowing,
    counts,
    phrases: phrasesOf(form),
  };
}

function legendBlock(arrangement: Arrangement, ids: readonly LaneId[], width: Points): Block {
  const entries = legendOf(signsOf(sheetFacts(arrangement), ids));
  const columns = 4;
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

/** What stands around the tunes of a book: cover, contents, the signs, a page for notes, the index. */
import type { SheetStyle } from '../paper/index.ts';
import type { BookEntry } from './bookChapter.ts';
import { LEGEND_ORDER, legendOf, type LegendSign } from './legend.ts';
import { legendLines } from './legendBlock.ts';
import { pageHead } from './pageHead.ts';
import { FOOTER, MARGIN, SOFT, pageSize, type Block, type Points } from './paperPage.ts';
import { TITLE_FONT, textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

type Paper = Pick<SheetStyle, 'paper' | 'landscape'>;
const ACCENT = '#9a4a1c';

interface Cover {
  readonly title: string;
  readonly edition: string;
  readonly line: string;
  readonly count: number;
}

/** Title, whose it is, and a row of beads: one for each tune. */
export function coverPage({ title, edition, line, count }: Cover, style: Paper): string {
  const { width, height } = pageSize(style);
  const size = 38;
  const lines = wrappedTo(title, width - 2 * COVER, size, 'title');
  const top = height * 0.3;
  const under = top + lines.length * size * 1.2;
  const facts = [edition, `${count} ${count === 1 ? 'tune' : 'tunes'}`].filter(Boolean).join('  ·  ');
  return [
    ...lines.map((text, row) =>
      textSvg(COVER, top + row * size * 1.2, text, { size, font: TITLE_FONT, weight: 'bold' }),
    ),
    textSvg(COVER, under, facts, { size: 15 }),
    line ? textSvg(COVER, under + 24, line, { size: 12, colour: SOFT }) : '',
    beads(COVER, under + 58, width - COVER, count),
  ].join('\n');
}
const COVER: Points = 70;
const BEAD: Points = 12;
const MOST_BEADS = 120;

/** A row of dots, as many as there are tunes. */
function beads(left: Points, top: Points, right: Points, count: number): string {
  const across = Math.floor((right - left) / (2 * BEAD));
  return Array.from({ length: Math.min(count, MOST_BEADS) }, (_, index) => {
    const [x, y] = [left + BEAD / 2 + (index % across) * 2 * BEAD, top + Math.floor(index / across) * 2 * BEAD];
    return `<circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${BEAD / 2}" fill="${ACCENT}"/>`;
  }).join('');
}

const ROW: Points = 19;
const SIZE: Points = 11.5;
/** Columns at the right of a contents line: the page, how difficult, the key. */
const PAGE: Points = 26;
const HARD: Points = 76;
const KEY: Points = 80;

/** The tunes in their order, with key, difficulty and page. */
export function contentsPage(entries: readonly BookEntry[], style: Paper): readonly string[] {
  return listed('Contents', 'Each with its key, how difficult it is (of 10), and its page.', entries, style);
}

/** The same by title, by key and by difficulty, where there is something to find. */
export function indexPages(entries: readonly BookEntry[], style: Paper): readonly string[] {
  if (entries.length < LEAST_INDEXED) return [];
  const titles = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
  const byTitle = (one: BookEntry, other: BookEntry) => titles.compare(one.title, other.title);
  return [
    ...listed('By title', '', [...entries].sort(byTitle), style),
    ...listed(
      'By key',
      '',
      [...entries].sort((a, b) => titles.compare(a.key, b.key) || byTitle(a, b)),
      style,
    ),
    ...listed(
      'From easy to hard',
      '',
      [...entries].sort((a, b) => a.difficulty - b.difficulty || byTitle(a, b)),
      style,
    ),
  ];
}
const LEAST_INDEXED = 6;

function listed(title: string, facts: string, entries: readonly BookEntry[], style: Paper): readonly string[] {
  const { width, height } = pageSize(style);
  const head = pageHead({ title, facts }, width);
  const rows = Math.max(1, Math.floor((height - 2 * MARGIN - FOOTER - head.height) / ROW));
  const right = width - MARGIN;
  const pages = Array.from({ length: Math.max(1, Math.ceil(entries.length / rows)) }, (_, page) =>
    entries.slice(page * rows, (page + 1) * rows),
  );
  return pages.map((own) =>
    [
      head.markup,
      ...own.map((entry, row) => {
        const y = MARGIN + head.height + (row + 1) * ROW;
        const room = right - MARGIN - PAGE - HARD - KEY - 12;
        const [name = '', more] = wrappedTo(entry.title, room, SIZE);
        const said = more === undefined ? name : `${name}…`;
        const from = MARGIN + textWidth(said, SIZE) + 6;
        return [
          textSvg(MARGIN, y, said, { size: SIZE }),
          `<line x1="${from.toFixed(1)}" y1="${y - 1}" x2="${right - PAGE - HARD - KEY - 6}" y2="${y - 1}" stroke="${SOFT}" stroke-width="0.8" stroke-dasharray="0.8 4" stroke-linecap="round"/>`,
          textSvg(right - PAGE - HARD - KEY, y, entry.key, { size: 9.5, colour: SOFT }),
          textSvg(right - PAGE - 18, y, entry.difficulty.toFixed(1), { size: 9.5, anchor: 'end', colour: SOFT }),
          textSvg(right, y, String(entry.page), { size: SIZE, anchor: 'end', weight: 'bold' }),
        ].join('');
      }),
    ].join('\n'),
  );
}

/** Every sign that stands somewhere in the book. */
export function signsBlock(signs: readonly LegendSign[], style: Paper): Block {
  const used = new Set(signs);
  const entries = legendOf(LEGEND_ORDER.filter((sign) => used.has(sign)));
  return legendLines(entries, pageSize(style).width - 2 * MARGIN, 'dots', 1.2);
}

/** A page to write on, where a tune of two pages has to begin on the next one. */
export function notesPage(style: Paper): string {
  const { width, height } = pageSize(style);
  const head = pageHead({ title: 'Notes', facts: '' }, width);
  const top = MARGIN + head.height;
  const count = Math.floor((height - MARGIN - FOOTER - top) / 26);
  return [
    head.markup,
    ...Array.from({ length: count }, (_, row) => {
      const y = top + row * 26;
      return `<line x1="${MARGIN}" y1="${y}" x2="${width - MARGIN}" y2="${y}" stroke="${SOFT}" stroke-width="0.4"/>`;
    }),
  ].join('\n');
}

/** The paper: its size and margins, blocks from top to bottom on pages, and what stands at the foot of each. */
import type { Paper, PrintSize, SheetStyle } from '../paper/index.ts';
import { textSvg } from './svg.ts';
import { wrappedTo } from './textWidth.ts';

/** Points, 72 to the inch. */
export type Points = number;

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

/** What is printed large is so many times as large. */
const SCALES: Readonly<Record<PrintSize, number>> = { usual: 1, large: 1.3, largest: 1.7 };
const BIG = 1.4;

/**
 * How much larger than usual everything on a sheet is.
 * @example scaleOf({ size: 'large', layout: 'phrases' }) // 1.3
 */
export const scaleOf = ({ size, layout }: Pick<SheetStyle, 'size' | 'layout'>): number =>
  SCALES[size] * (layout === 'big' ? BIG : 1);

export const MARGIN: Points = 40;
export const LABEL: Points = 24;
export const GAP: Points = 13;
export const HEADER: Points = 75;
export const FOOTER: Points = 24;
/** A sheet a little too long for one page is set smaller, down to this share, rather than run over. */
export const LEAST_SQUEEZE = 0.7;

/** Something that stands across the page. */
export interface Block {
  readonly height: Points;
  /** A phrase begins with it, or goes on in it from the line before. */
  readonly begins?: boolean;
  readonly goesOn?: boolean;
  /** Free below it; else as usual. */
  readonly gap?: Points;
  /** Id of the phrase that it is of. */
  readonly phrase?: string;
  draw(y: Points): string;
}

const gapOf = ({ gap = GAP }: Block): Points => gap;

/** From a line that begins a phrase, the height of all its lines; else of the line alone. */
function phraseHeight(blocks: readonly Block[], at: number): Points {
  let sum = blocks[at]!.height;
  if (!blocks[at]!.begins) return sum;
  for (let next = at + 1; blocks[next]?.goesOn; next += 1) sum += gapOf(blocks[next - 1]!) + blocks[next]!.height;
  return sum;
}

/** Colour of what stands beside the music. */
export const SOFT = '#6b6257';

export const group = (x: number, y: number, scale: number, content: string): string =>
  `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${scale.toFixed(4)})">${content}</g>`;

export interface PageHead {
  readonly height: Points;
  readonly markup: string;
}

/** What is printed in one go, before its pages have numbers. */
export interface Contents {
  /** At the top of its first page. */
  readonly head: PageHead;
  readonly blocks: readonly Block[];
}

export interface Placed {
  readonly block: Block;
  /** From 0. */
  readonly page: number;
  readonly y: Points;
}

/** Where each block stands: none is cut, and a phrase of several is kept together where a page has the room. */
export function placed({ head, blocks }: Contents, style: Pick<SheetStyle, 'paper' | 'landscape'>): readonly Placed[] {
  const bottom = pageSize(style).height - MARGIN - FOOTER;
  const first = MARGIN + head.height;
  let [page, y] = [0, first];
  return blocks.map((block, index) => {
    // A phrase that is cut into lines is not cut by the page where it can stand on the next one whole.
    const together = phraseHeight(blocks, index);
    const over = y + block.height > bottom || (y + together > bottom && MARGIN + together <= bottom);
    if (over && y > (page === 0 ? first : MARGIN)) [page, y] = [page + 1, MARGIN];
    const here = { block, page, y };
    y += block.height + gapOf(block);
    return here;
  });
}

/** How many pages it takes. */
export const pagesFor = (contents: Contents, style: Pick<SheetStyle, 'paper' | 'landscape'>): number =>
  1 + (placed(contents, style).at(-1)?.page ?? 0);

/**
 * Contents as large as they can be on the fewest pages that they need anyway.
 * @param sizes that may be taken, the largest first
 */
export function fitted(
  sizes: readonly number[],
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
  contentsAt: (size: number) => Contents,
): Contents {
  const full = contentsAt(sizes[0]!);
  if (pagesFor(full, style) === 1) return full;
  const least = contentsAt(sizes.at(-1)!);
  const fewest = pagesFor(least, style);
  if (pagesFor(full, style) === fewest) return full;
  for (const size of sizes.slice(1, -1)) {
    const contents = contentsAt(size);
    if (pagesFor(contents, style) === fewest) return contents;
  }
  return least;
}

/** Blocks on pages. */
export function paginated(contents: Contents, style: Pick<SheetStyle, 'paper' | 'landscape'>): readonly string[] {
  const pages: string[][] = [[contents.head.markup]];
  for (const { block, page, y } of placed(contents, style)) (pages[page] ??= []).push(block.draw(y));
  return pages.map((content) => content.join('\n'));
}

/** A long title is cut at the foot. */
const FOOT_ROOM: Points = 300;

/** A page as a document of its own. */
export function pageDocument(content: string, foot: string, style: Pick<SheetStyle, 'paper' | 'landscape'>): string {
  const { width, height } = pageSize(style);
  return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>\n${content}\n${foot}</svg>`;
}

/** Pages as documents, each with the title and its number where there are several. */
export function bound(
  contents: readonly string[],
  title: string,
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
): readonly string[] {
  const { width, height } = pageSize(style);
  const [first, ...more] = wrappedTo(title, FOOT_ROOM, 8.5);
  const called = more.length > 0 ? `${first}…` : first;
  return contents.map((content, index) => {
    const foot =
      contents.length === 1
        ? ''
        : textSvg(width - MARGIN, height - MARGIN + 8, `${called}  ·  ${index + 1} of ${contents.length}`, {
            size: 8.5,
            anchor: 'end',
            colour: SOFT,
          });
    return pageDocument(content, foot, style);
  });
}

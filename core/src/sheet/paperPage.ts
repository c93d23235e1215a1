/** The paper: its size and margins, blocks from top to bottom on pages, and what stands at the foot of each. */
import type { Paper, SheetStyle } from '../paper/index.ts';
import { textSvg } from './svg.ts';

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

export const MARGIN: Points = 40;
export const LABEL: Points = 24;
export const GAP: Points = 13;
export const HEADER: Points = 78;
export const FOOTER: Points = 24;
/** A sheet a little too long for one page is set smaller, down to this share, rather than run over. */
export const LEAST_SQUEEZE = 0.72;

/** Something that stands across the page. */
export interface Block {
  readonly height: Points;
  /** A phrase begins with it, or goes on in it from the line before. */
  readonly begins?: boolean;
  readonly goesOn?: boolean;
  /** Id of the phrase that it is of. */
  readonly phrase?: string;
  draw(y: Points): string;
}

/** A letter is so wide at the most, on the average of a line, beside its size. */
export const LETTER_WIDTH = 0.56;

/** A text in lines of so many letters. @example wrapped('low first finger', 9) // ['low first', 'finger'] */
export function wrapped(text: string, most: number): readonly string[] {
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

/** Colour of what stands beside the music. */
export const SOFT = '#6b6257';

export const group = (x: number, y: number, scale: number, content: string): string =>
  `<g transform="translate(${x.toFixed(2)} ${y.toFixed(2)}) scale(${scale.toFixed(4)})">${content}</g>`;

/** What is printed in one go, before its pages have numbers. */
export interface Contents {
  /** At the top of its first page; `HEADER` high. */
  readonly head: string;
  readonly blocks: readonly Block[];
}

/** Blocks on pages; none is cut, and a phrase of several is kept together where a page has the room. */
export function paginated(
  { head, blocks }: Contents,
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
): readonly string[] {
  const bottom = pageSize(style).height - MARGIN - FOOTER;
  const pages: string[][] = [[head]];
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
  return pages.map((content) => content.join('\n'));
}

/** Pages as documents, each with the title and its number where there are several. */
export function bound(
  contents: readonly string[],
  title: string,
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
): readonly string[] {
  const { width, height } = pageSize(style);
  return contents.map((content, index) => {
    const foot =
      contents.length === 1
        ? ''
        : textSvg(width - MARGIN, height - MARGIN + 8, `${title}  ·  ${index + 1} of ${contents.length}`, {
            size: 8.5,
            anchor: 'end',
            colour: SOFT,
          });
    return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>\n${content}\n${foot}</svg>`;
  });
}

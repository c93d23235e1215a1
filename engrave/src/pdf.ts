/** Sheet pages as a vector PDF with its fonts embedded. Node only. */
import pdfmake from 'pdfmake';
import type { Content } from 'pdfmake/interfaces.js';
import { TEXT_FONT, pageSize, type Binding, type SheetStyle } from '@nokta/core/sheet';
import { FONTS, FONT_FILES } from './fonts.ts';

/**
 * Which pages stand beside each other on the sides of sheets, left and right, from 0; null for an empty one. A booklet
 * is printed on both sides, the sheets laid on each other and folded in the middle.
 * @example sidesOf(4, 'booklet') // [[3, 0], [1, 2]]
 */
export function sidesOf(count: number, binding: Exclude<Binding, 'pages'>): readonly (readonly (number | null)[])[] {
  const there = (page: number): number | null => (page < count ? page : null);
  if (binding === 'two-up')
    return Array.from({ length: Math.ceil(count / 2) }, (_, side) => [there(2 * side), there(2 * side + 1)]);
  const full = 4 * Math.ceil(count / 4);
  return Array.from({ length: full / 2 }, (_, side) => {
    const [outer, inner] = [there(full - 1 - side), there(side)];
    // The back of a sheet is turned: its lower page stands on the left.
    return side % 2 === 0 ? [outer, inner] : [inner, outer];
  });
}

/** A book, bound or to be bound. */
export async function bookPdf(
  pages: readonly string[],
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
  binding: Binding,
  title: string,
): Promise<Buffer> {
  if (binding === 'pages') return sheetPdf(pages, style, title);
  // On the same paper, laid across: each page has half of it.
  const { width, height } = pageSize({ paper: style.paper, landscape: true });
  const page = pageSize(style);
  const scale = Math.min(width / 2 / page.width, height / page.height);
  const own = { width: page.width * scale, height: page.height * scale };
  const content = sidesOf(pages.length, binding).map((side, index): Content => ({
    stack: side.flatMap((at, place): Content[] =>
      at === null
        ? []
        : [
            {
              svg: pages[at]!,
              width: own.width,
              absolutePosition: { x: (place * width) / 2 + (width / 2 - own.width) / 2, y: (height - own.height) / 2 },
            },
          ],
    ),
    ...(index > 0 && { pageBreak: 'before' as const }),
  }));
  return documentOf(content, { width, height }, title);
}

/** @param pages SVG documents of the paper's size */
export async function sheetPdf(
  pages: readonly string[],
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
  title: string,
): Promise<Buffer> {
  const { width, height } = pageSize(style);
  return documentOf(
    pages.map((svg, index) => ({ svg, width, ...(index > 0 && { pageBreak: 'before' as const }) })),
    { width, height },
    title,
  );
}

function documentOf(
  content: Content[],
  size: { readonly width: number; readonly height: number },
  title: string,
): Promise<Buffer> {
  pdfmake.setFonts(FONTS);
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => FONT_FILES.includes(path));
  const document = pdfmake.createPdf({
    info: { title, creator: 'Nokta' },
    pageSize: size,
    pageMargins: 0,
    defaultStyle: { font: TEXT_FONT },
    content,
  });
  return document.getBuffer();
}

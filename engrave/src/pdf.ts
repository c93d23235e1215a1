/** Sheet pages as a vector PDF with its fonts embedded. Node only. */
import pdfmake from 'pdfmake';
import { TEXT_FONT, pageSize, type SheetStyle } from '@nokta/core/sheet';
import { FONTS, FONT_FILES } from './fonts.ts';

/** @param pages SVG documents of the paper's size */
export async function sheetPdf(
  pages: readonly string[],
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
  title: string,
): Promise<Buffer> {
  const { width, height } = pageSize(style);
  pdfmake.setFonts(FONTS);
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => FONT_FILES.includes(path));
  const document = pdfmake.createPdf({
    info: { title, creator: 'Nokta' },
    pageSize: { width, height },
    pageMargins: 0,
    defaultStyle: { font: TEXT_FONT },
    content: pages.map((svg, index) => ({ svg, width, ...(index > 0 && { pageBreak: 'before' as const }) })),
  });
  return document.getBuffer();
}

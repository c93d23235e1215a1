/** Sheet pages as a vector PDF with its fonts embedded. Node only. */
import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';
import { FALLBACK_FONT, TEXT_FONT, TITLE_FONT, pageSize, type SheetStyle } from '@nokta/core/sheet';

const require = createRequire(import.meta.url);
const google = (family: string, file: string) => require.resolve(`@expo-google-fonts/${family}/${file}`);
const face = (normal: string, bold: string) => ({ normal, bold, italics: normal, bolditalics: bold });
const dejavu = (style: string) => require.resolve(`dejavu-fonts-ttf/ttf/DejaVuSans${style}.ttf`);

const FONTS = {
  [TEXT_FONT]: face(
    google('atkinson-hyperlegible-next', '400Regular/AtkinsonHyperlegibleNext_400Regular.ttf'),
    google('atkinson-hyperlegible-next', '700Bold/AtkinsonHyperlegibleNext_700Bold.ttf'),
  ),
  [TITLE_FONT]: face(
    google('fraunces', '400Regular/Fraunces_400Regular.ttf'),
    google('fraunces', '600SemiBold/Fraunces_600SemiBold.ttf'),
  ),
  [FALLBACK_FONT]: face(dejavu(''), dejavu('-Bold')),
};

const FONT_FILES: ReadonlySet<string> = new Set(Object.values(FONTS).flatMap((styles) => Object.values(styles)));

/** @param pages SVG documents of the paper's size */
export async function sheetPdf(
  pages: readonly string[],
  style: Pick<SheetStyle, 'paper' | 'landscape'>,
  title: string,
): Promise<Buffer> {
  const { width, height } = pageSize(style);
  pdfmake.setFonts(FONTS);
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => FONT_FILES.has(path));
  const document = pdfmake.createPdf({
    info: { title, creator: 'Nokta' },
    pageSize: { width, height },
    pageMargins: 0,
    defaultStyle: { font: TEXT_FONT },
    content: pages.map((svg, index) => ({ svg, width, ...(index > 0 && { pageBreak: 'before' as const }) })),
  });
  return document.getBuffer();
}

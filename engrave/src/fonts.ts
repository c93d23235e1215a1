/** The fonts of the sheet as files, found by their packages' own exports. Node only. */
import { createRequire } from 'node:module';
import { FALLBACK_FONT, TEXT_FONT, TITLE_FONT } from '@nokta/core/sheet';

const require = createRequire(import.meta.url);
const google = (family: string, file: string) => require.resolve(`@expo-google-fonts/${family}/${file}`);
const face = (normal: string, bold: string) => ({ normal, bold, italics: normal, bolditalics: bold });
const dejavu = (style: string) => require.resolve(`dejavu-fonts-ttf/ttf/DejaVuSans${style}.ttf`);

/** Family, and its faces by style. */
export const FONTS = {
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

export const FONT_FILES: readonly string[] = [
  ...new Set(Object.values(FONTS).flatMap((styles) => Object.values(styles))),
];

/** The table of widths that sheets are laid out by, against the font files. */
import { openSync, type Font } from 'fontkit';
import { describe, expect, it } from 'vitest';
import { FALLBACK_FONT, TEXT_FONT, TITLE_FONT, textWidth, wrappedTo, type Face } from '@nokta/core/sheet';
import { FONTS } from './fonts.ts';

const FILES: Readonly<Record<Face, string>> = {
  text: FONTS[TEXT_FONT].normal,
  bold: FONTS[TEXT_FONT].bold,
  title: FONTS[TITLE_FONT].bold,
};
const widthIn = (font: Font, letter: string) =>
  (font.glyphForCodePoint(letter.codePointAt(0)!).advanceWidth / font.unitsPerEm) * 1000;
const letters = Array.from({ length: 0x17f - 0x20 }, (_, index) => String.fromCodePoint(0x20 + index));

describe.each(Object.entries(FILES) as [Face, string][])('the face %s', (face, file) => {
  const font = openSync(file) as Font;

  it('is as wide as its letters are, and never narrower', () => {
    const wrong = letters.flatMap((letter) => {
      if (!font.hasGlyphForCodePoint(letter.codePointAt(0)!) || letter.normalize('NFKC') !== letter) return [];
      const off = textWidth(letter, 1000, face) - widthIn(font, letter);
      // Signs of which one width serves all faces may be wider.
      return off < -70 || (off > 6 && /[a-zA-Z0-9]/.test(letter)) ? [`${letter} ${off}`] : [];
    });
    expect(wrong).toEqual([]);
  });
});

it('keeps sharps and flats clear of each other and close to their letter', () => {
  const font = openSync(FONTS[FALLBACK_FONT].normal) as Font;
  for (const sign of ['♭', '♮', '♯']) {
    const { minX, maxX } = font.glyphForCodePoint(sign.codePointAt(0)!).bbox;
    const ink = ((maxX - minX) / font.unitsPerEm) * 1000;
    expect(textWidth(sign, 1000)).toBeGreaterThan(ink * 0.95);
    expect(textWidth(sign, 1000)).toBeLessThan(widthIn(font, sign));
  }
});

it('wraps at words, and cuts one that is wider than a line', () => {
  const text = 'a harbourmasterslanternlightersdaughter came by';
  const lines = wrappedTo(text, 100, 10);
  expect(lines.every((line) => textWidth(line, 10) <= 100)).toBe(true);
  expect(lines.join('').replaceAll(' ', '')).toBe(text.replaceAll(' ', ''));
  expect(wrappedTo('', 100, 10)).toEqual(['']);
});

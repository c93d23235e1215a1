/** Text as people look for it: small letters, no accents, no punctuation. */

const LETTERS: Readonly<Record<string, string>> = {
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ı: 'i',
};

/** @example foldText('Łódź, the Café') // 'lodz the cafe' */
export function foldText(text: string): string {
  return text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .replace(/[øłđðþßæœı]/g, (letter) => LETTERS[letter]!)
    .replace(/['’`]/g, '')
    .replace(/[^\p{L}\p{N}#]+/gu, ' ')
    .trim();
}

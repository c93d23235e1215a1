/** A file of ABC tunes: where each tune begins, and the header that all of them share. */

/** One tune of a book, with the text that the parser is given. */
export interface AbcTune {
  /** Shared header and tune. */
  readonly text: string;
  /** Line of the file, from 1, for each line of `text`. */
  readonly lines: readonly number[];
  /** First `T:` field. */
  readonly title: string;
}

const SHARED = /^([A-Z]:|%%|I:)/i;

/** Splits at `X:` lines. A text without any is taken as one tune. */
export function splitBook(source: string): readonly AbcTune[] {
  const lines = source.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  const starts = lines.flatMap((line, index) => (line.startsWith('X:') ? [index] : []));
  if (starts.length === 0) starts.push(0);
  const shared = lines
    .slice(0, starts[0])
    .map((text, index) => ({ text, line: index + 1 }))
    .filter(({ text }) => SHARED.test(text));
  return starts.map((start, number) => {
    const end = starts[number + 1] ?? lines.length;
    const own = lines.slice(start, end).map((text, index) => ({ text, line: start + index + 1 }));
    // Fields of the shared header go after X:, where the parser expects them.
    const all = own[0]?.text.startsWith('X:') ? [own[0]!, ...shared, ...own.slice(1)] : own;
    return {
      text: all.map(({ text }) => text).join('\n'),
      lines: all.map(({ line }) => line),
      title:
        own
          .find(({ text }) => text.startsWith('T:'))
          ?.text.slice(2)
          .trim() ?? '',
    };
  });
}

/** Fields of the tune's header, up to `K:`; a field may stand several times. */
export function headerFields(text: string): ReadonlyMap<string, readonly string[]> {
  const fields = new Map<string, string[]>();
  for (const line of text.split('\n')) {
    const field = /^([A-Za-z]):(.*)$/.exec(line);
    if (!field) {
      if (line.trim() === '' || line.startsWith('%')) continue;
      break;
    }
    const value = decodeText(field[2]!.replace(/(^|[^\\])%.*$/, '$1').trim());
    const known = fields.get(field[1]!);
    if (known) known.push(value);
    else fields.set(field[1]!, [value]);
    if (field[1] === 'K') break;
  }
  return fields;
}

const COMBINING: Readonly<Record<string, string>> = {
  '`': '\u0300',
  "'": '\u0301',
  '^': '\u0302',
  '~': '\u0303',
  '"': '\u0308',
  '=': '\u0304',
  u: '\u0306',
  v: '\u030C',
  H: '\u030B',
  c: '\u0327',
  r: '\u030A',
  '.': '\u0307',
  ';': '\u0328',
};
const LIGATURES: Readonly<Record<string, string>> = {
  ss: 'ß',
  AE: 'Æ',
  ae: 'æ',
  OE: 'Œ',
  oe: 'œ',
  AA: 'Å',
  aa: 'å',
  '/O': 'Ø',
  '/o': 'ø',
  '/L': 'Ł',
  '/l': 'ł',
  '/D': 'Đ',
  '/d': 'đ',
  '-D': 'Ð',
  '-d': 'ð',
  TH: 'Þ',
  th: 'þ',
};

/** ABC's own ways of writing accented letters: `\'e`, `\cC`, `&eacute;` and `\u0159`. */
export function decodeText(text: string): string {
  return text
    .replace(/\\u([0-9A-Fa-f]{4})/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))
    .replace(/\\(ss|AE|ae|OE|oe|AA|aa|\/[OoLlDd]|-[Dd]|TH|th)/g, (_, name: string) => LIGATURES[name]!)
    .replace(/\\([`'^~"=uvHcr.;])([A-Za-z])/g, (_, mark: string, letter: string) =>
      (letter + COMBINING[mark]!).normalize('NFC'),
    )
    .replace(/&(\w)(grave|acute|circ|tilde|uml|cedil|ring|caron);/g, (whole, letter: string, mark: string) => {
      const sign = {
        grave: '\u0300',
        acute: '\u0301',
        circ: '\u0302',
        tilde: '\u0303',
        uml: '\u0308',
        cedil: '\u0327',
        ring: '\u030A',
        caron: '\u030C',
      }[mark];
      return sign ? (letter + sign).normalize('NFC') : whole;
    })
    .replace(/\\([%\\&])/g, '$1');
}

/** ABC decorations and what they are in the tune: one table, read in both directions. */
import type { Bar, BowMark, Decoration, Dynamic } from '../../music/index.ts';

/** Names the parser uses, and the name we write between exclamation marks. */
export const DECORATIONS: readonly {
  readonly abc: string;
  readonly also?: readonly string[];
  readonly sign: Decoration;
}[] = [
  { abc: 'trill', sign: 'trill' },
  { abc: 'turn', also: ['invertedturn', 'turnx'], sign: 'turn' },
  { abc: 'lowermordent', also: ['mordent'], sign: 'mordent' },
  { abc: 'uppermordent', also: ['pralltriller'], sign: 'inverted-mordent' },
  { abc: 'roll', also: ['irishroll'], sign: 'roll' },
  { abc: 'slide', sign: 'slide' },
  { abc: 'staccato', sign: 'staccato' },
  { abc: 'tenuto', sign: 'tenuto' },
  { abc: 'accent', also: ['>', 'emphasis'], sign: 'accent' },
  { abc: 'marcato', also: ['umarcato', '^'], sign: 'marcato' },
  { abc: 'fermata', also: ['invertedfermata'], sign: 'fermata' },
  { abc: 'breath', also: ['shortphrase'], sign: 'breath' },
  { abc: 'open', also: ['harmonic'], sign: 'harmonic' },
  { abc: 'plus', also: ['+'], sign: 'pizzicato' },
  { abc: 'snap', sign: 'snap-pizzicato' },
];

const SIGN_OF = new Map(
  DECORATIONS.flatMap(({ abc, also = [], sign }) => [abc, ...also].map((name) => [name, sign] as const)),
);
const ABC_OF = new Map(DECORATIONS.map(({ abc, sign }) => [sign, abc]));
const BOWS: Readonly<Record<string, BowMark>> = { downbow: 'down', upbow: 'up' };
const DYNAMIC = /^(p{1,4}|f{1,4}|mp|mf|sfz)$/;
const FINGER = /^([0-5]|thumb)$/;

export type Sign =
  | { readonly kind: 'decoration'; readonly sign: Decoration }
  | { readonly kind: 'bow'; readonly bow: BowMark }
  | { readonly kind: 'finger'; readonly finger: string }
  | { readonly kind: 'dynamic'; readonly dynamic: Dynamic }
  | { readonly kind: 'navigation'; readonly bar: Partial<Bar> }
  | { readonly kind: 'unknown'; readonly name: string };

const NAVIGATION: Readonly<Record<string, Partial<Bar>>> = {
  segno: { segno: true },
  coda: { coda: true },
  fine: { fine: true },
  'D.C.': { jump: { back: 'start', until: 'end' } },
  'D.S.': { jump: { back: 'segno', until: 'end' } },
  'D.C.alfine': { jump: { back: 'start', until: 'fine' } },
  'D.S.alfine': { jump: { back: 'segno', until: 'fine' } },
  'D.C.alcoda': { jump: { back: 'start', until: 'coda' } },
  'D.S.alcoda': { jump: { back: 'segno', until: 'coda' } },
};

/** Signs that have a letter of their own (ABC 2.1, section 4.14). */
export const LETTERS_FOR: Readonly<Record<string, string>> = {
  u: 'upbow',
  v: 'downbow',
  T: 'trill',
  H: 'fermata',
  L: 'accent',
  M: 'lowermordent',
  P: 'uppermordent',
  S: 'segno',
  O: 'coda',
  '~': 'roll',
  '.': 'staccato',
};

/** @example readSign('upbow') // { kind: 'bow', bow: 'up' } */
export function readSign(name: string): Sign {
  const sign = SIGN_OF.get(name);
  if (sign) return { kind: 'decoration', sign };
  const bow = BOWS[name];
  if (bow) return { kind: 'bow', bow };
  if (FINGER.test(name)) return { kind: 'finger', finger: name === 'thumb' ? 'T' : name };
  if (DYNAMIC.test(name)) return { kind: 'dynamic', dynamic: name as Dynamic };
  const bar = NAVIGATION[name];
  return bar ? { kind: 'navigation', bar } : { kind: 'unknown', name };
}

/** The name written between exclamation marks. */
export function writeDecoration(sign: Decoration): string {
  return ABC_OF.get(sign)!;
}

/** Navigation words of a bar, those that stand at its start and those at its end. */
export function writeNavigation(bar: Bar): { start: readonly string[]; end: readonly string[] } {
  const jump = bar.jump
    ? [`D.${bar.jump.back === 'segno' ? 'S' : 'C'}.${bar.jump.until === 'end' ? '' : `al${bar.jump.until}`}`]
    : [];
  return {
    start: [...(bar.segno ? ['segno'] : []), ...(bar.coda ? ['coda'] : [])],
    end: [...(bar.toCoda ? ['coda'] : []), ...(bar.fine ? ['fine'] : []), ...jump],
  };
}

/** Signs with a second, shorter way of writing them. */
const SHORT_NAMES: Readonly<Record<string, string>> = {
  'crescendo(': '<(',
  'crescendo)': '<)',
  'diminuendo(': '>(',
  'diminuendo)': '>)',
};

/**
 * A sign as it may stand in the file.
 * @example signNames('crescendo(') // '!crescendo(!, or !<(!,'
 */
export function signNames(name: string): string {
  const short = SHORT_NAMES[name];
  return short ? `!${name}!, or !${short}!,` : `!${name}!`;
}

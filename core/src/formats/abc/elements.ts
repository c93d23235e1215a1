/** Small readings of single parsed elements: bar lines, endings, chord symbols. */
import type { Bar, Barline, Ticks, TuneEvent } from '../../music/index.ts';
import { wayInWords } from '../ways.ts';
import type { ParsedNote } from './parsed.ts';
import { TO_CODA } from './prepare.ts';

/** What a bar line says of the bar before it … */
export const RIGHT_OF: Readonly<Record<string, { barline?: Barline; repeat?: number }>> = {
  bar_thin: { barline: 'single' },
  bar_thin_thin: { barline: 'double' },
  bar_thin_thick: { barline: 'final' },
  bar_thick_thin: { barline: 'double' },
  bar_invisible: { barline: 'invisible' },
  bar_right_repeat: { repeat: 2 },
  bar_dbl_repeat: { repeat: 2 },
};
/** … and of the bar after it. */
export const LEFT_OF: Readonly<Record<string, { repeat?: boolean }>> = {
  bar_left_repeat: { repeat: true },
  bar_dbl_repeat: { repeat: true },
};

export function realLength(bar: Bar): Ticks {
  const last = bar.events.at(-1);
  return last ? last.at + last.duration : 0;
}

/** `1`, `1,3`, `1-3`, `2.` */
export function readEndings(text: string): readonly number[] {
  return text.split(',').flatMap((piece) => {
    const range = /^\s*(\d+)(?:\s*-\s*(\d+))?/.exec(piece);
    if (!range) return [];
    const from = Number(range[1]);
    const to = Math.min(Number(range[2] ?? from), from + 9);
    return Array.from({ length: to - from + 1 }, (_, index) => from + index);
  });
}

export function tieOn(element: ParsedNote): ParsedNote {
  return { ...element, pitches: element.pitches?.map((parsed) => ({ ...parsed, startTie: {} })) };
}

/** A chord symbol starts with the letter of its root, or says that there is no chord. */
export const isChord = (text: string): boolean => CHORD.test(text);
const CHORD = /^(N\.? ?C\.?$)|^[A-G]([#b♯♭]|[^a-z]|$|m|dim|aug|sus|add|maj|min)/;

/** What texts over a note or a bar line say. */
export interface Texts extends Pick<TuneEvent, 'chordSymbol' | 'annotation'> {
  /** Chords that find no place there because another one does. */
  readonly lost: readonly string[];
  /** What they say of the bar: where to jump, and where to leave. */
  readonly way: Partial<Bar>;
}

export function chordText(element: Pick<ParsedNote, 'chord'>): Texts {
  // The parser joins what stands at one place line by line.
  const texts = (element.chord ?? []).flatMap(({ name, position }) =>
    name.split('\n').map((line) => ({
      text: line.replaceAll('♯', '#').replaceAll('♭', 'b'),
      symbol: position === 'default' && CHORD.test(line),
    })),
  );
  const [symbol, ...lost] = texts.filter((entry) => entry.symbol).map(({ text }) => text);
  const said = texts.filter((entry) => !entry.symbol).map(({ text }) => text);
  const ways = said.map((text) => (text === TO_CODA ? { toCoda: true } : wayInWords(text)));
  const way = Object.assign({}, ...ways) as Partial<Bar>;
  // Text in quotes that names no chord is said to the player, whatever its place.
  const annotation = said.filter((_, index) => Object.keys(ways[index]!).length === 0).join(' ');
  return { ...(symbol && { chordSymbol: symbol }), ...(annotation && { annotation }), lost, way };
}

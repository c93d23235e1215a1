/** The words sheet: verse by verse, each line as it is sung, the chords over their syllables. */
import type { Arrangement } from '../arrange/index.ts';
import { bringsChords } from '../harmony/index.ts';
import { keyName } from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { chordName } from '../words/index.ts';
import { pageHead } from './pageHead.ts';
import {
  GAP,
  LABEL,
  MARGIN,
  SOFT,
  pageSize,
  fitted,
  scaleOf,
  type Block,
  type Contents,
  type Points,
} from './paperPage.ts';
import { songOf, type SungLine, type SungPiece, type Stanza } from './song.ts';
import { textSvg } from './svg.ts';
import { textWidth } from './textWidth.ts';

const SIZE: Points = 13;
const CHORD: Points = 11.5;
/** From one line to the next, and the part of it that is the chords'. */
const LINE: Points = 17;
const OVER: Points = 14;
/** Between two chords, at least. */
const APART: Points = 8;
/** What a hyphen takes, with the room beside it. */
const HYPHEN: Points = 9;
/** Where a line goes on in the next one. */
const INDENT: Points = 16;
const BETWEEN: Points = 20;
/** Larger where a page has the room, smaller where that saves one. */
const SIZES = [1.5, 1.3, 1.15, 1, 0.92, 0.85, 0.78] as const;

/** A piece at its place in a line. */
interface PlacedPiece {
  readonly x: Points;
  readonly text: string;
  readonly chord: string | null;
  /** Where a hyphen stands; null for none. */
  readonly hyphen: Points | null;
}

export function songContents({ tune, form }: Arrangement, style: SheetStyle): Contents {
  const { width } = pageSize(style);
  const stanzas = songOf(tune, form);
  const key = tune.bars[0] ? keyName(tune.bars[0].key) : '';
  const facts = ['Words and chords', key, bringsChords(tune) ? '' : 'chords found from the notes'];
  const head = pageHead(
    { title: tune.title, facts: facts.filter(Boolean).join('  ·  ') },
    width,
    Math.min(1.4, scaleOf(style)),
  );
  if (stanzas.length === 0)
    return {
      head,
      blocks: [{ height: 20, draw: (y) => textSvg(MARGIN, y + 12, 'This tune has no words.', { size: 11 }) }],
    };
  return fitted(SIZES, style, (size) => ({
    head,
    blocks: stanzas.flatMap((stanza, index) =>
      stanzaBlocks(stanza, size * scaleOf(style), width, index === stanzas.length - 1),
    ),
  }));
}

function stanzaBlocks(
  { verse, refrain, times, lines }: Stanza,
  scale: number,
  width: Points,
  last: boolean,
): readonly Block[] {
  const left = MARGIN + LABEL;
  const room = (width - MARGIN - left) / scale;
  // What says how often it is sung stands behind the last line.
  const often = times === 1 ? '' : times === 2 ? '(twice)' : `(${times} times)`;
  const behind = often ? textWidth(often, SIZE * 0.85) + 2 * APART : 0;
  const rows = lines.flatMap((line, index) => wrapped(line, room - (index === lines.length - 1 ? behind : 0)));
  const chords = lines.some((line) => line.some(({ chord }) => chord !== null));
  const height = scale * (LINE + (chords ? OVER : 0));
  return rows.map((row, index): Block => {
    const first = index === 0;
    const name = first ? nameOf(verse, refrain) : '';
    const above = name && refrain ? scale * LINE : 0;
    const ends = index === rows.length - 1;
    return {
      height: height + above,
      begins: first,
      goesOn: !first,
      gap: !ends ? 0 : last ? GAP : BETWEEN * scale,
      draw: (y) => {
        const foot = y + above + height - 4 * scale;
        return [
          above > 0
            ? textSvg(left, y + SIZE * scale, name, { size: SIZE * 0.85 * scale, weight: 'bold', colour: SOFT })
            : textSvg(MARGIN, foot, name, { size: SIZE * scale, weight: 'bold', colour: '#9a4a1c' }),
          ...row.map(({ x, text, chord, hyphen }) =>
            [
              chord === null
                ? ''
                : textSvg(left + x * scale, foot - (SIZE + 2) * scale, chordName(chord), {
                    size: CHORD * scale,
                    weight: 'bold',
                  }),
              text ? textSvg(left + x * scale, foot, text, { size: SIZE * scale }) : '',
              hyphen === null
                ? ''
                : textSvg(left + hyphen * scale, foot, '-', { size: SIZE * scale, anchor: 'middle' }),
            ].join(''),
          ),
          ends && often
            ? textSvg(left + (endOf(row) + APART) * scale, foot, often, { size: SIZE * 0.85 * scale, colour: SOFT })
            : '',
        ].join('\n');
      },
    };
  });
}

const nameOf = (verse: number | null, refrain: boolean): string =>
  refrain ? 'Refrain' : verse === null ? '' : `${verse}`;
const endOf = (row: readonly PlacedPiece[]): Points =>
  Math.max(
    0,
    ...row.map(({ x, text, chord }) => x + Math.max(textWidth(text, SIZE), textWidth(chord ?? '', CHORD, 'bold'))),
  );

/** A line in as many rows as it needs; words are not parted. */
function wrapped(line: SungLine, room: Points): readonly (readonly PlacedPiece[])[] {
  const rows: PlacedPiece[][] = [[]];
  let x = 0;
  for (const word of wordsOf(line)) {
    const wide = word.reduce((sum, piece) => sum + widthOf(piece), 0);
    if (x + wide > room && rows.at(-1)!.length > 0) {
      rows.push([]);
      x = INDENT;
    }
    for (const piece of word) {
      const [own, text] = [widthOf(piece), textWidth(piece.text, SIZE)];
      const parted = piece.joins && own > text;
      rows.at(-1)!.push({ x, text: piece.text, chord: piece.chord, hyphen: parted ? x + (text + own) / 2 : null });
      x += own;
    }
  }
  return rows;
}

/** How far the next piece stands from it. */
function widthOf({ text, chord, joins }: SungPiece): Points {
  const said = textWidth(text, SIZE);
  const own = said + (joins || text === '' ? 0 : textWidth(' ', SIZE));
  if (chord === null) return own;
  const wide = textWidth(chordName(chord), CHORD, 'bold') + APART;
  // A word that is drawn apart has room for its hyphen.
  return wide <= own ? own : joins ? Math.max(wide, said + HYPHEN) : wide;
}

/** Pieces that are not parted: the syllables of a word. */
function wordsOf(line: SungLine): readonly SungLine[] {
  const words: SungPiece[][] = [];
  let open = false;
  for (const piece of line) {
    if (open) words.at(-1)!.push(piece);
    else words.push([piece]);
    open = piece.text === '' ? open : piece.joins;
  }
  return words;
}

/**
 * A strip to print at true scale: laid along the fingerboard from the nut, it shows where the tapes go. Section 3 of the
 * domain, "position of semitone n". What is longer than a page goes on beside itself, to be joined.
 */
import { HANDS, framesFor } from '../hand/index.ts';
import { stopDistance, type HandId, type Millimetres } from '../instrument/index.ts';
import type { Paper, Tape } from '../paper/index.ts';
import { tapeName } from '../words/index.ts';
import { pageSize, type Points } from './paperPage.ts';
import { INK, TITLE_FONT, textSvg } from './svg.ts';

export interface TapeStrip {
  /** What the strip is for. */
  readonly name: string;
  /** Whose fingers the tapes are called by. */
  readonly hand: HandId;
  /** String length, nut to bridge. */
  readonly length: Millimetres;
  readonly tapes: readonly Tape[];
  readonly paper: Paper;
}

/** A millimetre in points: 72 to the inch of 25.4 mm. */
export const MILLIMETRE: Points = 72 / 25.4;
/** What a printer must give as it is; a ruler shows whether it did. */
export const CHECK: Millimetres = 100;

const MARGIN: Millimetres = 14;
const TOP: Millimetres = 56;
const WIDTH: Millimetres = 20;
/** From one piece of the strip to the next. */
const STEP: Millimetres = 46;
/** The strip goes on a little beyond its last tape. */
const BEYOND: Millimetres = 12;
const TAPE: Millimetres = 2;

/** Where a tape lies. */
export interface TapePlace extends Tape {
  /** Its middle, from the nut. */
  readonly at: Millimetres;
}

/**
 * From the nut on.
 * @example tapePlaces(328, [{ semitones: 2, colour: '#c98a2b' }]).map(({ at }) => Math.round(10 * at) / 10) // [35.8]
 */
export const tapePlaces = (length: Millimetres, tapes: readonly Tape[]): readonly TapePlace[] =>
  [...tapes]
    .sort((a, b) => a.semitones - b.semitones)
    .map((tape) => ({ ...tape, at: stopDistance(length, tape.semitones) }));

/**
 * @returns SVG pages of the paper's size, their units points
 * @example tapeStrip({ name: 'Violin', hand: 'violin', length: 328, tapes: [], paper: 'a4' }).length // 1
 */
export function tapeStrip({ name, hand, length, tapes, paper }: TapeStrip): readonly string[] {
  const { width, height } = pageSize({ paper, landscape: false });
  const places = tapePlaces(length, tapes);
  const frames = framesFor(HANDS[hand]);
  const named = places.map((place) => ({ ...place, finger: tapeName(frames, place.semitones) }));
  const end = (places.at(-1)?.at ?? 0) + BEYOND;
  const room = Math.floor(height / MILLIMETRE - TOP - MARGIN);
  const pieces = Array.from({ length: Math.ceil(end / room) }, (_, index) => ({
    from: index * room,
    to: Math.min(end, (index + 1) * room),
  }));
  const across = Math.floor((width / MILLIMETRE - 2 * MARGIN + STEP - WIDTH) / STEP);
  const pages: string[] = [];
  for (let first = 0; first < pieces.length; first += across) {
    const drawn = pieces.slice(first, first + across).map((piece, column) => {
      const last = first + column === pieces.length - 1;
      return pieceSvg(MARGIN + column * STEP, piece, named, { first: first + column, last });
    });
    pages.push(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${head(name, length)}${drawn.join('')}</svg>`,
    );
  }
  return pages;
}

const mm = (value: Millimetres): Points => Math.round(value * MILLIMETRE * 100) / 100;
const line = (x1: Millimetres, y1: Millimetres, x2: Millimetres, y2: Millimetres, width: Points, dash = '') =>
  `<line x1="${mm(x1)}" y1="${mm(y1)}" x2="${mm(x2)}" y2="${mm(y2)}" stroke="${INK}" stroke-width="${width}"${dash && ` stroke-dasharray="${dash}"`}/>`;

function head(name: string, length: Millimetres): string {
  const y = 44;
  return [
    textSvg(mm(MARGIN), mm(20), `Tapes for the ${name.toLowerCase()}`, { size: 20, font: TITLE_FONT, weight: 'bold' }),
    textSvg(mm(MARGIN), mm(27), `String length ${tenths(length)} mm. Print at 100 %, do not fit to the page.`, {
      size: 10,
    }),
    textSvg(
      mm(MARGIN),
      mm(32),
      'Cut the strip out, lay its thick end at the nut beside the strings, and mark each tape’s middle.',
      {
        size: 10,
      },
    ),
    line(MARGIN, y, MARGIN + CHECK, y, 0.8),
    line(MARGIN, y - 2, MARGIN, y + 2, 0.8),
    line(MARGIN + CHECK, y - 2, MARGIN + CHECK, y + 2, 0.8),
    textSvg(mm(MARGIN + CHECK + 4), mm(y + 1.2), `${CHECK} mm: check it with a ruler`, { size: 9 }),
  ].join('');
}

function pieceSvg(
  x: Millimetres,
  { from, to }: { readonly from: Millimetres; readonly to: Millimetres },
  places: readonly (TapePlace & { readonly finger: string })[],
  { first, last }: { readonly first: number; readonly last: boolean },
): string {
  const y = (at: Millimetres) => TOP + at - from;
  const letter = (index: number) => String.fromCharCode(65 + index);
  const own = places.filter(({ at }) => at >= from && at < to);
  return [
    line(x, y(from), x, y(to), 0.6),
    line(x + WIDTH, y(from), x + WIDTH, y(to), 0.6),
    line(x, y(to), x + WIDTH, y(to), 0.6, last ? '' : '3 2'),
    first === 0 ? line(x - 2, y(from), x + WIDTH + 2, y(from), 2.4) : line(x, y(from), x + WIDTH, y(from), 0.6, '3 2'),
    textSvg(mm(x + WIDTH + 2), mm(y(from) + 3), first === 0 ? 'nut' : `join ${letter(first - 1)}`, { size: 8 }),
    last ? '' : textSvg(mm(x + WIDTH + 2), mm(y(to)), `join ${letter(first)}`, { size: 8 }),
    ...own.flatMap(({ at, colour, label, finger }) => [
      `<rect x="${mm(x)}" y="${mm(y(at) - TAPE / 2)}" width="${mm(WIDTH)}" height="${mm(TAPE)}" fill="${colour}" fill-opacity="0.55"/>`,
      line(x, y(at), x + WIDTH, y(at), 0.5),
      textSvg(mm(x + WIDTH / 2), mm(y(at) - TAPE), label ?? '', { size: 9, anchor: 'middle', weight: 'bold' }),
      textSvg(mm(x + WIDTH + 2), mm(y(at) - 0.2), finger, { size: 8, weight: 'bold' }),
      textSvg(mm(x + WIDTH + 2), mm(y(at) + 3), `${tenths(at)} mm`, { size: 8 }),
    ]),
  ].join('');
}

const tenths = (value: Millimetres) => (Math.round(value * 10) / 10).toFixed(1);

/** The lines that are printed: each phrase in as many as it needs, those that are printed already only named. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import type { BowMark } from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { lookOf } from './lineInput.ts';
import { sheetLines, type Cuts, type SheetLine } from './lines.ts';
import { LABEL, MARGIN, pageSize, scaleOf, type Points } from './paperPage.ts';
import { BOARD_WIDTH } from './fingerboard.ts';

export interface PrintedLine extends SheetLine {
  /** The phrase before it that is printed the same, which this line only names; null where it has music of its own. */
  readonly as: Printed | null;
}

/** A phrase that is on the sheet. */
export interface Printed {
  readonly label: string;
  /** Where it is played with every stroke the other way: how it begins then. */
  readonly begins: BowMark | null;
}

/**
 * @example printedLines(arrangement, { ...USUAL_STYLE, folded: true }).length // 2
 */
export function printedLines(arrangement: Arrangement, style: SheetStyle, cuts?: Cuts): readonly PrintedLine[] {
  const named =
    style.folded && (style.layout === 'phrases' || style.layout === 'big')
      ? foldedOf(arrangement, style)
      : new Map<string, Printed>();
  return sheetLines(arrangement.tune, arrangement.form, style, cuts).flatMap((line): PrintedLine[] => {
    const as = named.get(line.phrase.id) ?? null;
    // Of a phrase that is only named there is one line.
    return as !== null && line.label === '' ? [] : [{ ...line, as }];
  });
}

/** Phrases that would be printed as one before them was, sign by sign, perhaps on the other bow. */
function foldedOf(arrangement: Arrangement, style: SheetStyle): ReadonlyMap<string, Printed> {
  const printed = new Map<string, string>();
  const named = new Map<string, Printed>();
  for (const phrase of phrasesOf(arrangement.form)) {
    const look = lookOf(arrangement, phrase, style);
    const same = printed.get(look);
    const other = printed.get(lookOf(arrangement, phrase, style, true));
    const begins = arrangement.bowing.starts.get(phrase.notes[0] ?? '')?.direction ?? null;
    if (same !== undefined) named.set(phrase.id, { label: same, begins: null });
    else if (other !== undefined && begins) named.set(phrase.id, { label: other, begins });
    else printed.set(look, phrase.label);
  }
  return named;
}

/** Size of a staff space on paper where the line has the room, and as how much of it a line is still set. */
const SPACE: Points = 6.6;
const LEAST = { usual: 0.6, large: 0.8, big: 0.9 } as const;
/** A card is set as large as the line allows, up to this. */
const LARGEST_SPACE: Points = 13;

/** The staff space that is wished. */
export const wishedSpace = (style: SheetStyle): Points =>
  style.layout === 'cue' ? LARGEST_SPACE : Math.min(LARGEST_SPACE, SPACE * scaleOf(style));

/** What a line of music has of the paper's width. */
export function lineRoom(style: SheetStyle): Points {
  const withBoard = style.fingerboard && style.layout !== 'width';
  return pageSize(style).width - 2 * MARGIN - LABEL - (withBoard ? BOARD_WIDTH : 0);
}

/**
 * How wide a line is that fills the paper at the size that is wished, in staff spaces.
 * @example Math.round(widthWished(USUAL_STYLE)) // 74
 */
export const widthWished = (style: SheetStyle): number => lineRoom(style) / wishedSpace(style);

/**
 * In how many lines each phrase has to be printed so that it can be read, from how wide it is as one.
 * @param widths in staff spaces, by phrase
 * @example cutsOf(new Map([['p1', 200]]), USUAL_STYLE).get('p1') // 2
 */
export function cutsOf(widths: ReadonlyMap<string, number>, style: SheetStyle): Cuts {
  const least = LEAST[style.layout === 'big' ? 'big' : style.size === 'usual' ? 'usual' : 'large'];
  const most = lineRoom(style) / (wishedSpace(style) * least);
  return new Map([...widths].flatMap(([id, width]) => (width > most ? [[id, Math.ceil(width / most)] as const] : [])));
}

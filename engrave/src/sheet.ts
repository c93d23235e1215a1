/** A whole sheet: every line engraved, then laid out on pages. */
import { goesOn, lineXml, phraseLine, type Arrangement } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { barStarts } from '@nokta/core/music';
import { USUAL_TALK, talkThrough } from '@nokta/core/talk';
import {
  USUAL_STYLE,
  chapterOf,
  cutsOf,
  printedLines,
  roomsOf,
  sheetPages,
  widthWished,
  type Chapter,
  type Cuts,
  type EngravedLineOfSheet,
  type EngravedSheet,
  type EngravedWarmUp,
  type Printed,
  type Room,
  type SheetStyle,
} from '@nokta/core/sheet';
import { warmUpsOf } from '@nokta/core/warmup';
import { engraveLine, type EngravedLine, type Spacing } from './index.ts';
import { inkOf } from './ink.ts';
import { spacedLine, withoutVerses } from './spacers.ts';

/** The MusicXML of one phrase, as the strip shows it: bows and fingers stand in their own lanes. */
export function phraseXml({ staff, instrument }: Pick<Arrangement, 'staff' | 'instrument'>, phrase: Phrase): string {
  return lineXml(phraseLine(staff, phrase), instrument, goesOn(staff, phrase.from));
}

/** As much of the width is filled at the least. */
const FILLED = 0.88;

/** @returns SVG pages, ready for the screen, for printing, or for a PDF */
export const engraveSheet = (arrangement: Arrangement, style: SheetStyle = USUAL_STYLE): Promise<readonly string[]> =>
  engraveSheets([arrangement], style);

/** The same for several arrangements, one after the other. */
export async function engraveSheets(
  arrangements: readonly Arrangement[],
  style: SheetStyle = USUAL_STYLE,
): Promise<readonly string[]> {
  const printed: Printed[] = [];
  for (const arrangement of arrangements)
    printed.push({ arrangement, engraved: await engravedFor(arrangement, style) });
  return sheetPages(printed, style);
}

async function engravedFor(arrangement: Arrangement, style: SheetStyle): Promise<EngravedSheet> {
  const { pages, talk } = style;
  return {
    ...(pages.includes('tune') ? await engraveLines(arrangement, style) : { lines: [] }),
    first: pages.includes('how') ? await engraveFirst(arrangement, style) : null,
    warmUps: pages.includes('warmups') ? await engraveWarmUps(arrangement, style) : [],
    ...(talk && { said: saidOf(arrangement, style) }),
  };
}

/** What is said of each phrase: the teacher's words, else Nokta's. */
function saidOf(arrangement: Arrangement, { names }: SheetStyle): ReadonlyMap<string, string> {
  const { texts } = arrangement.decisions.talk;
  const own = new Map(phrasesOf(arrangement.form).map(({ id, notes }) => [id, texts[notes[0] ?? '']?.text]));
  const made = talkThrough(arrangement, { ...USUAL_TALK, short: true, names });
  return new Map(made.map(({ phrase, text }) => [phrase, own.get(phrase) ?? text]));
}

/** Every line of the tune; phrases that are too wide for the paper in several. */
async function engraveLines(
  arrangement: Arrangement,
  style: SheetStyle,
): Promise<Pick<EngravedSheet, 'lines' | 'cuts'>> {
  const engraved = async (spacing: Spacing, cuts?: Cuts) => {
    const staves: EngravedLineOfSheet[] = [];
    for (const { id, from, to, as } of printedLines(arrangement, style, cuts))
      if (as === null) staves.push(await engraveStretch(arrangement, { id, from, to }, style, spacing));
    return staves;
  };
  const whole = await engraved('paper');
  if (style.layout === 'cue') return { lines: whole };
  const cuts = cutsOf(new Map(whole.map(({ lineId, width }) => [lineId, width])), style);
  const lines = cuts.size > 0 ? await engraved('paper', cuts) : whole;
  if (style.layout !== 'phrases') return { lines, cuts };
  // Lines that would leave much of the paper's width empty are spread over it.
  const full = FILLED * widthWished(style);
  let spread = lines;
  for (const spacing of ['spread', 'wide'] as const)
    if (Math.max(0, ...spread.map(({ width }) => width)) < full) spread = await engraved(spacing, cuts);
  return { lines: spread, cuts };
}

interface Stretch {
  readonly id: string;
  readonly from: number;
  readonly to: number;
}

async function engraveStretch(
  arrangement: Arrangement,
  { id, from, to }: Stretch,
  style: SheetStyle,
  spacing: Spacing,
): Promise<EngravedLineOfSheet> {
  const { staff, instrument } = arrangement;
  const line = phraseLine(staff, { from, to });
  const engravedWith = (rooms: readonly (readonly Room[])[]) =>
    engraveLine(lineXml(spacedLine(line, rooms), instrument, goesOn(staff, from)), spacing);
  const wanted = roomsOf(arrangement, { from, to }, style);
  let asked = wanted;
  let engraved = await engravedWith(asked);
  // The engraver gives less where accidentals and graces stand between; it is asked for so much more.
  for (let round = 0; round < ROUNDS; round += 1) {
    const lacking = lackingIn(engraved, wanted);
    if (lacking.size === 0) break;
    asked = asked.map((row, at) =>
      row.map(({ note, width }) => ({ note, width: width + (lacking.get(`${at} ${note}`) ?? 0) })),
    );
    engraved = await engravedWith(asked);
  }
  return { lineId: id, ...cropped(engraved) };
}

const ROUNDS = 4;
/** Less than this is not seen, in staff spaces; a little more is asked for than is lacking, for it comes in letters. */
const UNSEEN = 0.04;
const MORE = 1.15;

/** What a note lacks to the next one of its row, by row and note. */
function lackingIn({ heads }: EngravedLine, rows: readonly (readonly Room[])[]): ReadonlyMap<string, number> {
  return new Map(
    rows.flatMap((row, at) =>
      row.flatMap(({ note, width }, index) => {
        const [from, to] = [heads[note], heads[row[index + 1]?.note ?? '']];
        const lacks = from && to ? width - (to.x - from.x) : 0;
        return lacks > UNSEEN ? [[`${at} ${note}`, lacks * MORE + UNSEEN] as const] : [];
      }),
    ),
  );
}

/** In staff spaces, left around the ink. */
const AROUND = 0.5;

/** A line without the verses that kept its notes apart, and as high as its ink. */
function cropped(line: EngravedLine): EngravedLine {
  const markup = withoutVerses(line.markup);
  const [x, , width, height] = line.viewBox.split(' ').map(Number) as [number, number, number, number];
  const units = width / line.width;
  const ink = inkOf(markup, units) ?? { top: 0, bottom: height };
  const top = Math.max(0, ink.top - AROUND * units);
  const high = Math.min(height, ink.bottom + AROUND * units) - top;
  return { ...line, markup, viewBox: [x, top, width, high].join(' '), height: high / units };
}

async function engraveFirst(arrangement: Arrangement, style: SheetStyle): Promise<EngravedLineOfSheet | null> {
  const [first] = phrasesOf(arrangement.form);
  return first ? engraveStretch(arrangement, first, style, 'spread') : null;
}

async function engraveWarmUps(arrangement: Arrangement, style: SheetStyle): Promise<readonly EngravedWarmUp[]> {
  const engraved: EngravedWarmUp[] = [];
  for (const warmUp of warmUpsOf(arrangement, style.names)) {
    const { arrangement: drill, id } = warmUp;
    const staff = await engraveStretch(drill, { id, from: 0, to: barStarts(drill.tune.bars).at(-1)! }, style, 'paper');
    engraved.push({ warmUp, staff });
  }
  return engraved;
}

/** What a book has of a tune beside it: how it is read, and what is played before it. */
const OF_BOOK = { pages: ['tune', 'how'], talk: false, lesson: false, writingLines: 0, phrase: null } as const;

/**
 * A tune of a book, engraved and laid out, as plain values.
 * @param style the layout is that of a sheet; a card is none for a book
 */
export async function engraveChapter(
  arrangement: Arrangement,
  style: SheetStyle,
  { warmUps }: { readonly warmUps: boolean },
): Promise<Chapter> {
  const pages = warmUps ? [...OF_BOOK.pages, 'warmups' as const] : OF_BOOK.pages;
  const own: SheetStyle = { ...style, ...OF_BOOK, pages, layout: style.layout === 'cue' ? 'phrases' : style.layout };
  return chapterOf({ arrangement, engraved: await engravedFor(arrangement, own) }, own);
}

/** A whole sheet: every line engraved, then laid out on pages. */
import { goesOn, lineXml, phraseLine, type Arrangement } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { barStarts } from '@nokta/core/music';
import { USUAL_TALK, talkThrough } from '@nokta/core/talk';
import {
  USUAL_STYLE,
  sheetLines,
  sheetPages,
  type EngravedLineOfSheet,
  type EngravedSheet,
  type EngravedWarmUp,
  type Printed,
  type SheetStyle,
} from '@nokta/core/sheet';
import { warmUpsOf } from '@nokta/core/warmup';
import { engraveLine, type Spacing } from './index.ts';

/** The MusicXML of one phrase, as the strip shows it: bows and fingers stand in their own lanes. */
export function phraseXml({ staff, instrument }: Pick<Arrangement, 'staff' | 'instrument'>, phrase: Phrase): string {
  return lineXml(phraseLine(staff, phrase), instrument, goesOn(staff, phrase.from));
}

/** Lines narrower than this many staff spaces would leave half the page empty. */
const NARROW = 66;

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
    lines: pages.includes('tune') ? await engraveLines(arrangement, style) : [],
    first: pages.includes('how') ? await engraveFirst(arrangement) : null,
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

async function engraveLines(arrangement: Arrangement, style: SheetStyle): Promise<readonly EngravedLineOfSheet[]> {
  const spaced = async (spacing: Spacing) => {
    const staves: EngravedLineOfSheet[] = [];
    for (const { id, from, to } of sheetLines(arrangement.tune, arrangement.form, style))
      staves.push(await engraveStretch(arrangement, id, from, to, spacing));
    return staves;
  };
  const staves = await spaced('paper');
  const narrow = style.layout === 'phrases' && Math.max(0, ...staves.map(({ width }) => width)) < NARROW;
  return narrow ? spaced('spread') : staves;
}

async function engraveStretch(
  { staff, instrument }: Arrangement,
  lineId: string,
  from: number,
  to: number,
  spacing: Spacing,
): Promise<EngravedLineOfSheet> {
  const xml = lineXml(phraseLine(staff, { from, to }), instrument, goesOn(staff, from));
  return { lineId, ...(await engraveLine(xml, spacing)) };
}

async function engraveFirst(arrangement: Arrangement): Promise<EngravedLineOfSheet | null> {
  const [first] = phrasesOf(arrangement.form);
  return first ? engraveStretch(arrangement, first.id, first.from, first.to, 'spread') : null;
}

async function engraveWarmUps(arrangement: Arrangement, { names }: SheetStyle): Promise<readonly EngravedWarmUp[]> {
  const engraved: EngravedWarmUp[] = [];
  for (const warmUp of warmUpsOf(arrangement, names)) {
    const { arrangement: drill, id } = warmUp;
    const staff = await engraveStretch(drill, id, 0, barStarts(drill.tune.bars).at(-1)!, 'paper');
    engraved.push({ warmUp, staff });
  }
  return engraved;
}

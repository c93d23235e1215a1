/** A whole sheet: every phrase engraved, then laid out on pages. */
import { lineXml, phraseLine, type Arrangement } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { USUAL_TALK, talkThrough } from '@nokta/core/talk';
import { USUAL_STYLE, sheetLines, sheetPages, type EngravedLineOfSheet, type SheetStyle } from '@nokta/core/sheet';
import { engraveLine, type Spacing } from './index.ts';

/** The MusicXML of one phrase, as the strip shows it: bows and fingers stand in their own lanes. */
export function phraseXml({ tune, instrument }: Pick<Arrangement, 'tune' | 'instrument'>, phrase: Phrase): string {
  return lineXml(phraseLine(tune, phrase), instrument, phrase.from > 0);
}

/** Lines narrower than this many staff spaces would leave half the page empty. */
const NARROW = 66;

/** @returns SVG pages, ready for the screen, for printing, or for a PDF */
export async function engraveSheet(
  arrangement: Arrangement,
  style: SheetStyle = USUAL_STYLE,
): Promise<readonly string[]> {
  const staves = await engraveLines(arrangement, style, 'paper');
  const narrow = style.layout === 'phrases' && Math.max(0, ...staves.map(({ width }) => width)) < NARROW;
  const lines = narrow ? await engraveLines(arrangement, style, 'spread') : staves;
  return sheetPages(arrangement, lines, style, style.talk ? saidOf(arrangement, style) : undefined);
}

/** What is said of each phrase: the teacher's words, else Nokta's. */
function saidOf(arrangement: Arrangement, { naming }: SheetStyle): ReadonlyMap<string, string> {
  const { texts } = arrangement.decisions.talk;
  const own = new Map(phrasesOf(arrangement.form).map(({ id, notes }) => [id, texts[notes[0] ?? '']?.text]));
  const made = talkThrough(arrangement, { ...USUAL_TALK, short: true, naming });
  return new Map(made.map(({ phrase, text }) => [phrase, own.get(phrase) ?? text]));
}

async function engraveLines(
  { tune, form, instrument }: Arrangement,
  style: SheetStyle,
  spacing: Spacing,
): Promise<readonly EngravedLineOfSheet[]> {
  const staves: EngravedLineOfSheet[] = [];
  for (const { id, from, to } of sheetLines(tune, form, style)) {
    const xml = lineXml(phraseLine(tune, { from, to }), instrument, from > 0);
    staves.push({ lineId: id, ...(await engraveLine(xml, spacing)) });
  }
  return staves;
}

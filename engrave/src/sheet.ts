/** A whole sheet: every phrase engraved, then laid out on pages. */
import { lineXml, phraseLine, type Arrangement } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { USUAL_LANES, sheetPages, type EngravedPhrase, type LaneId, type Paper } from '@nokta/core/sheet';
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
  paper: Paper,
  lanes: readonly LaneId[] = USUAL_LANES,
): Promise<readonly string[]> {
  const staves = await engravePhrases(arrangement, 'paper');
  const narrow = Math.max(0, ...staves.map(({ width }) => width)) < NARROW;
  return sheetPages(arrangement, narrow ? await engravePhrases(arrangement, 'spread') : staves, paper, lanes);
}

async function engravePhrases(arrangement: Arrangement, spacing: Spacing): Promise<readonly EngravedPhrase[]> {
  const staves: EngravedPhrase[] = [];
  for (const phrase of phrasesOf(arrangement.form)) {
    staves.push({ phraseId: phrase.id, ...(await engraveLine(phraseXml(arrangement, phrase), spacing)) });
  }
  return staves;
}

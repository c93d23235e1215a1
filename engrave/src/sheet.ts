/** A whole sheet: every phrase engraved, then laid out on pages. */
import { instrumentXml, type Arrangement } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { writeMusicXml } from '@nokta/core/formats';
import { sliceTune } from '@nokta/core/music';
import { sheetPages, type EngravedPhrase, type Paper } from '@nokta/core/sheet';
import { engraveLine } from './index.ts';

/** The MusicXML of one phrase, as the strip shows it: bows and fingers stand in their own lanes. */
export function phraseXml(arrangement: Pick<Arrangement, 'tune' | 'decisions'>, phrase: Phrase): string {
  const line = { ...sliceTune(arrangement.tune, phrase.from, phrase.to), tempo: null };
  return writeMusicXml(line, {
    ...instrumentXml(arrangement.decisions.instrument),
    partName: '',
    continued: phrase.from > 0,
  });
}

/** @returns SVG pages, ready for the screen, for printing, or for a PDF */
export async function engraveSheet(arrangement: Arrangement, paper: Paper): Promise<readonly string[]> {
  const staves: EngravedPhrase[] = [];
  for (const phrase of phrasesOf(arrangement.form)) {
    staves.push({ phraseId: phrase.id, ...(await engraveLine(phraseXml(arrangement, phrase), 'paper')) });
  }
  return sheetPages(arrangement, staves, paper);
}

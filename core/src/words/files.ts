/** What comes in, and what a file cannot hold, in words. */
import type { Loss, LossKind, LossyFormat } from '../formats/index.ts';
import { barNumbers, keyName, type Tune } from '../music/index.ts';

/** @example tuneText(reel) // 'G major · 4/4 · 4 bars' */
export function tuneText(tune: Tune): string {
  const first = tune.bars[0];
  if (!first) return '';
  const bars = barNumbers(tune.bars).at(-1) ?? 0;
  const metre = `${first.metre.beats}/${first.metre.unit}`;
  return [tune.style, keyName(first.key), metre, `${bars} ${bars === 1 ? 'bar' : 'bars'}`, tune.composer]
    .filter(Boolean)
    .join(' · ');
}

const LOST: Readonly<Record<LossKind, string>> = {
  notes: 'Notes are not as they were',
  rests: 'Rests are not as they were',
  graces: 'Grace notes are not in the file',
  'grace-slashes': 'The slashes of further grace notes are not in the file',
  fingers: 'Fingers are not in the file',
  'grace-fingers': 'Fingers of grace notes are not in the file',
  'other-fingers': 'Second fingers are not in the file',
  strings: 'Strings are not in the file',
  bows: 'Bow marks are not in the file',
  signs: 'Signs are not in the file',
  dynamics: 'Dynamics are not in the file',
  words: 'Words are not in the file as they were',
  'chord-symbols': 'Chord symbols are not in the file as they were',
  annotations: 'Texts are not in the file as they were',
  metres: 'The metre is not as it was',
  keys: 'The key is not as it was',
  repeats: 'Repeats are not as they were',
  'bar-lines': 'Bar lines are not as they were',
  'part-names': 'Names of parts are not in the file',
  'way-through': 'Segno, coda or Fine are not as they were',
  tempi: 'The tempo is not as it was',
  titles: 'Titles or remarks are not as they were',
};

/**
 * One kind of what a file does not hold, with the first place.
 * @example lossText({ what: 'strings', count: 12, bar: 1 }) // 'Strings are not in the file: 12 places, the first in bar 1'
 */
export function lossText({ what, count, bar }: Loss): string {
  if (bar === null) return LOST[what];
  return `${LOST[what]}: ${count === 1 ? `bar ${bar}` : `${count} places, the first in bar ${bar}`}`;
}

/** @example formatText('abc') // 'ABC' */
export const formatText = (format: LossyFormat): string => ({ abc: 'ABC', musicxml: 'MusicXML', mid: 'MIDI' })[format];

/** What a warm-up is called, and what to mind in it. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import type { FingeredNote } from '../hand/index.ts';
import { barNumbers, keyName, type Key } from '../music/index.ts';
import type { Names, WarmUpKind } from '../paper/index.ts';
import { landingText, noteName, placeText } from '../words/index.ts';

export interface WarmUpWords {
  readonly title: string;
  readonly says: string;
}

/** Where a note stands: its bar, and the phrase that it belongs to. */
function placeOf({ tune, form }: Arrangement, note: FingeredNote, names: Names): string {
  const phrase = phrasesOf(form).find(({ notes }) => notes.includes(note.of));
  return placeText(barNumbers(tune.bars)[note.barIndex]!, phrase?.label ?? null, names);
}

const keyText = (key: Key, { notes }: Names) => keyName(key).replace(/^\S+/, noteName(key.tonic, notes));

/**
 * @example warmUpWords('scale', arrangement, null, USUAL_NAMES).title // 'Scale of G major'
 */
export function warmUpWords(
  kind: WarmUpKind,
  arrangement: Arrangement,
  note: FingeredNote | null,
  names: Names,
): WarmUpWords {
  const place = note ? placeOf(arrangement, note, names) : '';
  const key = arrangement.tune.bars[0]?.key;
  switch (kind) {
    case 'scale':
      return { title: key ? `Scale of ${keyText(key, names)}` : 'Scale', says: 'Up and down, a bow to each note.' };
    case 'arpeggio':
      return {
        title: key ? `Arpeggio of ${keyText(key, names)}` : 'Arpeggio',
        says: 'Hear the chord before you play it.',
      };
    case 'crossing':
      return { title: `Strings of ${place}`, says: 'The bow alone, on open strings: the arm leads.' };
    case 'block':
      return { title: `One finger, two strings, for ${place}`, says: 'Lay it across both, and leave it there.' };
    case 'shift': {
      const landing = note?.shift ? landingText(note.shift.landing, arrangement.instrument, names) : '';
      const way = note?.shift ? `To ${note.shift.to}` : 'The shift';
      return {
        title: `Shift for ${place}`,
        says: landing ? `${way}: ${landing}.` : `${way}, thumb and hand together.`,
      };
    }
    case 'double-stop':
      return {
        title: `Two strings at once, for ${place}`,
        says: 'Each by itself, then together; the lower one leads.',
      };
    case 'bowing':
      return { title: `Bowing of ${place}`, says: 'On the open string: a long stroke is the slur.' };
    case 'rhythm':
      return { title: `Rhythm of ${place}`, says: 'On one string: say it, clap it, bow it.' };
    case 'drone':
      return {
        title: 'Long notes against the drone',
        says: `Drone on ${noteName(key?.tonic ?? { letter: 'D', alter: 0 }, names.notes)}: move the finger until it stands still.`,
      };
    case 'spot':
      return {
        title: `Hard spot, ${place}`,
        says: 'Slowly, all notes alike; then as in the tune.',
      };
  }
}

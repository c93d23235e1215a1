/** The facts that legends are made from: of a whole arrangement, or of what stands on a sheet. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf, type Phrase } from '../form/index.ts';
import { USUAL_NAMES, USUAL_TAB, type SheetStyle } from '../paper/index.ts';
import { drawnOf, type SheetFacts } from './lanes/index.ts';
import { sheetLines } from './lines.ts';
import { barMarksIn, writtenIn } from './written.ts';

/**
 * The facts of a whole arrangement, for its legend.
 * @example sheetFacts(arrangement).phrases.length // 2
 */
export function sheetFacts({ staff, instrument, tuning, fingering, bowing, counts, form }: Arrangement): SheetFacts {
  return {
    instrument,
    notes: fingering.notes.map(drawnOf),
    starts: bowing.starts,
    signs: bowing,
    hair: null,
    bowing,
    counts,
    written: phrasesOf(form).flatMap((phrase) => writtenIn(staff, phrase)),
    bars: phrasesOf(form).flatMap((phrase) => barMarksIn(staff, phrase)),
    names: USUAL_NAMES,
    tab: USUAL_TAB,
    sounds: tuning.pitches,
    phrases: phrasesOf(form),
  };
}

/** The facts of what stands on the sheet: a card shows one phrase only. */
export const shownFacts = (arrangement: Arrangement, style: SheetStyle): SheetFacts =>
  factsOf(arrangement, sheetLines(arrangement.tune, arrangement.form, style), style);

/** The facts of one phrase. */
export const phraseFactsOf = (arrangement: Arrangement, phrase: Phrase, style: SheetStyle): SheetFacts =>
  factsOf(arrangement, [phrase], style);

function factsOf(
  arrangement: Arrangement,
  lines: readonly Pick<Phrase, 'from' | 'to'>[],
  style: SheetStyle,
): SheetFacts {
  const all = sheetFacts(arrangement);
  const own = new Set(lines.flatMap((line) => writtenIn(arrangement.tune, line).map(({ id }) => id)));
  const { strokes, marked, accents, regions } = all.bowing;
  return {
    ...all,
    tab: style.tab,
    names: style.names,
    notes: all.notes.filter(({ of }) => own.has(of)),
    written: all.written.filter(({ id }) => own.has(id)),
    bars: lines.flatMap((line) => barMarksIn(arrangement.tune, line)),
    bowing: {
      ...all.bowing,
      strokes: strokes.filter(({ notes }) => own.has(notes[0]!)),
      marked: new Set([...marked].filter((id) => own.has(id))),
      accents: new Set([...accents].filter((id) => own.has(id))),
      regions: Object.fromEntries(Object.entries(regions).filter(([id]) => own.has(id))),
    },
    // What leads from one line to the next is drawn on neither.
    phrases: lines.map((line) => ({ notes: writtenIn(arrangement.tune, line).map(({ id }) => id) })),
  };
}

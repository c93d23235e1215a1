/**
 * What each strip draws, as the same object for as long as it draws the same: after a decision only the strips
 * that it changed are drawn anew.
 */
import type { Arrangement } from '@nokta/core/arrange';
import type { BowFlag, Bowing } from '@nokta/core/bow';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import type { Fingering } from '@nokta/core/hand';
import type { InstrumentId } from '@nokta/core/instrument';
import { drawnOf, type DrawnNote } from '@nokta/core/sheet';

export interface StripView {
  readonly phrase: Phrase;
  /** Label of the phrase that this one is like. */
  readonly likeLabel: string | null;
  readonly instrument: InstrumentId;
  /** Graces among them. */
  readonly notes: readonly DrawnNote[];
  /** Strokes that begin in the phrase. */
  readonly starts: Bowing['starts'];
  readonly bows: Bowing['phrases'][number] | null;
  readonly flags: readonly BowFlag[];
  /** Every written note, graces and tied ones too. */
  readonly ids: ReadonlySet<string>;
  /** Its whole picture as text: two views with the same one look the same. */
  readonly key: string;
}

/** @param before what was shown, of which everything that still holds is taken over */
export function stripViews(arrangement: Arrangement, before: readonly StripView[] = []): readonly StripView[] {
  const { form, fingering, bowing, decisions } = arrangement;
  const phrases = phrasesOf(form);
  const notes = notesByPhrase(phrases, fingering);
  const known = new Map(before.map((view) => [view.key, view]));
  return phrases.map((phrase, index) => {
    const own = notes[index]!;
    const ids = new Set([...phrase.notes, ...own.flatMap((note) => note.ids)]);
    const starts = new Map([...bowing.starts].filter(([first]) => ids.has(first)));
    const view = {
      phrase,
      likeLabel: phrases.find(({ id }) => id === phrase.relation.of)?.label ?? null,
      instrument: decisions.instrument,
      notes: own,
      bows: bowing.phrases.find(({ id }) => id === phrase.id) ?? null,
      flags: bowing.flags.filter(({ note }) => note === phrase.notes[0]),
    };
    const key = JSON.stringify([view, [...starts]]);
    return known.get(key) ?? { ...view, starts, ids, key };
  });
}

/** The notes of another fingering, phrase by phrase. */
export function notesByPhrase(
  phrases: readonly Phrase[],
  { notes }: Pick<Fingering, 'notes'>,
): readonly (readonly DrawnNote[])[] {
  const phraseOf = new Map(phrases.flatMap((phrase, index) => phrase.notes.map((id) => [id, index] as const)));
  const found = phrases.map((): DrawnNote[] => []);
  // A grace is named after the note that it leads to.
  for (const note of notes) found[phraseOf.get(note.id.replace(/g\d+$/, '')) ?? -1]?.push(drawnOf(note));
  return found;
}

const NONE: ReadonlySet<string> = new Set();
/** A set of notes as one strip needs it: where none of them is its own, always the same empty one. */
export function within(notes: ReadonlySet<string>, own: ReadonlySet<string>): ReadonlySet<string> {
  for (const id of notes) if (own.has(id)) return notes;
  return NONE;
}

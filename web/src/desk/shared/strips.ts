/**
 * What each strip draws, as the same object for as long as it draws the same: after a decision only the strips
 * that it changed are drawn anew.
 */
import type { BowFlag, Bowing, Travelling } from '@nokta/core/bow';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import type { Fingering } from '@nokta/core/hand';
import { barStarts } from '@nokta/core/music';
import { drawnOf, hairLine, type BowSigns, type DrawnNote, type PhraseFacts } from '@nokta/core/sheet';
import type { DeskFacts } from '../../workers/facts.ts';

export interface StripView extends PhraseFacts {
  readonly phrase: Phrase;
  /** Label of the phrase that this one is like. */
  readonly likeLabel: string | null;
  readonly bows: Bowing['phrases'][number] | null;
  readonly flags: readonly BowFlag[];
  /** Every written note, graces and tied ones too. */
  readonly ids: ReadonlySet<string>;
  /** Its whole picture as text: two views with the same one look the same. */
  readonly key: string;
}

type Shown = Pick<DeskFacts, 'form' | 'fingering' | 'bowing' | 'instrument' | 'counts' | 'tune'>;

/**
 * @param before what was shown, of which everything that still holds is taken over
 * @param travel where on the hair the strokes lie, where somebody wants to see it; `coming` while it is worked out anew:
 * what was shown stays so long
 */
export function stripViews(
  facts: Shown,
  before: readonly StripView[] = [],
  travel: Travelling | 'coming' | null = null,
): readonly StripView[] {
  const { form, fingering, bowing, instrument } = facts;
  const phrases = phrasesOf(form);
  const notes = notesByPhrase(phrases, fingering);
  const counts = countsByPhrase(facts);
  const known = new Map(before.map((view) => [view.key, view]));
  return phrases.map((phrase, index) => {
    const own = notes[index]!;
    const ids = new Set([...phrase.notes, ...own.flatMap((note) => note.ids)]);
    const starts = new Map([...bowing.starts].filter(([first]) => ids.has(first)));
    const view = {
      phrase,
      likeLabel: phrases.find(({ id }) => id === phrase.relation.of)?.label ?? null,
      instrument,
      notes: own,
      bows: bowing.phrases.find(({ id }) => id === phrase.id) ?? null,
      flags: bowing.flags.filter(({ note }) => ids.has(note)),
    };
    const counted = counts[index]!;
    const signs = signsWithin(bowing, ids);
    const hair =
      travel === 'coming'
        ? (before.find((view) => view.phrase.id === phrase.id)?.hair ?? null)
        : travel && hairLine(bowing, travel, ids);
    const drawn = [[...starts], [...counted], [...signs.marked], [...signs.later], [...signs.accents], signs.regions];
    const key = JSON.stringify([{ ...view, instrument: instrument.id }, drawn, hair]);
    return known.get(key) ?? { ...view, starts, signs, hair, counts: counted, ids, key };
  });
}

/** The signs of the bow on some notes. */
function signsWithin({ marked, later, accents, regions }: BowSigns, ids: ReadonlySet<string>): BowSigns {
  return {
    marked: new Set([...marked].filter((id) => ids.has(id))),
    later: new Map([...later].filter(([id]) => ids.has(id))),
    accents: new Set([...accents].filter((id) => ids.has(id))),
    regions: Object.fromEntries(Object.entries(regions).filter(([id]) => ids.has(id))),
  };
}

/** The notes of another fingering, phrase by phrase. */
export function notesByPhrase(
  phrases: readonly Phrase[],
  { notes }: Pick<Fingering, 'notes'>,
): readonly (readonly DrawnNote[])[] {
  const phraseOf = new Map(phrases.flatMap((phrase, index) => phrase.notes.map((id) => [id, index] as const)));
  const found = phrases.map((): DrawnNote[] => []);
  for (const note of notes) found[phraseOf.get(note.of) ?? -1]?.push(drawnOf(note));
  return found;
}

/** The counts of the notes and rests that begin in each phrase. */
function countsByPhrase({ form, tune, counts }: Shown): readonly DeskFacts['counts'][] {
  const starts = barStarts(tune.bars);
  const at = new Map(
    tune.bars.flatMap((bar, index) => bar.events.map((event) => [event.id, starts[index]! + event.at] as const)),
  );
  return phrasesOf(form).map(
    ({ from, to }) => new Map([...counts].filter(([id]) => at.get(id)! >= from && at.get(id)! < to)),
  );
}

const NONE: ReadonlySet<string> = new Set();
/** A set of notes as one strip needs it: where none of them is its own, always the same empty one. */
export function within(notes: ReadonlySet<string>, own: ReadonlySet<string>): ReadonlySet<string> {
  for (const id of notes) if (own.has(id)) return notes;
  return NONE;
}

/**
 * What each strip draws, as the same object for as long as it draws the same: after a decision only the strips
 * that it changed are drawn anew.
 */
import type { BowFlag, Bowing, Count, Travelling } from '@nokta/core/bow';
import { phrasesOf, relationInTune, type Form, type Phrase, type Relation } from '@nokta/core/form';
import type { Fingering } from '@nokta/core/hand';
import { barStarts, type Tune } from '@nokta/core/music';
import { USUAL_NAMES, USUAL_TAB, type Names, type TabStyle } from '@nokta/core/paper';
import {
  barMarksIn,
  drawnOf,
  hairLine,
  writtenIn,
  type BowSigns,
  type DrawnNote,
  type HairLine,
  type PhraseFacts,
} from '@nokta/core/sheet';
import type { DeskFacts } from '../../workers/facts.ts';

export interface StripView extends PhraseFacts {
  readonly phrase: Phrase;
  /** What it is to an earlier phrase, by the bars of the tune: as paper and talk say it. */
  readonly relation: Relation;
  /** Label of the phrase that this one is like. */
  readonly likeLabel: string | null;
  readonly bows: Bowing['phrases'][number] | null;
  readonly flags: readonly BowFlag[];
  /** Every written note, graces and tied ones too. */
  readonly ids: ReadonlySet<string>;
  /** Its whole picture as text: two views with the same one look the same. */
  readonly key: string;
}

type Shown = Pick<DeskFacts, 'form' | 'fingering' | 'bowing' | 'instrument' | 'tuning' | 'counts' | 'tune' | 'staff'>;

/** How notes are called and the tab is drawn. */
export interface StripLook {
  readonly names: Names;
  readonly tab: TabStyle;
}
const USUAL_LOOK: StripLook = { names: USUAL_NAMES, tab: USUAL_TAB };

/** What can be shown, phrase by phrase: a strip's view is put together when it is asked for. */
export interface StripSource {
  readonly phrases: readonly Phrase[];
  /** @param before what was shown of this phrase: it is given back where nothing of it changed */
  viewOf(index: number, before: StripView | undefined): StripView;
}

/**
 * @param travel where on the hair the strokes lie, where somebody wants to see it; `coming` while it is worked out anew:
 * what was shown stays so long
 */
export function stripSource(
  facts: Shown,
  travel: Travelling | 'coming' | null = null,
  { names, tab }: StripLook = USUAL_LOOK,
): StripSource {
  const { form, fingering, bowing, instrument } = facts;
  const { phrases, notes, idsOf, labels } = fingeredPhrases(form, fingering);
  const counts = countsByPhrase(form, facts.tune, facts.counts);
  const written = writtenPhrases(form, facts.tune, facts.staff);
  // Everything is dealt out in one walk: a long tune has many phrases, and each would look through all of it.
  const deal = dealer(idsOf);
  const starts = deal(bowing.starts, ([first]) => first);
  const signs = signsByPhrase(bowing, deal);
  const flags = deal(bowing.flags, ({ note }) => note);
  const hairs = travel === null || travel === 'coming' ? null : hairByPhrase(bowing, travel, deal);
  const bows = new Map(bowing.phrases.map((one) => [one.id, one]));
  return {
    phrases,
    viewOf(index, before) {
      const phrase = phrases[index]!;
      const view = {
        phrase,
        relation: relationInTune(facts.tune, phrase),
        likeLabel: labels.get(phrase.relation.of ?? '') ?? null,
        instrument,
        notes: notes[index]!,
        ...written(phrase),
        names,
        tab,
        sounds: facts.tuning.pitches,
        bows: bows.get(phrase.id) ?? null,
        flags: flags[index]!,
      };
      const counted = counts[index]!;
      const own = signs[index]!;
      const hair = travel === 'coming' ? (before?.hair ?? null) : (hairs?.[index] ?? null);
      const drawn = [starts[index], [...counted], [...own.marked], [...own.later], [...own.accents], own.regions];
      const key = JSON.stringify([{ ...view, instrument: instrument.id }, drawn, hair]);
      if (before?.key === key) return before;
      return {
        ...view,
        signs: own,
        hair,
        counts: counted,
        ids: idsOf[index]!,
        key,
        starts: new Map(starts[index]),
      };
    },
  };
}

/** All views at once. @param before what was shown, of which everything that still holds is taken over */
export function stripViews(
  facts: Shown,
  before: readonly StripView[] = [],
  travel: Travelling | 'coming' | null = null,
): readonly StripView[] {
  const { phrases, viewOf } = stripSource(facts, travel);
  const known = new Map(before.map((view) => [view.phrase.id, view]));
  return phrases.map(({ id }, index) => viewOf(index, known.get(id)));
}

type Deal = <Thing>(things: Iterable<Thing>, noteOf: (thing: Thing) => string) => readonly Thing[][];

/** Deals things out to the phrases that their notes stand in. */
function dealer(idsOf: readonly ReadonlySet<string>[]): Deal {
  const phraseOf = new Map<string, number>();
  idsOf.forEach((ids, index) => ids.forEach((id) => phraseOf.set(id, index)));
  return <Thing>(things: Iterable<Thing>, noteOf: (thing: Thing) => string) => {
    const dealt = idsOf.map((): Thing[] => []);
    for (const thing of things) dealt[phraseOf.get(noteOf(thing)) ?? -1]?.push(thing);
    return dealt;
  };
}

/** The signs of the bow, phrase by phrase. */
function signsByPhrase({ marked, later, accents, regions }: BowSigns, deal: Deal): readonly BowSigns[] {
  const own = (id: string) => id;
  const [marks, accented] = [deal(marked, own), deal(accents, own)];
  const turned = deal(later, ([id]) => id);
  const named = deal(Object.entries(regions), ([id]) => id);
  return marks.map((ids, index) => ({
    marked: new Set(ids),
    later: new Map(turned[index]),
    accents: new Set(accented[index]),
    regions: Object.fromEntries(named[index]!),
  }));
}

/** The strokes on the hair, phrase by phrase. */
function hairByPhrase(bowing: Bowing, travel: Travelling, deal: Deal): readonly HairLine[] {
  const { hair, strokes } = hairLine(bowing, travel);
  return deal(strokes, ({ notes }) => notes[0]!).map((own) => ({ hair, strokes: own }));
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

/** A decision changes few facts: what comes of the others is kept from the last time. */
function keptWhileSame<Args extends readonly unknown[], Value>(
  work: (...args: Args) => Value,
): (...args: Args) => Value {
  let last: { readonly args: Args; readonly value: Value } | null = null;
  return (...args) => {
    if (!last || last.args.some((one, at) => one !== args[at])) last = { args, value: work(...args) };
    return last.value;
  };
}

const fingeredPhrases = keptWhileSame((form: Form, fingering: Fingering) => {
  const phrases = phrasesOf(form);
  const notes = notesByPhrase(phrases, fingering);
  return {
    phrases,
    notes,
    idsOf: phrases.map((phrase, index) => new Set([...phrase.notes, ...notes[index]!.flatMap((note) => note.ids)])),
    labels: new Map(phrases.map(({ id, label }) => [id, label])),
  };
});

/** What stands in each phrase, looked up when it is first shown. */
const writtenPhrases = keptWhileSame((_: Form, tune: Tune, staff: Tune) => {
  const known = new Map<Phrase, Pick<StripView, 'written' | 'bars'>>();
  return (phrase: Phrase) => {
    const found = known.get(phrase) ?? { written: writtenIn(staff, phrase), bars: barMarksIn(tune, phrase) };
    known.set(phrase, found);
    return found;
  };
});

/** The counts of the notes and rests that begin in each phrase; phrases follow each other. */
const countsByPhrase = keptWhileSame((form: Form, tune: Tune, counts: DeskFacts['counts']) => {
  const starts = barStarts(tune.bars);
  const phrases = phrasesOf(form);
  const found = phrases.map(() => new Map<string, Count>());
  let at = 0;
  tune.bars.forEach((bar, index) => {
    for (const event of bar.events) {
      const count = counts.get(event.id);
      const place = starts[index]! + event.at;
      while (phrases[at] && place >= phrases[at]!.to) at += 1;
      if (count && phrases[at] && place >= phrases[at]!.from) found[at]!.set(event.id, count);
    }
  });
  return found;
});

const NONE: ReadonlySet<string> = new Set();
/** A set of notes as one strip needs it: where none of them is its own, always the same empty one. */
export function within(notes: ReadonlySet<string>, own: ReadonlySet<string>): ReadonlySet<string> {
  for (const id of notes) if (own.has(id)) return notes;
  return NONE;
}

/**
 * What a teacher does to parts and phrases: move a boundary, split, join, name, hold, let go. Each gives the
 * tune with its parting changed, or says why it cannot be done. What was set is held from then on.
 */
import { NO_PARTING, type Anchor, type HeldPhrase, type Parting, type Ticks, type Tune } from '../music/index.ts';
import { joinedSounds } from './evidence.ts';
import { anchorAt, layOut, placeOf, type LaidPhrase, type Layout } from './layout.ts';
import { readForForm, soundFrom, type Reading } from './reading.ts';
import type { Phrase } from './model.ts';

/** Why something cannot be parted so; the sentence is made in `words`. */
export type PartingRefusal =
  | 'tune-begins'
  | 'empty-phrase'
  | 'begins-already'
  | 'no-phrase-before'
  | 'no-phrase'
  | 'first-part'
  | 'no-note'
  | 'inside-tie'
  | 'under-slur';

export type PartingResult =
  | { readonly ok: true; readonly tune: Tune }
  | { readonly ok: false; readonly why: PartingRefusal };

const refuse = (why: PartingRefusal): PartingResult => ({ ok: false, why });

interface State {
  readonly reading: Reading;
  readonly layout: Layout;
}

function stateOf(tune: Tune): State {
  const reading = readForForm(tune);
  return { reading, layout: layOut(reading) };
}

/**
 * Moves the place where a phrase begins to another note, to and fro. The phrases on both sides are held.
 * @param from start of the phrase in written ticks
 * @example moveBoundary(reel, 0, 'n3') // { ok: false, why: 'tune-begins' }
 */
export function moveBoundary(tune: Tune, from: Ticks, toNote: string): PartingResult {
  const state = stateOf(tune);
  const index = state.layout.findIndex((phrase) => phrase.from === from);
  if (index < 1) return refuse('tune-begins');
  const to = startAt(state, toNote);
  if (typeof to === 'string') return refuse(to);
  const before = state.layout[index - 1]!;
  const after = state.layout[index]!;
  if (to === from) return { ok: true, tune };
  if (to <= before.from || to >= after.to) return refuse('empty-phrase');
  const held = [span(state, before.from, to, before.name), span(state, to, after.to, after.name)];
  const parting = hold(state, held);
  return done(tune, after.part ? movePart(state, parting, after, to) : parting);
}

/**
 * Moves the place where a phrase begins by so many notes.
 * @example nudgeBoundary(reel, 0, 1) // { ok: false, why: 'tune-begins' }
 */
export function nudgeBoundary(tune: Tune, from: Ticks, by: 1 | -1): PartingResult {
  const { reading } = stateOf(tune);
  const joined = joinedSounds(reading);
  let index = soundFrom(reading, from) + by;
  // Under a slur no phrase begins; the next place that is free is meant.
  while (index > 0 && index < reading.sounds.length && joined.has(index)) index += by;
  const sound = reading.sounds[index];
  if (!sound || index <= 0) return refuse('empty-phrase');
  return moveBoundary(tune, from, sound.note.id);
}

/**
 * A phrase begins at this note.
 * @example splitPhrase(reel, 'n1') // { ok: false, why: 'begins-already' }
 */
export function splitPhrase(tune: Tune, note: string): PartingResult {
  const state = stateOf(tune);
  const at = startAt(state, note);
  if (typeof at === 'string') return refuse(at);
  const phrase = state.layout.find(({ from, to }) => at > from && at < to);
  if (!phrase) return refuse('begins-already');
  return done(tune, hold(state, [span(state, phrase.from, at, phrase.name), span(state, at, phrase.to, null)]));
}

/**
 * Makes one phrase of this one and the one before it. @param from start of the later one
 * @example joinPhrases(reel, 0) // { ok: false, why: 'no-phrase-before' }
 */
export function joinPhrases(tune: Tune, from: Ticks): PartingResult {
  const state = stateOf(tune);
  const index = state.layout.findIndex((phrase) => phrase.from === from);
  if (index < 1) return refuse('no-phrase-before');
  const before = state.layout[index - 1]!;
  const after = state.layout[index]!;
  const parting = hold(state, [span(state, before.from, after.to, before.name ?? after.name)]);
  return done(tune, { ...parting, parts: parting.parts.filter(({ at }) => placeOf(state.reading, at) !== from) });
}

/**
 * The phrase stays as it is, whatever the analysis would do.
 * @example holdPhrase(reel, 0).tune.parting.held.length // 1
 */
export function holdPhrase(tune: Tune, from: Ticks): PartingResult {
  const state = stateOf(tune);
  const phrase = state.layout.find((other) => other.from === from);
  if (!phrase) return refuse('no-phrase');
  return done(tune, hold(state, [span(state, phrase.from, phrase.to, phrase.name)]));
}

/**
 * The analysis may part this phrase again as it finds.
 * @example freePhrase(reel, 0).ok // true
 */
export function freePhrase(tune: Tune, from: Ticks): PartingResult {
  const { reading } = stateOf(tune);
  const parting = tune.parting ?? NO_PARTING;
  return done(tune, { ...parting, held: parting.held.filter((held) => placeOf(reading, held.from) !== from) });
}

/**
 * Gives a phrase a name of the teacher's own; an empty one takes it away.
 * @example namePhrase(reel, 0, 'The turn').tune.parting.held[0].name // 'The turn'
 */
export function namePhrase(tune: Tune, from: Ticks, name: string): PartingResult {
  const state = stateOf(tune);
  const phrase = state.layout.find((other) => other.from === from);
  if (!phrase) return refuse('no-phrase');
  return done(tune, hold(state, [span(state, phrase.from, phrase.to, name.trim() || null)]));
}

/**
 * Says whether a part begins with this phrase, and what it is called.
 * @example markPart(reel, 0, false) // { ok: false, why: 'first-part' }
 */
export function markPart(tune: Tune, from: Ticks, starts: boolean, label?: string): PartingResult {
  const { reading } = stateOf(tune);
  if (from === 0 && !starts) return refuse('first-part');
  const at = anchorAt(reading, from);
  if (!at) return refuse('no-phrase');
  const parting = tune.parting ?? NO_PARTING;
  const others = parting.parts.filter((mark) => placeOf(reading, mark.at) !== from);
  const known = parting.parts.find((mark) => placeOf(reading, mark.at) === from)?.label;
  const own = (label ?? known)?.trim();
  return done(tune, { ...parting, parts: [...others, { at, starts, ...(starts && own && { label: own }) }] });
}

/**
 * The order in which phrases will be taught. @param phrases none: the order that is computed
 * @example orderPhrases(reel, [phrase]).parting.order.length // 1
 */
export function orderPhrases(tune: Tune, phrases: readonly Pick<Phrase, 'notes'>[]): Tune {
  const order = phrases.flatMap(({ notes }) => notes[0] ?? []);
  return { ...tune, parting: simplest({ ...(tune.parting ?? NO_PARTING), order }) };
}

/**
 * Everything about parts and phrases as the analysis has it.
 * @example forgetParting(reel).parting // null
 */
export function forgetParting(tune: Tune): Tune {
  return { ...tune, parting: null };
}

/** Where a phrase can begin at this note, or why it cannot. */
function startAt({ reading }: State, note: string): Ticks | PartingRefusal {
  const index = reading.sounds.findIndex(({ ids }) => ids.includes(note));
  const sound = reading.sounds[index];
  if (!sound) return 'no-note';
  if (sound.note.id !== note) return 'inside-tie';
  if (joinedSounds(reading).has(index)) return 'under-slur';
  return index === 0 ? 0 : sound.onset;
}

function span({ reading }: State, from: Ticks, to: Ticks, name: string | null): HeldPhrase | null {
  const start = anchorAt(reading, from);
  if (!start) return null;
  return { from: start, to: anchorAt(reading, to), ...(name && { name }) };
}

/** Adds held phrases; what they overlap of earlier ones is let go. */
function hold({ reading }: State, added: readonly (HeldPhrase | null)[]): Parting {
  const parting = reading.tune.parting ?? NO_PARTING;
  const end = reading.starts.at(-1)!;
  const edges = ({ from, to }: HeldPhrase) =>
    [placeOf(reading, from) ?? -1, to === null ? end : (placeOf(reading, to) ?? -1)] as const;
  const own = added.filter((one) => one !== null);
  const left = parting.held.filter((held) => {
    const [from, to] = edges(held);
    return own.every((one) => {
      const [start, stop] = edges(one);
      return to <= start || from >= stop;
    });
  });
  return { ...parting, held: [...left, ...own] };
}

/** A part's beginning goes where its first phrase's goes. */
function movePart({ reading }: State, parting: Parting, phrase: LaidPhrase, to: Ticks): Parting {
  const at: Anchor | null = anchorAt(reading, to);
  if (!at) return parting;
  const others = parting.parts.filter((mark) => placeOf(reading, mark.at) !== phrase.from);
  return { ...parting, parts: [...others, { at, starts: true, ...(phrase.partLabel && { label: phrase.partLabel }) }] };
}

const done = (tune: Tune, parting: Parting): PartingResult => ({
  ok: true,
  tune: { ...tune, parting: simplest(parting) },
});

/** Nothing decided is written as nothing. */
function simplest(parting: Parting): Parting | null {
  return parting.held.length + parting.parts.length + parting.order.length > 0 ? parting : null;
}

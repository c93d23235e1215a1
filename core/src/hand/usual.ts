/**
 * The same phrase gets the same fingers: which notes stand at the same place of the same phrase, or of a
 * lick that comes back, and how each such place is usually fingered. Decision 7 of the domain.
 */
import { midi } from '../music/index.ts';
import { phrasesOf, type Form, type Relation, type RelationKind } from '../form/index.ts';
import type { HandNote } from './contexts.ts';
import type { HandSetup } from './setup.ts';

/** What beginning, or end, phrases of a kind share. */
const ALIKE: Partial<Record<RelationKind, 'start' | 'end'>> = {
  same: 'start',
  'same-but-ending': 'start',
  'same-start': 'start',
  'same-but-start': 'end',
};
/** Shorter licks are fingered as they fall. */
const LEAST_LICK = 3;

/** For each sound that comes back, the index of the sound that stands for its place; others are not in it. */
export type SamePlaces = ReadonlyMap<number, number>;

export function samePlaces(form: Form, sounds: readonly HandNote[]): SamePlaces {
  const root = new Map<number, number>();
  const rootOf = (index: number) => root.get(index) ?? index;
  const join = (index: number, other: number) => {
    if (index === other || root.has(index) || !alike(sounds[index]!, sounds[other]!)) return false;
    const to = rootOf(other);
    root.set(to, to);
    root.set(index, to);
    return true;
  };
  const own = soundsByNote(sounds);
  const inPhrase = (notes: readonly string[]) => notes.flatMap((id) => own.get(id) ?? []);
  const phrases = new Map(phrasesOf(form).map((phrase) => [phrase.id, phrase]));
  for (const { relation, notes } of phrases.values()) {
    const side = ALIKE[relation.kind];
    const other = relation.of === null ? undefined : phrases.get(relation.of);
    if (!other) continue;
    if (relation.kind === 'same-but-ends') joinMiddle(inPhrase, notes, other.notes, relation, join);
    if (!side) continue;
    joinRun(inPhrase(notes), inPhrase(other.notes), side, join);
  }
  for (const { places } of form.licks) {
    const [first, ...others] = places.map(({ notes }) => inPhrase(notes));
    if (!first || first.length < LEAST_LICK) continue;
    for (const other of others) joinRun(other, first, 'start', join);
  }
  return root;
}

/** What is in neither's differences is the middle that both share, note for note. */
function joinMiddle(
  inPhrase: (notes: readonly string[]) => readonly number[],
  own: readonly string[],
  other: readonly string[],
  { differences }: Relation,
  join: (index: number, other: number) => boolean,
): void {
  const ownApart = new Set(differences.flatMap((difference) => difference.own));
  const otherApart = new Set(differences.flatMap((difference) => difference.other));
  const ownMiddle = inPhrase(own.filter((id) => !ownApart.has(id)));
  const otherMiddle = inPhrase(other.filter((id) => !otherApart.has(id)));
  // Pickups are in no difference; the middle is counted from its end.
  joinRun(ownMiddle, otherMiddle, 'end', join);
}

function joinRun(
  own: readonly number[],
  other: readonly number[],
  side: 'start' | 'end',
  join: (index: number, other: number) => boolean,
): void {
  for (let at = 0; at < Math.min(own.length, other.length); at += 1) {
    const [mine, theirs] = side === 'start' ? [own[at]!, other[at]!] : [own.at(-1 - at)!, other.at(-1 - at)!];
    if (!join(mine, theirs)) return;
  }
}

/** A written note's sounds: its graces and itself; a note that is tied on to has none of its own. */
function soundsByNote(sounds: readonly HandNote[]): ReadonlyMap<string, readonly number[]> {
  const own = new Map<string, number[]>();
  sounds.forEach(({ source }, index) => {
    const list = own.get(source.note.id);
    if (list) list.push(index);
    else own.set(source.note.id, [index]);
  });
  return own;
}

function alike(a: HandNote, b: HandNote): boolean {
  return (
    a.grace === b.grace &&
    a.pitches.length === b.pitches.length &&
    a.pitches.every(({ letter, alter, octave }, index) => {
      const other = b.pitches[index]!;
      return letter === other.letter && alter === other.alter && octave === other.octave;
    })
  );
}

/**
 * How each place is usually fingered: as most of its sounds are when nothing binds them, and of equals as
 * the first.
 * @param keyOf how a sound is fingered; undefined where it is out of reach
 */
export function usualKeys(
  places: SamePlaces,
  keyOf: (sound: number) => string | undefined,
): ReadonlyMap<number, string> {
  const votes = new Map<number, Map<string, number>>();
  for (const [sound, place] of [...places].sort(([a], [b]) => a - b)) {
    const key = keyOf(sound);
    if (key === undefined) continue;
    const counts = votes.get(place) ?? new Map<string, number>();
    votes.set(place, counts.set(key, (counts.get(key) ?? 0) + 1));
  }
  const usual = new Map<number, string>();
  for (const [sound, place] of places) {
    const counts = votes.get(place);
    if (!counts) continue;
    const [key] = [...counts].reduce((best, one) => (one[1] > best[1] ? one : best));
    usual.set(sound, key);
  }
  return usual;
}

/** Sounds of phrases that take over another phrase's fingers, each with the sound it follows. */
export function likePairs(
  form: Form,
  sounds: readonly HandNote[],
  { locks, instrument }: HandSetup,
): ReadonlyMap<number, number> {
  const pairs = new Map<number, number>();
  const phrases = phrasesOf(form);
  const soundsIn = (notes: readonly string[]) => {
    const own = new Set(notes);
    return sounds.flatMap(({ source }, index) => (own.has(source.note.id) ? [index] : []));
  };
  for (const [id, { like, instrument: on }] of Object.entries(locks)) {
    if (!like || on !== instrument.id) continue;
    const own = phrases.find(({ notes }) => notes.includes(id));
    const other = phrases.find(({ notes }) => notes.includes(like));
    if (!own || !other || own === other) continue;
    const [mine, theirs] = [soundsIn(own.notes), soundsIn(other.notes)];
    for (let at = 0; at < Math.min(mine.length, theirs.length); at += 1) {
      const [a, b] = [sounds[mine[at]!]!, sounds[theirs[at]!]!];
      if (a.pitches.map(midi).join() === b.pitches.map(midi).join()) pairs.set(mine[at]!, theirs[at]!);
    }
  }
  return pairs;
}

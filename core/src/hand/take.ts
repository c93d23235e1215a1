/**
 * Decisions made in one go: keeping what is there, taking over the fingers that a file brought along,
 * and giving the fingers of one place to every place like it.
 */
import { midi, soundingNotes, type Tune } from '../music/index.ts';
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import { handNotesOf, type HandNote } from './contexts.ts';
import type { Finger } from './vocabulary.ts';
import type { Hand } from './hand.ts';
import type { FingeredNote } from './fingering.ts';
import { lockOf, withLock, type Lock, type LockedStop, type Locks } from './locks.ts';

export interface Taken {
  readonly locks: Locks;
  /** Notes whose fingers were taken. */
  readonly taken: number;
  /** Notes whose fingers cannot be played so on this instrument. */
  readonly left: number;
}

const isFinger = (text: string | undefined): text is '0' | '1' | '2' | '3' | '4' => /^[0-4]$/.test(text ?? '');

/**
 * Whether the tune brought fingers or strings of its own along.
 * @example bringsFingers(reel) // false
 */
export function bringsFingers(tune: Tune): boolean {
  return soundingNotes(tune).some(({ note }) => note.heads.some(({ finger, string }) => isFinger(finger) || string));
}

/**
 * The fingers and strings that the tune came with, as decisions; those that cannot be are left out.
 * @example takeBrought(hand).taken // 0
 */
export function takeBrought(hand: Hand): Taken {
  const { instrument } = hand.setup;
  const strings = instrument.strings.length;
  let locks = hand.setup.locks;
  let [taken, left] = [0, 0];
  hand.notes.forEach((sound, index) => {
    if (sound.grace) return;
    const { heads } = sound.source.note;
    if (!heads.some(({ finger, string }) => isFinger(finger) || string)) return;
    const stops = heads.map(({ pitch, finger, string }): LockedStop => ({
      midi: midi(pitch),
      ...(isFinger(finger) && { finger: Number(finger) as Finger }),
      ...(string !== undefined && { string: strings - string }),
    }));
    const step = hand.stepOf[index];
    const fits =
      step !== null &&
      step !== undefined &&
      hand
        .statesAt(step)
        .some((state) =>
          state.stops.every(
            (stop, at) =>
              (stops[at]?.finger === undefined || stops[at].finger === stop.finger) &&
              (stops[at]?.string === undefined || stops[at].string === stop.string),
          ),
        );
    if (!fits) return void (left += 1);
    taken += 1;
    locks = withLock(locks, sound.id, { ...locks[sound.id], instrument: instrument.id, stops });
  });
  return { locks, taken, left };
}

/** Decisions, and the id of the instrument that they are made for. */
export interface LockedFor {
  readonly locks: Locks;
  readonly instrument: string;
}

/**
 * Keeps these notes as they are fingered now.
 * @example Object.keys(keepAll(fingering.notes.slice(0, 2), { locks: {}, instrument: 'violin' })) // ['n1', 'n2']
 */
export function keepAll(notes: readonly FingeredNote[], { locks, instrument }: LockedFor): Locks {
  return notes.reduce(
    (all, note) =>
      note.stops.length === 0 ? all : withLock(all, note.id, { ...all[note.id], ...lockOf(note, instrument) }),
    locks,
  );
}

/**
 * Frees these notes of every decision for the instrument.
 * @example freeAll(['n1'], { locks: { n1: { instrument: 'violin', stops: [] } }, instrument: 'violin' }) // {}
 */
export function freeAll(noteIds: readonly string[], { locks, instrument }: LockedFor): Locks {
  const own = new Set(noteIds);
  return Object.fromEntries(
    Object.entries(locks).filter(([id, lock]) => !own.has(id) || lock.instrument !== instrument),
  );
}

/** Where a stretch of notes comes back note for note: other phrases, or the other places of a lick. */
export interface Twin {
  readonly label: string;
  /** Ids that match the stretch, one by one. */
  readonly ids: readonly string[];
}

/**
 * Phrases with the same notes as this one.
 * @example twinPhrases(reel, form, phrase) // []
 */
export function twinPhrases(tune: Tune, form: Form, phrase: Phrase): readonly Twin[] {
  const sounds = handNotesOf(tune);
  const own = soundsIn(sounds, phrase.notes);
  return phrasesOf(form).flatMap((other): Twin[] => {
    if (other.id === phrase.id) return [];
    const theirs = soundsIn(sounds, other.notes);
    const same = theirs.length === own.length && theirs.every((sound, index) => samePitches(sound, own[index]!));
    return same ? [{ label: other.label, ids: theirs.map(({ id }) => id) }] : [];
  });
}

/**
 * The other places of the licks that hold a note, with the notes here that each matches.
 * @example twinLicks(form, 'n1').length // 1
 */
export function twinLicks(
  form: Form,
  noteId: string,
): readonly { readonly here: readonly string[]; readonly twins: readonly Twin[] }[] {
  return form.licks.flatMap(({ places }) => {
    const here = places.find(({ notes }) => notes.includes(noteId));
    if (!here) return [];
    const twins = places
      .filter((place) => place !== here && place.notes.length === here.notes.length)
      .map(({ bar, notes }) => ({ label: `bar ${bar}`, ids: notes }));
    return twins.length > 0 ? [{ here: here.notes, twins }] : [];
  });
}

const soundsIn = (sounds: readonly HandNote[], notes: readonly string[]): readonly HandNote[] => {
  const own = new Set(notes);
  return sounds.filter(({ source }) => own.has(source.note.id));
};

const samePitches = (a: HandNote, b: HandNote) =>
  a.grace === b.grace && a.pitches.map(midi).join() === b.pitches.map(midi).join();

/**
 * Gives the fingers of these notes to each of their twins.
 * @example Object.keys(copyTo(fingering.notes.slice(0, 1), [{ label: 'A2', ids: ['n9'] }], { locks: {}, instrument: 'violin' })) // ['n9']
 */
export function copyTo(
  notes: readonly FingeredNote[],
  twins: readonly Twin[],
  { locks, instrument }: LockedFor,
): Locks {
  return twins.reduce(
    (all, { ids }) =>
      ids.reduce((into, id, index) => {
        const from = notes[index];
        if (!from || from.stops.length === 0) return into;
        const lock: Lock = { ...into[id], ...lockOf(from, instrument) };
        return withLock(into, id, lock);
      }, all),
    locks,
  );
}

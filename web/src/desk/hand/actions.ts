/** What a teacher decides in the Hand pass, from keys and buttons: each is one step of the arrangement's history. */
import {
  copyTo,
  freeAll,
  keepAll,
  lockOf,
  withLock,
  type FingeredNote,
  type Level,
  type Lock,
  type Locks,
  type Stop,
  type Twin,
  type Way,
} from '@nokta/core/hand';
import { instrumentOf } from '@nokta/core/instrument';
import { midi } from '@nokta/core/music';
import type { Phrase } from '@nokta/core/form';
import { takenFrom, type KnownLearner } from '@nokta/core/learner';
import { setFor } from '../rooms/arranging.ts';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';

type Noted = Pick<FingeredNote, 'id' | 'pitches'>;

export function useHandActions() {
  const desk = useDesk();
  /** What is decided for the hand, and the instrument that it is decided for. */
  const now = () => {
    const decisions = desk.record?.decisions;
    return decisions && { locks: decisions.hand.locks, instrument: instrumentOf(decisions.key).id };
  };
  const decide = (locks: Locks | undefined, label: string) =>
    locks ? desk.decide({ hand: { locks } }, label) : Promise.resolve();

  /** One note's decision with something in it changed; null takes that out of it. */
  function changed(locks: Locks, note: Noted, change: { readonly [Key in keyof Lock]?: Lock[Key] | null }): Locks {
    const instrument = now()!.instrument;
    const before = locks[note.id];
    const kept = before?.instrument === instrument ? before : { instrument, stops: [] };
    const next = Object.fromEntries(
      Object.entries({ ...kept, ...change }).filter(([, value]) => value !== null),
    ) as unknown as Lock;
    return withLock(locks, note.id, { ...next, stops: next.stops ?? [] });
  }

  function each(
    notes: readonly Noted[],
    change: (note: Noted) => { readonly [Key in keyof Lock]?: Lock[Key] | null },
    label: string,
  ): Promise<void> {
    const decisions = now();
    if (!decisions || notes.length === 0) return Promise.resolve();
    return decide(
      notes.reduce((locks, note) => changed(locks, note, change(note)), decisions.locks),
      label,
    );
  }

  return {
    /** A learner's hand for this arrangement, and what they play. @param playing their instrument comes along */
    takeLearner(learner: KnownLearner, playing = true): Promise<void> {
      if (!desk.record || !desk.tune) return Promise.resolve();
      const { plays, hand, person } = learner.value;
      // Who plays a half-size violin is given one with the hand.
      const key =
        playing && plays.instrument
          ? setFor(plays.instrument.like, desk.tune, desk.record.decisions, plays.instrument.make)
          : {};
      const own = { wishes: hand.wishes, learner: takenFrom(learner), limits: {} };
      return desk.decide({ ...key, hand: own }, `the hand of ${person.name}`);
    },
    finger: (note: Noted, stops: readonly Stop[], label: string) =>
      each([note], () => ({ stops: lockOf({ stops }, now()!.instrument).stops }), label),
    freeFinger: (note: Noted) => each([note], () => ({ stops: null }), 'free a finger'),
    /** These notes stay on one string, whatever the finger; chords go where they can. */
    stayOnString(notes: readonly Noted[], string: number, name: string): Promise<void> {
      const single = notes.filter(({ pitches }) => pitches.length === 1);
      return each(
        single,
        ({ pitches }) => ({ stops: [{ string, midi: midi(pitches[0]!) }] }),
        `stay on the ${name} string`,
      );
    },
    position: (notes: readonly Noted[], range: readonly [Level, Level] | null) =>
      each(notes, () => ({ position: range }), range ? `position ${range.join(' to ')}` : 'free the position'),
    toggleShift: (note: Noted) =>
      now()?.locks[note.id]?.shift
        ? each([note], () => ({ shift: null }), 'free a shift')
        : each([note], () => ({ shift: true }), 'shift here'),
    /** The finger is decided with it: which one stays down has to be known. */
    holdUntil: (note: FingeredNote, until: string | null) =>
      each(
        [note],
        () => ({
          holdUntil: until,
          ...(until && { stops: lockOf(note, now()!.instrument).stops }),
        }),
        until ? 'keep a finger down' : 'let a finger go',
      ),
    like(phrase: Phrase, other: Phrase | null): Promise<void> {
      const first = desk.notes.find(({ id }) => id === phrase.notes[0]);
      if (!first) return Promise.resolve();
      return each(
        [first],
        () => ({ like: other?.notes[0] ?? null }),
        other ? `${phrase.label} as ${other.label}` : `${phrase.label} on its own`,
      );
    },
    copy: (notes: readonly FingeredNote[], twins: readonly Twin[]) =>
      decide(now() && copyTo(notes, twins, now()!), 'copy fingers'),
    keep: (notes: readonly FingeredNote[], what: string) => decide(now() && keepAll(notes, now()!), `keep ${what}`),
    free: (ids: readonly string[], what: string) => decide(now() && freeAll(ids, now()!), `free ${what}`),
    /** Takes another way: its changed notes become decisions. */
    take(way: Pick<Way, 'changed'>, label: string): Promise<void> {
      const pitches = new Map(desk.notes.map((note) => [note.id, note]));
      const notes = way.changed.flatMap(({ id, stops }) => {
        const note = pitches.get(id);
        return note ? [{ ...note, stops }] : [];
      });
      return decide(now() && keepAll(notes, now()!), label);
    },
    async takeBrought(): Promise<string> {
      const taken = await desk.ask('takeBrought');
      if (taken === STALE) return '';
      await decide(taken.locks, 'use the tune’s own fingers');
      const kept = `${taken.taken} ${taken.taken === 1 ? 'finger' : 'fingers'} kept`;
      return taken.left === 0 ? `${kept}.` : `${kept}; ${taken.left} cannot be played so here and were left out.`;
    },
  };
}

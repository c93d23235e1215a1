/** What sounds, note by note, and what the model has to know of each: times, slurs, phrases, wishes. */
import {
  midi,
  seconds,
  soundingNotes,
  type Pitch,
  type Seconds,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { bowTune, slurredInto } from '../bow/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { framesFor, reach, type Frame } from './frames.ts';
import type { StepContext } from './rules.ts';
import { handOf, profileFor, type HandSetup } from './setup.ts';
import type { Profile } from './wishes.ts';

/** Time that a grace note takes, whatever the tempo. */
const GRACE: Seconds = 0.08;

/** A note, chord or grace note; ties are one sound. */
export interface HandNote {
  readonly id: string;
  /** All written notes it stands for. */
  readonly ids: readonly string[];
  readonly grace: boolean;
  readonly source: SoundingNote;
  readonly onset: Ticks;
  readonly duration: Ticks;
  /** Low to high. */
  readonly pitches: readonly Pitch[];
}

/** Notes and graces in written order, each grace before its note. */
export function handNotesOf(tune: Tune): readonly HandNote[] {
  return soundingNotes(tune).flatMap((source): HandNote[] => [
    ...(source.note.graces ?? []).map(({ id, pitch }) => ({
      id,
      ids: [id],
      grace: true,
      source,
      onset: source.onset,
      duration: 0,
      pitches: [pitch],
    })),
    {
      id: source.note.id,
      ids: source.chain.map(({ id }) => id),
      grace: false,
      source,
      onset: source.onset,
      duration: source.duration,
      pitches: source.note.heads.map(({ pitch }) => pitch),
    },
  ]);
}

export interface NoteContext {
  readonly context: StepContext;
  readonly frames: readonly Frame[];
  readonly profile: Profile;
}

export function contextsOf(
  tune: Tune,
  form: Form,
  sounds: readonly HandNote[],
  setup: HandSetup,
): readonly NoteContext[] {
  const phraseStarts = new Set(phrasesOf(form).map(({ notes }) => notes[0]));
  const slurred = setup.slurred ?? slurredInto(bowTune(tune, form));
  const high = highNotes(form, sounds, setup);
  const open = new Set(setup.tuning.pitches.map(midi));
  const profileAt = profilesOf(form, setup);
  const hand = handOf(setup);
  return sounds.map((sound, index) => {
    const before = sounds[index - 1];
    const span = before ? seconds(sound.onset - before.onset, setup.tempo) : Infinity;
    const rest = before && !before.grace ? seconds(sound.onset - before.onset - before.duration, setup.tempo) : 0;
    const profile = profileAt(sound.source.note.id);
    return {
      profile,
      frames: framesFor(hand, profile.limits),
      context: {
        hand,
        duration: sound.grace ? GRACE : seconds(sound.duration, setup.tempo),
        available: before?.grace || sound.grace ? Math.min(span, GRACE) || GRACE : span,
        rest,
        slurred: slurred.has(sound.id) || Boolean(before?.grace),
        phraseStart: phraseStarts.has(sound.source.note.id) && (sound.grace || !before?.grace),
        glide: !sound.grace && (sound.source.note.decorations?.includes('slide') ?? false),
        openAtHand: sound.pitches.length === 1 && open.has(midi(sound.pitches[0]!)),
        high: high.has(sound.source.note.id),
        first: index === 0,
        weights: profile.weights,
      },
    };
  });
}

/** The profile at a note: its part's own wishes, else the arrangement's. */
function profilesOf(form: Form, setup: HandSetup): (noteId: string) => Profile {
  const whole = profileFor(setup);
  const byNote = new Map<string, Profile>();
  for (const { label, phrases } of form.parts) {
    if (!setup.partWishes?.[label]) continue;
    const profile = profileFor(setup, label);
    for (const { notes } of phrases) for (const id of notes) byNote.set(id, profile);
  }
  return (noteId) => byNote.get(noteId) ?? whole;
}

/** Notes of phrases that go beyond first position. */
function highNotes(form: Form, sounds: readonly HandNote[], setup: HandSetup): ReadonlySet<string> {
  const hand = handOf(setup);
  const frames = framesFor(hand, {
    ...profileFor(setup).limits,
    noFourth: false,
    noExtension: false,
    maxPosition: 'I',
  });
  const top = midi(setup.tuning.pitches.at(-1)!) + reach(frames) - hand.beyondFirst;
  const beyond = new Set(
    sounds.filter(({ pitches }) => midi(pitches.at(-1)!) > top).map(({ source }) => source.note.id),
  );
  const phrases = phrasesOf(form).filter(({ notes }) => notes.some((id) => beyond.has(id)));
  return new Set(phrases.flatMap(({ notes }) => notes));
}

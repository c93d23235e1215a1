/** What sounds, note by note, and what the model has to know of each: times, slurs, phrases, wishes. */
import {
  midi,
  seconds,
  soundingNotes,
  type Pitch,
  type Seconds,
  type Semitones,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { framesFor, reach } from './frames.ts';
import { type Frame } from './vocabulary.ts';
import type { OpenRole, Pedal, StepContext } from './rules.ts';
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
  const notes: HandNote[] = [];
  for (const source of soundingNotes(tune)) {
    const { note, chain, onset, duration } = source;
    for (const { id, pitch } of note.graces ?? [])
      notes.push({ id, ids: [id], grace: true, source, onset, duration: 0, pitches: [pitch] });
    const ids = chain.map(({ id }) => id);
    const pitches = note.heads.map(({ pitch }) => pitch);
    notes.push({ id: note.id, ids, grace: false, source, onset, duration, pitches });
  }
  return notes;
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
  const slurred = setup.slurred ?? slurredByTune(tune, sounds);
  const high = highNotes(form, sounds, setup);
  const pedalAt = pedalsOf(sounds, setup);
  const openAt = openRoles(sounds, setup);
  const profileAt = profilesOf(form, setup);
  const hand = handOf(setup);
  const same = new SameContexts();
  const framesOf = new Map<Profile, readonly Frame[]>();
  return sounds.map((sound, index) => {
    const before = sounds[index - 1];
    const span = before ? seconds(sound.onset - before.onset, setup.tempo) : Infinity;
    const rest = before && !before.grace ? seconds(sound.onset - before.onset - before.duration, setup.tempo) : 0;
    const profile = profileAt(sound.source.note.id);
    let frames = framesOf.get(profile);
    if (!frames) framesOf.set(profile, (frames = framesFor(hand, profile.limits)));
    return same.of(profile, frames, {
      hand,
      duration: sound.grace ? GRACE : seconds(sound.duration, setup.tempo),
      available: before?.grace || sound.grace ? Math.min(span, GRACE) || GRACE : span,
      rest,
      slurred: slurred.has(sound.id) || Boolean(before?.grace),
      phraseStart: phraseStarts.has(sound.source.note.id) && (sound.grace || !before?.grace),
      glide: !sound.grace && (sound.source.note.decorations?.includes('slide') ?? false),
      open: openAt[index]!,
      high: high.has(sound.source.note.id),
      pedal: pedalAt[index] ?? null,
      first: index === 0,
      weights: profile.weights,
    });
  });
}

/** One object for notes in equal circumstances: most of a tune's are, and their prices are found by the object. */
class SameContexts {
  readonly #known = new Map<number, NoteContext[]>();

  of(profile: Profile, frames: readonly Frame[], context: StepContext): NoteContext {
    // Most contexts differ in their times; the few that share them are compared field by field.
    const time = context.duration + 1e3 * (context.available === Infinity ? 0 : context.available);
    let known = this.#known.get(time);
    if (!known) this.#known.set(time, (known = []));
    for (const one of known) if (one.profile === profile && isSame(one.context, context)) return one;
    const made = { profile, frames, context };
    known.push(made);
    return made;
  }
}

const isSame = (a: StepContext, b: StepContext): boolean => {
  let name: keyof StepContext;
  for (name in a) if (a[name] !== b[name]) return false;
  return true;
};

/** Sounds under the tune's own slurs, but for the first of each. */
function slurredByTune(tune: Tune, sounds: readonly HandNote[]): ReadonlySet<string> {
  if (tune.slurs.length === 0) return new Set();
  const at = new Map(sounds.flatMap(({ ids }, index) => ids.map((id) => [id, index] as const)));
  return new Set(
    tune.slurs.flatMap(({ from, to }) =>
      sounds.slice((at.get(from) ?? 0) + 1, (at.get(to) ?? -1) + 1).map(({ id }) => id),
    ),
  );
}

/** A note that comes back every other note so often is a pedal. */
const PEDAL_TIMES = 3;
/** Semitones to a neighbour, at the most. */
const NEIGHBOUR = 2;

/** The same object for the same pedal, so that what was priced for it is found again. */
const pedals = new Map<string, Pedal>();
function pedalOf(string: number, reach: Semitones, itself: boolean): Pedal {
  const key = `${string} ${reach} ${itself}`;
  const pedal = pedals.get(key) ?? { string, reach, itself };
  pedals.set(key, pedal);
  return pedal;
}

/** Where an open string sounds as a pedal, and the notes that move against it. */
function pedalsOf(sounds: readonly HandNote[], { tuning }: HandSetup): readonly (Pedal | undefined)[] {
  const open = tuning.pitches.map(midi);
  const found: (Pedal | undefined)[] = [];
  const single = ({ pitches, grace }: HandNote) => (pitches.length === 1 && !grace ? midi(pitches[0]!) : null);
  for (const start of sounds.keys()) {
    const pitch = single(sounds[start]!);
    const string = pitch === null ? -1 : open.indexOf(pitch);
    // Begun two notes before, it is told from there.
    if (string < 0 || found[start]?.itself) continue;
    let last = start;
    while (sounds[last + 2] && single(sounds[last + 2]!) === pitch && single(sounds[last + 1]!) !== pitch) last += 2;
    if ((last - start) / 2 + 1 < PEDAL_TIMES) continue;
    // To and fro between neighbours is a turn, and stays under the hand.
    const against = sounds.slice(start, last + 1).filter((_, at) => at % 2 === 1);
    const far = against.filter((other) => Math.abs(single(other)! - pitch!) > NEIGHBOUR);
    if (2 * far.length <= against.length) continue;
    const next = open[string + 1];
    const reach = next === undefined ? Infinity : next - open[string]!;
    for (let at = Math.max(0, start - 1); at <= Math.min(last + 1, sounds.length - 1); at += 1) {
      const itself = (at - start) % 2 === 0;
      if (itself || found[at] === undefined) found[at] = pedalOf(string, reach, itself);
    }
  }
  return found;
}

/** Notes for which the line has to stay below after it has turned back from an open string. */
const BELOW_AFTER = 3;

/**
 * What the open string is to the line at each note that has its pitch. It is a turn where both neighbours lie on the
 * string below and the next notes need no other string either.
 */
function openRoles(sounds: readonly HandNote[], { tuning }: HandSetup): readonly (OpenRole | null)[] {
  const open = tuning.pitches.map(midi);
  const lows = sounds.map(({ pitches }) => midi(pitches[0]!));
  const isTurn = (at: number, string: number) => {
    const pitch = lows[at]!;
    const below = (low: number | undefined) => low !== undefined && low < pitch && low > (open[string - 1] ?? pitch);
    if (!below(lows[at - 1]) || !below(lows[at + 1])) return false;
    return sounds.slice(at + 2, at + 1 + BELOW_AFTER).every((sound) => midi(sound.pitches.at(-1)!) <= pitch);
  };
  return sounds.map(({ pitches, grace }, at) => {
    const pitch = lows[at]!;
    const string = pitches.length > 1 ? -1 : open.indexOf(pitch);
    if (string < 0) return null;
    if ((lows[at - 1] ?? pitch) >= pitch && (lows[at + 1] ?? pitch) >= pitch) return 'bottom';
    return !grace && isTurn(at, string) ? 'turn' : 'between';
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

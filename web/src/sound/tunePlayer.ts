/**
 * Plays an arrangement, whole or in part: counted in, with chords, beat and drone, at a share of its tempo. Knows an
 * arrangement and no desk: whoever shows one can play it.
 */
import { computed, onScopeDispose, ref, watch, type Ref } from 'vue';
import type { Bowing } from '@nokta/core/bow';
import type { Phrase } from '@nokta/core/form';
import type { Instrument } from '@nokta/core/instrument';
import { beatTempoText, midi, type Bpm, type Key, type Midi, type Tune } from '@nokta/core/music';
import type { Names } from '@nokta/core/paper';
import { droneFor, playScore, type Choice, type Score, type Scope, type Sounding } from '@nokta/core/practice';
import { spokenCues } from '@nokta/core/talk';
import { createPlayer, type Mix } from './player.ts';
import type { SoundSettings } from './settings.ts';
import { say } from './speech.ts';

/** What is known of an arrangement that is played. */
export type Playable = Sounding &
  Parameters<typeof spokenCues>[0] & {
    readonly tempo: Bpm;
    readonly instrument: Pick<Instrument, 'hand'>;
    readonly form: { readonly key: Key | null };
  };

/** What a phrase is heard with instead of what holds. */
export interface Heard {
  /** Other strokes. */
  readonly bowing?: Bowing;
  /** The tune that a version was made from. */
  readonly tune?: Tune;
  /** Several at once: a group that plays together. */
  readonly tunes?: readonly Tune[];
}

/** Something to play beside the tune, at its own tempo in quarters a minute. */
export interface Drill {
  readonly score: Score;
  readonly tempo: Bpm;
}

export interface TunePlayerOptions {
  readonly arrangement: () => Playable | null;
  readonly settings: Readonly<Ref<SoundSettings>>;
  /** Share of the arrangement's tempo, in percent. */
  readonly percent: Readonly<Ref<number>>;
  readonly names: () => Names;
  /** Told which note sounds; null where none does any more. */
  readonly onNote: (id: string | null) => void;
  /** Makes the sound itself; tests bring their own. */
  readonly make?: typeof createPlayer;
}

export type TunePlayer = ReturnType<typeof createTunePlayer>;

/** To be called where effects are collected: it falls silent with them. */
export function createTunePlayer({
  arrangement,
  settings,
  percent,
  names,
  onNote,
  make = createPlayer,
}: TunePlayerOptions) {
  /** The phrase that is being played alone, if one is. */
  const soundingPhrase = ref<string | null>(null);
  /** The beat that is counted now. */
  const count = ref<string | null>(null);
  const player = make(
    (id) => {
      onNote(id);
      const cue = id === null ? undefined : cues.value.get(id);
      if (cue) say(cue);
      if (id === null) soundingPhrase.value = null;
    },
    (now) => (count.value = now),
  );

  const sound = computed(() => arrangement()?.instrument.hand ?? 'violin');
  const quarterBpm = computed(() => ((arrangement()?.tempo ?? 96) * percent.value) / 100);
  const tempoText = computed(() =>
    beatTempoText(arrangement()?.tune.bars[0]?.metre ?? { beats: 4, unit: 4 }, quarterBpm.value),
  );
  /** What is said on each note, as it sounds. */
  const cues = computed<ReadonlyMap<string, string>>(() => {
    const { cues: voice, aloud } = settings.value;
    const now = arrangement();
    // Two voices at once are none.
    if (voice === 'none' || aloud || !now) return new Map();
    return spokenCues(now, { voice, names: names(), quarterBpm: quarterBpm.value });
  });
  const drone = computed<readonly Midi[]>(() => {
    const key = arrangement()?.form.key;
    return key ? droneFor(key, settings.value.drone, settings.value.droneNote) : [];
  });
  const mix = computed<Mix>(() => {
    const { chords, metronome, aloud } = settings.value;
    return { chords, metronome, aloud, drone: drone.value };
  });
  watch(mix, (now) => player.setMix(now), { immediate: true });
  watch(quarterBpm, (now) => player.setTempo(now));
  onScopeDispose(() => player.stop());

  function begin(score: Score | null, loop: boolean, bpm: Bpm = quarterBpm.value): void {
    if (score) void player.play(sound.value, score, { quarterBpm: bpm, loop, countIn: settings.value.countIn });
  }

  /** Plays what is chosen; a phrase by itself shows as sounding. */
  function play(what: Scope, choice: Omit<Choice, 'repeats'>, loop = false): void {
    const now = arrangement();
    if (!now) return;
    begin(playScore(now, what, { ...choice, repeats: settings.value.repeats }), loop);
    soundingPhrase.value = what === 'phrase' ? (choice.phrase?.id ?? null) : null;
  }

  /** @param other what it is heard with instead of what holds */
  function playPhrase(phrase: Phrase, loop = false, other: Heard | null = null): void {
    const now = arrangement();
    if (!now) return;
    const { bowing, tune, tunes = [] } = other ?? {};
    // Strokes belong to the notes that they were made for.
    const heard: Sounding = tune ? { tune } : bowing ? { ...now, bowing } : now;
    const what: Choice = { part: null, phrase, chosen: [], from: null, repeats: settings.value.repeats };
    const all = (tunes.length > 0 ? tunes.map((voice) => ({ tune: voice })) : [heard]).flatMap(
      (voice) => playScore(voice, 'phrase', what) ?? [],
    );
    const notes = all.flatMap((voice) => voice.notes).sort((a, b) => a.at - b.at);
    begin(all[0] ? { ...all[0], notes } : null, loop);
    soundingPhrase.value = phrase.id;
  }

  return {
    soundingPhrase,
    count,
    quarterBpm,
    tempoText,
    playing: player.playing,
    loading: player.loading,
    play,
    playPhrase,
    /** A drill is played by itself, as much slower as the tune is. */
    playDrill: ({ score, tempo }: Drill, loop = false) => begin(score, loop, (tempo * percent.value) / 100),
    stop: player.stop,
    /** Loads what the first note would have to wait for. */
    prepare(): void {
      const pitches = new Set(arrangement()?.fingering.notes.flatMap((note) => note.pitches.map(midi)));
      void player.prepare(sound.value, [...pitches]);
    },
    /** One short sound. */
    sound: (pitches: readonly Midi[]) => void player.sound(sound.value, pitches),
  };
}

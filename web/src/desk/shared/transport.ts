/** What is played and how: the tune, a part, a phrase or what is chosen; counted in, with chords, beat and drone. */
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import type { Part } from '@nokta/core/form';
import { beatTempoText, midi, type Midi } from '@nokta/core/music';
import {
  droneFor,
  playScore,
  scopeInLoop,
  type CountIn,
  type DroneId,
  type Repeats,
  type Scope,
} from '@nokta/core/practice';
import { spokenCues, type Voice } from '@nokta/core/talk';
import { createPlayer, type Mix } from '../../sound/player.ts';
import { say } from '../../sound/speech.ts';
import { useLook } from '../../settings/look.ts';
import { useDesk, type Drill, type Heard } from '../store.ts';

export const DRONES = [
  { value: 'none', title: 'No drone' },
  { value: 'tonic', title: 'Home note' },
  { value: 'fifth', title: 'Home note and fifth' },
  { value: 'note', title: 'Another note' },
] as const satisfies readonly { readonly value: DroneId; readonly title: string }[];

export interface SoundSettings {
  repeats: Repeats;
  countIn: CountIn;
  chords: boolean;
  metronome: boolean;
  /** Beats are counted aloud. */
  aloud: boolean;
  /** Fingers or names are said with the notes. */
  cues: Voice | 'none';
  drone: DroneId;
  /** Name of the note that drones where it is neither home note nor fifth: "A3". */
  droneNote: string;
}

const FIRST_SETTINGS: SoundSettings = {
  repeats: 'written',
  countIn: 'none',
  chords: true,
  metronome: false,
  aloud: false,
  cues: 'none',
  drone: 'none',
  droneNote: 'A3',
};
/** Milliseconds from the first strips until the samples are loaded. */
const READING_MS = 2000;

/** Shared by the player and whatever offers to change them. */
export const useSoundSettings = () =>
  useStorage<SoundSettings>('nokta-sound', FIRST_SETTINGS, undefined, { mergeDefaults: true });

export function useTransport() {
  const desk = useDesk();
  const look = useLook();
  const settings = useSoundSettings();
  const percent = useStorage('nokta-tempo-percent', 100);
  const looping = ref(false);
  const scope = ref<Scope>('tune');
  /** Phrase that is being played alone, if one is. */
  const soundingPhrase = ref<string | null>(null);
  /** The beat that is counted now. */
  const count = ref<string | null>(null);
  const player = createPlayer(
    (noteId) => {
      desk.playingId = noteId;
      const cue = noteId === null ? undefined : cues.value.get(noteId);
      if (cue) say(cue);
      if (noteId === null) soundingPhrase.value = null;
    },
    (now) => (count.value = now),
  );

  /** What is said on each note, as it sounds. */
  const cues = computed<ReadonlyMap<string, string>>(() => {
    const { cues: voice, aloud } = settings.value;
    // Two voices at once are none.
    if (voice === 'none' || aloud || !desk.arrangement) return new Map();
    return spokenCues(desk.arrangement, { voice, names: look.names, quarterBpm: quarterBpm.value });
  });

  const sound = computed(() => desk.arrangement?.instrument.hand ?? 'violin');
  const pitches = computed(() => [...new Set(desk.notes.flatMap((note) => note.pitches.map(midi)))]);
  const quarterBpm = computed(() => ((desk.arrangement?.tempo ?? 96) * percent.value) / 100);
  const tempoText = computed(() =>
    beatTempoText(desk.arrangement?.tune.bars[0]?.metre ?? { beats: 4, unit: 4 }, quarterBpm.value),
  );
  const part = computed<Part | null>(() => {
    const phrase = desk.selectedPhrase;
    return desk.arrangement?.form.parts.find(({ phrases }) => phrases.some(({ id }) => id === phrase?.id)) ?? null;
  });
  const drone = computed<readonly Midi[]>(() => {
    const key = desk.arrangement?.form.key;
    return key ? droneFor(key, settings.value.drone, settings.value.droneNote) : [];
  });
  const mix = computed<Mix>(() => ({
    chords: settings.value.chords,
    metronome: settings.value.metronome,
    aloud: settings.value.aloud,
    drone: drone.value,
  }));
  watch(mix, (now) => player.setMix(now), { immediate: true });
  watch(quarterBpm, (now) => player.setTempo(now));
  // The hair is drawn at the tempo that is heard.
  watch(quarterBpm, (now) => (desk.heardTempo = now), { immediate: true });
  watch(
    () => desk.range.length > 1,
    (chosen) => {
      // What was just chosen is what is wanted; once it is gone there is nothing to play of it.
      if (chosen) scope.value = 'selection';
      else if (scope.value === 'selection') scope.value = 'tune';
    },
  );
  // Loaded while the teacher still reads, so that Play sounds at once; but the first keys of the desk come first.
  let reading: ReturnType<typeof setTimeout> | undefined;
  watch(
    () => desk.staves.size > 0 && sound.value,
    (ready) => {
      clearTimeout(reading);
      if (ready) reading = setTimeout(() => void player.prepare(ready, pitches.value), READING_MS);
    },
  );
  onBeforeUnmount(() => {
    clearTimeout(reading);
    player.stop();
  });

  /** @param from note to begin at, where the whole tune is played */
  function start(what: Scope, loop: boolean, from: string | null = null): void {
    const { repeats, countIn } = settings.value;
    const chosen = desk.range.length > 1 ? desk.range.flatMap(({ ids }) => ids) : [];
    const score =
      desk.arrangement &&
      playScore(desk.arrangement, what, { part: part.value, phrase: desk.selectedPhrase, chosen, from, repeats });
    if (score) void player.play(sound.value, score, { quarterBpm: quarterBpm.value, loop, countIn });
  }

  /** @param from note that writing stands at; else the selected note */
  function toggle(from: string | null): void {
    if (player.playing.value) return player.stop();
    const what = scopeInLoop(scope.value, looping.value);
    start(what, looping.value, from ?? desk.selectedId);
    if (what === 'phrase') soundingPhrase.value = desk.selectedPhrase?.id ?? null;
  }

  /** @param other what it is heard with instead of what holds */
  function playPhrase(id: string, other: Heard | null = null): void {
    const phrase = desk.phrases.find((other) => other.id === id);
    if (!phrase || !desk.arrangement) return;
    if (soundingPhrase.value === id && player.playing.value && !other) return player.stop();
    const { repeats, countIn } = settings.value;
    const { bowing, tune, tunes = [] } = other ?? {};
    // Strokes belong to the notes that they were made for.
    const heard = tune ? { tune } : bowing ? { ...desk.arrangement, bowing } : desk.arrangement;
    const what = { part: null, phrase, chosen: [], from: null, repeats };
    const all = (tunes.length > 0 ? tunes.map((one) => ({ tune: one })) : [heard]).flatMap(
      (one) => playScore(one, 'phrase', what) ?? [],
    );
    const [score] = all;
    const notes = all.flatMap((one) => one.notes).sort((a, b) => a.at - b.at);
    if (score) {
      void player.play(
        sound.value,
        { ...score, notes },
        { quarterBpm: quarterBpm.value, loop: looping.value, countIn },
      );
    }
    soundingPhrase.value = id;
  }

  /** A drill is played by itself, as much slower as the tune is. */
  function playDrill({ score, tempo }: Drill): void {
    const { countIn } = settings.value;
    const quarters = (tempo * percent.value) / 100;
    void player.play(sound.value, score, { quarterBpm: quarters, loop: looping.value, countIn });
  }

  /** What is looped is a phrase, unless something else was asked for. */
  function toggleLoop(): void {
    looping.value = !looping.value;
    if (looping.value) scope.value = scopeInLoop(scope.value, true);
  }

  return {
    settings,
    percent,
    looping,
    scope,
    part,
    tempoText,
    soundingPhrase,
    count,
    playing: player.playing,
    loading: player.loading,
    toggle,
    playPhrase,
    playDrill,
    toggleLoop,
    stop: player.stop,
    sound: (pitches: readonly Midi[]) => void player.sound(sound.value, pitches),
  };
}

export type Transport = ReturnType<typeof useTransport>;

/** The desk's player: what is played is the desk's arrangement, from where the desk stands. */
import { computed, onScopeDispose, ref, watch } from 'vue';
import type { Part } from '@nokta/core/form';
import { scopeInLoop, type Scope } from '@nokta/core/practice';
import type { createPlayer } from '../../sound/player.ts';
import { createTunePlayer, type Heard } from '../../sound/tunePlayer.ts';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';
import { useTuneSound } from './tuneSound.ts';

/** Milliseconds from the first strips until the samples are loaded. */
const READING_MS = 2000;

/** @param make makes the sound itself; tests bring their own */
export function useTransport(make?: typeof createPlayer) {
  const desk = useDesk();
  const look = useLook();
  const { settings, percent } = useTuneSound(() => desk.tune?.id ?? null);
  const looping = ref(false);
  const scope = ref<Scope>('tune');
  const player = createTunePlayer({
    arrangement: () => desk.arrangement,
    settings,
    percent,
    names: () => look.names,
    onNote: (id) => (desk.playingId = id),
    ...(make && { make }),
  });

  const part = computed<Part | null>(() => {
    const phrase = desk.selectedPhrase;
    return desk.arrangement?.form.parts.find(({ phrases }) => phrases.some(({ id }) => id === phrase?.id)) ?? null;
  });
  // The hair is drawn at the tempo that is heard.
  watch(player.quarterBpm, (now) => (desk.heardTempo = now), { immediate: true });
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
    () => desk.staves.size > 0 && desk.arrangement?.instrument.hand,
    (ready) => {
      clearTimeout(reading);
      if (ready) reading = setTimeout(player.prepare, READING_MS);
    },
  );
  onScopeDispose(() => clearTimeout(reading));

  /** @param from note that writing stands at; else the selected note */
  function toggle(from: string | null): void {
    if (player.playing.value) return player.stop();
    const chosen = desk.range.length > 1 ? desk.range.flatMap(({ ids }) => ids) : [];
    player.play(
      scopeInLoop(scope.value, looping.value),
      { part: part.value, phrase: desk.selectedPhrase, chosen, from: from ?? desk.selectedId },
      looping.value,
    );
  }

  /** @param other what it is heard with instead of what holds */
  function playPhrase(id: string, other: Heard | null = null): void {
    const phrase = desk.phrases.find((known) => known.id === id);
    if (!phrase) return;
    if (player.soundingPhrase.value === id && player.playing.value && !other) return player.stop();
    player.playPhrase(phrase, looping.value, other);
  }

  /** What is looped is a phrase, unless something else was asked for. */
  function toggleLoop(): void {
    looping.value = !looping.value;
    if (looping.value) scope.value = scopeInLoop(scope.value, true);
  }

  desk.playedBy({
    phrase: (heard) => desk.selectedPhrase && playPhrase(desk.selectedPhrase.id, heard),
    drill: (drill) => player.playDrill(drill, looping.value),
    pitches: player.sound,
  });

  const { soundingPhrase, count, tempoText, playing, loading, stop, sound } = player;
  return {
    settings,
    percent,
    looping,
    scope,
    part,
    tempoText,
    soundingPhrase,
    count,
    playing,
    loading,
    toggle,
    playPhrase,
    toggleLoop,
    stop,
    sound,
  };
}

export type Transport = ReturnType<typeof useTransport>;

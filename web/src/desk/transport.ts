/** What is played and how: the tune, a part, a phrase or what is chosen; counted in, with chords, beat and drone. */
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { barStarts, beatTempoText, midi, pitch, placedNotes, type Midi } from '@nokta/core/music';
import type { Part } from '@nokta/core/form';
import { createPlayer, type Mix } from '../sound/player.ts';
import { partScore, spanScore, tuneScore, type CountIn, type Repeats, type Score } from '../sound/score.ts';
import { useDesk } from './store.ts';

export type Scope = 'tune' | 'part' | 'phrase' | 'selection';

export const DRONES = [
  { value: 'none', title: 'No drone' },
  { value: 'tonic', title: 'Home note' },
  { value: 'fifth', title: 'Home note and fifth' },
  { value: 'note', title: 'Another note' },
] as const;
export type DroneId = (typeof DRONES)[number]['value'];

export interface SoundSettings {
  repeats: Repeats;
  countIn: CountIn;
  chords: boolean;
  metronome: boolean;
  drone: DroneId;
  /** Name of the note that drones where it is neither home note nor fifth: "A3". */
  droneNote: string;
}

const FIRST_SETTINGS: SoundSettings = {
  repeats: 'written',
  countIn: 'none',
  chords: true,
  metronome: false,
  drone: 'none',
  droneNote: 'A3',
};
/** The drone lies here or just above: the octave of the violin's and viola's G string. */
const DRONE_FROM: Midi = 48;

export function useTransport() {
  const desk = useDesk();
  const settings = useStorage<SoundSettings>('nokta-sound', FIRST_SETTINGS, undefined, { mergeDefaults: true });
  const percent = useStorage('nokta-tempo-percent', 100);
  const looping = ref(false);
  const scope = ref<Scope>('tune');
  /** Phrase that is being played alone, if one is. */
  const soundingPhrase = ref<string | null>(null);
  const player = createPlayer((noteId) => {
    desk.playingId = noteId;
    if (noteId === null) soundingPhrase.value = null;
  });

  const instrument = computed(() => desk.arrangement?.decisions.instrument ?? 'violin');
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
    const { drone: kind, droneNote } = settings.value;
    if (!key || kind === 'none') return [];
    if (kind === 'note') return [midi(pitch(droneNote))];
    const home = midi({ ...key.tonic, octave: 3 });
    const low = home < DRONE_FROM ? home + 12 : home;
    return kind === 'fifth' ? [low, low + 7] : [low];
  });
  const mix = computed<Mix>(() => ({
    chords: settings.value.chords,
    metronome: settings.value.metronome,
    drone: drone.value,
  }));
  watch(mix, (now) => player.setMix(now), { immediate: true });
  watch(quarterBpm, (now) => player.setTempo(now));
  watch(
    () => desk.range.length > 1,
    (chosen) => {
      // What was just chosen is what is wanted; once it is gone there is nothing to play of it.
      if (chosen) scope.value = 'selection';
      else if (scope.value === 'selection') scope.value = 'tune';
    },
  );
  // Loaded while the teacher still reads, so that Play sounds at once.
  watch(
    () => desk.staves.size > 0 && instrument.value,
    (ready) => ready && setTimeout(() => void player.prepare(ready, pitches.value), 300),
  );
  onBeforeUnmount(() => player.stop());

  /** @param from note to begin at, where the whole tune is played */
  function scoreFor(what: Scope, from: string | null): Score | null {
    const arrangement = desk.arrangement;
    if (!arrangement) return null;
    const { repeats } = settings.value;
    if (what === 'part' && part.value) return partScore(arrangement, part.value, repeats);
    const phrase = desk.selectedPhrase;
    if (what === 'phrase' && phrase) return spanScore(arrangement, phrase.from, phrase.to);
    if (what === 'selection' && desk.range.length > 1) {
      const starts = barStarts(arrangement.tune.bars);
      const ids = new Set(desk.range.flatMap((note) => note.ids));
      const notes = placedNotes(arrangement.tune).filter(({ note }) => ids.has(note.id));
      const last = notes.at(-1)!;
      return spanScore(arrangement, notes[0]!.onset, starts[last.barIndex]! + last.note.at + last.note.duration);
    }
    return tuneScore(arrangement, from, repeats);
  }

  function start(what: Scope, loop: boolean, from: string | null = null): void {
    const score = scoreFor(what, from);
    if (!score || score.notes.length === 0) return;
    const { countIn } = settings.value;
    void player.play(instrument.value, score, { quarterBpm: quarterBpm.value, loop, countIn });
  }

  /** @param from note that writing stands at; else the selected note */
  function toggle(from: string | null): void {
    if (player.playing.value) return player.stop();
    const what = looping.value && scope.value === 'tune' ? 'phrase' : scope.value;
    start(what, looping.value, from ?? desk.selectedId);
    if (what === 'phrase') soundingPhrase.value = desk.selectedPhrase?.id ?? null;
  }

  function playPhrase(id: string): void {
    const phrase = desk.phrases.find((other) => other.id === id);
    if (!phrase || !desk.arrangement) return;
    if (soundingPhrase.value === id && player.playing.value) return player.stop();
    const score = spanScore(desk.arrangement, phrase.from, phrase.to);
    const { countIn } = settings.value;
    void player.play(instrument.value, score, { quarterBpm: quarterBpm.value, loop: looping.value, countIn });
    soundingPhrase.value = id;
  }

  return {
    settings,
    percent,
    looping,
    scope,
    part,
    tempoText,
    soundingPhrase,
    playing: player.playing,
    loading: player.loading,
    toggle,
    playPhrase,
    stop: player.stop,
    sound: (pitches: readonly Midi[]) => void player.sound(instrument.value, pitches),
  };
}

export type Transport = ReturnType<typeof useTransport>;

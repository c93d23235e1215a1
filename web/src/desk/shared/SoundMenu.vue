<script setup lang="ts">
/** What sounds along with the tune. */
import { canSpeak } from '../../sound/speech.ts';
import { DRONES, type SoundSettings } from '../../sound/settings.ts';

defineProps<{ activator: 'parent' }>();
const settings = defineModel<SoundSettings>({ required: true });

const COUNT_INS = [
  { value: 'none', title: 'No count-in' },
  { value: 'beats', title: 'A bar of beats' },
  { value: 'eighths', title: 'A bar of eighths' },
] as const;
const CUES = [
  { value: 'none', title: 'Nothing' },
  { value: 'fingers', title: 'Fingers' },
  { value: 'names', title: 'Note names' },
  { value: 'both', title: 'Both' },
] as const;
const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'];
/** Notes that strings drone on: the low octaves, sharps and flats by the names players use. */
const DRONE_NOTES = ['2', '3', '4'].flatMap((octave) =>
  LETTERS.flatMap((letter) => [
    ...(letter === 'E' || letter === 'B' ? [{ value: `${letter}b${octave}`, title: `${letter}♭${octave}` }] : []),
    { value: `${letter}${octave}`, title: `${letter}${octave}` },
    ...(letter === 'F' || letter === 'C' || letter === 'G'
      ? [{ value: `${letter}#${octave}`, title: `${letter}♯${octave}` }]
      : []),
  ]),
);

function set(change: Partial<SoundSettings>): void {
  settings.value = { ...settings.value, ...change };
}
</script>

<template>
  <v-menu :activator="activator" :close-on-content-click="false" location="top start" offset="8">
    <v-card class="sound pa-4" role="dialog" aria-label="What sounds along">
      <slot />
      <v-select
        label="Count-in"
        :items="[...COUNT_INS]"
        :model-value="settings.countIn"
        @update:model-value="set({ countIn: $event })"
      />
      <v-select
        label="Drone"
        :items="[...DRONES]"
        :model-value="settings.drone"
        @update:model-value="set({ drone: $event })"
      />
      <v-select
        v-if="settings.drone === 'note'"
        label="Note of the drone"
        :items="DRONE_NOTES"
        :model-value="settings.droneNote"
        @update:model-value="set({ droneNote: $event })"
      />
      <v-switch
        label="Repeats as written"
        :model-value="settings.repeats === 'written'"
        @update:model-value="set({ repeats: $event ? 'written' : 'once' })"
      />
      <v-switch
        label="Chords, softly"
        :model-value="settings.chords"
        @update:model-value="set({ chords: Boolean($event) })"
      />
      <v-switch
        label="Metronome"
        :model-value="settings.metronome"
        @update:model-value="set({ metronome: Boolean($event) })"
      />
      <v-switch
        v-if="canSpeak()"
        label="Count aloud"
        :model-value="settings.aloud"
        @update:model-value="set({ aloud: Boolean($event), ...($event && { cues: 'none' }) })"
      />
      <v-select
        v-if="canSpeak()"
        label="Say with the notes"
        :items="[...CUES]"
        :model-value="settings.cues"
        @update:model-value="set({ cues: $event, ...($event !== 'none' && { aloud: false }) })"
      />
    </v-card>
  </v-menu>
</template>

<style scoped>
.sound {
  display: grid;
  gap: 10px;
  width: 270px;
  border: 1px solid var(--edge);
}
</style>

<script setup lang="ts">
/** What a MIDI file leaves open: suggested, and for the teacher to choose. */
import { computed } from 'vue';
import type { Incoming, ReadChoice } from '@nokta/core/files';
import type { GridId } from '@nokta/core/formats';
import { barLength, keyName, TICKS_PER_QUARTER, type Key, type Metre } from '@nokta/core/music';

const choice = defineModel<NonNullable<ReadChoice['midi']>>({ required: true });
const props = defineProps<{ found: NonNullable<Incoming['midi']> }>();

const GRID_NAMES: Readonly<Record<GridId, string>> = {
  eighth: 'Eighths',
  'eighth-triplets': 'Eighths and triplets',
  sixteenth: 'Sixteenths',
  'sixteenth-triplets': 'Sixteenths and triplets',
  'thirty-second': 'Thirty-seconds',
};
const metreText = ({ beats, unit }: Metre) => `${beats}/${unit}`;
const metres = computed(() =>
  props.found.metres.map((metre) => ({ title: metreText(metre), value: metreText(metre) })),
);
const keys = computed(() => {
  const all = [props.found.taken.key, ...props.found.keys];
  return [...new Map(all.map((key) => [keyName(key), key])).keys()];
});
const grids = Object.entries(GRID_NAMES).map(([value, title]) => ({ value, title }));
const pickups = computed(() => {
  const full = barLength(props.found.taken.metre);
  const eighths = [0, 1, 2, 3, 4].map((count) => (count * TICKS_PER_QUARTER) / 2);
  return [...new Set([...eighths, props.found.taken.pickup])]
    .filter((length) => length < full)
    .sort((a, b) => a - b)
    .map((value) => ({ value, title: value === 0 ? 'None' : `${(value / TICKS_PER_QUARTER) * 2} eighths` }));
});

function setMetre(text: string): void {
  const metre = props.found.metres.find((one) => metreText(one) === text);
  // Another metre has another pickup; it is found anew.
  const { pickup: _, ...rest } = choice.value;
  if (metre) choice.value = { ...rest, metre };
}

function setKey(name: string): void {
  const key: Key | undefined = [props.found.taken.key, ...props.found.keys].find((one) => keyName(one) === name);
  if (key) choice.value = { ...choice.value, key };
}
</script>

<template>
  <div class="choices" role="group" aria-label="How the file is read">
    <v-select
      label="Metre"
      :items="metres"
      :model-value="metreText(found.taken.metre)"
      @update:model-value="setMetre"
    />
    <v-select label="Key" :items="keys" :model-value="keyName(found.taken.key)" @update:model-value="setKey" />
    <v-select
      label="Shortest notes"
      :items="grids"
      :model-value="found.taken.grid"
      @update:model-value="choice = { ...choice, grid: $event }"
    />
    <v-select
      label="Pickup"
      :items="pickups"
      :model-value="found.taken.pickup"
      @update:model-value="choice = { ...choice, pickup: $event }"
    />
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: 100px 150px 1fr 130px;
  gap: 10px;
}
</style>

<script setup lang="ts">
/** How notes, fingers and strings are called and drawn: the same on strips, paper and in speech. */
import {
  FINGER_SIGNS,
  FINGER_WORDS,
  NAMINGS,
  PLACE_WORDS,
  STRING_NAMES,
  type FingerSigns,
  type FingerWords,
  type Naming,
  type PlaceWords,
  type StringNames,
} from '@nokta/core/paper';
import { useLook } from '../../settings/look.ts';

const look = useLook();
const SIGNS: Readonly<Record<FingerSigns, string>> = {
  dots: 'Dots: under for low, over for high',
  letters: 'Letters: L2, H3',
  arrows: 'Arrows: ↓2, ↑3',
  plain: 'Numbers alone',
};
const NOTES: Readonly<Record<Naming, string>> = {
  english: 'English: B, B♭',
  german: 'German: H, B',
  'fixed-do': 'Fixed do: Si, Si♭',
};
const WORDS: Readonly<Record<FingerWords, string>> = {
  'sign-first': 'low 2',
  'finger-first': '2 low',
  letter: 'L2',
};
const PLACES: Readonly<Record<PlaceWords, string>> = { bars: 'bar 6 (A2)', phrases: 'A2, bar 6' };
const STRINGS: Readonly<Record<StringNames, string>> = {
  place: 'By their places: G, D, A, E',
  sound: 'By what they sound',
};
const items = <Id extends string>(ids: readonly Id[], names: Readonly<Record<Id, string>>) =>
  ids.map((value) => ({ value, title: names[value] }));
</script>

<template>
  <div class="look">
    <v-select
      label="Low and high fingers"
      :items="items(FINGER_SIGNS, SIGNS)"
      :model-value="look.tab.signs"
      @update:model-value="look.draw({ signs: $event })"
    />
    <v-select
      label="Names of notes"
      :items="items(NAMINGS, NOTES)"
      :model-value="look.names.notes"
      @update:model-value="look.call({ notes: $event })"
    />
    <v-select
      label="Fingers in words"
      :items="items(FINGER_WORDS, WORDS)"
      :model-value="look.names.fingers"
      @update:model-value="look.call({ fingers: $event })"
    />
    <v-select
      label="Places in words"
      :items="items(PLACE_WORDS, PLACES)"
      :model-value="look.names.places"
      @update:model-value="look.call({ places: $event })"
    />
    <v-select
      label="Names of strings"
      :items="items(STRING_NAMES, STRINGS)"
      :model-value="look.tab.stringNames"
      @update:model-value="look.draw({ stringNames: $event })"
    />
    <v-switch
      label="Lowest string on top"
      :model-value="look.tab.turned"
      @update:model-value="look.draw({ turned: Boolean($event) })"
    />
  </div>
</template>

<style scoped>
.look {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
</style>

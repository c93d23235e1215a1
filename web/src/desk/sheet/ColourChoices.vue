<script setup lang="ts">
/** Colours of strings and tapes: the teacher's own, or ours to begin with. Widths and dashes stay for black and white. */
import { computed } from 'vue';
import { mdiClose, mdiPlus } from '@mdi/js';
import { STRING_COLOURS, TAPE_COLOURS, type Tape } from '@nokta/core/paper';
import { tapesOf } from '@nokta/core/sheet';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const look = useLook();
/** From the top one down, as they stand in the tab. */
const strings = computed(() => [...(desk.arrangement?.instrument.strings ?? [])].reverse());
const coloured = computed(() => strings.value.some(({ name }) => name in look.tab.strings));
const tapes = computed<readonly Tape[]>(() =>
  desk.arrangement ? tapesOf(look.style, desk.arrangement.instrument) : [],
);

function colourStrings(on: boolean): void {
  const others = Object.fromEntries(
    Object.entries(look.tab.strings).filter(([name]) => !strings.value.some((string) => string.name === name)),
  );
  const ours = strings.value.map(({ name }, index) => [name, STRING_COLOURS[index % STRING_COLOURS.length]!]);
  look.draw({ strings: on ? { ...others, ...Object.fromEntries(ours) } : others });
}
const valueOf = (event: Event) => (event.target as HTMLInputElement).value;
const setString = (name: string, colour: string) => look.draw({ strings: { ...look.tab.strings, [name]: colour } });
const setTape = (at: number, some: Partial<Tape>) =>
  look.change({ tapes: tapes.value.map((tape, index) => (index === at ? { ...tape, ...some } : tape)) });
const dropTape = (at: number) => look.change({ tapes: tapes.value.filter((_, index) => index !== at) });
function addTape(): void {
  const semitones = Math.min(24, (tapes.value.at(-1)?.semitones ?? 0) + 2);
  const colour = TAPE_COLOURS[tapes.value.length % TAPE_COLOURS.length]!;
  look.change({ tapes: [...tapes.value, { semitones, colour }] });
}
</script>

<template>
  <div class="colours">
    <v-switch label="Strings in colour" :model-value="coloured" @update:model-value="colourStrings(Boolean($event))" />
    <div v-if="coloured" class="row">
      <label v-for="{ name } in strings" :key="name"
        >{{ name }}
        <input
          type="color"
          :value="look.tab.strings[name] ?? '#1d1a16'"
          :aria-label="`Colour of the ${name} string`"
          @change="setString(name, valueOf($event))"
      /></label>
    </div>
    <v-switch
      label="Fingerboard beside each phrase"
      :model-value="look.style.fingerboard"
      @update:model-value="look.change({ fingerboard: Boolean($event) })"
    />
    <fieldset v-if="look.style.fingerboard">
      <legend>Tapes, in semitones from the nut</legend>
      <div v-for="({ semitones, colour }, index) in tapes" :key="index" class="row">
        <input
          class="number"
          type="number"
          min="1"
          max="24"
          :value="semitones"
          :aria-label="`Tape ${index + 1}: semitones`"
          @change="setTape(index, { semitones: Math.max(1, Math.min(24, Math.round(Number(valueOf($event))) || 1)) })"
        />
        <input
          type="color"
          :value="colour"
          :aria-label="`Tape ${index + 1}: colour`"
          @change="setTape(index, { colour: valueOf($event) })"
        />
        <v-btn :icon="mdiClose" size="x-small" :aria-label="`Take tape ${index + 1} off`" @click="dropTape(index)" />
      </div>
      <div class="row">
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlus" @click="addTape">A tape</v-btn>
        <v-btn v-if="look.style.tapes" size="small" @click="look.change({ tapes: null })">The usual ones</v-btn>
      </div>
    </fieldset>
  </div>
</template>

<style scoped>
.colours,
fieldset {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
label {
  display: flex;
  align-items: center;
  gap: 6px;
  font-weight: 700;
}
input[type='color'] {
  width: 36px;
  height: 28px;
  padding: 0;
  border: 1px solid var(--soft);
  border-radius: 6px;
  background: none;
}
.number {
  width: 64px;
  padding: 4px 8px;
  border: 1px solid var(--soft);
  border-radius: 6px;
  background: none;
  color: inherit;
  font: inherit;
}
</style>

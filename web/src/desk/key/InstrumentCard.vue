<script setup lang="ts">
/** For which instrument, and in which make: another size, five strings, one of the teacher's own. */
import { dequal } from 'dequal';
import { computed, onMounted, ref } from 'vue';
import { mdiRuler } from '@mdi/js';
import { INSTRUMENT, INSTRUMENTS, LIKE_USUAL, MAKES, type InstrumentMake } from '@nokta/core/instrument';
import { useKept } from '../../kept/store.ts';
import { useDesk } from '../rooms/store.ts';
import InstrumentDialog from './InstrumentDialog.vue';

const desk = useDesk();
const kept = useKept();
onMounted(() => void kept.load());

const decided = computed(() => desk.record!.decisions.key);
const instrument = computed(() => desk.arrangement?.instrument ?? INSTRUMENT.violin);
const makes = computed(() => {
  const own = kept
    .of('instrument')
    .flatMap(({ value: { like, make } }) => (like === decided.value.instrument && make ? [make] : []));
  const all: InstrumentMake[] = [...MAKES[decided.value.instrument], ...own];
  // One that is used here and kept nowhere is a choice too.
  const now = decided.value.make;
  return now && !all.some((make) => dequal(make, now)) ? [...all, now] : all;
});
const items = computed(() => [
  { value: -1, title: `Usual ${decided.value.instrument}` },
  ...makes.value.map(({ name }, value) => ({ value, title: name })),
]);
const chosen = computed(() => {
  const now = decided.value.make;
  return now ? makes.value.findIndex((make) => dequal(make, now)) : -1;
});
const take = (at: number) => desk.setInstrument(decided.value.instrument, makes.value[at] ?? null);

const editing = ref(false);
const about = computed(() => {
  const { length, strings, reach } = instrument.value;
  const far = reach === undefined ? '' : `, ${reach} semitones up`;
  return `${strings.map(({ name }) => name).join(' ')}, string length ${length} mm${far}`;
});
</script>

<template>
  <fieldset>
    <legend>Instrument</legend>
    <div class="choices">
      <v-btn
        v-for="id in INSTRUMENTS"
        :key="id"
        :variant="decided.instrument === id ? 'flat' : 'outlined'"
        :color="decided.instrument === id ? 'primary' : undefined"
        :aria-pressed="decided.instrument === id"
        @click="decided.instrument !== id && desk.setInstrument(id)"
      >
        {{ INSTRUMENT[id].name }}
      </v-btn>
    </div>
    <v-select label="Size and strings" :items="items" :model-value="chosen" @update:model-value="take" />
    <p>
      <span>{{ about }}</span>
      <v-btn size="small" variant="text" :prepend-icon="mdiRuler" @click="editing = true">Measure or change</v-btn>
    </p>
    <InstrumentDialog
      v-if="editing"
      v-model="editing"
      :like="decided.instrument"
      :make="decided.make ?? { ...LIKE_USUAL, name: instrument.name }"
    />
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 7px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  margin-bottom: 5px;
  color: var(--soft);
}
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 7px;
  margin-bottom: 3px;
}
p {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin: 0;
  color: var(--soft);
  font-size: 0.9rem;
}
</style>

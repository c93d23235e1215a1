<script setup lang="ts">
/** What the chosen phrase is when it comes again: another version of it, or an octave away, so that nothing is done every time. */
import { computed } from 'vue';
import { timesRound } from '@nokta/core/version';
import { SLOT_FILLS, type SlotFill } from '@nokta/core/grade';
import { roundText, slotText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const actions = useGradeActions();
const phrase = computed(() => desk.selectedPhrase);
const times = computed(() => {
  const most = phrase.value && desk.arrangement ? timesRound(desk.arrangement.tune, phrase.value) : 1;
  return Array.from({ length: most - 1 }, (_, index) => index + 2);
});
/** Lists tell their entries by text. */
const FIRST = 'first';
const FILLS: readonly { value: string; title: string; fill: SlotFill | null }[] = [
  { value: FIRST, title: 'As the first time', fill: null },
  ...SLOT_FILLS.map((fill) => ({ value: String(fill), title: slotText(fill), fill })),
];
const chosen = (time: number): string =>
  String(desk.record!.decisions.version.slots[phrase.value?.notes[0] ?? '']?.[String(time)] ?? FIRST);
async function choose(time: number, value: string): Promise<void> {
  if (!phrase.value) return;
  const fill = FILLS.find((one) => one.value === value)?.fill ?? null;
  await actions.setSlot(phrase.value, time, fill);
  // What was just chosen is what is looked at.
  if (fill !== null) await desk.showRound(time);
}
</script>

<template>
  <section v-if="phrase && times.length > 0" aria-labelledby="rounds-title">
    <h3 id="rounds-title">When {{ phrase.label }} comes again</h3>
    <v-select
      v-for="time in times"
      :key="time"
      :label="`The ${roundText(time)}`"
      :items="FILLS"
      :model-value="chosen(time)"
      @update:model-value="choose(time, $event)"
    />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
}
h3 {
  margin: 0;
  font: 600 1.05rem var(--display);
}
</style>

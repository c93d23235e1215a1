<script setup lang="ts">
/** Warm-ups from the tune's own hard spots: heard here, ticked for the page, kept with the arrangement. */
import { computed, shallowRef, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import type { WarmUpChoice } from '@nokta/core/paper';
import { useLook } from '../../settings/look.ts';
import { STALE } from '../../workers/protocol.ts';
import type { PlayableWarmUp } from '../../workers/questions.ts';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const look = useLook();
const found = shallowRef<readonly PlayableWarmUp[]>([]);
watch(
  [() => desk.arrangement, () => look.names],
  async () => {
    const answer = await desk.ask('warmUps', look.names);
    if (answer !== STALE) found.value = answer;
  },
  { immediate: true },
);
const kept = computed(() => desk.record?.decisions.sheet.warmUps ?? null);
const choiceOf = ({ kind, note }: WarmUpChoice): WarmUpChoice => ({ kind, note });

/** Ticked ones are kept, in the order in which they are played. */
function toggle(id: string): void {
  const next = found.value.filter((one) => (one.id === id ? !one.chosen : one.chosen)).map(choiceOf);
  void desk.decide({ sheet: { warmUps: next } }, 'warm-ups');
}
const back = () => void desk.decide({ sheet: { warmUps: null } }, 'Nokta’s warm-ups');
const none = computed(() => !found.value.some(({ chosen }) => chosen));
</script>

<template>
  <section aria-labelledby="warm-ups">
    <h3 id="warm-ups">Warm-ups</h3>
    <p v-if="found.length === 0" class="soft">This tune asks for none.</p>
    <ul aria-label="Warm-ups">
      <li v-for="one in found" :key="one.id">
        <input
          type="checkbox"
          :checked="one.chosen"
          :aria-label="`On the page: ${one.title}`"
          @change="toggle(one.id)"
        />
        <span><strong>{{ one.title }}</strong> <small>{{ one.says }}</small></span>
        <v-btn :icon="mdiPlay" size="x-small" :aria-label="`Hear: ${one.title}`" @click="desk.hearDrill(one)" />
      </li>
    </ul>
    <p v-if="none && found.length > 0" class="soft">None is on the page.</p>
    <v-btn v-if="kept" size="small" @click="back">Nokta’s choice again</v-btn>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
ul {
  display: grid;
  gap: 8px;
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: start;
  gap: 8px;
}
small {
  display: block;
  color: var(--soft);
}
input {
  width: 17px;
  height: 17px;
  margin-top: 3px;
  accent-color: var(--accent);
}
.soft {
  margin: 0 0 8px;
  color: var(--soft);
}
</style>

<script setup lang="ts">
/** What the open formats cannot hold of this tune, told before a file goes out. */
import { computed, shallowRef, watch } from 'vue';
import type { Loss, LossyFormat } from '@nokta/core/formats';
import { formatText, lossText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';

const ENDINGS: readonly LossyFormat[] = ['musicxml', 'abc', 'mid'];
const desk = useDesk();
const losses = shallowRef<Readonly<Record<LossyFormat, readonly Loss[]>> | null>(null);
watch(
  () => desk.arrangement,
  async () => {
    const found = await desk.ask('losses');
    if (found !== STALE) losses.value = found;
  },
  { immediate: true },
);
const told = computed(() =>
  ENDINGS.flatMap((ending) => {
    const lines = (losses.value?.[ending] ?? []).map(lossText);
    return lines.length > 0 ? [{ name: formatText(ending), lines }] : [];
  }),
);
</script>

<template>
  <details v-if="told.length > 0">
    <summary>What is not in these files</summary>
    <template v-for="{ name, lines } in told" :key="name">
      <h4>{{ name }}</h4>
      <ul>
        <li v-for="line in lines" :key="line">{{ line }}</li>
      </ul>
    </template>
  </details>
</template>

<style scoped>
details {
  margin-top: 8px;
  font-size: 0.9rem;
}
summary {
  color: var(--soft);
  cursor: pointer;
}
h4 {
  margin: 8px 0 2px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
</style>

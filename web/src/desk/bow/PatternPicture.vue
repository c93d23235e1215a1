<script setup lang="ts">
/** A pattern as dots for its short values; a curve of the bow over those that share a stroke. */
import { computed } from 'vue';

const props = defineProps<{ groups: readonly number[] }>();
const STEP = 11;
const strokes = computed(() => {
  let at = 0;
  return props.groups.map((size) => {
    const from = at;
    at += size;
    return { from: 8 + from * STEP, to: 8 + (at - 1) * STEP, size };
  });
});
const width = computed(() => 16 + (props.groups.reduce((sum, size) => sum + size, 0) - 1) * STEP);
</script>

<template>
  <svg :width="width" height="22" aria-hidden="true">
    <g v-for="{ from, to, size } in strokes" :key="from">
      <circle v-for="number in size" :key="number" :cx="from + (number - 1) * STEP" cy="15" r="3.2" />
      <path v-if="size > 1" :d="`M${from - 3} 8 v-3 H${to + 3} v3`" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}
circle {
  fill: currentColor;
}
path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
}
</style>

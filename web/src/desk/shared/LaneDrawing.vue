<script setup lang="ts">
/** The shapes of a lane: nothing in it is chosen or pointed at. */
import { computed } from 'vue';
import type { Shape } from '@nokta/core/sheet';
import { laneMarkup } from './laneMarkup.ts';

const props = defineProps<{ shapes: readonly Shape[] }>();
const markup = computed(() => laneMarkup(props.shapes));
</script>

<template>
  <g class="lane" v-html="markup" />
</template>

<style scoped>
.lane :deep(line),
.lane :deep(path) {
  fill: none;
}
.lane :deep(.patch) {
  fill: var(--paper);
}
.lane :deep(circle) {
  fill: var(--ink);
}
.lane :deep(text) {
  font-family: var(--text);
}
</style>

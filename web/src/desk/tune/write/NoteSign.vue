<script setup lang="ts">
/** A note by its length, small. */
import { computed } from 'vue';
import type { NoteType } from '@nokta/core/music';

const props = defineProps<{ type: NoteType; dotted?: boolean }>();
const FLAGS: Partial<Record<NoteType, number>> = { eighth: 1, '16th': 2, '32nd': 3 };
const flags = computed(() => FLAGS[props.type] ?? 0);
const isHollow = computed(() => props.type === 'whole' || props.type === 'half');
</script>

<template>
  <svg viewBox="0 0 20 26" width="20" height="26" aria-hidden="true">
    <ellipse cx="8" cy="20.5" rx="4.6" ry="3.4" transform="rotate(-18 8 20.5)" :class="{ hollow: isHollow }" />
    <path v-if="type !== 'whole'" d="M12.2 19 V3" />
    <path v-for="flag in flags" :key="flag" :d="`M12.2 ${flag * 5 - 2} q5 2.5 4.4 8`" />
    <circle v-if="dotted" cx="16.5" cy="20" r="1.7" />
  </svg>
</template>

<style scoped>
ellipse,
circle {
  fill: currentcolor;
}
.hollow {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.8px;
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6px;
}
</style>

<script setup lang="ts">
/** Earlier and later, for something that stands in a list. */
import { mdiChevronDown, mdiChevronUp } from '@mdi/js';

defineProps<{
  /** What is moved. */
  name: string;
  /** Where it stands, from 0, of so many. */
  index: number;
  count: number;
}>();
defineEmits<{ move: [to: number] }>();
</script>

<template>
  <span class="moves">
    <v-btn
      :icon="mdiChevronUp"
      size="x-small"
      variant="text"
      :disabled="index === 0"
      :aria-label="`${name}: earlier`"
      @click="$emit('move', index - 1)"
    />
    <v-btn
      :icon="mdiChevronDown"
      size="x-small"
      variant="text"
      :disabled="index === count - 1"
      :aria-label="`${name}: later`"
      @click="$emit('move', index + 1)"
    />
  </span>
</template>

<style scoped>
.moves {
  display: flex;
}
</style>

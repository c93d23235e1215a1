<script setup lang="ts">
/** The turning sign on a button whose work goes on: with a name, for those who do not see it turn. */
withDefaults(defineProps<{ says?: string }>(), { says: 'Working…' });
</script>

<template>
  <v-progress-circular indeterminate width="2" size="20" :aria-label="says" />
</template>

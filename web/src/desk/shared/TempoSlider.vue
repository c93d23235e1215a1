<script setup lang="ts">
/** How fast it is heard: a share of the tune's tempo. */
const percent = defineModel<number>({ required: true });
</script>

<template>
  <v-slider
    v-model="percent"
    :min="25"
    :max="150"
    :step="5"
    color="primary"
    density="compact"
    hide-details
    aria-label="Tempo in percent"
  />
</template>

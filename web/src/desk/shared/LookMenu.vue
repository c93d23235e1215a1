<script setup lang="ts">
/** What the strips show, from every pass: lanes, and how things are called. */
import LaneTicks from './LaneTicks.vue';
import LookChoices from './LookChoices.vue';

defineProps<{ activator: 'parent' }>();
</script>

<template>
  <v-menu :activator="activator" :close-on-content-click="false" location="bottom end" offset="8">
    <v-card class="look-menu pa-4" role="dialog" aria-label="What the strips show">
      <LaneTicks />
      <LookChoices />
    </v-card>
  </v-menu>
</template>

<style scoped>
.look-menu {
  display: grid;
  grid-template-columns: 210px 250px;
  gap: 24px;
  overflow: auto;
}
@media (width < 600px) {
  .look-menu {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

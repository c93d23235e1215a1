<script setup lang="ts">
/** A line that is about some notes: pointing at it marks them on strips and rail, a click goes to the first. */
import { useDesk } from '../rooms/store.ts';

const props = defineProps<{ notes: readonly string[] }>();
const desk = useDesk();
const point = () => (desk.hinted = new Set(props.notes));
const leave = () => (desk.hinted = new Set());
</script>

<template>
  <button
    type="button"
    class="line"
    @click="notes[0] && desk.select(notes[0])"
    @mouseenter="point"
    @mouseleave="leave"
    @focus="point"
    @blur="leave"
  >
    <slot />
  </button>
</template>

<style scoped>
.line {
  display: block;
  width: calc(100% + 10px);
  margin: 0 -5px;
  padding: 1px 5px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.line:hover,
.line:focus-visible {
  background: color-mix(in srgb, var(--accent) 14%, transparent);
}
</style>

<script setup lang="ts">
/** Notes that cannot be played as the tune lies here: told before they are printed, with what helps. */
import { computed } from 'vue';
import { useRoute, type RouteLocationRaw } from 'vue-router';
import { mdiAlertOutline } from '@mdi/js';
import { bestOctave, placesOf } from '@nokta/core/arrange';
import { useDesk } from '../rooms/store.ts';
import type { PassId } from '../shared/passes.ts';

const desk = useDesk();
const route = useRoute();
/** More than these are a number. */
const MOST_NAMED = 4;

const unreached = computed(() => desk.notes.filter(({ stops }) => stops.length === 0));
const where = computed(() => {
  const places = desk.arrangement ? placesOf(desk.arrangement.tune) : new Map();
  const bars = [...new Set(unreached.value.map(({ id }) => Number(places.get(id)?.bar)))];
  const named = bars.slice(0, MOST_NAMED).join(', ');
  return `${bars.length === 1 ? 'bar' : 'bars'} ${named}${bars.length > MOST_NAMED ? ' and more' : ''}`;
});
/** Octaves that another one lies away in which more can be played. */
const octaves = computed(() => {
  const { record, tune } = desk;
  if (!record || !tune || unreached.value.length === 0) return 0;
  const now = record.decisions.key.transpose;
  return (bestOctave(tune.tune, record.decisions) - now) / 12;
});
const addressOf = (pass: PassId): RouteLocationRaw => ({
  name: 'desk',
  params: { ...route.params, pass },
  query: route.query,
});
const move = () =>
  desk.decide(
    { key: { transpose: desk.record!.decisions.key.transpose + 12 * octaves.value } },
    octaves.value > 0 ? 'an octave up' : 'an octave down',
  );
</script>

<template>
  <section v-if="unreached.length > 0" class="reach" role="status">
    <p>
      <v-icon :icon="mdiAlertOutline" size="20" />
      {{ unreached.length }} {{ unreached.length === 1 ? 'note lies' : 'notes lie' }} out of reach, in {{ where }}. On
      paper {{ unreached.length === 1 ? 'it is' : 'they are' }} marked ◇, to be left out.
    </p>
    <div class="row">
      <v-btn v-if="octaves !== 0" size="small" variant="outlined" @click="move"
        >{{ Math.abs(octaves) === 1 ? 'An octave' : `${Math.abs(octaves)} octaves` }}
        {{ octaves > 0 ? 'up' : 'down' }}</v-btn
      >
      <v-btn size="small" variant="outlined" :to="addressOf('key')">Another key</v-btn>
      <v-btn size="small" variant="outlined" :to="addressOf('grades')">A version that fits</v-btn>
    </div>
  </section>
</template>

<style scoped>
.reach {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border-left: 4px solid rgb(var(--v-theme-primary));
  border-radius: 6px;
  background: rgba(var(--v-theme-primary), 0.08);
}
p {
  margin: 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

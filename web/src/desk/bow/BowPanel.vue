<script setup lang="ts">
/** Which way the bow goes, what shares a stroke, and where on the hair it ends up. */
import { computed, ref } from 'vue';
import { SCHOOLS } from '@nokta/core/bow';
import { exceptionText, flagText, schoolText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import ChoiceCards from '../../theme/parts/ChoiceCards.vue';
import BowDetails from './BowDetails.vue';
import HairChart from './HairChart.vue';
import HairPicture from './HairPicture.vue';
import PatternCard from './PatternCard.vue';
import PlanCard from './PlanCard.vue';
import StrokeCard from './StrokeCard.vue';
import WarningCard from './WarningCard.vue';
import { useBowActions } from './actions.ts';

const desk = useDesk();
const actions = useBowActions();
const decided = computed(() => desk.record?.decisions.bow);
const chart = ref(false);
const place = computed(() => {
  const bowing = desk.arrangement?.bowing;
  const stroke = desk.selected ? actions.strokeOf(desk.selected.id) : null;
  return (stroke && bowing && desk.travel?.strokes[bowing.strokes.indexOf(stroke)]) || null;
});
const told = computed(() => {
  const { flags = [], exceptions = [] } = desk.arrangement?.bowing ?? {};
  return [
    ...flags.map((flag) => ({ key: `${flag.kind} ${flag.note}`, note: flag.note, text: flagText(flag) })),
    ...exceptions.map((one) => ({ key: `${one.kind} ${one.note}`, note: one.note, text: exceptionText(one) })),
  ];
});
const ends = computed(() => {
  const strokes = desk.arrangement?.bowing.strokes ?? [];
  return strokes.length > 0 ? { starts: strokes[0]!.direction, ends: strokes.at(-1)!.direction } : null;
});
/** So many are read at a glance; the rest on demand. */
const FEW = 5;
const all = ref(false);
const barOf = (note: string) =>
  desk.arrangement?.tune.bars.findIndex(({ events }) => events.some(({ id }) => id === note));
const SCHOOL_CHOICES = SCHOOLS.map((id) => {
  const { name, means } = schoolText(id);
  return { id, name, about: means };
});
</script>

<template>
  <div v-if="decided && desk.arrangement" class="panel">
    <p v-if="desk.refused" class="refused" role="alert">{{ desk.refused }}</p>
    <StrokeCard />
    <WarningCard />
    <section aria-labelledby="hair-title">
      <h3 id="hair-title">Along the hair</h3>
      <template v-if="desk.travel">
        <HairPicture :travel="desk.travel" :selected="place" :inches="decided.inches" />
        <v-btn size="small" variant="outlined" @click="chart = true">The whole tune, large</v-btn>
        <HairChart v-model="chart" :travel="desk.travel" />
      </template>
    </section>
    <PatternCard />
    <PlanCard />
    <section aria-labelledby="school-title">
      <h3 id="school-title">School</h3>
      <p v-if="ends">The tune starts {{ ends.starts }} and ends {{ ends.ends }}.</p>
      <ChoiceCards label="School" :choices="SCHOOL_CHOICES" :chosen="decided.school" @choose="actions.setSchool" />
    </section>
    <section v-if="told.length > 0" aria-labelledby="flags-title">
      <h3 id="flags-title">To know</h3>
      <ul>
        <li v-for="{ key, note, text } in all ? told : told.slice(0, FEW)" :key="key">
          <button type="button" class="place" @click="desk.select(note)">
            <span class="bar">{{ (barOf(note) ?? 0) + 1 }}</span>
            <span>{{ text }}</span>
          </button>
        </li>
      </ul>
      <v-btn v-if="told.length > FEW" size="small" variant="text" @click="all = !all">{{
        all ? 'Fewer' : `All ${told.length}`
      }}</v-btn>
    </section>
    <BowDetails />
  </div>
</template>

<style src="./cards.css"></style>
<style scoped>
.panel {
  display: grid;
  gap: 18px;
}
.refused {
  margin: 0;
  padding: 8px 12px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.place {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  width: 100%;
  padding: 4px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.place:hover span:last-child {
  text-decoration: underline;
}
.bar {
  min-width: 26px;
  padding: 0 5px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  color: var(--soft);
  font-weight: 600;
  text-align: center;
}
</style>

<script setup lang="ts">
/** Which way the bow goes, what shares a stroke, and where on the hair it ends up. */
import { computed, shallowRef, watch } from 'vue';
import { SCHOOLS, type Travelling } from '@nokta/core/bow';
import { bowName, flagText, schoolText, strokeText, travelText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../store.ts';
import ChoiceCards from '../../theme/parts/ChoiceCards.vue';
import HairPicture from './HairPicture.vue';
import { useBowActions } from './actions.ts';

const desk = useDesk();
const actions = useBowActions();
const decided = computed(() => desk.record?.decisions.bow);
const selected = computed(() => desk.selected?.id ?? null);
const stroke = computed(() => (selected.value === null ? null : actions.strokeOf(selected.value)));
const travel = shallowRef<Travelling | null>(null);
watch(
  () => desk.arrangement,
  async () => {
    const found = await desk.ask('travel');
    if (found !== STALE) travel.value = found;
  },
  { immediate: true },
);
const place = computed(() => {
  const at = stroke.value ? desk.arrangement!.bowing.strokes.indexOf(stroke.value) : -1;
  return travel.value?.strokes[at] ?? null;
});
const isSlurred = computed(() => stroke.value !== null && stroke.value.notes[0] !== desk.selected?.ids[0]);
const decidedHere = computed(
  () => decided.value !== undefined && (decided.value.turns[stroke.value?.notes[0] ?? ''] ?? null) !== null,
);
const hasOwn = computed(() => {
  const now = decided.value;
  return now !== undefined && (now.start !== null || Object.keys({ ...now.turns, ...now.slurs }).length > 0);
});
const SCHOOL_CHOICES = SCHOOLS.map((id) => {
  const { name, means } = schoolText(id);
  return { id, name, about: means };
});
const STARTS = [null, 'down', 'up'] as const;
</script>

<template>
  <div v-if="decided && desk.arrangement" class="panel">
    <section aria-labelledby="school-title">
      <h3 id="school-title">School</h3>
      <ChoiceCards label="School" :choices="SCHOOL_CHOICES" :chosen="decided.school" @choose="actions.setSchool" />
    </section>
    <fieldset>
      <legend>The first stroke</legend>
      <div class="row">
        <v-btn
          v-for="start in STARTS"
          :key="start ?? 'own'"
          size="small"
          :variant="decided.start === start ? 'flat' : 'outlined'"
          :color="decided.start === start ? 'primary' : undefined"
          :aria-pressed="decided.start === start"
          @click="actions.setStart(start)"
          >{{ start === null ? 'Bar 1 down' : bowName(start) }}</v-btn
        >
      </div>
    </fieldset>
    <section v-if="stroke && place && travel" aria-labelledby="stroke-title">
      <h3 id="stroke-title">This stroke</h3>
      <p>{{ strokeText(stroke) }} {{ travelText(place) }}</p>
      <div class="row">
        <v-btn size="small" variant="outlined" @click="actions.turn(selected!)"
          >{{ decidedHere ? 'As it comes' : 'Turn the bow' }} <kbd>V</kbd></v-btn
        >
        <v-btn size="small" variant="outlined" @click="actions.toggleSlur(selected!)"
          >{{ isSlurred ? 'Cut the slur' : 'Slur to the note before' }} <kbd>U</kbd></v-btn
        >
      </div>
    </section>
    <section v-if="travel" aria-labelledby="hair-title">
      <h3 id="hair-title">Along the hair</h3>
      <HairPicture :travel="travel" :selected="place" />
    </section>
    <section v-if="desk.arrangement.bowing.flags.length > 0" aria-labelledby="flags-title">
      <h3 id="flags-title">To know</h3>
      <ul>
        <li v-for="flag in desk.arrangement.bowing.flags" :key="`${flag.kind} ${flag.note}`">
          <button type="button" class="place" @click="desk.select(flag.note)">{{ flagText(flag) }}</button>
        </li>
      </ul>
    </section>
    <v-btn v-if="hasOwn" size="small" variant="text" @click="actions.forget()">Forget what was set here</v-btn>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 16px;
}
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
legend,
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
p {
  margin: 0 0 8px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
kbd {
  margin-left: 6px;
}
ul {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.place {
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
}
</style>

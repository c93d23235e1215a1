<script setup lang="ts">
/** Versions from bare to show piece: six steps, what this one changes and why, what it does not meet, how difficult it is. */
import { computed, ref, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { isGraded } from '@nokta/core/grade';
import { keyName } from '@nokta/core/music';
import { changeText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import ChoiceCards from '../../theme/parts/ChoiceCards.vue';
import ChangeCards from './ChangeCards.vue';
import ChordsCard from './ChordsCard.vue';
import ContractCard from './ContractCard.vue';
import DifficultyCard from './DifficultyCard.vue';
import LineCard from './LineCard.vue';
import GradeSteps from './GradeSteps.vue';
import RoundsCard from './RoundsCard.vue';
import SungCard from './SungCard.vue';
import TogetherCard from './TogetherCard.vue';
import { useGradeActions } from './actions.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const actions = useGradeActions();
const decided = computed(() => desk.record!.decisions.version);
const graded = computed(() => desk.arrangement?.graded ?? null);
const VERSIONS = [
  { id: 'tune', name: 'The tune', about: 'As it was brought in.' },
  { id: 'bare', name: 'Bare', about: 'One note a beat, separate bows: for a first hearing.' },
] as const;
const plainGrade = computed(() => (isGraded(decided.value.grade) ? undefined : decided.value.grade));
const name = ref('');
watch(
  () => [desk.record?.id, decided.value.name],
  () => (name.value = decided.value.name ?? ''),
  { immediate: true },
);
/** Above the tune's own grade: nothing is made easier. */
const isRicher = computed(() => (graded.value?.changes ?? []).every(({ direction }) => direction === 'richer'));
const ownKey = computed(() => {
  const key = desk.arrangement?.tune.bars[0]?.key;
  return key ? keyName(key) : '';
});
const locked = computed(() => desk.selected !== null && decided.value.locked.includes(desk.selected.of));
</script>

<template>
  <div v-if="desk.arrangement" class="panel">
    <ChoiceCards label="Version" :choices="VERSIONS" :chosen="plainGrade" @choose="desk.showVersion" />
    <LineCard v-if="decided.line" />
    <section v-if="decided.grade !== 'tune'" aria-labelledby="version-title">
      <h3 v-if="decided.line" id="version-title">Its name</h3>
      <h3 v-else id="version-title">
        {{ isGraded(decided.grade) ? `Grade ${decided.grade}` : 'Bare' }}
      </h3>
      <p v-if="graded">
        {{ Math.round(100 * graded.likeness) }} % like the tune.
        {{
          desk.arrangement.breaches.length === 0
            ? 'It keeps its promise.'
            : `It breaks its promise in ${desk.arrangement.breaches.length === 1 ? 'one place' : `${desk.arrangement.breaches.length} places`}.`
        }}
      </p>
      <div v-if="!decided.line" class="row">
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="desk.hear()"
          >{{ desk.selectedPhrase?.label }} here</v-btn
        >
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="actions.hearBefore()"
          >{{ desk.selectedPhrase?.label }} in the tune</v-btn
        >
      </div>
      <div v-if="graded && graded.changes.some(({ direction }) => direction === 'easier')" class="row">
        <v-btn
          size="small"
          :variant="locked ? 'flat' : 'outlined'"
          :aria-pressed="locked"
          :disabled="!desk.selected"
          @click="actions.toggleNote()"
          >This note stays <kbd>L</kbd></v-btn
        >
      </div>
      <v-checkbox
        v-if="graded && !isRicher"
        label="In one key with the other grades"
        :model-value="decided.oneKey"
        @update:model-value="actions.setOneKey(Boolean($event))"
      />
      <p v-if="graded && !decided.oneKey">It is in {{ ownKey }}; other grades may be in another key.</p>
      <v-slider
        v-if="graded && isRicher"
        label="How much is added"
        aria-label="How much is added"
        :min="0"
        :max="100"
        :step="10"
        color="primary"
        :model-value="100 * decided.density"
        @end="actions.setDensity($event / 100)"
      />
      <form class="named" @submit.prevent="actions.setName(name)">
        <v-text-field
          v-model="name"
          label="Name"
          maxlength="80"
          @blur="name !== (decided.name ?? '') && actions.setName(name)"
        />
      </form>
    </section>
    <GradeSteps />
    <ChangeCards v-if="graded" />
    <section v-else-if="desk.arrangement.changes.length > 0" aria-label="What was changed">
      <h3>What was changed</h3>
      <ul>
        <li v-for="change in desk.arrangement.changes" :key="`${change.bar} ${change.beat} ${change.kind}`">
          <button type="button" class="place" @click="desk.select(change.noteId)">Bar {{ change.bar }}</button>
          Beat {{ change.beat }}: {{ changeText(change, look.names) }}
        </li>
      </ul>
    </section>
    <SungCard v-if="graded?.sung" />
    <RoundsCard v-if="!decided.line" />
    <ChordsCard />
    <TogetherCard />
    <DifficultyCard />
    <ContractCard v-if="graded" />
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 18px;
}
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
  margin-bottom: 8px;
}
ul {
  display: grid;
  gap: 8px;
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
  font-weight: 700;
  text-decoration: underline;
  cursor: pointer;
}
</style>

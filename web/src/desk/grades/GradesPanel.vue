<script setup lang="ts">
/** The tune as it is, and its bare version with everything that was left out. */
import { computed } from 'vue';
import type { Change } from '@nokta/core/grade';
import { changeText } from '@nokta/core/words';
import ChoiceCards from '../../theme/parts/ChoiceCards.vue';
import { useDesk } from '../store.ts';
import GradeSteps from './GradeSteps.vue';

const desk = useDesk();
const version = computed(() => desk.record?.decisions.version.grade);
const VERSIONS = [
  { id: 'tune', name: 'The tune', about: 'As it was brought in.' },
  { id: 'bare', name: 'Bare', about: 'One note a beat, separate bows: for a first hearing and for beginners.' },
] as const;
/** What holds for the whole tune, and what belongs to one place. */
const everywhere = computed(() => (desk.arrangement?.changes ?? []).filter(({ kind }) => kind === 'slur'));
const placed = computed(() => (desk.arrangement?.changes ?? []).filter(({ kind }) => kind !== 'slur'));
/** Changes of one bar together, so that the list reads bar by bar. */
const byBar = computed(() => {
  const bars = new Map<number, Change[]>();
  for (const change of placed.value) bars.set(change.bar, [...(bars.get(change.bar) ?? []), change]);
  return [...bars].sort(([a], [b]) => a - b);
});
</script>

<template>
  <div>
    <ChoiceCards label="Version" :choices="VERSIONS" :chosen="version" @choose="desk.showVersion" />
    <section v-if="byBar.length + everywhere.length > 0" aria-label="What was changed">
      <h3>What was changed</h3>
      <p v-for="change in everywhere" :key="change.kind">{{ changeText(change) }}</p>
      <ul>
        <li v-for="[bar, changes] in byBar" :key="bar">
          <button type="button" class="place" @click="desk.selectedId = changes[0]!.noteId">Bar {{ bar }}</button>
          <span v-for="change in changes" :key="`${change.beat} ${change.kind}`"
            >Beat {{ change.beat }}: {{ changeText(change) }}</span
          >
        </li>
      </ul>
    </section>
    <p v-else-if="version === 'bare'">Nothing had to be left out.</p>
    <GradeSteps class="steps" />
  </div>
</template>

<style scoped>
h3 {
  margin: 18px 0 6px;
  font-size: 1.05rem;
}
p {
  margin: 0 0 8px;
}
ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li span {
  display: block;
  font-size: 0.93rem;
}
.steps {
  margin-top: 20px;
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

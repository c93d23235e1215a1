<script setup lang="ts">
/** Bow patterns: seen as groups, heard on the phrase before they are taken, and laid where they are wanted. */
import { computed, ref, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { BY_SYLLABLE, PATTERN_IDS, usualPatterns } from '@nokta/core/bow';
import { bowPatternText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import PatternPicture from './PatternPicture.vue';
import { useBowActions } from './actions.ts';
import { groupsOf, sameAs, type PatternScope } from './patternActions.ts';

const desk = useDesk();
const actions = useBowActions();
const decided = computed(() => desk.record!.decisions.bow);
const AS_IT_IS = 'tune';
const choices = computed(() => [
  { value: AS_IT_IS, title: 'As the tune has it' },
  ...[
    ...PATTERN_IDS.filter((id) => id !== BY_SYLLABLE || actions.hasWords()),
    ...decided.value.own.map(({ id }) => id),
  ].map((id) => ({ value: id, title: bowPatternText(id, decided.value.own).name })),
]);
const here = computed(() => actions.patternAt(desk.selectedPhrase) ?? AS_IT_IS);
const looked = ref(here.value);
watch(here, (now) => (looked.value = now));
const pattern = computed(() => (looked.value === AS_IT_IS ? null : looked.value));
/** What players do in tunes of this kind. */
const usual = computed(() =>
  usualPatterns(desk.arrangement?.tune.style ?? '').filter((id) => id !== BY_SYLLABLE || actions.hasWords()),
);
const means = computed(() =>
  pattern.value === null ? 'Its own slurs, nothing else' : bowPatternText(pattern.value, decided.value.own).means,
);
const alike = computed(() => (desk.selectedPhrase ? sameAs(desk.phrases, desk.selectedPhrase).length : 1));

/** The phrase as it would sound: nothing is decided yet. */
async function hear(): Promise<void> {
  const bowing = await desk.ask('bowUnder', actions.patternChange(pattern.value, 'phrase'));
  if (bowing !== STALE) desk.hear({ bowing });
}
const lay = (scope: PatternScope) => actions.layPattern(pattern.value, scope);

const name = ref('');
async function record(): Promise<void> {
  await actions.recordPattern(name.value.trim());
  name.value = '';
}
</script>

<template>
  <section class="bow-card" aria-labelledby="pattern-title">
    <h3 id="pattern-title">Pattern</h3>
    <p v-if="usual.length > 0" class="usual">
      Usual in a {{ desk.arrangement?.tune.style.toLowerCase() }}:
      <button v-for="id in usual" :key="id" type="button" @click="looked = id">{{ bowPatternText(id).name }}</button>
    </p>
    <v-select v-model="looked" label="Pattern" :items="choices" />
    <div class="seen">
      <PatternPicture v-if="pattern && pattern !== BY_SYLLABLE" :groups="groupsOf(pattern, decided.own)" />
      <span>{{ means }}</span>
    </div>
    <div class="row">
      <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="hear">Hear it</v-btn>
      <v-btn size="small" variant="flat" color="primary" @click="lay('phrase')"
        >On {{ desk.selectedPhrase?.label ?? 'this phrase' }} <kbd>N</kbd></v-btn
      >
      <v-btn v-if="alike > 1" size="small" variant="outlined" @click="lay('same')">On all {{ alike }} like it</v-btn>
      <v-btn v-if="desk.range.length > 1" size="small" variant="outlined" @click="lay('selection')"
        >On the chosen notes</v-btn
      >
      <v-btn size="small" variant="outlined" @click="lay('tune')">On the whole tune</v-btn>
    </div>
    <form v-if="desk.range.length > 1" class="record" @submit.prevent="record">
      <v-text-field v-model="name" label="Keep these strokes as a pattern" maxlength="40" />
      <v-btn size="small" type="submit" variant="outlined" :disabled="!name.trim()">Keep</v-btn>
    </form>
    <v-btn v-if="pattern?.startsWith('own-')" size="small" variant="text" @click="actions.dropPattern(pattern)"
      >Give up this pattern</v-btn
    >
  </section>
</template>

<style scoped>
.seen {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 6px 0 8px;
  font-size: 0.93rem;
}
.usual {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  color: var(--soft);
  font-size: 0.93rem;
}
.usual button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
.record {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 10px;
}
</style>

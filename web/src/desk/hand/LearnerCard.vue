<script setup lang="ts">
/** Whose hand it is: kept under a name, taken anew when it has changed, renamed, removed. */
import { computed, onMounted, ref, watch } from 'vue';
import { hasChanged, learnerNamed, type Learner } from '@nokta/core/learner';
import { instrumentOf } from '@nokta/core/instrument';
import { useLearners } from '../../learners/store.ts';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';

const desk = useDesk();
const learners = useLearners();
const actions = useHandActions();
onMounted(() => void learners.need());

const decided = computed(() => desk.record!.decisions.hand);
const instrument = computed(() => instrumentOf(desk.record!.decisions.key));
const current = computed(() => learners.find(decided.value.learner?.id));
/** The learner can do other things by now than when this arrangement took them over. */
const isOlder = computed(
  () =>
    current.value !== null && decided.value.learner !== null && hasChanged(decided.value.learner, current.value.value),
);
const name = ref('');
/** The hand is kept with the instrument that is set, and brings it along. */
const withInstrument = ref(false);
watch(
  current,
  (now, before) => {
    if (!now || now.id === before?.id) return;
    name.value = now.value.person.name;
    withInstrument.value = now.value.plays.instrument !== null;
  },
  { immediate: true },
);
const said = ref('');

/** What this arrangement's hand is, as a learner's. */
function asDecided(now: Learner): Learner {
  const { limits, learner, wishes } = decided.value;
  const { instrument: like, make } = desk.record!.decisions.key;
  return {
    ...now,
    hand: { wishes, limits: { ...learner?.limits, ...limits } },
    plays: { instrument: withInstrument.value ? { like, make } : null },
  };
}

async function save(): Promise<void> {
  const wanted = name.value.trim();
  if (!wanted) return;
  // The list may not have come, or another window may have kept one of this name.
  await learners.load();
  const known = learners.all.find(({ value }) => value.person.name === wanted);
  if (known) learners.change(known.id, asDecided, `the hand of ${wanted}`);
  const learner = known ? learners.find(known.id) : await learners.add(asDecided(learnerNamed(wanted)));
  if (!learner) return;
  said.value = known ? `${wanted} is saved anew.` : `${wanted} is saved; other tunes can use it.`;
  await actions.takeLearner(learner, false);
}

function rename(): void {
  const wanted = name.value.trim();
  if (!current.value || !wanted) return;
  learners.rename(current.value.id, wanted);
  said.value = `${wanted} is the name everywhere now.`;
}

async function remove(): Promise<void> {
  if (!current.value) return;
  const { id, value } = current.value;
  if (await learners.drop(id)) said.value = `${value.person.name} is removed; this arrangement keeps what it says.`;
}
</script>

<template>
  <section>
    <p v-if="learners.problem" role="alert">Saved hands cannot be shown. {{ learners.problem }}</p>
    <p v-if="learners.held" role="alert">
      “{{ learners.held.entries.at(-1)?.label }}” was not saved: another window changed the same.
      <v-btn size="small" variant="outlined" @click="learners.giveUp()">Take what is there</v-btn>
    </p>
    <div v-if="isOlder && current" class="buttons">
      <p>The hand of {{ current.value.person.name }} is another by now than here.</p>
      <v-btn size="small" variant="outlined" @click="actions.takeLearner(current)">Take it over</v-btn>
    </div>
    <v-text-field
      v-model="name"
      class="rule"
      label="Save it as, such as a learner’s name"
      maxlength="60"
      @keydown.enter="save"
    />
    <v-checkbox v-model="withInstrument" :label="`Plays the ${instrument.name.toLowerCase()}`" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" :disabled="!name.trim()" @click="save">Save this hand</v-btn>
      <template v-if="current">
        <v-btn
          v-if="name.trim() && name.trim() !== current.value.person.name"
          size="small"
          variant="outlined"
          @click="rename"
          >Rename {{ current.value.person.name }}</v-btn
        >
        <v-btn size="small" variant="outlined" @click="remove">Remove {{ current.value.person.name }}</v-btn>
      </template>
    </div>
    <p v-if="said" role="status">{{ said }}</p>
  </section>
</template>

<style scoped src="./cards.css" />

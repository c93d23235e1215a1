<script setup lang="ts">
/** What this learner's hand may do, who says so, and how it is taught. */
import { computed } from 'vue';
import {
  HANDS,
  POSITIONS,
  limitLayers,
  profileOf,
  type HandLimits,
  type Level,
  type LimitName,
  type LimitOwner,
} from '@nokta/core/hand';
import { instrumentOf } from '@nokta/core/instrument';
import { limitText } from '@nokta/core/words';
import { useLearners } from '../../learners/store.ts';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const learners = useLearners();
const decided = computed(() => {
  const { hand } = desk.record!.decisions;
  const { learner } = hand;
  return learner ? { ...hand, learner: { ...learner, name: learners.nameOf(learner) } } : hand;
});
const model = computed(() => HANDS[instrumentOf(desk.record!.decisions.key).hand]);
const wishes = computed(() => decided.value.wishes);
const limit = (change: { readonly [Name in LimitName]?: HandLimits[Name] | null }, label: string) => {
  const limits = Object.fromEntries(
    Object.entries({ ...decided.value.limits, ...change }).filter(([, value]) => value !== null),
  );
  return desk.decide({ hand: { limits } }, label);
};
/** What holds, and who says so. */
const resolved = computed(() => profileOf(model.value, wishes.value, limitLayers(decided.value)));
const holds = (name: 'noFourth' | 'noExtension' | 'noDoubleStops') => resolved.value.limits[name] ?? false;
const highest = computed(() => resolved.value.limits.maxPosition ?? 'VIII');
/** Limits that somebody else than the teacher set, each with its owner: "no fourth finger: First lessons". */
const told = computed(() =>
  (Object.entries(resolved.value.owners) as [LimitName, LimitOwner][])
    .filter(([, { by }]) => by !== 'instrument' && by !== 'teacher')
    .map(([name, owner]) => limitText({ limit: name, value: resolved.value.limits[name], owner })),
);
/** How the hand is taught, where there are several ways. */
const school = computed(() => model.value.school);
const schoolItems = computed(() => school.value?.choices.map(({ id, title }) => ({ value: id, title })) ?? []);
const levelItems = POSITIONS.map((value) => ({
  value,
  title: value === 'VIII' ? 'as far as it goes' : `up to ${value}`,
}));
</script>

<template>
  <section>
    <h4>This learner’s hand</h4>
    <v-select
      label="Positions"
      :items="levelItems"
      :model-value="highest"
      @update:model-value="limit({ maxPosition: $event as Level }, `positions up to ${$event}`)"
    />
    <v-switch
      v-if="model.weakFourth"
      label="No fourth finger"
      :model-value="holds('noFourth')"
      @update:model-value="limit({ noFourth: Boolean($event) }, 'fourth finger on or off')"
    />
    <v-switch
      label="No stretches"
      :model-value="holds('noExtension')"
      @update:model-value="limit({ noExtension: Boolean($event) }, 'stretches on or off')"
    />
    <v-switch
      label="No double stops"
      :model-value="holds('noDoubleStops')"
      @update:model-value="limit({ noDoubleStops: Boolean($event) }, 'double stops on or off')"
    />
    <p v-if="holds('noExtension')" class="soft">Rest when a hand is tired, and stop when it hurts.</p>
    <v-select
      v-if="school"
      :label="school.label"
      :items="schoolItems"
      :model-value="resolved.limits[school.limit] ?? null"
      @update:model-value="limit({ [school.limit]: $event }, 'how the hand is taught')"
    />
    <ul v-if="told.length > 0" class="owners" aria-label="Who set what">
      <li v-for="text in told" :key="text">{{ text }}</li>
    </ul>
  </section>
</template>

<style scoped src="./cards.css" />

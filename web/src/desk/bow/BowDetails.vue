<script setup lang="ts">
/** What is seldom asked: the first stroke, the tune's slurs, limits, parts, regions, signs, counting, both hands. */
import { computed, ref } from 'vue';
import {
  COUNTINGS,
  DOWNBEATS,
  REGIONS,
  SCHOOLS,
  TUNE_SLURS,
  USUAL_SLUR,
  type BowSchool,
  type Region,
} from '@nokta/core/bow';
import type { BowMark } from '@nokta/core/music';
import { bowName, countingText, regionText, schoolText, tuneSlursText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { useBowActions } from './actions.ts';

const desk = useDesk();
const actions = useBowActions();
const decided = computed(() => desk.record!.decisions.bow);
const parts = computed(() => desk.arrangement!.form.parts.map(({ label }) => label));
const region = computed<Region | null>(() => decided.value.regions[desk.selectedPhrase?.notes[0] ?? ''] ?? null);
const hasOwn = computed(() => {
  const { start, turns, slurs, joints, regions, lengths, laid, pattern } = decided.value;
  const { strokeSigns } = desk.record!.decisions.signs;
  const some =
    Object.keys({ ...turns, ...slurs, ...joints, ...regions, ...strokeSigns }).length + lengths.length + laid.length;
  return start !== null || pattern !== null || some > 0;
});

const STARTS = [
  { value: 'own', title: 'Bar 1 down' },
  { value: 'down', title: bowName('down') },
  { value: 'up', title: bowName('up') },
] as const;
const SLURS = TUNE_SLURS.map((value) => ({ value, title: tuneSlursText(value) }));
const MOST = [
  { value: 0, title: `As written; ${USUAL_SLUR} when planned` },
  { value: 1, title: 'Separate only' },
  ...[2, 3, 4, 6, 8].map((value) => ({ value, title: `${value} notes` })),
];
const BEATS = DOWNBEATS.map((value) => ({ value, title: value === 'bar' ? 'Each bar' : 'Each part' }));
const SCHOOLS_OF_PARTS = [
  { value: 'own', title: 'As the tune' },
  ...SCHOOLS.map((value) => ({ value, title: schoolText(value).name })),
];
const REGION_ITEMS = [
  { value: 'none', title: 'No mark' },
  ...REGIONS.map((value) => ({ value, title: regionText(value) })),
];
const COUNTS = COUNTINGS.map((value) => ({ value, title: countingText(value) }));

const settled = ref('');
async function settle(): Promise<void> {
  settled.value = (await actions.settleHands()) ?? settled.value;
}
</script>

<template>
  <details class="bow-card">
    <summary>Slurs, signs, regions, counting</summary>
    <div class="fields">
      <v-select
        label="First stroke"
        :items="[...STARTS]"
        :model-value="decided.start ?? 'own'"
        @update:model-value="actions.setStart($event === 'own' ? null : ($event as BowMark))"
      />
      <v-select
        label="The tune’s slurs"
        :items="SLURS"
        :model-value="decided.tuneSlurs"
        @update:model-value="actions.decide({ tuneSlurs: $event }, 'change what the tune’s slurs mean')"
      />
      <v-select
        label="Most notes to a stroke"
        :items="MOST"
        :model-value="decided.maxSlur ?? 0"
        @update:model-value="actions.decide({ maxSlur: $event || null }, 'change the longest slur')"
      />
      <v-select
        v-if="decided.school === 'down-on-the-beat' || Object.keys(decided.schools).length > 0"
        label="What begins down"
        :items="BEATS"
        :model-value="decided.downbeats"
        @update:model-value="actions.decide({ downbeats: $event }, 'change what begins down')"
      />
      <template v-if="parts.length > 1">
        <v-select
          v-for="label in parts"
          :key="label"
          :label="`School of part ${label}`"
          :items="SCHOOLS_OF_PARTS"
          :model-value="decided.schools[label] ?? 'own'"
          @update:model-value="actions.setPartSchool(label, $event === 'own' ? null : ($event as BowSchool))"
        />
      </template>
      <v-select
        :label="`Part of the bow, from ${desk.selectedPhrase?.label ?? 'here'} on`"
        :items="REGION_ITEMS"
        :model-value="region ?? 'none'"
        @update:model-value="
          desk.selectedPhrase?.notes[0] &&
          actions.setRegion(desk.selectedPhrase.notes[0], $event === 'none' ? null : ($event as Region))
        "
      />
      <v-btn size="small" variant="outlined" @click="actions.markRegions()">Mark the parts that the plan uses</v-btn>
      <v-btn size="small" variant="outlined" @click="actions.suggestSigns()"
        >Set the signs that the bow calls for</v-btn
      >
      <v-select
        label="Counting"
        :items="COUNTS"
        :model-value="decided.counting"
        @update:model-value="actions.decide({ counting: $event }, 'change how it is counted')"
      />
      <v-switch
        label="A sign on every stroke"
        :model-value="decided.everyMark"
        @update:model-value="actions.decide({ everyMark: Boolean($event) }, 'change the bow signs')"
      />
      <v-switch
        label="Inches"
        :model-value="decided.inches"
        @update:model-value="actions.decide({ inches: Boolean($event) }, 'change the measure')"
      />
      <v-btn size="small" variant="outlined" @click="settle">Settle both hands</v-btn>
      <p v-if="settled" role="status">{{ settled }}</p>
      <v-btn v-if="hasOwn" size="small" variant="text" @click="actions.forget()">Forget what was set here</v-btn>
    </div>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font: 600 1.05rem var(--display);
}
.fields {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
</style>

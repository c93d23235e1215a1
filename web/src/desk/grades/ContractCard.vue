<script setup lang="ts">
/** The contract of this version, open to be changed: a copy with a name of its own. */
import { computed, ref, shallowRef } from 'vue';
import type { OwnContract } from '@nokta/api';
import { contractFor, DOUBLE_STOPS, isGraded, type Limits } from '@nokta/core/grade';
import { POSITIONS } from '@nokta/core/hand';
import { ALLOWED_RULES, doubleStopsText } from '@nokta/core/words';
import { api } from '../../api/client.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const actions = useGradeActions();
const contract = computed(() => actions.contract());
const own = computed(() => desk.record!.decisions.version.contract !== null);
const name = ref('');
/** Contracts of one's own, wherever they were made; asked for when the card is opened. */
const made = shallowRef<readonly OwnContract[]>([]);
async function look(open: boolean): Promise<void> {
  if (open) made.value = await api.contracts().catch(() => []);
}
const others = computed(() => {
  const { hand } = desk.arrangement!.instrument;
  return made.value.filter((one) => one.hand === hand && one.contract.name !== contract.value?.name);
});

const NUMBERS = [
  ['strings', 'Strings at most'],
  ['patterns', 'Finger patterns at most'],
  ['shifts', 'Changes of place in a phrase'],
  ['range', 'Semitones from lowest to highest'],
  ['maxSlur', 'Notes to a bow'],
  ['notesPerSecond', 'Notes a second'],
  ['crossingsPerSecond', 'String crossings a second'],
  ['accidentals', 'Accidentals in a phrase'],
] as const satisfies readonly (readonly [keyof Limits, string])[];
const SHORTEST = [
  { value: 0, title: 'Any' },
  { value: 0.25, title: 'Sixteenths' },
  { value: 0.5, title: 'Eighths' },
  { value: 1, title: 'Quarters' },
  { value: 2, title: 'Halves' },
];
const PLACES = [
  { value: 'any', title: 'Any' },
  ...POSITIONS.map((value) => ({ value: value as string, title: value as string })),
];
const STOPS = DOUBLE_STOPS.map((value) => ({ value, title: doubleStopsText(value) }));

function change(limits: Partial<Limits>): void {
  const now = contract.value;
  if (!now) return;
  const title = own.value ? now.name : `My ${now.name.toLowerCase()}`;
  void actions.setContract({ name: title, limits: { ...now.limits, ...limits } });
}
/** Nothing typed is no limit. */
function number(rule: (typeof NUMBERS)[number][0], typed: string): void {
  const value = typed.trim() === '' ? null : Number(typed);
  if (value === null || (Number.isFinite(value) && value >= 0)) change({ [rule]: value });
}
function rename(): void {
  if (contract.value && name.value.trim()) void actions.setContract({ ...contract.value, name: name.value.trim() });
}
</script>

<template>
  <details v-if="contract" class="contract" @toggle="look(($event.target as HTMLDetailsElement).open)">
    <summary>The contract{{ own ? `: ${contract.name}` : '' }}</summary>
    <p>What this version may ask. A change makes a copy of your own, for this arrangement.</p>
    <div class="fields">
      <v-text-field
        v-if="own"
        label="Name of the contract"
        maxlength="60"
        :model-value="contract.name"
        @update:model-value="name = $event"
        @blur="rename"
        @keydown.enter="rename"
      />
      <v-text-field
        v-for="[rule, label] in NUMBERS"
        :key="rule"
        :label="label"
        type="number"
        min="0"
        placeholder="no limit"
        persistent-placeholder
        :model-value="contract.limits[rule] === null ? '' : String(contract.limits[rule])"
        @change="number(rule, ($event.target as HTMLInputElement).value)"
      />
      <v-select
        label="Shortest note"
        :items="SHORTEST"
        :model-value="contract.limits.shortest ?? 0"
        @update:model-value="change({ shortest: $event || null })"
      />
      <v-select
        label="Highest position"
        :items="PLACES"
        :model-value="contract.limits.maxPosition ?? 'any'"
        @update:model-value="change({ maxPosition: $event === 'any' ? null : ($event as Limits['maxPosition']) })"
      />
      <v-select
        label="Double stops"
        :items="STOPS"
        :model-value="contract.limits.doubleStops"
        @update:model-value="change({ doubleStops: $event })"
      />
      <v-checkbox
        v-for="[rule, label] in ALLOWED_RULES"
        :key="rule"
        density="compact"
        hide-details
        :label="label"
        :model-value="Boolean(contract.limits[rule])"
        @update:model-value="change({ [rule]: Boolean($event) })"
      />
    </div>
    <div class="row">
      <v-btn
        v-for="{ contract: one, tune } in others"
        :key="`${one.name} ${tune}`"
        size="small"
        variant="outlined"
        @click="actions.setContract(one)"
        >Use “{{ one.name }}”<small v-if="tune !== desk.tune?.title">&nbsp;of {{ tune }}</small></v-btn
      >
      <v-btn v-if="own" size="small" variant="text" @click="actions.setContract(null)">The grade’s own again</v-btn>
    </div>
    <p v-if="isGraded(desk.record!.decisions.version.grade) && own" class="soft">
      Made from: {{ contractFor(desk.arrangement!.instrument.hand, desk.record!.decisions.version.grade as 1).name }}
    </p>
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
  margin: 10px 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.soft {
  color: var(--soft);
}
</style>

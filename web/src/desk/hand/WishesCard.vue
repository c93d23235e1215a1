<script setup lang="ts">
/** What the hand prefers: a preset or a learner's hand for the tune, presets for single parts, what counts inside. */
import { dequal } from 'dequal';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { mdiChevronDown, mdiChevronUp } from '@mdi/js';
import {
  FIRST_WISHES,
  OPEN_STRINGS,
  OPEN_STRING_IDS,
  PLAIN_WEIGHTS,
  PRESETS,
  PRESET_IDS,
  WEIGHT_STEPS,
  WISH_RULES,
  type OpenStrings,
  type PresetId,
  type RuleName,
} from '@nokta/core/hand';
import { effectTexts } from '@nokta/core/words';
import { useLearners } from '../../learners/store.ts';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';

const desk = useDesk();
const actions = useHandActions();

const decided = computed(() => desk.record!.decisions.hand);
const wishes = computed(() => decided.value.wishes);
const preset = computed(() => PRESETS[wishes.value.preset]);
const presetItems = PRESET_IDS.map((value) => ({ value, title: PRESETS[value].name }));
/** Learners, after the presets that come with Nokta. */
const learners = useLearners();
onMounted(() => void learners.need());
const allItems = computed(() => [
  ...presetItems,
  ...learners.all.map(({ id, value }) => ({ value: id, title: value.person.name })),
]);
const current = computed(() => learners.find(decided.value.learner?.id));
function chooseAny(value: string): void {
  const learner = learners.find(value);
  if (learner) void actions.takeLearner(learner);
  else choose(value as PresetId);
}
const parts = computed(() => [...new Set(desk.arrangement!.form.parts.map(({ label }) => label))]);
const partItems = [{ value: null, title: 'as the tune' }, ...presetItems];

/** With a preset instead of a learner's hand, what that learner may do stays until it is changed. */
function choose(id: PresetId): void {
  const limits = { ...decided.value.learner?.limits, ...decided.value.limits };
  const { openStrings } = wishes.value;
  const hand = { wishes: { preset: id, ...(openStrings && { openStrings }) }, learner: null, limits };
  void desk.decide({ hand }, `prefer ${PRESETS[id].name.toLowerCase()}`);
}
function choosePart(label: string, id: PresetId | null): void {
  const { [label]: _, ...others } = decided.value.partWishes;
  const partWishes = id ? { ...others, [label]: { preset: id } } : others;
  void desk.decide({ hand: { partWishes } }, `part ${label}: other wishes`);
}

const openItems = [
  { value: null, title: 'as the line goes' },
  ...OPEN_STRING_IDS.map((value) => ({ value, title: OPEN_STRINGS[value].title })),
];
function chooseOpen(openStrings: OpenStrings | null): void {
  const { openStrings: _, ...rest } = wishes.value;
  const title = openItems.find(({ value }) => value === openStrings)!.title;
  void desk.decide({ hand: { wishes: { ...rest, ...(openStrings && { openStrings }) } } }, title);
}

/** What the wishes avoid in this tune, and what they take instead. */
const effect = shallowRef<readonly string[]>([]);
watch(
  () => desk.arrangement,
  async () => {
    const plain = dequal([wishes.value, decided.value.partWishes], [FIRST_WISHES, {}]);
    const found = plain ? [] : await desk.ask('effectOfWishes');
    if (found !== STALE)
      effect.value = found.length === 0 && !plain ? ['changes nothing in this tune'] : effectTexts(found);
  },
  { immediate: true },
);

const inside = ref(false);
/** How much a rule counts now: the teacher's word, else the preset's, else the list's. */
const weightOf = (rule: RuleName) => wishes.value.weights?.[rule] ?? preset.value.weights[rule] ?? PLAIN_WEIGHTS[rule];
/** The nearest of the steps that people choose among. */
const stepOf = (weight: number) =>
  WEIGHT_STEPS.reduce((best, step) => (Math.abs(step.value - weight) < Math.abs(best.value - weight) ? step : best))
    .value;
function weigh(rule: RuleName, value: number, text: string): void {
  void desk.decide(
    { hand: { wishes: { ...wishes.value, weights: { ...wishes.value.weights, [rule]: value } } } },
    text.toLowerCase(),
  );
}
/** Rules that were changed by hand. */
const changed = computed(() => Object.keys(wishes.value.weights ?? {}).length);
</script>

<template>
  <section>
    <v-select
      label="What the hand prefers"
      :items="allItems"
      :model-value="current?.id ?? wishes.preset"
      @update:model-value="chooseAny"
    />
    <p class="soft">{{ preset.text }}</p>
    <ul v-if="effect.length > 0" class="owners" aria-label="What it does to this tune">
      <li v-for="text in effect" :key="text">{{ text }}</li>
    </ul>
    <v-select
      class="rule"
      label="Open string or fourth finger"
      :items="openItems"
      :model-value="wishes.openStrings ?? null"
      @update:model-value="chooseOpen"
    />
    <v-btn
      size="small"
      :append-icon="inside ? mdiChevronUp : mdiChevronDown"
      :aria-expanded="inside"
      @click="inside = !inside"
      >What counts<template v-if="changed > 0">, {{ changed }} changed</template></v-btn
    >
    <template v-if="inside">
      <label v-for="{ rule, text } in WISH_RULES" :key="rule" class="weigh">
        {{ text }}
        <select
          :value="stepOf(weightOf(rule))"
          @change="weigh(rule, Number(($event.target as HTMLSelectElement).value), text)"
        >
          <option v-for="step in WEIGHT_STEPS" :key="step.value" :value="step.value">{{ step.text }}</option>
        </select>
      </label>
      <v-btn v-if="changed > 0" size="small" variant="outlined" @click="choose(wishes.preset)"
        >As {{ preset.name }} has it</v-btn
      >
    </template>
    <template v-if="parts.length > 1">
      <h4>Part by part</h4>
      <v-select
        v-for="label in parts"
        :key="label"
        class="rule"
        :label="`Part ${label}`"
        :items="partItems"
        :model-value="decided.partWishes[label]?.preset ?? null"
        @update:model-value="choosePart(label, $event)"
      />
    </template>
  </section>
</template>

<style scoped src="./cards.css" />
<style scoped>
.weigh {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  padding: 2px 0;
  font-size: 0.92rem;
}
.weigh select {
  padding: 2px 4px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
</style>

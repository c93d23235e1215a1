<script setup lang="ts">
/** What the hand prefers: a preset for the tune and for single parts, its inside, the learner's limits. */
import { computed, ref } from 'vue';
import { mdiChevronDown, mdiChevronUp } from '@mdi/js';
import {
  FIRST_WISHES,
  PLAIN_WEIGHTS,
  POSITIONS,
  PRESETS,
  PRESET_IDS,
  WEIGHT_STEPS,
  WISH_RULES,
  bringsFingers,
  type HandLimits,
  type Level,
  type PresetId,
  type RuleName,
} from '@nokta/core/hand';
import { useDesk } from '../store.ts';
import { useHandActions } from './actions.ts';

const desk = useDesk();
const actions = useHandActions();

const decisions = computed(() => desk.record!.decisions);
const instrument = computed(() => decisions.value.instrument);
const upper = computed(() => instrument.value === 'violin' || instrument.value === 'viola');
const wishes = computed(() => decisions.value.wishes ?? FIRST_WISHES);
const preset = computed(() => PRESETS[wishes.value.preset]);
const presetItems = PRESET_IDS.map((value) => ({ value, title: PRESETS[value].name }));
const parts = computed(() => [...new Set(desk.arrangement!.form.parts.map(({ label }) => label))]);
const partItems = [{ value: null, title: 'as the tune' }, ...presetItems];

function choose(id: PresetId): void {
  void desk.decide({ wishes: { preset: id } }, `prefer ${PRESETS[id].name.toLowerCase()}`);
}
function choosePart(label: string, id: PresetId | null): void {
  const { [label]: _, ...others } = decisions.value.partWishes ?? {};
  void desk.decide({ partWishes: id ? { ...others, [label]: { preset: id } } : others }, `part ${label}: other wishes`);
}

const inside = ref(false);
/** How much a rule counts now: the teacher's word, else the preset's, else the list's. */
const weightOf = (rule: RuleName) => wishes.value.weights?.[rule] ?? preset.value.weights[rule] ?? PLAIN_WEIGHTS[rule];
const stepItems = WEIGHT_STEPS.map(({ value, text }) => ({ value, title: text }));
/** The nearest of the steps that people choose among. */
const stepOf = (weight: number) =>
  WEIGHT_STEPS.reduce((best, step) => (Math.abs(step.value - weight) < Math.abs(best.value - weight) ? step : best))
    .value;
function weigh(rule: RuleName, value: number, text: string): void {
  void desk.decide(
    { wishes: { ...wishes.value, weights: { ...wishes.value.weights, [rule]: value } } },
    text.toLowerCase(),
  );
}
const changed = computed(() => Object.keys(wishes.value.weights ?? {}).length);

const limit = (change: HandLimits, label: string) =>
  desk.decide({ limits: { ...decisions.value.limits, ...change } }, label);
/** What holds: the learner's own limit, else the preset's. */
const holds = (name: 'noFourth' | 'noExtension' | 'noDoubleStops') =>
  decisions.value.limits[name] ?? preset.value.limits[name] ?? false;
const highest = computed(() => decisions.value.limits.maxPosition ?? preset.value.limits.maxPosition ?? 'VIII');
const levelItems = POSITIONS.map((value) => ({
  value,
  title: value === 'VIII' ? 'as far as it goes' : `up to ${value}`,
}));

const brought = computed(() => bringsFingers(desk.arrangement!.tune));
const told = ref('');
const kept = computed(
  () => Object.values(decisions.value.locks).filter((lock) => lock.instrument === instrument.value).length,
);
</script>

<template>
  <section>
    <v-select
      label="What the hand prefers"
      :items="presetItems"
      :model-value="wishes.preset"
      @update:model-value="choose"
    />
    <p class="soft">{{ preset.text }}</p>
    <v-btn
      size="small"
      :append-icon="inside ? mdiChevronUp : mdiChevronDown"
      :aria-expanded="inside"
      @click="inside = !inside"
      >What counts<template v-if="changed > 0">, {{ changed }} changed</template></v-btn
    >
    <template v-if="inside">
      <v-select
        v-for="{ rule, text } in WISH_RULES"
        :key="rule"
        class="rule"
        :label="text"
        :items="stepItems"
        :model-value="stepOf(weightOf(rule))"
        @update:model-value="weigh(rule, $event, text)"
      />
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
        :model-value="decisions.partWishes?.[label]?.preset ?? null"
        @update:model-value="choosePart(label, $event)"
      />
    </template>
    <h4>This learner’s hand</h4>
    <v-select
      label="Positions"
      :items="levelItems"
      :model-value="highest"
      @update:model-value="limit({ maxPosition: $event as Level }, `positions up to ${$event}`)"
    />
    <v-switch
      v-if="upper"
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
      v-if="instrument === 'bass'"
      label="Fingers"
      :items="[
        { value: 'three', title: '1 2 4' },
        { value: 'four', title: '1 2 3 4' },
      ]"
      :model-value="decisions.limits.bassSchool ?? 'three'"
      @update:model-value="limit({ bassSchool: $event }, 'change the fingers used')"
    />
    <v-select
      v-if="instrument === 'cello'"
      label="What comes first"
      :items="[
        { value: null, title: 'whichever is easier' },
        { value: 'shift', title: 'shift the hand' },
        { value: 'extend', title: 'open the hand' },
      ]"
      :model-value="decisions.limits.celloSchool ?? null"
      @update:model-value="
        desk.decide(
          {
            limits: Object.fromEntries(
              Object.entries({ ...decisions.limits, celloSchool: $event }).filter(([, value]) => value !== null),
            ),
          },
          'shift or open the hand first',
        )
      "
    />
    <template v-if="brought || kept > 0">
      <h4>Fingers that are set</h4>
      <div class="buttons">
        <v-btn
          v-if="brought"
          size="small"
          variant="outlined"
          @click="actions.takeBrought().then((text) => (told = text))"
          >Use the fingers that came with the tune</v-btn
        >
        <v-btn
          v-if="kept > 0"
          size="small"
          variant="outlined"
          @click="actions.free(Object.keys(decisions.locks), 'all that is set')"
          >Free all {{ kept }}</v-btn
        >
      </div>
      <p v-if="told" role="status">{{ told }}</p>
    </template>
  </section>
</template>

<style scoped src="./cards.css" />
<style scoped>
.rule {
  margin-top: 8px;
}
</style>

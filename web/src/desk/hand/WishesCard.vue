<script setup lang="ts">
/** What the hand prefers: a preset for the tune and for single parts, its inside, the learner's limits. */
import { dequal } from 'dequal';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { mdiChevronDown, mdiChevronUp } from '@mdi/js';
import {
  FIRST_WISHES,
  HANDS,
  OPEN_STRINGS,
  OPEN_STRING_IDS,
  PLAIN_WEIGHTS,
  POSITIONS,
  PRESETS,
  PRESET_IDS,
  WEIGHT_STEPS,
  WISH_RULES,
  bringsFingers,
  limitLayers,
  profileOf,
  type HandLimits,
  type Level,
  type LimitName,
  type LimitOwner,
  type OpenStrings,
  type PresetId,
  type RuleName,
} from '@nokta/core/hand';
import type { NamedHand } from '@nokta/core/files';
import { instrumentOf } from '@nokta/core/instrument';
import { effectTexts, limitText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { api, messageOf } from '../../api/client.ts';
import { setFor } from '../arranging.ts';
import { useDesk } from '../store.ts';
import { useHandActions } from './actions.ts';

const desk = useDesk();
const actions = useHandActions();

const decided = computed(() => desk.record!.decisions.hand);
const instrument = computed(() => instrumentOf(desk.record!.decisions.key));
const model = computed(() => HANDS[instrument.value.hand]);
const wishes = computed(() => decided.value.wishes);
const preset = computed(() => PRESETS[wishes.value.preset]);
const presetItems = PRESET_IDS.map((value) => ({ value, title: PRESETS[value].name }));
/** Learners' hands that were saved, after the presets that come with Nokta. */
const hands = shallowRef<readonly NamedHand[]>([]);
const handName = ref('');
/** The hand is saved with the instrument that is set, and brings it along. */
const withInstrument = ref(false);
const loadHands = async () => (hands.value = await api.hands());
onMounted(async () => {
  try {
    await loadHands();
  } catch (error) {
    said.value = `Saved hands cannot be shown. ${messageOf(error)}`;
  }
});
const allItems = computed(() => [...presetItems, ...hands.value.map(({ id, name }) => ({ value: id, title: name }))]);
/** The saved hand that is in use, known by its name. */
const current = computed(() => hands.value.find(({ name }) => name === decided.value.learner?.name));
function chooseAny(value: string): void {
  const hand = hands.value.find(({ id }) => id === value);
  if (!hand) return choose(value as PresetId);
  handName.value = hand.name;
  withInstrument.value = hand.instrument !== null;
  const { name, limits, wishes: own, instrument: plays } = hand;
  const { decisions } = desk.record!;
  // Who plays a half-size violin is given one with the hand.
  const key = plays ? setFor(plays.like, desk.tune!, decisions, plays.make) : {};
  void desk.decide({ ...key, hand: { wishes: own, learner: { name, limits }, limits: {} } }, `the hand of ${name}`);
}
async function saveHand(): Promise<void> {
  const name = handName.value.trim();
  if (!name) return;
  try {
    // The list may not have come, or another window may have saved one of this name.
    await loadHands();
    const known = hands.value.find((hand) => hand.name === name);
    const limits = { ...decided.value.learner?.limits, ...decided.value.limits };
    const { instrument: like, make } = desk.record!.decisions.key;
    const hand = { name, wishes: wishes.value, limits, instrument: withInstrument.value ? { like, make } : null };
    await (known ? api.keepHand({ ...hand, id: known.id }) : api.addHand(hand));
    await loadHands();
    said.value = known ? `${name} is saved anew.` : `${name} is saved; other tunes can use it.`;
    await desk.decide({ hand: { learner: { name, limits }, limits: {} } }, `the hand of ${name}`);
  } catch (error) {
    said.value = messageOf(error);
  }
}
async function dropHand(): Promise<void> {
  if (!current.value) return;
  const { id, name } = current.value;
  try {
    await api.dropHand(id);
    await loadHands();
    said.value = `${name} is removed; this arrangement keeps what it says.`;
  } catch (error) {
    said.value = messageOf(error);
  }
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

const brought = computed(() => bringsFingers(desk.arrangement!.tune));
const said = ref('');
const kept = computed(
  () => Object.values(decided.value.locks).filter((lock) => lock.instrument === instrument.value.id).length,
);
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
    <v-text-field
      v-model="handName"
      class="rule"
      label="Save it as, such as a learner’s name"
      maxlength="60"
      @keydown.enter="saveHand"
    />
    <v-checkbox v-model="withInstrument" :label="`Plays the ${instrument.name.toLowerCase()}`" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" :disabled="!handName.trim()" @click="saveHand">Save this hand</v-btn>
      <v-btn v-if="current" size="small" variant="outlined" @click="dropHand">Remove {{ current.name }}</v-btn>
    </div>
    <template v-if="brought || kept > 0">
      <h4>Fingers that are set</h4>
      <div class="buttons">
        <v-btn
          v-if="brought"
          size="small"
          variant="outlined"
          @click="actions.takeBrought().then((text) => (said = text))"
          >Use the fingers that came with the tune</v-btn
        >
        <v-btn
          v-if="kept > 0"
          size="small"
          variant="outlined"
          @click="actions.free(Object.keys(decided.locks), 'all that is set')"
          >Free all {{ kept }}</v-btn
        >
      </div>
    </template>
    <p v-if="said" role="status">{{ said }}</p>
  </section>
</template>

<style scoped src="./cards.css" />
<style scoped>
.owners {
  margin: 8px 0 0;
  padding-left: 18px;
  color: var(--soft);
  font-size: 0.9rem;
}
.rule {
  margin-top: 8px;
}
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

<script setup lang="ts">
/** The tune in its key, in each tuning: how it lies beside the usual one, what rings, what it does to the strings. */
import { computed, onMounted, ref, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { tensionReport, tuningText } from '@nokta/core/instrument';
import { midi, pitchName } from '@nokta/core/music';
import { effortBeside, inText, keyReasons, stringCautions } from '@nokta/core/words';
import { useKept } from '../../kept/store.ts';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';
import FirstStrip from './FirstStrip.vue';
import SideBySide from './SideBySide.vue';
import { useAsked } from './asking.ts';

const desk = useDesk();
const look = useLook();
const kept = useKept();
onMounted(() => void kept.load());

const key = computed(() => desk.record!.decisions.key);
const own = computed(() => kept.tuningsOf(key.value).map(({ id, name }) => ({ id, name })));
const { found, done, working } = useAsked(
  (how) => desk.askLong(how, 'tunings', own.value),
  () => [desk.arrangement, own.value],
);
/** More are there, but nobody looks through them. */
const MOST = 12;
const choices = computed(() => {
  const all = found.value ?? [];
  const here = all.find(({ tuning }) => tuning.id === key.value.tuning);
  const usual = all.find(({ retuned }) => retuned === 0);
  const first = all.slice(0, MOST);
  return [...first, ...[here, usual].filter((one) => one !== undefined && !first.includes(one))].flatMap(
    (one) => one ?? [],
  );
});

const looked = ref<string | null>(null);
watch(
  () => key.value.tuning,
  () => (looked.value = null),
);
const cards = computed(() =>
  choices.value.map(({ tuning, choice, retuned }, index) => ({
    id: tuning.id,
    title: tuningText(tuning.pitches),
    foot: choice.fits ? inText(tuning.name) : 'notes fall off',
    strings: tuningText(tuning.pitches).split(' '),
    choice,
    now: tuning.id === key.value.tuning,
    says: [
      `${tuning.pitches.map(pitchName).join(' ')}, ${tuning.name}`,
      index === 0 && 'lies best',
      tuning.id === key.value.tuning && 'as it is now',
      retuned === 0 ? 'nothing retuned' : `${retuned} ${retuned === 1 ? 'string' : 'strings'} retuned`,
      keyReasons(choice, look.names).join(', '),
    ]
      .filter(Boolean)
      .join('; '),
  })),
);
const chosen = computed(
  () => choices.value.find(({ tuning }) => tuning.id === (looked.value ?? key.value.tuning)) ?? null,
);
const present = computed(() => choices.value.find(({ tuning }) => tuning.id === key.value.tuning));
const usual = computed(() => choices.value.find(({ retuned }) => retuned === 0));
/** Beside how it is now; where that is shown itself, beside the usual tuning. */
const beside = computed(() => {
  if (!chosen.value || !present.value) return '';
  if (chosen.value !== present.value) return effortBeside(chosen.value.choice, present.value.choice);
  return usual.value ? effortBeside(chosen.value.choice, usual.value.choice, 'the usual tuning') : '';
});
const cautions = computed(() =>
  chosen.value && desk.arrangement
    ? stringCautions(tensionReport(desk.arrangement.instrument, chosen.value.tuning.pitches).strings)
    : [],
);
const lookAt = (id: string) => (looked.value = id === key.value.tuning ? null : id);
const hear = () => chosen.value && desk.hearPitches(chosen.value.tuning.pitches.map(midi));
const take = () => {
  if (chosen.value) void desk.decide({ key: { tuning: chosen.value.tuning.id } }, 'change the tuning');
};
</script>

<template>
  <p v-if="working || !found" role="status">Trying the tunings… {{ Math.round(100 * done) }} %</p>
  <template v-if="found">
    <SideBySide label="Tuning" :cards="cards" :looked="looked" @look="lookAt" />
    <div v-if="chosen" class="chosen">
      <p>
        <strong>{{ tuningText(chosen.tuning.pitches) }}</strong><template v-if="beside"> ({{ beside }})</template>:
        {{ keyReasons(chosen.choice, look.names).join(', ') }}.
        <template v-for="caution in cautions" :key="caution"> {{ caution }}</template>
      </p>
      <div class="doings">
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="hear">Hear the strings</v-btn>
        <v-btn size="small" variant="flat" color="primary" :disabled="chosen.tuning.id === key.tuning" @click="take"
          >Take this tuning</v-btn
        >
      </div>
    </div>
    <FirstStrip :change="looked === null ? null : { tuning: looked }" />
  </template>
</template>

<style scoped src="./band.css" />

<script setup lang="ts">
/** All twelve keys side by side, the easiest first: what lies well, what rings. Heard and seen before one is taken. */
import { computed, ref, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { withinOctave, type KeyChoice } from '@nokta/core/compare';
import { keyName, midi, transposeTune } from '@nokta/core/music';
import { effortBeside, fingerPatternsText, keyReasons, newInKey, octaveText } from '@nokta/core/words';
import { tuningText } from '@nokta/core/instrument';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';
import FirstStrip from './FirstStrip.vue';
import SideBySide from './SideBySide.vue';
import { useAsked } from './asking.ts';

const desk = useDesk();
const look = useLook();
const { found, done, working } = useAsked((how) => desk.askLong(how, 'keys'));
const choices = computed(() => found.value ?? []);
const now = computed(() => desk.record?.decisions.key.transpose ?? 0);

/** The key that is looked at; null for none but the present one. */
const looked = ref<number | null>(null);
watch(now, () => (looked.value = null));

/** One card for each key, in the octave that is looked at or holds, else in its easiest. */
const keys = computed(() => {
  const all = new Map<number, KeyChoice[]>();
  for (const choice of choices.value) {
    const key = withinOctave(choice.transpose);
    all.set(key, [...(all.get(key) ?? []), choice]);
  }
  return [...all.values()].map((octaves) => {
    const here = (at: number | null) => octaves.find(({ transpose }) => transpose === at);
    return {
      shown: here(looked.value) ?? here(now.value) ?? octaves[0]!,
      octaves: [...octaves].sort((a, b) => a.transpose - b.transpose),
      best: octaves[0]!,
    };
  });
});
/** As the strings are tuned now. */
const names = computed(() => (desk.arrangement ? tuningText(desk.arrangement.tuning.pitches).split(' ') : []));
const cards = computed(() =>
  keys.value.map(({ shown: choice, octaves, best }) => ({
    id: String(choice.transpose),
    title: keyName(choice.key),
    strings: names.value,
    foot: choice.fits ? octaveText(choice.octave) : 'notes fall off',
    choice,
    now: octaves.some(({ transpose }) => transpose === now.value),
    says: [
      `${keyName(choice.key)}, ${octaveText(choice.octave)}`,
      best === choices.value[0] && 'the easiest',
      choice.transpose === now.value && 'as it is now',
      keyReasons(choice, look.names).join(', '),
    ]
      .filter(Boolean)
      .join('; '),
  })),
);
const chosen = computed(() => choices.value.find(({ transpose }) => transpose === (looked.value ?? now.value)) ?? null);
const octaves = computed(() => keys.value.find(({ shown }) => shown === chosen.value)?.octaves ?? []);
const present = computed(() => choices.value.find(({ transpose }) => transpose === now.value));
const beside = computed(() => (chosen.value && present.value ? effortBeside(chosen.value, present.value) : ''));
const news = computed(() => (chosen.value && present.value ? newInKey(chosen.value, present.value) : []));
const lookAt = (transpose: number) => (looked.value = transpose === now.value ? null : transpose);

const hear = () => {
  const { arrangement } = desk;
  if (arrangement && chosen.value)
    desk.hear({ tune: transposeTune(arrangement.tune, chosen.value.transpose - now.value) });
};
/** Open strings that sound home note or fifth. */
const drones = computed(() => {
  const { arrangement } = desk;
  return (chosen.value?.drones ?? []).flatMap((string) => (arrangement ? [arrangement.tuning.pitches[string]!] : []));
});
const soundDrones = () => desk.hearPitches(drones.value.map(midi));
const take = () => {
  if (chosen.value) void desk.decide({ key: { transpose: chosen.value.transpose } }, 'change the key');
};
</script>

<template>
  <p v-if="working || !found" role="status">Trying all keys… {{ Math.round(100 * done) }} %</p>
  <template v-if="found">
    <SideBySide
      label="Key"
      :cards="cards"
      :looked="looked === null ? null : String(looked)"
      @look="lookAt(Number($event))"
    />
    <div v-if="chosen" class="chosen">
      <p>
        <strong>{{ keyName(chosen.key) }}</strong>, {{ octaveText(chosen.octave)
        }}<template v-if="beside"> ({{ beside }})</template>: {{ keyReasons(chosen, look.names).join(', ') }}.
        <template v-if="chosen.touching.length > 0"
          >Fingers: {{ fingerPatternsText(chosen.touching, names) }}.</template
        >
        <template v-if="news.length > 0"
          ><strong>New to who plays it as it is now:</strong> {{ news.join(', ') }}.</template
        >
      </p>
      <div class="doings">
        <v-btn
          v-for="other in octaves.length > 1 ? octaves : []"
          :key="other.transpose"
          size="small"
          variant="text"
          :aria-pressed="other === chosen"
          :class="{ here: other === chosen }"
          @click="lookAt(other.transpose)"
          >{{ octaveText(other.octave) }}</v-btn
        >
        <v-btn v-if="drones.length > 0" size="small" variant="outlined" :prepend-icon="mdiPlay" @click="soundDrones"
          >Drones {{ tuningText(drones) }}</v-btn
        >
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="hear">Hear it</v-btn>
        <v-btn size="small" variant="flat" color="primary" :disabled="chosen.transpose === now" @click="take"
          >Take this key</v-btn
        >
      </div>
    </div>
    <FirstStrip :change="looked === null ? null : { transpose: looked }" />
  </template>
</template>

<style scoped src="./band.css" />

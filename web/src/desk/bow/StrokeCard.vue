<script setup lang="ts">
/** The stroke of the selected note: what it does, what can be done about it, and what else there is. */
import { computed, shallowRef, watch } from 'vue';
import type { BowAlternative } from '@nokta/core/bow';
import { STROKE_SIGNS } from '@nokta/core/music';
import { alternativeText, strokeSignText, strokeText, tallyTexts, travelText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import OtherWay from '../../theme/parts/OtherWay.vue';
import { useBowActions } from './actions.ts';

const desk = useDesk();
const actions = useBowActions();
const decided = computed(() => desk.record?.decisions.bow);
const selected = computed(() => desk.selected?.id ?? null);
const stroke = computed(() => (selected.value === null ? null : actions.strokeOf(selected.value)));
const place = computed(() => {
  const at = stroke.value ? desk.arrangement!.bowing.strokes.indexOf(stroke.value) : -1;
  return desk.travel?.strokes[at] ?? null;
});
const first = computed(() => stroke.value?.notes[0] ?? '');
const isSlurred = computed(() => stroke.value !== null && first.value !== desk.selected?.ids[0]);
const turned = computed(() => decided.value?.turns[first.value] !== undefined);
const joint = computed(() => decided.value?.joints[first.value] ?? null);

const signs = computed(() => (selected.value === null ? [] : actions.signsAt(selected.value)));
const SIGN_KEYS = { accent: 'X', tenuto: 'T', staccato: 'C' } as const;

const ways = shallowRef<readonly BowAlternative[]>([]);
watch(
  [() => desk.arrangement, () => desk.selected?.ids[0]],
  async ([, note]) => {
    if (!note) return;
    const found = await desk.ask('bowWays', note);
    if (found !== STALE && note === desk.selected?.ids[0]) ways.value = found;
  },
  { immediate: true },
);

function take({ change }: BowAlternative): Promise<void> | undefined {
  const note = desk.selected?.ids[0];
  if (!note) return;
  return change === 'slur' || change === 'cut' ? actions.toggleSlur(note) : actions.turn(note);
}
const price = (extra: number) => (extra < 0.05 ? 'as good' : `${extra.toFixed(1)} dearer`);
</script>

<template>
  <section v-if="stroke && decided" class="bow-card" aria-labelledby="stroke-title">
    <h3 id="stroke-title">This stroke</h3>
    <p>{{ strokeText(stroke) }} <template v-if="place">{{ travelText(place, decided.inches) }}</template></p>
    <div class="row">
      <v-btn size="small" variant="outlined" @click="actions.turn(selected!)"
        >{{ turned ? 'As it comes' : 'Turn the bow' }} <kbd>V</kbd></v-btn
      >
      <v-btn size="small" variant="outlined" @click="actions.toggleSlur(selected!)"
        >{{ isSlurred ? 'Cut the slur' : 'Slur to the note before' }} <kbd>U</kbd></v-btn
      >
      <v-btn
        size="small"
        :variant="joint === 'lift' ? 'flat' : 'outlined'"
        :aria-pressed="joint === 'lift'"
        @click="actions.toggleJoint(selected!, 'lift')"
        >Lift <kbd>K</kbd></v-btn
      >
      <v-btn
        size="small"
        :variant="joint === 'stop' ? 'flat' : 'outlined'"
        :aria-pressed="joint === 'stop'"
        @click="actions.toggleJoint(selected!, 'stop')"
        >Stop <kbd>H</kbd></v-btn
      >
    </div>
    <div class="row signs" role="group" aria-label="Signs on this note">
      <v-btn
        v-for="sign in STROKE_SIGNS"
        :key="sign"
        size="small"
        :variant="signs.includes(sign) ? 'flat' : 'outlined'"
        :aria-pressed="signs.includes(sign)"
        @click="actions.toggleSign(selected!, sign)"
        >{{ strokeSignText(sign) }} <kbd>{{ SIGN_KEYS[sign] }}</kbd></v-btn
      >
    </div>
    <details v-if="ways.length > 0">
      <summary>What else it could do</summary>
      <OtherWay
        v-for="way in ways"
        :key="way.change"
        :title="alternativeText(way)"
        :price="price(way.extra)"
        :reasons="tallyTexts(way.differences)"
        @click="take(way)"
      />
    </details>
  </section>
</template>

<style scoped>
.signs {
  margin-top: 8px;
}
details {
  margin-top: 8px;
}
summary {
  cursor: pointer;
}
</style>

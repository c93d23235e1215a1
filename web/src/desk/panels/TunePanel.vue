<script setup lang="ts">
/** What the tune is, at a glance, and what there is to learn. */
import { computed, ref, watch } from 'vue';
import { barNumbers, beatTempoText, keyName, midi, pitchName } from '@nokta/core/music';
import { useDesk } from '../store.ts';

const desk = useDesk();
const title = ref('');
watch(
  () => desk.tune?.title,
  (now) => (title.value = now ?? ''),
  { immediate: true },
);

const facts = computed(() => {
  const arrangement = desk.arrangement;
  const first = arrangement?.tune.bars[0];
  if (!arrangement || !first) return [];
  const { tune, form, tempo } = arrangement;
  const pitches = desk.notes.flatMap(({ pitches: heads }) => heads).sort((a, b) => midi(a) - midi(b));
  return [
    ['Style', tune.style],
    ['Composer', tune.composer],
    ['Key', keyName(first.key)],
    ['Metre', `${first.metre.beats}/${first.metre.unit}`],
    ['Bars', String(barNumbers(tune.bars).at(-1))],
    ['Form', form.parts.map(({ label, times }) => label.repeat(times)).join('')],
    ['Range', `${pitchName(pitches[0]!)} to ${pitchName(pitches.at(-1)!)}`],
    ['Tempo', beatTempoText(first.metre, tempo)],
  ].filter(([, value]) => value);
});
const plan = computed(() => {
  const form = desk.arrangement?.form;
  if (!form) return null;
  const labels = (ids: readonly string[]) =>
    ids.map((id) => desk.phrases.find((phrase) => phrase.id === id)?.label ?? id).join(', ');
  return { ...form.learn, most: labels(form.learn.mostTuneFirst) };
});
const tempo = computed(() => Math.round(desk.arrangement?.tempo ?? 96));

function setTempo(value: string): void {
  const bpm = Number(value);
  if (bpm >= 20 && bpm <= 400 && bpm !== tempo.value) void desk.decide({ tempo: bpm }, 'change the tempo');
}
</script>

<template>
  <div>
    <v-text-field
      v-model="title"
      label="Title"
      class="mb-3"
      @change="desk.rename(title)"
      @keydown.enter="desk.rename(title)"
    />
    <dl>
      <template v-for="[name, value] in facts" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <v-text-field
      class="mt-3"
      type="number"
      label="Working tempo (quarters a minute)"
      :model-value="tempo"
      min="20"
      max="400"
      @change="setTempo(($event.target as HTMLInputElement).value)"
    />
    <section v-if="plan" class="plan">
      <h3>To learn</h3>
      <p class="big">Learn {{ plan.newBars }} bars, play {{ plan.totalBars }}.</p>
      <p>Most of the tune first: {{ plan.most }}.</p>
    </section>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 14px;
  margin: 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.plan {
  margin-top: 18px;
}
h3 {
  font-size: 1.05rem;
}
.big {
  margin: 4px 0;
  font-size: 1.1rem;
}
p {
  margin: 0;
}
</style>

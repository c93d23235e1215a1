<script setup lang="ts">
/** How difficult this version is, by what, and phrase by phrase with the tempo at which each is as easy as the easiest. */
import { computed, onBeforeUnmount, shallowRef, useTemplateRef, watch } from 'vue';
import type { Chart as ChartType } from 'chart.js';
import { FEATURES, type Difficulty, type Feature } from '@nokta/core/grade';
import { beatTempoText } from '@nokta/core/music';
import { featureName, featureText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const difficulty = shallowRef<Difficulty | null>(null);
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
let chart: ChartType | null = null;

watch(
  () => desk.arrangement,
  async () => {
    const found = await desk.ask('difficulty');
    if (found !== STALE) difficulty.value = found;
  },
  { immediate: true },
);
/** A feature below this share of the whole is not told. */
const LEAST = 0.03;
const features = computed(() => {
  const { breakdown } = difficulty.value ?? {};
  if (!breakdown) return [];
  return FEATURES.filter((feature) => breakdown[feature].share >= LEAST).sort(
    (a, b) => breakdown[b].share - breakdown[a].share,
  );
});
const points = (feature: Feature) => (difficulty.value?.breakdown[feature].share ?? 0) * (difficulty.value?.total ?? 0);
const phrases = computed(() => difficulty.value?.phrases ?? []);
const hardest = computed(() => phrases.value.reduce((most, { total }) => Math.max(most, total), 0));
const metre = computed(() => desk.arrangement!.tune.bars[0]!.metre);

watch([difficulty, canvas], async () => {
  if (!canvas.value || !difficulty.value) return;
  const { Chart, BarController, BarElement, CategoryScale, LinearScale, Tooltip } = await import('chart.js');
  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);
  chart?.destroy();
  if (!canvas.value) return;
  const style = getComputedStyle(canvas.value);
  const colour = (name: string) => style.getPropertyValue(name).trim();
  chart = new Chart(canvas.value, {
    type: 'bar',
    data: {
      labels: features.value.map(featureName),
      datasets: [{ data: features.value.map(points), backgroundColor: colour('--accent'), barThickness: 10 }],
    },
    options: {
      indexAxis: 'y',
      animation: false,
      maintainAspectRatio: false,
      onClick(_, [hit]) {
        const feature = hit && features.value[hit.index];
        const note = feature && difficulty.value?.breakdown[feature].where;
        if (note) desk.select(note);
      },
      scales: {
        x: { beginAtZero: true, ticks: { color: colour('--soft') }, grid: { color: colour('--edge') } },
        y: { ticks: { color: colour('--ink'), font: { family: style.fontFamily } }, grid: { display: false } },
      },
    },
  });
});
onBeforeUnmount(() => chart?.destroy());
</script>

<template>
  <section v-if="difficulty" aria-labelledby="difficulty-title">
    <h3 id="difficulty-title">Difficulty {{ difficulty.total.toFixed(1) }} of 10</h3>
    <div class="chart" :style="{ height: `${30 + 22 * features.length}px` }">
      <canvas
        ref="canvas"
        role="img"
        :aria-label="`By what it is difficult: ${features.map((feature) => featureText(feature, difficulty!.breakdown[feature].value)).join('; ')}`"
      />
    </div>
    <details>
      <summary>In words</summary>
      <ul>
        <li v-for="feature in features" :key="feature">
          <button
            type="button"
            @click="difficulty.breakdown[feature].where && desk.select(difficulty.breakdown[feature].where!)"
          >
            {{ featureText(feature, difficulty.breakdown[feature].value) }}
          </button>
        </li>
      </ul>
    </details>
    <table>
      <caption>
        Phrase by phrase
      </caption>
      <thead>
        <tr>
          <th scope="col">Phrase</th>
          <th scope="col">Hard</th>
          <th scope="col">As easy as the easiest at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ id, label, total, hardest: note, easyTempo } in phrases" :key="id">
          <th scope="row">
            <button type="button" :title="`Its hardest note`" @click="desk.select(note)">{{ label }}</button>
          </th>
          <td>
            {{ total.toFixed(1) }}<span v-if="total === hardest && phrases.length > 1" class="most"> hardest</span>
          </td>
          <td>{{ beatTempoText(metre, easyTempo) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
.chart {
  position: relative;
}
ul {
  margin: 4px 0;
  padding: 0;
  list-style: none;
}
button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
}
summary {
  cursor: pointer;
}
table {
  width: 100%;
  margin-top: 10px;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
caption {
  font-weight: 600;
  text-align: left;
}
th,
td {
  padding: 3px 6px 3px 0;
  border-bottom: 1px solid var(--edge);
  text-align: left;
}
thead th {
  color: var(--soft);
  font-weight: 400;
}
.most {
  color: var(--accent);
  font-weight: 600;
}
</style>

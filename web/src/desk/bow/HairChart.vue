<script setup lang="ts">
/** The hair over the whole tune, large: planned and drifting, with the phrases; a click goes to the stroke. */
import { computed, onBeforeUnmount, shallowRef, useTemplateRef, watch } from 'vue';
import type { Chart as ChartType } from 'chart.js';
import type { Travelling } from '@nokta/core/bow';
import { hairText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { returnsFocus } from '../../theme/focus.ts';

const shown = defineModel<boolean>({ required: true });
returnsFocus(shown);
const props = defineProps<{ travel: Travelling }>();
const desk = useDesk();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const chart = shallowRef<ChartType | null>(null);

const inches = computed(() => desk.record?.decisions.bow.inches ?? false);
const unit = computed(() => (inches.value ? 'in' : 'mm'));
const length = (millimetres: number) => (inches.value ? millimetres / 25.4 : millimetres);

/** Each stroke begins and ends at a time in seconds. */
const points = computed(() => {
  let at = 0;
  return props.travel.strokes.map((stroke, index) => {
    const from = at;
    at += stroke.duration;
    return { from, to: at, stroke, index };
  });
});
const line = (ends: (one: (typeof points.value)[number]['stroke']) => readonly [number, number]) =>
  points.value.flatMap(({ from, to, stroke, index }) => {
    const [start, end] = ends(stroke);
    return [
      { x: from, y: length(start), index },
      { x: to, y: length(end), index },
    ];
  });

const edgeAt = (y: number) => [
  { x: 0, y, index: -1 },
  { x: points.value.at(-1)?.to ?? 1, y, index: -1 },
];

watch([shown, () => props.travel, inches, canvas], async ([open]) => {
  if (!open || !canvas.value) return;
  const { Chart, LineController, LineElement, LinearScale, PointElement, Legend, Tooltip } = await import('chart.js');
  Chart.register(LineController, LineElement, LinearScale, PointElement, Legend, Tooltip);
  chart.value?.destroy();
  const style = getComputedStyle(canvas.value);
  const colour = (name: string) => style.getPropertyValue(name).trim();
  Chart.defaults.font.family = style.fontFamily;
  const [ink, accent, soft, edge] = ['--ink', '--accent', '--soft', '--edge'].map(colour) as [
    string,
    string,
    string,
    string,
  ];
  const base = { pointRadius: 0, pointHitRadius: 6, tension: 0, parsing: false as const };
  chart.value = new Chart(canvas.value, {
    type: 'line',
    data: {
      datasets: [
        { ...base, label: 'tip', data: edgeAt(length(props.travel.hair)), borderColor: soft, borderWidth: 1 },
        { ...base, label: 'frog', data: edgeAt(0), borderColor: soft, borderWidth: 3 },
        { ...base, label: 'planned', data: line(({ start, end }) => [start, end]), borderColor: ink, borderWidth: 1.6 },
        {
          ...base,
          label: 'if nothing is done',
          data: line(({ drift }) => [drift.start, drift.end]),
          borderColor: accent,
          borderDash: [5, 4],
          borderWidth: 1.4,
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'nearest', intersect: false },
      onClick: (_, [hit]) => hit && goTo(hit.datasetIndex, hit.index),
      scales: {
        x: {
          type: 'linear',
          min: 0,
          max: points.value.at(-1)?.to ?? 1,
          title: { display: true, text: 'seconds', color: soft },
          ticks: { color: soft },
          grid: { color: edge },
        },
        y: {
          min: Math.min(0, -length(props.travel.hair) * 0.15),
          max: length(props.travel.hair) * 1.15,
          title: { display: true, text: `frog to tip, ${unit.value}`, color: soft },
          ticks: { color: soft },
          grid: { color: edge },
        },
      },
      plugins: { legend: { labels: { color: ink, usePointStyle: true, pointStyle: 'line' } } },
    },
  });
});

function goTo(dataset: number, at: number): void {
  const point = chart.value?.data.datasets[dataset]?.data[at] as { readonly index?: number } | undefined;
  const stroke = desk.arrangement?.bowing.strokes[point?.index ?? -1];
  if (!stroke) return;
  shown.value = false;
  desk.select(stroke.notes[0]!);
}
onBeforeUnmount(() => chart.value?.destroy());
</script>

<template>
  <v-dialog v-model="shown" max-width="1100" aria-labelledby="chart-title">
    <v-card class="pa-5">
      <h2 id="chart-title">Along the hair, the whole tune</h2>
      <p>{{ hairText(travel, inches) }}</p>
      <div class="chart"><canvas ref="canvas" role="img" :aria-label="hairText(travel, inches)" /></div>
      <v-btn class="mt-3" variant="tonal" @click="shown = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin: 0 0 4px;
  font-size: 1.25rem;
}
.chart {
  height: min(56vh, 460px);
}
</style>

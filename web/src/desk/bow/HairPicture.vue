<script setup lang="ts">
/**
 * The bow over the whole tune: time from left to right, the hair from frog (below) to tip (above). The firm line is
 * where it is planned to be, the dashed one where it would end up if nothing were done.
 */
import { computed } from 'vue';
import type { Travel, Travelling } from '@nokta/core/bow';
import { hairText } from '@nokta/core/words';

const props = defineProps<{ travel: Travelling; selected: Travel | null; inches: boolean }>();

const WIDTH = 240;
const HEIGHT = 96;
/** Part of the picture above and below the hair, for a bow that would leave it. */
const BEYOND = 0.18;

const y = (place: number) => {
  const share = Math.max(-BEYOND, Math.min(1 + BEYOND, place / props.travel.hair));
  return HEIGHT * (1 - (share + BEYOND) / (1 + 2 * BEYOND));
};
const total = computed(() => props.travel.strokes.reduce((sum, { duration }) => sum + duration, 0) || 1);
const times = computed(() => {
  let at = 0;
  return props.travel.strokes.map(({ duration }) => {
    const from = at;
    at += duration;
    return [(from / total.value) * WIDTH, (at / total.value) * WIDTH] as const;
  });
});
const round = (value: number) => value.toFixed(1);
const path = (ends: (stroke: Travel) => readonly [number, number]) =>
  props.travel.strokes
    .map((stroke, index) => {
      const [from, to] = ends(stroke);
      const [left, right] = times.value[index]!;
      return `M${round(left)} ${round(y(from))}L${round(right)} ${round(y(to))}`;
    })
    .join('');
const planned = computed(() => path(({ start, end }) => [start, end]));
const drift = computed(() => path(({ drift: { start, end } }) => [start, end]));
const here = computed(() => {
  const index = props.selected ? props.travel.strokes.indexOf(props.selected) : -1;
  const span = times.value[index];
  return span ? { x: span[0], width: Math.max(2, span[1] - span[0]) } : null;
});
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="img"
      :aria-label="hairText(travel, inches)"
      preserveAspectRatio="none"
    >
      <rect class="hair" x="0" :y="y(travel.hair)" :width="WIDTH" :height="y(0) - y(travel.hair)" />
      <rect v-if="here" class="here" :x="here.x" y="0" :width="here.width" :height="HEIGHT" />
      <path class="drift" :d="drift" />
      <path class="planned" :d="planned" />
    </svg>
    <figcaption>
      <span><i class="firm" /> planned</span>
      <span><i class="dashed" /> if nothing is done</span>
      <span>frog below, tip above</span>
    </figcaption>
    <p>{{ hairText(travel, inches) }}</p>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  height: 120px;
}
.hair {
  fill: rgb(var(--v-theme-background));
  stroke: var(--edge);
  vector-effect: non-scaling-stroke;
}
.here {
  fill: var(--accent);
  opacity: 0.22;
}
.planned,
.drift {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}
.drift {
  stroke: var(--accent);
  stroke-dasharray: 3 3;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 4px 0 6px;
  color: var(--soft);
  font-size: 0.85rem;
}
i {
  display: inline-block;
  width: 18px;
  margin-right: 4px;
  border-top: 2px solid;
  vertical-align: middle;
}
.dashed {
  border-top-style: dashed;
  color: var(--accent);
}
p {
  margin: 0;
}
</style>

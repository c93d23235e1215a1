<script setup lang="ts">
/** The shapes of a lane as SVG; how each role is drawn says the table that the sheet is drawn by too. */
import { styleOf, type Ink, type Role, type Shape } from '@nokta/core/sheet';

defineProps<{ shapes: readonly Shape[] }>();

const INKS: Readonly<Record<Ink, string>> = {
  ink: 'var(--ink)',
  soft: 'var(--soft)',
  accent: 'var(--accent)',
  trouble: 'rgb(var(--v-theme-error))',
};

function lineStyle(shape: Shape & { readonly kind: 'line' | 'path' }) {
  const { ink, width, dash } = styleOf(shape.role).line;
  const own = shape.kind === 'line' ? shape : null;
  // A dark colour chosen for paper is seen on a dark screen too.
  const chosen = own?.colour && `color-mix(in srgb, ${own.colour} 65%, var(--ink))`;
  return {
    stroke: chosen ?? INKS[ink],
    strokeWidth: `${own?.width ?? width}px`,
    strokeDasharray: own?.dash ?? dash,
  };
}

function textStyle(role: Role) {
  const { ink, size, weight } = styleOf(role).text;
  return { fill: INKS[ink], fontSize: `${size}px`, fontWeight: weight };
}
</script>

<template>
  <g class="lane">
    <template v-for="(shape, index) in shapes" :key="index">
      <line
        v-if="shape.kind === 'line'"
        :class="shape.role"
        :x1="shape.x1"
        :y1="shape.y1"
        :x2="shape.x2"
        :y2="shape.y2"
        :style="lineStyle(shape)"
      />
      <path v-else-if="shape.kind === 'path'" :class="shape.role" :d="shape.d" :style="lineStyle(shape)" />
      <circle v-else-if="shape.kind === 'dot'" :class="shape.role" :cx="shape.x" :cy="shape.y" :r="shape.r" />
      <rect
        v-else-if="shape.kind === 'patch'"
        class="patch"
        :x="shape.x"
        :y="shape.y"
        :width="shape.width"
        :height="shape.height"
      />
      <text
        v-else
        :class="shape.role"
        :x="shape.x"
        :y="shape.y"
        :style="textStyle(shape.role)"
        :text-anchor="shape.anchor"
        dominant-baseline="central"
      >
        {{ shape.text }}
      </text>
    </template>
  </g>
</template>

<style scoped>
line,
path {
  fill: none;
}
.patch {
  fill: var(--paper);
}
circle {
  fill: var(--ink);
}
text {
  font-family: var(--text);
}
</style>

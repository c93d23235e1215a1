<script setup lang="ts">
/** The shapes of a lane as SVG; inks and weights come from the desk's stylesheet by role. */
import type { Shape } from '@nokta/core/sheet';

defineProps<{ shapes: readonly Shape[]; marked: ReadonlySet<string> }>();
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
        :style="shape.width ? { strokeWidth: `${shape.width}px` } : undefined"
        :stroke-dasharray="shape.dash"
      />
      <path v-else-if="shape.kind === 'path'" :class="shape.role" :d="shape.d" />
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
        :class="[shape.role, { marked: shape.note !== undefined && marked.has(shape.note) }]"
        :x="shape.x"
        :y="shape.y"
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
  stroke: var(--soft);
  stroke-width: 1px;
}
.patch {
  fill: var(--paper);
}
text {
  fill: var(--ink);
  font: 700 13px var(--text);
}
.finger-grace {
  font-size: 9.5px;
}
.string-name,
.position {
  fill: var(--soft);
  font-size: 10px;
}
.shift {
  fill: var(--accent);
  font-size: 10px;
}
.unreached {
  fill: rgb(var(--v-theme-error));
}
path.bow,
path.block,
path.glide,
path.hold,
path.finger-dot {
  stroke: var(--ink);
  stroke-width: 1.5px;
}
path.hold {
  stroke-width: 1.1px;
}
path.retake,
path.finger-locked {
  stroke: var(--accent);
  stroke-width: 1.8px;
}
path.shift-arrow {
  stroke: var(--accent);
  stroke-width: 1.5px;
}
path.hop {
  stroke: var(--accent);
  stroke-dasharray: 2 2;
}
circle.hold,
circle.finger-dot {
  fill: var(--ink);
}
</style>

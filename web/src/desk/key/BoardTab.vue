<script setup lang="ts">
/** The fingerboard of the whole tune, to scale: where its notes lie and how often, over the tapes, string by string. */
import { computed } from 'vue';
import { patternsOf } from '@nokta/core/hand';
import { stopDistance } from '@nokta/core/instrument';
import { printedName } from '@nokta/core/music';
import { tapesOf } from '@nokta/core/sheet';
import { patternText } from '@nokta/core/words';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const look = useLook();
const WIDTH = 780;
const [LEFT, RIGHT, TOP, ROW] = [74, 14, 20, 30];

const instrument = computed(() => desk.arrangement!.instrument);
const tuning = computed(() => desk.arrangement!.tuning.pitches);
const count = computed(() => instrument.value.strings.length);
/** How often each place is played: string, semitones, finger. */
const places = computed(() => {
  const found = new Map<string, { string: number; semitones: number; finger: number; times: number }>();
  for (const { string, semitones, finger } of desk.notes.flatMap(({ stops }) => stops)) {
    const key = `${string} ${semitones} ${finger}`;
    const place = found.get(key) ?? { string, semitones, finger, times: 0 };
    found.set(key, { ...place, times: place.times + 1 });
  }
  return [...found.values()];
});
const most = computed(() => Math.max(1, ...places.value.map(({ times }) => times)));
/** At least to the fifth, and a little beyond the last note. */
const last = computed(() => Math.max(7, ...places.value.map(({ semitones }) => semitones)) + 1.2);
const x = (semitones: number) =>
  LEFT + ((WIDTH - LEFT - RIGHT) * stopDistance(1, semitones)) / stopDistance(1, last.value);
const y = (string: number) => TOP + ROW * (count.value - 1 - string);
const height = computed(() => TOP + ROW * (count.value - 1) + 34);
const tapes = computed(() => tapesOf(look.style, instrument.value).filter(({ semitones }) => semitones < last.value));
const radius = (times: number) => 6.5 + 5.5 * Math.sqrt(times / most.value);
const lines = computed(() =>
  patternsOf(desk.notes).map((pattern) => ({
    name: instrument.value.strings[pattern.string]!.name,
    text: patternText(pattern),
  })),
);
const said = computed(() =>
  places.value
    .map(
      ({ string, semitones, finger, times }) =>
        `${instrument.value.strings[string]!.name} string, ${finger === 0 ? 'open' : `finger ${finger} at ${semitones} semitones`}, ${times} times`,
    )
    .join('; '),
);
const millimetres = (semitones: number) => stopDistance(instrument.value.length, semitones).toFixed(0);
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${height}`" role="img" :aria-label="`Fingerboard of the tune: ${said}`">
    <rect class="board" :x="LEFT" :y="TOP - 12" :width="WIDTH - LEFT - RIGHT" :height="ROW * (count - 1) + 24" rx="4" />
    <line class="nut" :x1="LEFT" :x2="LEFT" :y1="TOP - 14" :y2="TOP + ROW * (count - 1) + 14" />
    <g v-for="tape in tapes" :key="`tape ${tape.semitones}`">
      <rect
        :x="x(tape.semitones) - 3"
        :y="TOP - 12"
        width="6"
        :height="ROW * (count - 1) + 24"
        :fill="tape.colour"
        opacity="0.8"
      />
      <text class="mm" :x="x(tape.semitones)" :y="height - 4">
        {{ tape.label ? `${tape.label} · ` : '' }}{{ millimetres(tape.semitones) }} mm
      </text>
    </g>
    <g v-for="(string, index) in instrument.strings" :key="index">
      <line
        class="string"
        :x1="LEFT"
        :x2="WIDTH - RIGHT"
        :y1="y(index)"
        :y2="y(index)"
        :style="{ strokeWidth: `${2.8 - (1.8 * index) / Math.max(1, count - 1)}px` }"
      />
      <text class="letter" x="6" :y="y(index) + 4">
        {{ string.name }}{{ printedName(tuning[index]!) === string.name ? '' : `=${printedName(tuning[index]!)}` }}
      </text>
    </g>
    <g v-for="place in places" :key="`${place.string} ${place.semitones} ${place.finger}`">
      <circle
        :class="{ open: place.finger === 0 }"
        :cx="place.semitones === 0 ? LEFT - 20 : x(place.semitones)"
        :cy="y(place.string)"
        :r="radius(place.times)"
      />
      <text
        class="finger"
        :class="{ open: place.finger === 0 }"
        :x="place.semitones === 0 ? LEFT - 20 : x(place.semitones)"
        :y="y(place.string) + 4.4"
      >
        {{ place.finger }}
      </text>
    </g>
  </svg>
  <ul>
    <li v-for="{ name, text } in lines" :key="name"><strong>{{ name }} string</strong> {{ text }}</li>
  </ul>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
.board {
  fill: color-mix(in srgb, var(--wood) 14%, var(--paper));
}
.nut {
  stroke: var(--ink);
  stroke-width: 5px;
}
.string {
  stroke: var(--soft);
}
circle {
  fill: var(--ink);
}
circle.open {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6px;
}
text {
  fill: var(--ink);
  font: 12px var(--text);
}
.mm {
  fill: var(--soft);
  font-size: 11px;
  text-anchor: middle;
}
.letter {
  font-weight: 700;
}
.finger {
  fill: var(--paper);
  font-weight: 700;
  text-anchor: middle;
}
.finger.open {
  fill: var(--ink);
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 22px;
  margin: 6px 0 0;
  padding: 0;
  font-size: 0.92rem;
  list-style: none;
}
</style>

<script setup lang="ts">
/**
 * The fingerboard to scale, with the hand where it is: at the sounding note while the tune plays, else at the
 * selected one. Hollow dots are the phrase's other places; a dashed frame is where the next shift goes.
 */
import { computed } from 'vue';
import { useStorage } from '@vueuse/core';
import { mdiFlipHorizontal } from '@mdi/js';
import { HANDS, OCTAVE, patternsOf, spanOf, type FingeredNote } from '@nokta/core/hand';
import { INSTRUMENT, stopDistance } from '@nokta/core/instrument';
import { landingText, stopsText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const leftHanded = useStorage('nokta-left-handed', false);

const WIDTH = 276;
const TOP = 22;
const ROW = 17;
const NUT = 22;
const END = WIDTH - 6;
/** Semitones shown; the octave and a tone beyond it. */
const SHOWN = 14;
const NAMED = new Map([
  [2, 'I'],
  [5, 'III'],
  [9, 'V'],
  [OCTAVE, '○'],
]);
const LINE_WIDTHS = [2.4, 1.8, 1.3, 0.9];

const instrument = computed(() => desk.arrangement?.instrument ?? INSTRUMENT.violin);
const strings = computed(() => instrument.value.strings);
const height = computed(() => TOP + ROW * (strings.value.length - 1) + 14);
const note = computed<FingeredNote | null>(() => desk.notes.find(({ id }) => id === desk.playingId) ?? desk.selected);

/** Where a semitone lies: by the string's length, as on the instrument. */
const along = (semitones: number) => stopDistance(1, semitones) / stopDistance(1, SHOWN + 0.6);
const x = (semitones: number) => {
  const place = NUT + (END - NUT) * along(semitones);
  return leftHanded.value ? WIDTH - place : place;
};
const y = (string: number) => TOP + ROW * (strings.value.length - 1 - string);

/** The teacher's own, where there are some. */
const tapes = computed(() => (look.style.tapes ?? []).filter(({ semitones }) => semitones <= SHOWN));

const frameOf = (at: FingeredNote | null) => {
  if (!at || at.base === null || at.shape === null) return null;
  const [first, last] = spanOf(HANDS[instrument.value.hand], { base: at.base, shape: at.shape });
  const [a, b] = [x(Math.max(0.3, first - 0.55)), x(last + 0.45)];
  return { x: Math.min(a, b), width: Math.abs(b - a) };
};
const frame = computed(() => frameOf(note.value));
/** The shift to this note, or the next one in its phrase. */
const shift = computed(() => {
  const at = note.value ? desk.notes.indexOf(note.value) : -1;
  const phrase = desk.phraseOf(note.value?.id ?? null);
  if (at < 0 || !phrase) return null;
  const next = desk.notes.slice(at).find((other) => other.shift);
  return next && phrase.notes.includes(next.of) ? next : null;
});
const landing = computed(() => (shift.value && shift.value !== note.value ? frameOf(shift.value) : null));

const dots = computed(() => {
  const phrase = desk.phraseOf(note.value?.id ?? null);
  if (!phrase) return [];
  const own = new Set(phrase.notes);
  const notes = desk.notes.filter(({ of }) => own.has(of));
  return patternsOf(notes).flatMap(({ string, places }) =>
    places.map(({ semitones, finger }) => ({ string, semitones, finger })),
  );
});
const said = computed(() => {
  const at = note.value;
  if (!at || at.base === null) return 'Fingerboard';
  return `Fingerboard: ${stopsText(at, instrument.value, look.names)}${at.position ? `, position ${at.position}` : ''}`;
});
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${WIDTH} ${height}`" role="img" :aria-label="said">
      <rect
        class="board"
        :x="Math.min(x(0), x(SHOWN + 0.6))"
        :y="TOP - 9"
        :width="END - NUT"
        :height="height - TOP + 4"
        rx="3"
      />
      <g v-for="semitones in SHOWN" :key="semitones">
        <line class="place" :x1="x(semitones)" :x2="x(semitones)" :y1="TOP - 6" :y2="height - 8" />
        <text v-if="NAMED.has(semitones)" class="name" :x="x(semitones)" :y="8">{{ NAMED.get(semitones) }}</text>
      </g>
      <line
        v-for="tape in tapes"
        :key="`tape ${tape.semitones}`"
        class="tape"
        :x1="x(tape.semitones)"
        :x2="x(tape.semitones)"
        :y1="TOP - 9"
        :y2="height - 5"
        :style="{ stroke: tape.colour }"
      />
      <rect
        v-if="landing"
        class="landing"
        :x="landing.x"
        :y="TOP - 8"
        :width="landing.width"
        :height="height - TOP + 2"
        rx="8"
      />
      <rect
        v-if="frame"
        class="hand"
        :style="{ transform: `translateX(${frame.x}px)` }"
        :y="TOP - 8"
        :width="frame.width"
        :height="height - TOP + 2"
        rx="8"
      />
      <g v-for="(string, index) in strings" :key="string.name">
        <line
          class="string"
          :x1="x(0)"
          :x2="x(SHOWN + 0.6)"
          :y1="y(index)"
          :y2="y(index)"
          :style="{ strokeWidth: `${LINE_WIDTHS[index % LINE_WIDTHS.length]}px` }"
        />
        <text class="letter" :x="leftHanded ? WIDTH - 9 : 9" :y="y(index)">{{ string.name }}</text>
      </g>
      <line class="nut" data-testid="nut" :x1="x(0)" :x2="x(0)" :y1="TOP - 9" :y2="height - 5" />
      <circle
        v-for="dot in dots"
        :key="`${dot.string} ${dot.semitones} ${dot.finger}`"
        class="other"
        :cx="x(dot.semitones)"
        :cy="y(dot.string)"
        r="4.2"
      />
      <g v-for="stop in note?.stops ?? []" :key="stop.string">
        <circle
          class="finger"
          :class="{ open: stop.finger === 0 }"
          :cx="x(stop.finger === 0 ? 0 : stop.semitones)"
          :cy="y(stop.string)"
          r="8"
        />
        <text
          class="number"
          :class="{ open: stop.finger === 0 }"
          :x="x(stop.finger === 0 ? 0 : stop.semitones)"
          :y="y(stop.string)"
        >
          {{ stop.finger }}
        </text>
      </g>
    </svg>
    <figcaption>
      <span v-if="note?.shift" class="way"
        ><strong>Shift to {{ note.shift.to }}:</strong>
        {{ landingText(note.shift.landing, instrument, look.names) }}.</span
      >
      <span v-else-if="shift?.shift" class="way"
        >Next shift to {{ shift.shift.to }}: {{ landingText(shift.shift.landing, instrument, look.names) }}.</span
      >
      <span v-else class="way">{{ note?.position ? `Position ${note.position}` : '' }}</span>
      <v-btn
        :icon="mdiFlipHorizontal"
        size="x-small"
        :aria-pressed="leftHanded"
        aria-label="Left-handed view"
        title="Left-handed view"
        @click="leftHanded = !leftHanded"
      />
    </figcaption>
  </figure>
</template>

<style scoped src="./fingerBoard.css" />

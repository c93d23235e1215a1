<script setup lang="ts">
/** The chords under the chosen phrase, brought or found, each to be corrected; and for improvising the notes that fit it and lie under the hand. */
import { ref, shallowRef, watch } from 'vue';
import type { ChordNotes, ChordPlace } from '@nokta/core/compare';
import { chordSound, midi } from '@nokta/core/music';
import { pitchText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const actions = useGradeActions();
const chords = shallowRef<readonly ChordNotes[]>([]);
const open = ref(false);
const wrong = ref<string | null>(null);
watch(
  [() => desk.arrangement, () => desk.selectedPhrase?.id, open],
  async ([, phrase, wanted]) => {
    if (!wanted || phrase === undefined) return;
    const found = await desk.ask('notesToPlay', phrase);
    if (found !== STALE) chords.value = found;
  },
  { immediate: true },
);

function correct({ from, chord }: ChordNotes, typed: string): void {
  const name = typed.trim();
  if (name === chord) return;
  wrong.value = name === '' || chordSound(name) ? null : `“${name}” is no chord. Write it like G, Am, D7 or C/E.`;
  if (wrong.value === null) void actions.setChord(from, name);
}

/** Pixels of the small fingerboard. */
const WIDTH = 262;
const ROW = 24;
const LEFT = 20;
const strings = () => desk.arrangement!.instrument.strings;
const height = () => ROW * strings().length;
const x = (semitones: number) => LEFT + 12 + semitones * ((WIDTH - LEFT - 24) / 9);
const y = (string: number) => ROW * (strings().length - 1 - string) + ROW / 2;
const SIGN = { low: '̣', high: '̇', home: '', extended: '', harmonic: '' } as const;
const label = ({ finger, sign }: ChordPlace) => `${finger}${SIGN[sign]}`;
/** No further than the picture reaches. */
const SHOWN = 9;
const shown = ({ places }: ChordNotes) => places.filter(({ semitones }) => semitones <= SHOWN);
const says = ({ chord, places }: ChordNotes) =>
  `${chord}: ${places
    .filter(({ role }) => role !== 'scale')
    .map(({ pitch, string, finger }) => `${pitchText(pitch)} ${strings()[string]!.name}${finger}`)
    .join(', ')}`;
const hear = ({ places }: ChordNotes) =>
  desk.hearPitches(places.filter(({ role }) => role !== 'scale').map(({ pitch }) => midi(pitch)));
</script>

<template>
  <details class="chords" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Chords, and notes to improvise with</summary>
    <p v-if="wrong" role="alert">{{ wrong }}</p>
    <p v-if="chords.some(({ found }) => found)">
      These chords are found from the notes. Correct one, and they are written over the tune.
    </p>
    <ol>
      <li v-for="one in chords" :key="one.from">
        <div class="head">
          <v-text-field
            :label="`Bar ${one.bar}, beat ${one.beat}${one.found ? ', found' : ''}`"
            :model-value="one.chord"
            density="compact"
            maxlength="12"
            hide-details
            @change="correct(one, ($event.target as HTMLInputElement).value)"
          />
          <v-btn size="small" variant="text" :aria-label="`Hear the notes of ${one.chord}`" @click="hear(one)"
            >Hear</v-btn
          >
        </div>
        <svg :viewBox="`0 0 ${WIDTH} ${height()}`" role="img" :aria-label="says(one)">
          <g v-for="(string, index) in strings()" :key="string.name">
            <line :x1="LEFT" :x2="WIDTH" :y1="y(index)" :y2="y(index)" />
            <text class="name" x="7" :y="y(index)">{{ string.name }}</text>
          </g>
          <g
            v-for="place in shown(one)"
            :key="`${place.string} ${place.semitones}`"
            :class="place.role"
            :transform="`translate(${x(place.semitones)} ${y(place.string)})`"
          >
            <rect v-if="place.role === 'root'" x="-10" y="-10" width="20" height="20" rx="3" />
            <circle v-else :r="place.role === 'chord' ? 10 : 7.5" />
            <text>{{ label(place) }}</text>
          </g>
        </svg>
      </li>
    </ol>
    <p v-if="chords.length > 0" class="soft">Square: the chord’s own note. Full: in the chord. Small: on the way.</p>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font: 600 1.05rem var(--display);
}
p {
  margin: 8px 0;
}
.soft {
  color: var(--soft);
}
ol {
  display: grid;
  gap: 14px;
  margin: 10px 0 0;
  padding: 0;
  list-style: none;
}
.head {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-bottom: 4px;
}
svg {
  display: block;
  width: 100%;
}
line {
  stroke: var(--edge);
}
text {
  fill: var(--ink);
  font-size: 12px;
  text-anchor: middle;
  dominant-baseline: central;
}
.name {
  fill: var(--soft);
}
.chord circle,
.root rect {
  fill: var(--ink);
}
.chord text,
.root text {
  fill: var(--paper);
  font-weight: 700;
}
.scale circle {
  fill: var(--paper);
  stroke: var(--soft);
}
</style>

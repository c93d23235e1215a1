<script setup lang="ts">
/** Looking for a tune by a few of its notes: typed, tapped on the strings, or only ups and downs. */
import { computed, onBeforeUnmount } from 'vue';
import { mdiBackspaceOutline } from '@mdi/js';
import { INSTRUMENT } from '@nokta/core/instrument';
import { midi, printedName, spellInKey, C_MAJOR, type Pitch } from '@nokta/core/music';
import { createPlayer } from '../sound/player.ts';

const melody = defineModel<string>({ required: true });
defineProps<{ ready: boolean }>();

/** Semitones of first position up to the fourth finger. */
const REACH = 7;
const strings = INSTRUMENT.violin.strings.map(({ usual }) => usual).reverse();
const rows = strings.map((open) => ({
  name: open.letter,
  stops: Array.from({ length: REACH + 1 }, (_, semitones): Pitch => spellInKey(midi(open) + semitones, C_MAJOR)),
}));
const player = createPlayer(() => undefined);
onBeforeUnmount(() => player.stop());

const contour = computed(() => /^[\s+\-−=↑↓→]*$/.test(melody.value) && melody.value.trim() !== '');

/** A tapped note is written with its octave, so that the search need not guess. */
function tap(note: Pitch): void {
  void player.sound('violin', [midi(note)]);
  const sign = note.alter === 1 ? '#' : note.alter === -1 ? 'b' : '';
  const letter = note.octave >= 5 ? note.letter.toLowerCase() : note.letter;
  const octave = note.octave >= 5 ? "'".repeat(note.octave - 5) : ','.repeat(4 - note.octave);
  const before = contour.value ? '' : melody.value.trimEnd();
  melody.value = `${before} ${letter}${sign}${octave}`.trim();
}

function back(): void {
  melody.value = melody.value.trimEnd().replace(/\s*\S+$/, '');
}

function add(sign: string): void {
  melody.value = `${contour.value ? `${melody.value.trim()} ` : ''}${sign}`;
}
</script>

<template>
  <section class="finder" aria-label="Find by melody">
    <div class="type">
      <v-text-field
        v-model="melody"
        label="Notes, such as G B d g, or ups and downs, such as + + - ="
        clearable
        :messages="
          melody.trim() === '' || ready
            ? ''
            : 'A little more: three notes, or four ups and downs. Letters A to G, # and b.'
        "
        @click:clear="melody = ''"
      />
      <div class="moves" role="group" aria-label="Ups and downs">
        <v-btn variant="outlined" @click="add('+')">up</v-btn>
        <v-btn variant="outlined" @click="add('-')">down</v-btn>
        <v-btn variant="outlined" @click="add('=')">same</v-btn>
        <v-btn :icon="mdiBackspaceOutline" size="small" aria-label="Take the last one away" @click="back" />
      </div>
    </div>
    <div class="board" role="group" aria-label="Tap the notes on the strings">
      <div v-for="row in rows" :key="row.name" class="string">
        <button
          v-for="(note, place) in row.stops"
          :key="place"
          type="button"
          :class="{ open: place === 0 }"
          :aria-label="`${printedName(note)}${note.octave}`"
          @click="tap(note)"
        >
          {{ printedName(note) }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.finder {
  display: grid;
  grid-template-columns: minmax(260px, 1fr) auto;
  gap: 10px 22px;
  align-items: start;
  padding: 12px 16px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
}
.moves {
  display: flex;
  gap: 6px;
  margin-top: 8px;
}
.board {
  display: grid;
  gap: 3px;
  padding: 6px 8px;
  border-radius: 8px;
  background: var(--wood);
}
.string {
  position: relative;
  display: flex;
  gap: 3px;
}
.string::before {
  content: '';
  position: absolute;
  top: 50%;
  right: 0;
  left: 0;
  border-top: 1.5px solid #a08c72;
}
.string:nth-child(3)::before {
  border-top-width: 2.5px;
}
.string:nth-child(4)::before {
  border-top-width: 3.5px;
}
button {
  position: relative;
}
.string button {
  width: 40px;
  height: 28px;
  border: 0;
  border-radius: 14px;
  background: #55442f;
  color: #fff6e6;
  font: inherit;
  font-size: 0.86rem;
  cursor: pointer;
}
.string button.open {
  background: #eda566;
  color: #2a1403;
  font-weight: 700;
}
.string button:hover {
  box-shadow: 0 0 0 2px #eda566;
}
.string button:focus-visible {
  outline-color: #fff;
}
@media (width < 760px) {
  .finder {
    grid-template-columns: 1fr;
  }
}
</style>

<script setup lang="ts">
/** Writing without a keyboard: three rows for thumb or mouse. Lengths, the seven notes as the key has them, and what joins them. */
import { computed } from 'vue';
import { mdiArrowDown, mdiArrowLeft, mdiArrowRight, mdiArrowUp, mdiBackspaceOutline } from '@mdi/js';
import { C_MAJOR, LETTERS, NOTE_NAMES, signatureAlter, type NoteType } from '@nokta/core/music';
import { noteName } from '@nokta/core/words';
import { useLook } from '../../../settings/look.ts';
import NoteSign from './NoteSign.vue';
import { useWriter } from './writer.ts';

const writer = useWriter();
const look = useLook();

const LENGTHS: readonly NoteType[] = ['whole', 'half', 'quarter', 'eighth', '16th'];
/** As they are written in the key at the caret. */
const notes = computed(() => {
  const key = writer.tune?.bars[writer.barIndex]?.key ?? C_MAJOR;
  return LETTERS.map((letter) => ({
    letter,
    name: noteName({ letter, alter: signatureAlter(key, letter) }, look.names.notes),
  }));
});
const isNext = (type: NoteType) => writer.mode === 'caret' && writer.length === type;
</script>

<template>
  <!-- A key that is pressed takes no focus: letters go on writing where they did. -->
  <div class="keypad" role="group" aria-label="Keypad" @mousedown.prevent>
    <button
      v-for="type in LENGTHS"
      :key="type"
      type="button"
      :aria-label="NOTE_NAMES[type]"
      :aria-pressed="isNext(type)"
      @click="writer.setLength(type)"
    >
      <NoteSign :type="type" />
    </button>
    <button type="button" aria-label="dot" :aria-pressed="writer.dotted" @click="writer.dot()">
      <NoteSign type="quarter" dotted />
    </button>
    <button type="button" :aria-pressed="writer.tripletLeft > 0" @click="writer.triplet()">
      <span aria-hidden="true">3</span><span class="visually-hidden">triplet</span>
    </button>
    <button type="button" @click="writer.barLine()">
      <span aria-hidden="true">|</span><span class="visually-hidden">bar line</span>
    </button>

    <button
      v-for="{ letter, name } in notes"
      :key="letter"
      type="button"
      class="note"
      :aria-label="`write ${name}`"
      @click="writer.letter(letter)"
    >
      {{ name }}
    </button>
    <button type="button" @click="writer.rest()">rest</button>

    <button type="button" aria-label="note before" @click="writer.move(-1, false)">
      <v-icon :icon="mdiArrowLeft" />
    </button>
    <button type="button" aria-label="note after" @click="writer.move(1, false)">
      <v-icon :icon="mdiArrowRight" />
    </button>
    <button type="button" aria-label="a step up" @click="writer.pitchBy('step', 1)">
      <v-icon :icon="mdiArrowUp" />
    </button>
    <button type="button" aria-label="a step down" @click="writer.pitchBy('step', -1)">
      <v-icon :icon="mdiArrowDown" />
    </button>
    <button type="button" @click="writer.pitchBy('semitone', 1)">
      <span aria-hidden="true">♯</span><span class="visually-hidden">a semitone up</span>
    </button>
    <button type="button" @click="writer.pitchBy('semitone', -1)">
      <span aria-hidden="true">♭</span><span class="visually-hidden">a semitone down</span>
    </button>
    <button type="button" :aria-pressed="writer.tieFrom !== null" @click="writer.tie()">tie</button>
    <button type="button" @click="writer.slur()">slur</button>

    <button type="button" class="wide" @click="writer.toggleMode()">
      {{ writer.mode === 'caret' ? 'change this note' : 'write on' }}
    </button>
    <button type="button" class="wide" @click="writer.toEdge(true)">to the end</button>
    <button type="button" class="wide" @click="writer.erase()">
      <v-icon :icon="mdiBackspaceOutline" size="18" /> delete
    </button>
  </div>
</template>

<style scoped>
.keypad {
  position: sticky;
  bottom: 0;
  z-index: 3;
  display: grid;
  grid-template-columns: repeat(24, minmax(0, 1fr));
  gap: 4px;
  max-width: 560px;
  padding: 8px;
  border: 1px solid var(--edge);
  border-radius: 12px;
  background: color-mix(in srgb, var(--wood) 8%, var(--paper));
}
button {
  display: grid;
  grid-column: span 3;
  place-items: center;
  min-height: 44px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--paper);
  color: var(--ink);
  font: 600 1rem var(--text);
  touch-action: manipulation;
}
button:active {
  background: color-mix(in srgb, var(--accent) 18%, var(--paper));
}
button[aria-pressed='true'] {
  border: 2px solid var(--accent);
  background: color-mix(in srgb, var(--accent) 14%, var(--paper));
}
.note {
  font: 600 1.15rem var(--display);
}
.wide {
  display: flex;
  grid-column: span 8;
  align-items: center;
  justify-content: center;
  gap: 6px;
  font-weight: 400;
}
</style>

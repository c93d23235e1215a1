<script setup lang="ts">
/** A small line for words under the note or the chord over it: space and hyphen go on to the next note. */
import { nextTick, ref, watch } from 'vue';
import { useWriter } from './writer.ts';

defineProps<{ x: number }>();
const writer = useWriter();
const text = ref('');
const field = ref<HTMLInputElement | null>(null);

watch(
  () => [writer.at, writer.entry, writer.verse] as const,
  () => {
    const now = writer.current;
    text.value =
      writer.entry === 'chord'
        ? (now?.chordSymbol ?? '')
        : now?.kind === 'note'
          ? (now.words?.[writer.verse]?.text ?? '')
          : '';
    void nextTick(() => {
      field.value?.focus();
      field.value?.select();
    });
  },
  { immediate: true },
);

function keep(ending: 'plain' | 'hyphen' | 'extend'): void {
  const written = text.value.trim();
  if (writer.entry === 'chord') return writer.writeChord(written);
  writer.writeSyllable(
    written === ''
      ? null
      : { text: written, ...(ending === 'hyphen' && { hyphen: true }), ...(ending === 'extend' && { extend: true }) },
  );
}

function type(event: KeyboardEvent): void {
  const words = writer.entry === 'words';
  const ends = event.key === ' ' || event.key === 'Tab' || event.key === 'Enter';
  const joins = words && (event.key === '-' || event.key === '_');
  if (event.key === 'Escape') {
    event.stopPropagation();
    writer.entry = null;
    return;
  }
  if (!ends && !joins) return;
  event.preventDefault();
  event.stopPropagation();
  keep(event.key === '-' ? 'hyphen' : event.key === '_' ? 'extend' : 'plain');
  if (event.key === 'Enter' || !writer.nextNote(event.shiftKey ? -1 : 1)) writer.entry = null;
}
</script>

<template>
  <div class="text" :style="{ marginLeft: `${Math.max(0, x - 12)}px` }">
    <input
      ref="field"
      v-model="text"
      :aria-label="writer.entry === 'words' ? `Syllable, verse ${writer.verse + 1}` : 'Chord symbol'"
      :placeholder="writer.entry === 'words' ? 'syllable' : 'chord'"
      @keydown="type"
    />
    <span>{{
      writer.entry === 'words' ? 'Space: next note · - : within a word · _ : hold · Esc' : 'Space: next note · Esc'
    }}</span>
    <button v-if="writer.entry === 'words'" type="button" @click="writer.verse = (writer.verse + 1) % 4">
      verse {{ writer.verse + 1 }}
    </button>
  </div>
</template>

<style scoped>
.text {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 4px;
  padding: 4px 8px;
  border: 1px solid var(--accent);
  border-radius: 8px;
  background: var(--paper);
  color: var(--soft);
  font-size: 0.82rem;
  white-space: nowrap;
}
input {
  width: 92px;
  padding: 3px 6px;
  border: 1px solid var(--edge);
  border-radius: 5px;
  background: var(--desk);
  color: var(--ink);
  font: inherit;
  font-size: 1rem;
}
button {
  padding: 2px 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: none;
  color: inherit;
  font: inherit;
}
</style>

<script setup lang="ts">
/** The strips, one phrase each, with what the pass that is shown marks on them. */
import { computed } from 'vue';
import type { LaneId } from '@nokta/core/sheet';
import { useHand } from './hand/store.ts';
import { usePartActions } from './parts/actions.ts';
import type { PassId } from './shared/passes.ts';
import PhraseStrip from './shared/PhraseStrip.vue';
import { notesByPhrase, within, type StripView } from './rooms/strips.ts';
import { useDesk } from './rooms/store.ts';
import { staffKey } from './rooms/working.ts';
import { useStripsComing } from './stripsComing.ts';

const props = defineProps<{
  lanes: readonly LaneId[];
  pass: PassId;
  /** The phrase that is played alone. */
  sounding: string | null;
}>();
const emit = defineEmits<{ select: [note: string, more: boolean]; play: [phrase: string] }>();
const desk = useDesk();
const parts = usePartActions();
const hand = useHand();
const beside = computed(() => {
  if (props.pass !== 'hand' || !hand.beside) return null;
  const { fingering, comparison } = hand.beside;
  const differing: ReadonlySet<string> = new Set(comparison.differing);
  return notesByPhrase(desk.phrases, fingering).map((notes) => ({ notes, differing }));
});
/** Notes that are not as in the tune, while grades are looked at. */
const changed = computed<ReadonlySet<string>>(() => {
  const changes = props.pass === 'grades' ? desk.arrangement?.graded?.changes : undefined;
  return new Set(
    (changes ?? []).filter(({ kind }) => kind !== 'transposed' && kind !== 'slur').flatMap(({ notes }) => notes),
  );
});
/** A note as the strip that it stands in is told of it. */
const ownOf = (view: StripView, id: string | null) => (id !== null && view.ids.has(id) ? id : null);
const chosen = computed<ReadonlySet<string>>(() => new Set(desk.range.flatMap(({ ids }) => ids)));
const isThere = useStripsComing(
  () => desk.tune?.id ?? null,
  () => desk.strips.map(({ phrase }) => phrase),
  () => desk.selectedPhrase?.id ?? null,
);
/** The end of a phrase is where the next one begins. */
function moveEdge(phraseId: string, edge: 'start' | 'end', noteId: string): void {
  const at = desk.phrases.findIndex(({ id }) => id === phraseId);
  const moved = desk.phrases[edge === 'start' ? at : at + 1];
  if (moved) void parts.move(moved, noteId);
}
</script>

<template>
  <template v-for="(view, index) in desk.strips" :key="view.phrase.from">
    <section
      v-if="!isThere(view.phrase)"
      class="coming"
      :data-phrase="view.phrase.id"
      :aria-label="`Phrase ${view.phrase.label}`"
      aria-busy="true"
    >
      <h2>{{ view.phrase.label }}</h2>
    </section>
    <PhraseStrip
      v-else
      :view="view"
      :staff="desk.staves.get(staffKey(view.phrase))"
      :selected-id="ownOf(view, desk.selected?.id ?? null)"
      :playing-id="ownOf(view, desk.playingId)"
      :sounding="sounding === view.phrase.id"
      :range="within(chosen, view.ids)"
      :hinted="within(desk.hinted, view.ids)"
      :changed="within(changed, view.ids)"
      :beside="beside?.[index] ?? null"
      :lanes="lanes"
      :start-moves="pass === 'parts' && index > 0"
      :end-moves="pass === 'parts' && index < desk.strips.length - 1"
      @select="(note, more) => emit('select', note, more ?? false)"
      @point="(notes) => (desk.hinted = new Set(notes))"
      @move="moveEdge"
      @play="(phrase) => emit('play', phrase)"
    />
  </template>
</template>

<style scoped>
.coming {
  min-height: 170px;
  padding: 1px 14px;
  border: 1px solid var(--edge);
  border-left-width: 4px;
  border-radius: 10px;
  background: var(--paper);
  color: var(--soft);
}
h2 {
  margin: 0;
  font-size: 1.05rem;
}
</style>

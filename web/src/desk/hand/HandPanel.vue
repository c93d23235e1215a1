<script setup lang="ts">
/** Strings and fingers: the hand on the fingerboard; note, phrase and tune; what the hand prefers. */
import { computed, ref, watch } from 'vue';
import { problemText } from '@nokta/core/words';
import PanelTabs from '../../theme/parts/PanelTabs.vue';
import { useDesk } from '../rooms/store.ts';
import FingerBoard from './FingerBoard.vue';
import NoteCard from './NoteCard.vue';
import PhraseCard from './PhraseCard.vue';
import TuneCard from './TuneCard.vue';
import WishesTab from './WishesTab.vue';
import { useHand } from './store.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const hand = useHand();
const TABS = [
  { id: 'note', label: 'Note' },
  { id: 'phrase', label: 'Phrase' },
  { id: 'tune', label: 'Tune' },
  { id: 'wishes', label: 'Wishes' },
] as const;
const tab = ref<(typeof TABS)[number]['id']>('note');
const CARDS = { note: NoteCard, phrase: PhraseCard, tune: TuneCard, wishes: WishesTab } as const;
const troubles = computed(() => {
  const facts = desk.arrangement;
  const locks = desk.record?.decisions.hand.locks ?? {};
  const own = facts?.fingering.problems.filter(({ noteId }) => locks[noteId]) ?? [];
  return own.map((problem) => ({
    noteId: problem.noteId,
    message: problemText(problem, facts!.instrument, facts!.tuning, look.names),
  }));
});

watch([() => desk.selected?.id, () => desk.arrangement], () => void hand.explain(), { immediate: true });
</script>

<template>
  <div>
    <FingerBoard />
    <PanelTabs v-model="tab" label="Hand" :tabs="TABS" />
    <div v-if="troubles.length > 0" class="troubles" role="alert">
      <button
        v-for="{ noteId, message } in troubles"
        :key="noteId + message"
        type="button"
        @click="desk.select(noteId)"
      >
        {{ message }}
      </button>
    </div>
    <div class="card"><component :is="CARDS[tab]" /></div>
  </div>
</template>

<style scoped>
.card {
  margin-top: 10px;
}
.troubles {
  margin-top: 8px;
}
.troubles button {
  display: block;
  width: 100%;
  margin-bottom: 4px;
  padding: 6px 10px;
  border: 0;
  border-left: 4px solid rgb(var(--v-theme-warning));
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>

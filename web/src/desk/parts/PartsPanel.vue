<script setup lang="ts">
/** Parts and phrases: the selected one, what is left to learn, and what comes back. */
import { computed, ref } from 'vue';
import HintLine from '../shared/HintLine.vue';
import PanelTabs from '../../theme/parts/PanelTabs.vue';
import { lickText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { usePartActions } from './actions.ts';
import LearnList from './LearnList.vue';
import PhraseCard from './PhraseCard.vue';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const actions = usePartActions();
const TABS = [
  { id: 'phrase', label: 'Phrase' },
  { id: 'learn', label: 'Learn' },
  { id: 'licks', label: 'Licks' },
] as const;
const tab = ref<(typeof TABS)[number]['id']>('phrase');
const form = computed(() => desk.arrangement!.form);
const decided = computed(() => Boolean(desk.tune?.tune.parting));
</script>

<template>
  <div class="panel">
    <PanelTabs v-model="tab" label="Parts" :tabs="TABS" />
    <p v-if="desk.arrangement?.form.tooLong" role="note">
      This tune is too long to part: its phrases are four bars each, and nothing is said about what is the same. Split
      it into tunes of their own.
    </p>
    <template v-if="tab === 'phrase'">
      <PhraseCard />
      <v-btn v-if="decided" size="small" class="anew" @click="actions.forget()">Part all as Nokta finds it</v-btn>
    </template>
    <LearnList v-else-if="tab === 'learn'" />
    <template v-else>
      <p v-if="form.licks.length === 0">No short figure comes back in this tune.</p>
      <ul v-else class="licks">
        <li v-for="lick in form.licks" :key="lick.id">
          <HintLine :notes="lick.places.flatMap(({ notes }) => notes)">
            <strong>{{ lickText(lick, look.names) }}</strong>
            <span
              >{{ lick.beats === 1 ? '1 beat' : `${lick.beats} beats` }}, {{ lick.places.length }} times: bars
              {{ [...new Set(lick.places.map(({ bar }) => bar))].join(', ') }}</span
            >
          </HintLine>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
}
.anew {
  justify-self: start;
}
.licks {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.licks span {
  display: block;
  color: var(--soft);
  font-size: 0.9rem;
}
</style>

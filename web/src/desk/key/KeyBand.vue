<script setup lang="ts">
/** What can be chosen for the tune, side by side: keys, tunings, octaves of its phrases, a key for a group. */
import { useWindowStorage } from '../../settings/windowStorage.ts';
import PanelTabs from '../../theme/parts/PanelTabs.vue';
import BoardTab from './BoardTab.vue';
import GroupTab from './GroupTab.vue';
import KeysTab from './KeysTab.vue';
import PhrasesTab from './PhrasesTab.vue';
import TuningsTab from './TuningsTab.vue';

const TABS = [
  {
    id: 'keys',
    label: 'Keys',
    hint: 'Easiest first. Thick strings sound home note or fifth; beads are notes that ring.',
  },
  { id: 'tunings', label: 'Tunings', hint: 'In this key, best first. Thick strings sound home note or fifth.' },
  { id: 'phrases', label: 'Octaves and echoes', hint: 'Each phrase where it lies best, or answered an octave away.' },
  { id: 'board', label: 'Fingerboard', hint: 'Where its notes lie, the larger the oftener, over the tapes.' },
  { id: 'group', label: 'A group', hint: 'One key for all, each in an octave of its own.' },
] as const;
const shown = useWindowStorage<(typeof TABS)[number]['id']>('nokta-key-band', 'keys');
const VIEWS = { keys: KeysTab, tunings: TuningsTab, phrases: PhrasesTab, group: GroupTab, board: BoardTab } as const;
</script>

<template>
  <section class="band" aria-label="Side by side">
    <PanelTabs v-model="shown" label="Side by side" :tabs="TABS">
      <small>{{ TABS.find(({ id }) => id === shown)?.hint }}</small>
    </PanelTabs>
    <component :is="VIEWS[shown] ?? KeysTab" />
  </section>
</template>

<style scoped>
.band {
  padding: 4px 14px 10px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
}
.band > :first-child {
  margin-bottom: 7px;
}
/* Its own width counts for nothing: the band is as wide as the strips. */
small {
  flex: 1;
  overflow: hidden;
  width: 0;
  margin-left: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--soft);
}
</style>

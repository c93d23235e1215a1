<script setup lang="ts">
/** The tune: what it is at a glance; writing and mending it; the same as ABC; its named versions. */
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { mdiPencilOutline } from '@mdi/js';
import type { Tune } from '@nokta/core/music';
import LookOverCard from './LookOverCard.vue';
import PanelTabs from '../../theme/parts/PanelTabs.vue';
import WrittenField from '../../theme/parts/WrittenField.vue';
import VersionList from './write/VersionList.vue';
import WritePanel from './write/WritePanel.vue';
import { useWriter } from './write/writer.ts';
import { useDesk } from '../rooms/store.ts';

/** The text editor is large and not always wanted. */
const AbcEditor = defineAsyncComponent(() => import('./write/AbcEditor.vue'));

const desk = useDesk();
const writer = useWriter();
const tab = ref<'look' | 'abc' | 'versions'>('look');
const TABS = [
  { id: 'look', label: 'Tune' },
  { id: 'abc', label: 'ABC' },
  { id: 'versions', label: 'Versions' },
] as const;

const FIELDS = [
  { name: 'title', label: 'Title' },
  { name: 'style', label: 'Style' },
  { name: 'composer', label: 'Composer' },
] as const;

function setField(name: (typeof FIELDS)[number]['name'], text: string): void {
  const written = text.trim();
  if (name === 'title' && written === '') return;
  void desk.setFields({ [name]: written } as Partial<Tune>, name === 'title' ? 'rename' : name);
}

function setNames(text: string): void {
  const names = text.split(/[;\n]/).map((name) => name.trim());
  void desk.setFields({ alsoKnownAs: names.filter(Boolean) }, 'other names');
}

function setNotes(text: string): void {
  void desk.setFields(
    {
      notes: text
        .split('\n')
        .map((line) => line.trim())
        .filter(Boolean),
    },
    'notes',
  );
}

const tempo = computed(() => Math.round(desk.arrangement?.tempo ?? 96));
function setTempo(value: string): void {
  const bpm = Number(value);
  if (bpm >= 20 && bpm <= 400 && bpm !== tempo.value) void desk.decide({ pace: { tempo: bpm } }, 'change the tempo');
}

// Versions and text belong to the tune that is open.
watch(
  () => desk.tune?.id,
  () => (tab.value = 'look'),
);
</script>

<template>
  <div class="panel">
    <PanelTabs v-model="tab" label="Tune" :tabs="TABS">
      <v-btn
        class="write"
        size="small"
        :variant="writer.active ? 'flat' : 'outlined'"
        :color="writer.active ? 'primary' : undefined"
        :prepend-icon="mdiPencilOutline"
        :aria-pressed="writer.active"
        @click="writer.active ? writer.stop() : writer.start(desk.selectedId)"
        >{{ writer.active ? 'Done' : 'Write' }}</v-btn
      >
    </PanelTabs>
    <AbcEditor v-if="tab === 'abc'" />
    <VersionList v-else-if="tab === 'versions'" />
    <WritePanel v-else-if="writer.active" />
    <template v-else>
      <p v-if="writer.troubles.length > 0" class="trouble">
        {{ writer.troubles[0]!.message }}
        <v-btn size="small" variant="outlined" @click="(writer.start(), writer.nextTrouble())">Mend it</v-btn>
      </p>
      <LookOverCard />
      <WrittenField
        v-for="{ name, label } in FIELDS"
        :key="name"
        :label="label"
        :value="desk.tune?.tune[name] ?? ''"
        @written="setField(name, $event)"
      />
      <WrittenField
        label="Also known as (; between names)"
        :value="desk.tune?.tune.alsoKnownAs.join('; ') ?? ''"
        @written="setNames"
      />
      <WrittenField
        long
        label="Notes"
        rows="2"
        auto-grow
        :value="desk.tune?.tune.notes.join('\n') ?? ''"
        @written="setNotes"
      />
      <WrittenField
        type="number"
        label="Working tempo (quarters a minute)"
        :value="String(tempo)"
        min="20"
        max="400"
        @written="setTempo"
      />
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
}
.write {
  margin: 0 0 4px auto;
}
.trouble {
  padding: 6px 10px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
p {
  margin: 0;
}
</style>

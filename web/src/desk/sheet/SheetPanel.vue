<script setup lang="ts">
/** The printed page: look, print, PDF, and the tune in open formats. */
import { computed, nextTick, ref, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { mdiDownload, mdiPrinter } from '@mdi/js';
import type { Ending } from '@nokta/core/files';
import { LANE_IDS, PAPERS, PAPER_SIZE, type LaneId, type Paper } from '@nokta/core/sheet';
import { api, fileUrl, messageOf } from '../../api/client.ts';
import { useWishedLanes } from '../shared/lanes.ts';
import { useDesk } from '../store.ts';

const desk = useDesk();
const paper = useStorage<Paper>('nokta-paper', 'a4');
/** Lanes on strips and sheet alike. */
const lanes = useWishedLanes();
const toggled = (lane: LaneId) =>
  computed({
    get: () => lanes.value.includes(lane),
    set: (on) => (lanes.value = LANE_IDS.filter((id) => (id === lane ? on : lanes.value.includes(id)))),
  });
const counted = toggled('counts');
const hair = toggled('hair');
const pages = ref<readonly string[]>([]);
const failure = ref('');
/** Open formats, each for what other programs do with it. */
const FORMATS: readonly { readonly ending: Ending; readonly name: string; readonly tab?: boolean }[] = [
  { ending: 'musicxml', name: 'MusicXML' },
  { ending: 'mxl', name: 'MusicXML, packed' },
  { ending: 'musicxml', name: 'MusicXML with tab', tab: true },
  { ending: 'abc', name: 'ABC' },
  { ending: 'mid', name: 'MIDI' },
  { ending: 'nokta.json', name: 'Nokta file' },
];
const papers = PAPERS.map((value) => ({ value, title: PAPER_SIZE[value].name }));

watch(
  () =>
    [desk.record?.id, desk.record?.revision, desk.saveState, desk.tune?.revision, paper.value, lanes.value] as const,
  async ([id, , state]) => {
    if (!id || state === 'saving') return;
    try {
      pages.value = (await api.sheet(id, paper.value, lanes.value)).pages;
      failure.value = '';
    } catch (error) {
      failure.value = messageOf(error);
    }
  },
  { immediate: true },
);

async function print(): Promise<void> {
  await nextTick();
  window.print();
}
</script>

<template>
  <div class="panel">
    <v-select v-model="paper" label="Paper" :items="papers" />
    <v-switch v-model="counted" label="Counts above the staff" />
    <v-switch v-model="hair" label="The bow’s hair below it" />
    <div class="actions">
      <v-btn variant="flat" color="primary" :prepend-icon="mdiPrinter" :disabled="pages.length === 0" @click="print"
        >Print</v-btn
      >
      <v-btn
        v-if="desk.record"
        variant="outlined"
        :prepend-icon="mdiDownload"
        :href="fileUrl.pdf(desk.record.id, paper, lanes)"
        download
        >PDF</v-btn
      >
    </div>
    <p v-if="failure" role="alert">{{ failure }}</p>
    <p v-else-if="pages.length === 0" role="status">Laying out the sheet…</p>
    <div class="pages">
      <div
        v-for="(page, index) in pages"
        :key="index"
        class="page"
        role="img"
        :aria-label="`Page ${index + 1} of ${pages.length}`"
        v-html="page"
      />
    </div>
    <section v-if="desk.record">
      <h3>Open formats</h3>
      <div class="formats">
        <v-btn
          v-for="{ ending, name, tab } in FORMATS"
          :key="name"
          size="small"
          variant="outlined"
          :href="fileUrl.tune(desk.record.id, ending, tab)"
          download
          >{{ name }}</v-btn
        >
      </div>
    </section>
    <Teleport to="body">
      <div class="print-pages" aria-hidden="true">
        <div
          v-for="(page, index) in pages"
          :key="index"
          role="img"
          :aria-label="`Printed page ${index + 1}`"
          v-html="page"
        />
      </div>
    </Teleport>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
}
.formats {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.actions {
  display: flex;
  gap: 8px;
}
.pages {
  display: grid;
  gap: 12px;
}
.page {
  overflow: hidden;
  border: 1px solid var(--edge);
  box-shadow: 0 2px 8px rgb(0 0 0 / 18%);
}
.page :deep(svg) {
  display: block;
  width: 100%;
  height: auto;
}
h3 {
  margin: 4px 0 6px;
  font-size: 1.05rem;
}
p {
  margin: 0;
}
</style>

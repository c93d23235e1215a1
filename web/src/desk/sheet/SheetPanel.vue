<script setup lang="ts">
/** What the sheet has on it: a style to start from, lanes, paper; print, PDF, and the tune in open formats. */
import { computed, nextTick, ref } from 'vue';
import { mdiDeleteOutline, mdiDownload, mdiPrinter } from '@mdi/js';
import type { Ending } from '@nokta/core/files';
import {
  LAYOUTS,
  PAGE_KINDS,
  PAPERS,
  SHEET_PRESETS,
  SIZES_OF_PRINT,
  type Layout,
  type PageKind,
  type PresetId,
} from '@nokta/core/paper';
import { PAPER_SIZE } from '@nokta/core/sheet';
import { fileUrl } from '../../api/client.ts';
import PillChoice from '../../theme/parts/PillChoice.vue';
import TickList from '../../theme/parts/TickList.vue';
import { useDesk } from '../rooms/store.ts';
import { useLook } from '../../settings/look.ts';
import LaneTicks from '../shared/LaneTicks.vue';
import LookChoices from '../shared/LookChoices.vue';
import ColourChoices from './ColourChoices.vue';
import FolderCard from './FolderCard.vue';
import LessonCard from './LessonCard.vue';
import ReachCard from './ReachCard.vue';
import FileLosses from './FileLosses.vue';
import { download } from './download.ts';
import WarmUpsCard from './WarmUpsCard.vue';
import { useSheet } from './store.ts';

const desk = useDesk();
const sheet = useSheet();
const look = useLook();
const PRESET_NAMES: Readonly<Record<PresetId, string>> = {
  usual: 'Staff and tab',
  tab: 'Tab alone',
  staff: 'Staff with fingers',
  big: 'Big print',
  cue: 'Card for the stand',
};
const presets = (Object.keys(SHEET_PRESETS) as PresetId[]).map((id) => ({ id, name: PRESET_NAMES[id] }));
const LAYOUT_NAMES: Readonly<Record<Layout, string>> = {
  phrases: 'One phrase a line',
  width: 'As many as fit',
  big: 'Big, few bars a line',
  cue: 'The selected phrase alone',
};
const layouts = LAYOUTS.map((value) => ({ value, title: LAYOUT_NAMES[value] }));
const PAGE_NAMES: Readonly<Record<PageKind, string>> = {
  tune: 'The tune',
  how: 'How to read this',
  warmups: 'Warm-ups',
  plan: 'The lesson, step by step',
  weave: 'The weave: what is new',
  chart: 'Where the fingers go',
  words: 'Words and chords',
  chords: 'Chords to play along',
  blank: 'Empty tab paper',
};
const kinds = computed(() =>
  PAGE_KINDS.map((id) => ({ id, name: PAGE_NAMES[id], on: sheet.style.pages.includes(id) })),
);
const parts = computed(() => [
  { id: 'staff' as const, name: 'Staff', on: sheet.style.staff },
  { id: 'talk' as const, name: 'What to say', on: sheet.style.talk },
  { id: 'folded' as const, name: 'Phrases that come again, by name alone', on: sheet.style.folded },
]);
const numberings = (['lines', 'bars', 'none'] as const).map((value) => ({
  value,
  title: { lines: 'At each line', bars: 'Over each bar', none: 'None' }[value],
}));
const sizes = SIZES_OF_PRINT.map((id) => ({ id, name: { usual: 'Usual', large: 'Large', largest: 'Very large' }[id] }));
const papers = PAPERS.map((value) => ({ value, title: PAPER_SIZE[value].name }));
const svg = () =>
  sheet.pages.forEach((page, index) =>
    download(page, 'image/svg+xml', `${desk.fileTitle}${sheet.pages.length > 1 ? ` ${index + 1}` : ''}.svg`),
  );

const name = ref('');
function keep(): void {
  if (name.value.trim() === '') return;
  void sheet.keep(name.value.trim());
  name.value = '';
}
/** Open formats, each for what other programs do with it. */
const FORMATS: readonly { readonly ending: Ending; readonly name: string; readonly tab?: true }[] = [
  { ending: 'musicxml', name: 'MusicXML' },
  { ending: 'mxl', name: 'MusicXML, packed' },
  { ending: 'musicxml', name: 'MusicXML with tab', tab: true },
  { ending: 'abc', name: 'ABC' },
  { ending: 'mid', name: 'MIDI' },
  { ending: 'nokta.json', name: 'Nokta file' },
];

async function print(): Promise<void> {
  await nextTick();
  window.print();
}
</script>

<template>
  <div class="panel">
    <div class="actions">
      <v-btn
        variant="flat"
        color="primary"
        :prepend-icon="mdiPrinter"
        :disabled="sheet.pages.length === 0"
        @click="print"
        >Print</v-btn
      >
      <v-btn variant="outlined" :prepend-icon="mdiDownload" :href="sheet.pdf" download>PDF</v-btn>
      <v-btn variant="outlined" :disabled="sheet.pages.length === 0" @click="svg">SVG</v-btn>
      <v-btn variant="outlined" :href="sheet.png" download :title="`Page ${sheet.page + 1} as a picture`">PNG</v-btn>
    </div>
    <ReachCard />
    <FolderCard v-if="desk.records.length > 1" />
    <section aria-labelledby="sheet-style">
      <h3 id="sheet-style">How it looks</h3>
      <div class="row">
        <PillChoice label="Styles" :choices="presets" :chosen="sheet.preset" @choose="sheet.take" />
        <span v-for="{ id, name: own, value: { style } } in sheet.named" :key="id" class="own">
          <v-btn size="small" variant="outlined" @click="look.change(style)">{{ own }}</v-btn>
          <v-btn :icon="mdiDeleteOutline" size="x-small" :aria-label="`Forget ${own}`" @click="sheet.forget(id)" />
        </span>
      </div>
    </section>
    <TickList label="What is printed" :items="kinds" @toggle="sheet.togglePages" />
    <TickList label="On the page" :items="parts" @toggle="(id) => look.change({ [id]: !look.style[id] })" />
    <LaneTicks />
    <v-select
      label="Layout"
      :items="layouts"
      :model-value="sheet.style.layout"
      @update:model-value="look.change({ layout: $event })"
    />
    <div class="row sized">
      <span aria-hidden="true">Size</span>
      <PillChoice
        label="Size of print"
        :choices="sizes"
        :chosen="sheet.style.size"
        @choose="look.change({ size: $event })"
      />
    </div>
    <v-select
      label="Paper"
      :items="papers"
      :model-value="sheet.style.paper"
      @update:model-value="look.change({ paper: $event })"
    />
    <v-select
      label="Bar numbers"
      :items="numberings"
      :model-value="sheet.style.barNumbers"
      @update:model-value="look.change({ barNumbers: $event })"
    />
    <v-switch
      label="Landscape"
      :model-value="sheet.style.landscape"
      @update:model-value="look.change({ landscape: Boolean($event) })"
    />
    <details>
      <summary>For the lesson</summary>
      <LessonCard />
    </details>
    <WarmUpsCard />
    <details>
      <summary>Signs and names</summary>
      <LookChoices />
    </details>
    <details>
      <summary>Colours, fingerboard and tapes</summary>
      <ColourChoices />
    </details>
    <section aria-labelledby="sheet-keep">
      <h3 id="sheet-keep">Keep this look</h3>
      <v-switch
        label="With this arrangement"
        :model-value="sheet.own !== null"
        @update:model-value="$event ? sheet.keepHere(sheet.style) : sheet.leaveHere()"
      />
      <v-switch
        v-if="sheet.canKeepForHand"
        :label="`For ${sheet.hand}, in every tune`"
        :model-value="sheet.forHand"
        @update:model-value="sheet.keepForHand(Boolean($event))"
      />
      <form class="actions" @submit.prevent="keep">
        <v-text-field v-model="name" label="By a name" maxlength="60" />
        <v-btn type="submit" variant="outlined" :disabled="name.trim() === ''">Keep</v-btn>
      </form>
    </section>
    <section v-if="desk.record">
      <h3>Open formats</h3>
      <div class="row">
        <v-btn
          v-for="{ ending, name: format, tab } in FORMATS"
          :key="format"
          size="small"
          variant="outlined"
          :href="fileUrl.tune(desk.record.id, ending, { tab, round: desk.round })"
          download
          >{{ format }}</v-btn
        >
      </div>
      <FileLosses />
    </section>
    <Teleport to="body">
      <div class="print-pages" aria-hidden="true">
        <div
          v-for="(page, index) in sheet.pages"
          :key="index"
          role="img"
          :aria-label="`Printed page ${index + 1}`"
          v-html="page"
        />
      </div>
    </Teleport>
  </div>
</template>

<style scoped src="./sheetPanel.css" />

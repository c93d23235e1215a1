<script setup lang="ts">
/** The tunes: find by words and by melody, filter, sort; bring new ones in; back up. */
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useDropZone, useEventListener, watchThrottled } from '@vueuse/core';
import { mdiArchiveArrowDownOutline, mdiArchiveArrowUpOutline, mdiMusicNoteOutline, mdiPlus } from '@mdi/js';
import type { Sort } from '@nokta/api';
import { fileUrl } from '../api/client.ts';
import AppHeader from '../theme/parts/AppHeader.vue';
import AddTune from './AddTune.vue';
import FilterMenu from './FilterMenu.vue';
import MelodyFinder from './MelodyFinder.vue';
import RestoreBackup from './RestoreBackup.vue';
import SeveralTunes from './SeveralTunes.vue';
import TuneRow from './TuneRow.vue';
import { useImports } from './imports.ts';
import { FILTERS, useLibrary } from './store.ts';

const ROW_HEIGHT = 82;
/** So long is waited for the rows. */
const FRAMES = 30;
const SORTS: readonly { readonly value: Sort; readonly title: string }[] = [
  { value: 'title', title: 'By title' },
  { value: 'used', title: 'Last used first' },
  { value: 'added', title: 'Newest first' },
  { value: 'style', title: 'By style' },
  { value: 'key', title: 'By key' },
];

const router = useRouter();
const library = useLibrary();
const imports = useImports();
const adding = ref(false);
const looking = ref(false);
const restoring = ref(false);
const byMelody = ref(library.melody !== '');
const dropped = ref<readonly File[]>([]);
const several = shallowRef<readonly (File | string)[]>([]);
const place = ref<HTMLElement | null>(null);

void library.load();
// What comes in shows up while it does.
watchThrottled(
  () => imports.report?.cameIn.length,
  () => void library.load(),
  { throttle: 1500, trailing: true },
);

const { isOverDropZone } = useDropZone(place, { onDrop: (files) => take(files ?? []) });
useEventListener('keydown', (event: KeyboardEvent) => {
  const target = event.target instanceof Element ? event.target : null;
  if (event.key !== '/' || target?.closest('input, textarea, [role="dialog"]')) return;
  event.preventDefault();
  document.querySelector<HTMLInputElement>('.find input')?.focus();
});

/** Whatever comes is looked at first, one or several. */
function take(files: readonly File[]): void {
  if (files.length > 1) lookThrough(files);
  else if (files[0]) {
    dropped.value = files;
    adding.value = true;
  }
}

function lookThrough(sources: readonly (File | string)[]): void {
  several.value = sources;
  looking.value = true;
}

function add(): void {
  dropped.value = [];
  adding.value = true;
}

function restore(files: readonly File[] = []): void {
  dropped.value = files;
  restoring.value = true;
}

function open(id: string, write: boolean): void {
  void router.push({ name: 'desk', params: { id, pass: 'tune' }, query: write ? { write: '1' } : {} });
}

/** The list stands where it was left, once its rows have their height. */
const list = useTemplateRef<{ readonly $el: HTMLElement }>('list');
const isBack = ref(false);
watch(
  () => list.value?.$el,
  (own) => own && putBack(own, FRAMES),
);
function putBack(own: HTMLElement, frames: number): void {
  own.scrollTop = library.scrolled;
  if (Math.abs(own.scrollTop - library.scrolled) > 1 && frames > 0)
    requestAnimationFrame(() => putBack(own, frames - 1));
  else isBack.value = true;
}
/** While it is on its way there, it tells nothing of where it is. */
function scrolledTo({ target }: Event): void {
  if (isBack.value) library.scrolled = (target as HTMLElement).scrollTop;
}
watch(
  [() => library.words, () => library.melody, () => library.sort, () => library.filters],
  () => (library.scrolled = 0),
  {
    deep: true,
  },
);

const items = computed(() =>
  (library.rows ?? []).map((tune, index) => ({ tune, index, key: tune?.id ?? `row-${index}` })),
);
const countText = computed(() => {
  const total = library.rows?.length ?? 0;
  return `${total.toLocaleString('en')} ${total === 1 ? 'tune' : 'tunes'}${library.found ? ' found' : ''}`;
});

function toTunes(): void {
  document.querySelector<HTMLElement>('.tunes a.title, .empty button, .none button')?.focus();
}

function toggleMelody(): void {
  byMelody.value = !byMelody.value;
  if (!byMelody.value) library.melody = '';
}
</script>

<template>
  <div ref="place" class="library" :class="{ over: isOverDropZone }">
    <a class="skip" href="#tunes" @click.prevent="toTunes">To the tunes</a>
    <AppHeader place="library">
      <v-btn class="add" variant="flat" :prepend-icon="mdiPlus" @click="add">Bring a tune in</v-btn>
      <v-btn
        :prepend-icon="mdiArchiveArrowDownOutline"
        size="small"
        class="archive"
        :href="fileUrl.backup()"
        download
        aria-label="Back up everything in one file"
        title="Back up everything in one file"
        ><span>Back up</span></v-btn
      >
      <v-btn
        :prepend-icon="mdiArchiveArrowUpOutline"
        size="small"
        class="archive"
        aria-label="Restore a backup"
        title="Restore a backup"
        @click="restore()"
        ><span>Restore</span></v-btn
      >
    </AppHeader>
    <main id="tunes">
      <div class="head">
        <h1>Library</h1>
        <span class="count" role="status">{{ countText }}</span>
        <v-text-field
          v-model="library.words"
          class="find"
          label="Find by title, composer, tag or note"
          clearable
          @click:clear="library.words = ''"
        />
        <v-btn
          :variant="byMelody ? 'flat' : 'outlined'"
          :color="byMelody ? 'primary' : undefined"
          :prepend-icon="mdiMusicNoteOutline"
          :aria-expanded="byMelody"
          @click="toggleMelody"
          >By melody</v-btn
        >
      </div>
      <MelodyFinder v-if="byMelody" v-model="library.melody" class="melody" :ready="library.melodyReady" />
      <div class="narrow" role="group" aria-label="Show only">
        <FilterMenu
          v-for="{ name, label } in FILTERS"
          :key="name"
          v-model="library.filters[name]"
          :label="label"
          :facets="library.facets?.[name] ?? []"
        />
        <v-btn v-if="library.searching" size="small" @click="library.clear()">Show all</v-btn>
        <span v-if="library.facets && library.facets.waiting > 0" class="working" role="status"
          >Parting {{ library.facets.waiting.toLocaleString('en') }} tunes…</span
        >
        <v-select v-if="!library.melody" v-model="library.sort" class="sort" label="Order" :items="[...SORTS]" />
      </div>
      <p v-if="library.problem" class="problem" role="alert">
        {{ library.problem }} <v-btn size="small" variant="outlined" @click="library.load()">Try again</v-btn>
      </p>
      <p v-else-if="library.rows === null">Opening…</p>
      <section v-else-if="library.rows.length === 0 && !library.found" class="empty">
        <h2>No tunes yet</h2>
        <p>Bring in the first one: open or drop a file, paste it as ABC, or write it down here.</p>
        <v-btn variant="flat" color="primary" :prepend-icon="mdiPlus" @click="add">Bring a tune in</v-btn>
      </section>
      <p v-else-if="library.rows.length === 0" class="none">
        No tune is like that. <v-btn size="small" variant="outlined" @click="library.clear()">Show all</v-btn>
      </p>
      <v-virtual-scroll
        v-else
        ref="list"
        class="tunes"
        role="list"
        aria-label="Tunes"
        tabindex="0"
        :items="items"
        :item-height="ROW_HEIGHT"
        item-key="key"
        @scroll.passive="scrolledTo"
      >
        <template #default="{ item }">
          <div :ref="() => item.tune ?? library.show(item.index)" class="slot" :style="{ height: `${ROW_HEIGHT}px` }">
            <TuneRow v-if="item.tune" :tune="item.tune" />
            <p v-else class="waiting">…</p>
          </div>
        </template>
      </v-virtual-scroll>
    </main>
    <AddTune v-model="adding" :files="dropped" @added="open" @backup="restore" @several="lookThrough" />
    <SeveralTunes v-model="looking" :sources="several" />
    <RestoreBackup v-model="restoring" :files="dropped" @restored="library.load()" />
  </div>
</template>

<style scoped>
.library {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100dvh;
}
.over {
  box-shadow: inset 0 0 0 5px var(--accent);
}
.add {
  background: #eda566;
  color: #2a1403;
}
main {
  display: flex;
  flex-direction: column;
  gap: 10px;
  width: 100%;
  max-width: 1240px;
  min-height: 0;
  margin: 0 auto;
  padding: 14px 24px 14px;
}
.head,
.narrow {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 10px;
}
h1 {
  margin: 0;
  font-size: 1.6rem;
}
.count {
  margin: 4px auto 0 6px;
  color: var(--soft);
}
.working {
  color: var(--soft);
  font-size: 0.9rem;
}
.find {
  flex: none;
  width: 330px;
}
.archive {
  font-size: 0.95rem;
}
@media (width < 900px) {
  .archive {
    min-width: 40px;
    padding-inline: 8px;
  }
  .archive span {
    display: none;
  }
}
.sort {
  flex: none;
  width: 176px;
  margin-left: auto;
}
@media (width < 700px), (height < 520px) {
  main {
    gap: 6px;
    padding: 8px 10px;
  }
  h1 {
    font-size: 1.2rem;
  }
  .find {
    flex: 1 1 200px;
    width: auto;
  }
}
/* Too low for a list of its own: the page scrolls. */
@media (height < 640px) {
  .library {
    height: auto;
    min-height: 100dvh;
  }
  .tunes {
    flex: none;
    height: 82dvh;
  }
}
.tunes {
  flex: 1;
  min-height: 120px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
}
.waiting {
  margin: 0;
  padding: 26px 20px;
  color: var(--soft);
}
.empty {
  padding: 60px 20px;
  border: 2px dashed var(--edge);
  border-radius: 14px;
  text-align: center;
}
.none,
.problem {
  margin: 0;
}
.problem {
  padding: 10px 14px;
  border-left: 4px solid rgb(var(--v-theme-error));
  background: var(--paper);
}
</style>

<script setup lang="ts">
/** The tunes: open, rename, delete with undo, bring new ones in by pasting, opening or dropping a file. */
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useDropZone } from '@vueuse/core';
import { mdiDeleteOutline, mdiPencilOutline, mdiPlus, mdiThemeLightDark } from '@mdi/js';
import type { TuneSummary } from '@nokta/api';
import { useAppTheme } from '../settings/theme.ts';
import AddTune from './AddTune.vue';
import { useLibrary } from './store.ts';

const router = useRouter();
const library = useLibrary();
const theme = useAppTheme();
const adding = ref(false);
const dropped = ref('');
const renaming = ref<string | null>(null);
const newTitle = ref('');
const wanted = ref('');
const place = ref<HTMLElement | null>(null);

void library.load();

const shown = computed(() => {
  const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean);
  return (library.tunes ?? []).filter((tune) => {
    const text = [tune.title, tune.style, tune.key, tune.composer].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
});

const { isOverDropZone } = useDropZone(place, {
  onDrop: async (files) => {
    const [file] = files ?? [];
    if (!file) return;
    dropped.value = await file.text();
    adding.value = true;
  },
});

function add(): void {
  dropped.value = '';
  adding.value = true;
}

function open(id: string): void {
  void router.push({ name: 'desk', params: { id } });
}

function startRenaming(tune: TuneSummary): void {
  renaming.value = tune.id;
  newTitle.value = tune.title;
}

async function finishRenaming(tune: TuneSummary): Promise<void> {
  if (renaming.value !== tune.id) return;
  const title = newTitle.value.trim();
  if (title === '' || title === tune.title || (await library.rename(tune, title))) renaming.value = null;
}
</script>

<template>
  <div ref="place" class="library" :class="{ over: isOverDropZone }">
    <header>
      <p class="mark"><span class="dot" aria-hidden="true"></span>Nokta</p>
      <v-btn class="add" variant="flat" :prepend-icon="mdiPlus" @click="add">Bring a tune in</v-btn>
      <v-btn :icon="mdiThemeLightDark" size="small" aria-label="Light or dark" @click="theme.toggle()" />
    </header>
    <main>
      <div class="head">
        <h1>Library</h1>
        <v-text-field
          v-model="wanted"
          class="find"
          label="Find by title, style, key"
          clearable
          @click:clear="wanted = ''"
        />
      </div>
      <p v-if="library.problem" class="problem" role="alert">
        {{ library.problem }} <v-btn size="small" variant="outlined" @click="library.load()">Try again</v-btn>
      </p>
      <p v-else-if="library.tunes === null">Opening…</p>
      <section v-else-if="library.tunes.length === 0" class="empty">
        <h2>No tunes yet</h2>
        <p>Bring in the first one: paste it as ABC, open a file, or drop a file anywhere on this page.</p>
        <v-btn variant="flat" color="primary" :prepend-icon="mdiPlus" @click="add">Bring a tune in</v-btn>
      </section>
      <p v-else-if="shown.length === 0">No tune has all of these words.</p>
      <ul v-else class="tunes">
        <li v-for="tune in shown" :key="tune.id">
          <form v-if="renaming === tune.id" class="rename" @submit.prevent="finishRenaming(tune)">
            <v-text-field v-model="newTitle" label="Title" autofocus @keydown.esc="renaming = null" />
            <v-btn type="submit" variant="flat" color="primary">Rename</v-btn>
            <v-btn @click="renaming = null">Cancel</v-btn>
          </form>
          <template v-else>
            <router-link class="title" :to="{ name: 'desk', params: { id: tune.id } }">{{ tune.title }}</router-link>
            <span class="style">{{ tune.style }}</span>
            <span>{{ tune.key }}</span>
            <span>{{ tune.metre }}</span>
            <span class="form">{{ tune.parts }}</span>
            <span>{{ tune.bars }} bars</span>
            <span class="actions">
              <v-btn
                :icon="mdiPencilOutline"
                size="small"
                :aria-label="`Rename ${tune.title}`"
                @click="startRenaming(tune)"
              />
              <v-btn
                :icon="mdiDeleteOutline"
                size="small"
                :aria-label="`Delete ${tune.title}`"
                @click="library.remove(tune)"
              />
            </span>
          </template>
        </li>
      </ul>
    </main>
    <AddTune v-model="adding" :initial-text="dropped" @added="open" />
  </div>
</template>

<style scoped>
.library {
  min-height: 100dvh;
}
.over {
  box-shadow: inset 0 0 0 5px var(--accent);
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 24px;
  background: var(--wood);
  color: var(--on-wood);
}
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0 auto 0 0;
  font: 600 1.35rem var(--display);
}
.dot {
  width: 15px;
  height: 15px;
  border-radius: 50%;
  background: #eda566;
}
.add {
  background: #eda566;
  color: #2a1403;
}
main {
  max-width: 1080px;
  margin: 0 auto;
  padding: 18px 24px 60px;
}
.head {
  display: flex;
  align-items: center;
  gap: 24px;
  margin-bottom: 14px;
}
h1 {
  margin: 0;
  font-size: 1.7rem;
}
.find {
  max-width: 340px;
  margin-left: auto;
}
.tunes {
  margin: 0;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 100px 110px 56px 84px 74px 84px;
  align-items: center;
  gap: 12px;
  min-height: 54px;
  padding: 5px 8px 5px 20px;
}
li + li {
  border-top: 1px solid var(--edge);
}
.title {
  padding: 8px 0;
  color: var(--ink);
  font: 600 1.12rem var(--display);
  text-decoration: none;
}
.title:hover {
  color: var(--accent);
  text-decoration: underline;
}
.style {
  color: var(--soft);
}
.form {
  font-weight: 700;
  letter-spacing: 0.09em;
}
.actions {
  text-align: right;
}
.rename {
  display: flex;
  grid-column: 1 / -1;
  align-items: center;
  gap: 8px;
  padding: 6px 12px 6px 0;
}
.empty {
  padding: 60px 20px;
  border: 2px dashed var(--edge);
  border-radius: 14px;
  text-align: center;
}
.problem {
  padding: 10px 14px;
  border-left: 4px solid rgb(var(--v-theme-error));
  background: var(--paper);
}
@media (width < 760px) {
  li {
    grid-template-columns: 1fr auto auto;
  }
}
</style>

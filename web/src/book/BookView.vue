<script setup lang="ts">
/** A book for a term: its tunes in their order, for whom, on which paper; made, kept, made again. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { watchDebounced } from '@vueuse/core';
import { mdiBookOpenPageVariantOutline, mdiClose, mdiPlus } from '@mdi/js';
import type { TuneSummary } from '@nokta/api';
import { api, messageOf } from '../api/client.ts';
import { download } from '../desk/sheet/download.ts';
import { useKept } from '../kept/store.ts';
import AppHeader from '../theme/parts/AppHeader.vue';
import MoveButtons from '../theme/parts/MoveButtons.vue';
import BookFor from './BookFor.vue';
import { useBook } from './store.ts';

const book = useBook();
const kept = useKept();
const route = useRoute();
onMounted(() => void kept.load());

/** Tunes to choose from, found by words. */
const words = ref('');
const found = shallowRef<readonly TuneSummary[]>([]);
const problem = ref('');
let asked = 0;
async function find(): Promise<void> {
  const turn = (asked += 1);
  try {
    const { tunes } = await api.tunes({ words: words.value, sort: 'title', limit: SHOWN });
    if (turn === asked) found.value = tunes;
    problem.value = '';
  } catch (error) {
    problem.value = messageOf(error);
  }
}
const SHOWN = 30;
watchDebounced(words, find, { debounce: 200 });
void find();
const chosen = computed(() => new Set(book.draft.tunes.map(({ id }) => id)));

// A tune that is sent here from the library goes in.
watch(
  () => route.query['add'],
  async (id) => {
    if (typeof id !== 'string') return;
    const tune = await api.tune(id).catch(() => null);
    if (tune) book.add({ id: tune.id, title: tune.tune.title });
  },
  { immediate: true },
);

const PAPERS = [
  { value: 'a4 pages', title: 'A4' },
  { value: 'letter pages', title: 'Letter' },
  { value: 'a4 booklet', title: 'A5 booklet, to be folded' },
  { value: 'letter booklet', title: 'Half-letter booklet, to be folded' },
  { value: 'a4 two-up', title: 'Two pages on an A4 sheet' },
  { value: 'letter two-up', title: 'Two pages on a Letter sheet' },
] as const;
const paper = computed({
  get: () => `${book.draft.paper} ${book.draft.binding}` as (typeof PAPERS)[number]['value'],
  set: (value) => {
    const { 0: own, 1: binding } = value.split(' ') as ['a4' | 'letter', 'pages' | 'booklet' | 'two-up'];
    book.change({ paper: own, binding });
  },
});

const said = ref('');
async function make(): Promise<void> {
  said.value = '';
  const file = await book.make();
  if (!file) return;
  const ending = file.type === 'application/zip' ? 'zip' : 'pdf';
  const title = book.draft.title.trim() || 'Tunes';
  download(new Uint8Array(await file.arrayBuffer()), file.type, `${title}.${ending}`);
  said.value = `“${title}” is made: ${ending === 'zip' ? 'a zip with one for each' : 'one PDF'}.`;
}
async function keep(): Promise<void> {
  if (await book.keep()) said.value = `“${book.draft.title.trim()}” is kept. It can be made again any time.`;
}
const share = computed(() => {
  const { progress } = book;
  return progress ? Math.round((100 * progress.done) / Math.max(1, progress.total)) : 0;
});
</script>

<template>
  <div class="book">
    <AppHeader place="book" />
    <main>
      <section class="tunes" aria-labelledby="book-tunes">
        <div class="head">
          <h1 id="book-tunes">A book for a term</h1>
          <span class="soft" role="status"
            >{{ book.draft.tunes.length }} {{ book.draft.tunes.length === 1 ? 'tune' : 'tunes' }}</span
          >
        </div>
        <p v-if="book.draft.tunes.length === 0" class="soft">
          Nothing is in it yet. Choose its tunes from the list beside.
        </p>
        <ol aria-label="Tunes of the book">
          <li v-for="({ id, title }, index) in book.draft.tunes" :key="id">
            <router-link :to="{ name: 'desk', params: { id } }">{{ title }}</router-link>
            <MoveButtons
              :name="title"
              :index="index"
              :count="book.draft.tunes.length"
              @move="book.move(index, $event)"
            />
            <v-btn
              :icon="mdiClose"
              size="x-small"
              variant="text"
              :aria-label="`${title}: leave it out`"
              @click="book.drop(id)"
            />
          </li>
        </ol>
      </section>
      <section class="choose" aria-labelledby="book-choose">
        <h2 id="book-choose">From the library</h2>
        <v-text-field
          v-model="words"
          label="Find by title, composer, tag or note"
          clearable
          @click:clear="words = ''"
        />
        <p v-if="problem" role="alert">{{ problem }}</p>
        <ul aria-label="Tunes of the library">
          <li v-for="tune in found" :key="tune.id">
            <v-btn
              block
              size="small"
              :variant="chosen.has(tune.id) ? 'tonal' : 'text'"
              :prepend-icon="chosen.has(tune.id) ? mdiClose : mdiPlus"
              :aria-pressed="chosen.has(tune.id)"
              @click="chosen.has(tune.id) ? book.drop(tune.id) : book.add(tune)"
              ><span class="found">{{ tune.title }} <small>{{ tune.key }}</small></span></v-btn
            >
          </li>
        </ul>
      </section>
      <section class="how" aria-labelledby="book-how">
        <h2 id="book-how">The book</h2>
        <v-text-field
          label="Title"
          maxlength="60"
          placeholder="Spring term"
          :model-value="book.draft.title"
          @update:model-value="book.change({ title: String($event ?? '') })"
        />
        <v-text-field
          label="A line under it"
          maxlength="120"
          :model-value="book.draft.line"
          @update:model-value="book.change({ line: String($event ?? '') })"
        />
        <BookFor :players="book.draft.players" @choose="book.change({ players: $event })" />
        <v-select v-model="paper" label="Paper" :items="[...PAPERS]" />
        <v-switch
          label="With warm-ups, each once"
          :model-value="book.draft.warmUps"
          @update:model-value="book.change({ warmUps: Boolean($event) })"
        />
        <p class="soft">Lanes, signs and names are as on your sheets.</p>
        <div v-if="book.progress" class="row" role="status">
          <v-progress-linear :model-value="share" height="8" rounded color="primary" aria-label="The book" />
          <span>{{ book.progress.done }} of {{ book.progress.total }} tunes drawn…</span>
          <v-btn size="small" @click="book.callOff()">Call it off</v-btn>
        </div>
        <div v-else class="row">
          <v-btn
            variant="flat"
            color="primary"
            :prepend-icon="mdiBookOpenPageVariantOutline"
            :disabled="book.draft.tunes.length === 0"
            @click="make"
            >Make the book</v-btn
          >
          <v-btn
            variant="outlined"
            :disabled="book.draft.title.trim() === '' || book.draft.tunes.length === 0"
            @click="keep"
            >Keep</v-btn
          >
          <v-btn v-if="book.draft.tunes.length > 0" variant="text" @click="book.clear()">Begin another</v-btn>
        </div>
        <p v-if="book.problem" role="alert">{{ book.problem }}</p>
        <p v-if="kept.problem" role="alert">{{ kept.problem }}</p>
        <p v-if="said" role="status">{{ said }}</p>
        <template v-if="book.books.length > 0">
          <h3>Kept books</h3>
          <ul aria-label="Kept books">
            <li v-for="one in book.books" :key="one.id">
              <v-btn size="small" variant="outlined" @click="book.open(one)">{{ one.name }}</v-btn>
              <small>{{ one.value.tunes.length }} {{ one.value.tunes.length === 1 ? 'tune' : 'tunes' }}</small>
              <v-btn
                :icon="mdiClose"
                size="x-small"
                variant="text"
                :aria-label="`Forget ${one.name}`"
                @click="book.forget(one.id)"
              />
            </li>
          </ul>
        </template>
      </section>
    </main>
  </div>
</template>

<style scoped src="./book.css" />

<script setup lang="ts">
/** One tune of the library: its name, its first bars, what it is, what it is set for. */
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { formatDistanceToNowStrict } from 'date-fns';
import { mdiBookPlusOutline, mdiDeleteOutline, mdiPencilOutline, mdiStairs, mdiTagOutline } from '@mdi/js';
import type { TuneSummary } from '@nokta/api';
import TuneIncipit from './TuneIncipit.vue';
import { useBook } from '../book/store.ts';
import { useMessages } from '../messages.ts';
import { useLibrary } from './store.ts';

const props = defineProps<{ tune: TuneSummary }>();
const library = useLibrary();
const book = useBook();
const messages = useMessages();
const router = useRouter();
/** Kept with the library: a row goes and comes again while the list is read anew. */
const editing = computed(() => (library.editing?.id === props.tune.id ? library.editing : null));

const used = computed(() => `used ${formatDistanceToNowStrict(new Date(props.tune.usedAt), { addSuffix: true })}`);
const facts = computed(() => {
  const { style, key, metre, parts, bars, played } = props.tune;
  // As they are played, once that is known.
  const count = played || bars;
  return [style, key, metre, parts, `${count} ${count === 1 ? 'bar' : 'bars'}`].filter(Boolean);
});

const actions = computed(() => {
  const { id, title } = props.tune;
  return [
    {
      word: 'Version',
      icon: mdiStairs,
      label: `A version of ${title} for a grade and an instrument`,
      act: () => void router.push({ name: 'desk', params: { id, pass: 'grades' }, query: { version: '' } }),
    },
    {
      word: 'Book',
      icon: mdiBookPlusOutline,
      label: `${title} into the book`,
      act: () => {
        book.add(props.tune);
        const action = { label: 'Open the book', run: () => void router.push('/book') };
        messages.say({ text: `${title} is in the book.`, action });
      },
    },
    { word: 'Rename', icon: mdiPencilOutline, label: `Rename ${title}`, act: () => start('title') },
    { word: 'Tags', icon: mdiTagOutline, label: `Tags of ${title}`, act: () => start('tags') },
    { word: 'Delete', icon: mdiDeleteOutline, label: `Delete ${title}`, act: () => void library.remove(props.tune) },
  ];
});

function start(what: 'title' | 'tags'): void {
  const text = what === 'title' ? props.tune.title : props.tune.tags.join(', ');
  library.editing = { id: props.tune.id, what, text };
}

async function finish(): Promise<void> {
  if (!editing.value) return;
  const { what, text } = editing.value;
  library.editing = null;
  const written = text.trim();
  if (what === 'title' && written !== '' && written !== props.tune.title) await library.rename(props.tune, written);
  if (what === 'tags') {
    const tags = written
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean);
    if (tags.join() !== props.tune.tags.join()) await library.tag(props.tune, tags);
  }
}
</script>

<template>
  <div class="row" role="listitem">
    <form v-if="editing" class="edit" @submit.prevent="finish">
      <v-text-field
        v-model="editing.text"
        :label="editing.what === 'title' ? 'Title' : 'Tags, with commas between'"
        autofocus
        @keydown.esc.stop="library.editing = null"
      />
      <v-btn type="submit" variant="flat" color="primary">{{ editing.what === 'title' ? 'Rename' : 'Set tags' }}</v-btn>
      <v-btn @click="library.editing = null">Cancel</v-btn>
    </form>
    <template v-else>
      <div class="name">
        <router-link
          class="title"
          :to="{ name: 'desk', params: { id: tune.id }, query: tune.place ? { sound: tune.place.from } : {} }"
          >{{ tune.title }}</router-link
        >
        <span v-if="tune.alsoKnownAs.length > 0" class="aka">also {{ tune.alsoKnownAs.join(', ') }}</span>
        <span class="facts"><span v-for="fact in facts" :key="fact">{{ fact }}</span></span>
        <span v-if="tune.traits.length > 0" class="traits">{{ tune.traits.join(', ') }}</span>
      </div>
      <TuneIncipit :id="tune.id" class="first" :revision="tune.revision" :title="tune.title" :place="tune.place" />
      <div class="about">
        <span v-if="tune.place" class="place">{{ tune.place.score === 1 ? 'just so' : 'nearly so' }}</span>
        <span class="settings">{{ tune.settings.join(' · ') }}</span>
        <span v-if="!tune.place" class="used">{{ used }}</span>
        <span v-if="tune.tags.length > 0" class="tags"><span v-for="tag in tune.tags" :key="tag">{{ tag }}</span></span>
      </div>
      <div class="actions">
        <v-btn
          v-for="{ word, icon, label, act } in actions"
          :key="word"
          class="action"
          stacked
          variant="text"
          size="x-small"
          :prepend-icon="icon"
          :aria-label="label"
          @click="act"
          ><span>{{ word }}</span></v-btn
        >
      </div>
    </template>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr) 168px 216px;
  align-items: center;
  gap: 16px;
  height: 100%;
  padding: 4px 10px 4px 20px;
  border-bottom: 1px solid var(--edge);
}
.name {
  display: grid;
  min-width: 0;
}
.title {
  overflow: hidden;
  color: var(--ink);
  font: 600 1.12rem var(--display);
  text-decoration: none;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.title:hover {
  color: var(--accent);
  text-decoration: underline;
}
.aka,
.traits,
.settings,
.used {
  overflow: hidden;
  color: var(--soft);
  font-size: 0.85rem;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  height: 1.4em;
  overflow: hidden;
  font-size: 0.9rem;
}
.facts span + span::before {
  content: '·';
  margin: 0 6px;
  color: var(--soft);
}
.about {
  display: grid;
  min-width: 0;
}
.place {
  color: var(--accent);
  font-weight: 700;
}
.tags {
  display: flex;
  gap: 5px;
  height: 1.6em;
  overflow: hidden;
}
.tags span {
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 9px;
  font-size: 0.78rem;
  line-height: 1.5;
  white-space: nowrap;
}
.actions {
  display: flex;
  justify-content: flex-end;
  color: var(--soft);
}
.action {
  min-width: 50px;
  height: 46px;
  padding: 0 4px;
  font-size: 0.76rem;
}
.action :deep(.v-icon) {
  font-size: 20px;
}
.edit {
  display: flex;
  grid-column: 1 / -1;
  align-items: center;
  gap: 8px;
}
@media (width < 900px) {
  .row {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
    padding: 4px 4px 4px 12px;
  }
  .first,
  .about,
  .action span {
    display: none;
  }
  .action {
    min-width: 44px;
  }
}
</style>

/** The tunes of the library: found, filtered, sorted, a page at a time. */
import { v4 as newId } from 'uuid';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { watchDebounced } from '@vueuse/core';
import { PAGE, type Facets, type Sort, type TuneSummary } from '@nokta/api';
import { readMelodyQuery } from '@nokta/core/search';
import { api, messageOf } from '../api/client.ts';
import { useMessages } from '../messages.ts';
import { useWindowStorage } from '../settings/windowStorage.ts';

export type FilterName = Exclude<keyof Facets, 'waiting'>;
export const FILTERS: readonly { readonly name: FilterName; readonly label: string }[] = [
  { name: 'style', label: 'Style' },
  { name: 'key', label: 'Key' },
  { name: 'metre', label: 'Metre' },
  { name: 'form', label: 'Parts' },
  { name: 'trait', label: 'Build' },
  { name: 'tag', label: 'Tag' },
];

const noFilters = (): Record<FilterName, string[]> => ({
  style: [],
  key: [],
  metre: [],
  form: [],
  trait: [],
  tag: [],
});

/** How often to ask whether all forms are known. */
const LOOK_AGAIN_MS = 2500;

export const useLibrary = defineStore('library', () => {
  const messages = useMessages();
  // Kept for this window: after a reload, and on the way back from a tune, the list is as it was.
  const words = useWindowStorage<string>('nokta-find-words', '');
  const melody = useWindowStorage<string>('nokta-find-melody', '');
  const sort = useWindowStorage<Sort>('nokta-find-order', 'title');
  const filters = useWindowStorage<Record<FilterName, string[]>>('nokta-find-filters', noFilters());
  /** How far down the list was, in pixels. */
  const scrolled = useWindowStorage<number>('nokta-find-place', 0);
  const facets = shallowRef<Facets | null>(null);
  /** One place for each tune that was found; those not loaded yet are empty. */
  const rows = shallowRef<readonly (TuneSummary | null)[] | null>(null);
  /** Whether they are what was searched for, and not all there are: while a search is under way they are of the one before. */
  const found = ref(false);
  const problem = ref<string | null>(null);
  let pending: AbortController | null = null;
  const asked = new Set<number>();

  const anyFilter = computed(() => Object.values(filters.value).some((values) => values.length > 0));
  const searching = computed(() => words.value.trim() !== '' || melody.value.trim() !== '' || anyFilter.value);
  const melodyReady = computed(() => melody.value.trim() === '' || readMelodyQuery(melody.value) !== null);

  const query = () => ({
    words: words.value,
    melody: melodyReady.value ? melody.value : '',
    sort: sort.value,
    ...filters.value,
  });

  /** Asks anew from the top. */
  async function load(): Promise<void> {
    pending?.abort();
    const control = new AbortController();
    pending = control;
    asked.clear();
    asked.add(0);
    const searched = searching.value;
    // What can be filtered by may take longer than the tunes themselves.
    const filterable = api.facets();
    filterable.catch(() => undefined);
    try {
      const list = await api.tunes(query(), control.signal);
      if (control.signal.aborted) return;
      rows.value = [...list.tunes, ...Array.from({ length: list.total - list.tunes.length }, () => null)];
      found.value = searched;
      problem.value = null;
      const now = await filterable;
      if (control.signal.aborted) return;
      facets.value = now;
      if (now.waiting > 0) lookAgain(control);
    } catch (error) {
      if (!control.signal.aborted) problem.value = messageOf(error);
    }
  }

  /** While forms are being worked out, what can be filtered by grows; what is shown is asked for again at the end. */
  function lookAgain(control: AbortController): void {
    setTimeout(async () => {
      if (control.signal.aborted) return;
      const now = await api.facets().catch(() => null);
      if (control.signal.aborted || !now) return;
      facets.value = now;
      if (now.waiting > 0) lookAgain(control);
      else await load();
    }, LOOK_AGAIN_MS);
  }

  /** Loads the page that holds a place of the list, once. */
  async function show(index: number): Promise<void> {
    const page = Math.floor(index / PAGE);
    if (asked.has(page) || !rows.value) return;
    asked.add(page);
    const control = pending;
    try {
      const { tunes } = await api.tunes({ ...query(), offset: page * PAGE }, control?.signal);
      if (control?.signal.aborted || !rows.value) return;
      const next = [...rows.value];
      tunes.forEach((tune, place) => (next[page * PAGE + place] = tune));
      rows.value = next;
    } catch (error) {
      asked.delete(page);
      if (!control?.signal.aborted) problem.value = messageOf(error);
    }
  }

  watchDebounced([words, melody], load, { debounce: 120 });
  watch([sort, filters], load, { deep: true });

  function clear(): void {
    words.value = '';
    melody.value = '';
    filters.value = noFilters();
  }

  async function rename(tune: TuneSummary, title: string): Promise<void> {
    const change = { fields: { before: { title: tune.title }, after: { title } } };
    await attempt(() => api.edit(tune.id, tune.revision, change, 'rename', newId()));
  }

  async function tag(tune: TuneSummary, tags: readonly string[]): Promise<void> {
    await attempt(() => api.tag(tune.id, tags));
  }

  async function remove(tune: TuneSummary): Promise<void> {
    const done = await attempt(() => api.remove(tune.id));
    if (done) {
      messages.say({
        text: `“${tune.title}” was deleted.`,
        timeout: 15_000,
        action: { label: 'Undo', run: () => void attempt(() => api.restore(tune.id)) },
      });
    }
  }

  async function attempt(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      return true;
    } catch (error) {
      messages.say({ text: messageOf(error) });
      return false;
    } finally {
      await load();
    }
  }

  /** The tune whose name or tags are being written, and what was written so far. */
  const editing = ref<{ id: string; what: 'title' | 'tags'; text: string } | null>(null);

  return {
    editing,
    scrolled,
    words,
    melody,
    melodyReady,
    sort,
    filters,
    facets,
    rows,
    found,
    problem,
    searching,
    load,
    show,
    clear,
    rename,
    tag,
    remove,
  };
});

/** The book that is being put together: its tunes in their order, for whom, on which paper; books kept under a name. */
import { v4 as newId } from 'uuid';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { BookProgress, TuneSummary } from '@nokta/api';
import type { Kept, Player } from '@nokta/core/files';
import type { Binding, Paper } from '@nokta/core/paper';
import { api, messageOf } from '../api/client.ts';
import { useKept } from '../kept/store.ts';
import { useLook } from '../settings/look.ts';
import { useWindowStorage } from '../settings/windowStorage.ts';

export interface BookTune {
  readonly id: string;
  readonly title: string;
}

export interface BookDraft {
  readonly title: string;
  /** Under the title: who made it, which term. */
  readonly line: string;
  readonly tunes: readonly BookTune[];
  /** An edition for each; one as the tunes are arranged where nobody is named. */
  readonly players: readonly Player[];
  readonly paper: Paper;
  readonly binding: Binding;
  readonly warmUps: boolean;
}

const EMPTY: BookDraft = {
  title: '',
  line: '',
  tunes: [],
  players: [],
  paper: 'a4',
  binding: 'pages',
  warmUps: false,
};
/** How often is asked how far it is. */
const LOOK_MS = 700;

export const useBook = defineStore('book', () => {
  const kept = useKept();
  const look = useLook();
  /** Kept for this window: after a reload, and after a look at a tune, the book is as it was. */
  const draft = useWindowStorage<BookDraft>('nokta-book', EMPTY);
  const books = computed(() => kept.of('book'));
  /** How far it is; null while none is made. */
  const progress = ref<BookProgress | null>(null);
  const problem = ref('');
  const control = shallowRef<AbortController | null>(null);

  const change = (some: Partial<BookDraft>): void => void (draft.value = { ...draft.value, ...some });
  function add({ id, title }: Pick<TuneSummary, 'id' | 'title'>): void {
    if (!draft.value.tunes.some((one) => one.id === id)) change({ tunes: [...draft.value.tunes, { id, title }] });
  }
  const drop = (id: string): void => change({ tunes: draft.value.tunes.filter((one) => one.id !== id) });
  function move(from: number, to: number): void {
    const tunes = [...draft.value.tunes];
    const [tune] = tunes.splice(from, 1);
    if (!tune || to < 0 || to > tunes.length) return;
    tunes.splice(to, 0, tune);
    change({ tunes });
  }

  /** @returns the file; null where it was called off or could not be made, which is said */
  async function make(): Promise<Blob | null> {
    const { title, tunes, players, paper, binding, warmUps, line } = draft.value;
    const run = newId();
    const own = (control.value = new AbortController());
    problem.value = '';
    progress.value = { done: 0, total: tunes.length * Math.max(1, players.length) };
    const watching = setInterval(() => {
      void api.bookProgress(run).then(
        (found) => (progress.value = control.value === own ? found : progress.value),
        () => undefined,
      );
    }, LOOK_MS);
    try {
      const style = { ...look.style, paper, landscape: false, phrase: null };
      const ids = tunes.map(({ id }) => id);
      return await api.makeBook(
        { run, title: title.trim() || 'Tunes', line, tunes: ids, players: [...players], style, binding, warmUps },
        own.signal,
      );
    } catch (error) {
      if (!own.signal.aborted) problem.value = messageOf(error);
      return null;
    } finally {
      clearInterval(watching);
      progress.value = null;
      control.value = null;
    }
  }

  /** Under its title, to be made again. */
  function keep(): Promise<boolean> {
    const { title, line, tunes, players, paper, binding, warmUps } = draft.value;
    const value = { line, tunes: tunes.map(({ id }) => id), players: [...players], paper, binding, warmUps };
    return kept.keep('book', title, value);
  }

  /** A kept book on the table; tunes that are gone are left out, and said. */
  async function open({ name, value }: Kept<'book'>): Promise<void> {
    const found = await Promise.all(value.tunes.map((id) => api.tune(id).catch(() => null)));
    const tunes = found.flatMap((one) => (one ? [{ id: one.id, title: one.tune.title }] : []));
    const gone = value.tunes.length - tunes.length;
    problem.value = gone > 0 ? `${gone} of its tunes ${gone === 1 ? 'is' : 'are'} not in the library any more.` : '';
    const { line, players, paper, binding, warmUps } = value;
    draft.value = { title: name, line, tunes, players, paper, binding, warmUps };
  }

  return {
    draft,
    books,
    progress,
    problem,
    change,
    add,
    drop,
    move,
    make,
    callOff: () => control.value?.abort(),
    keep,
    open,
    clear: () => void (draft.value = EMPTY),
    forget: (id: string) => kept.drop(id),
  };
});

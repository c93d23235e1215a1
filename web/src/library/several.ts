/** Many tunes on their way in: each is read in a worker and looked at. Nothing is kept until that is said. */
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { BATCH, type AlikeTune } from '@nokta/api';
import type { LookedAt } from '@nokta/core/files';
import type { Problem } from '@nokta/core/formats';
import { api } from '../api/client.ts';
import { TOO_LONG, inTime, openInWorker, type ReadingFile } from '../workers/files.ts';

/** What becomes of a tune: it is kept as its own, only its name goes to the one that is here, or it stays out. */
export type Take = 'own' | 'name' | 'out';

export interface SeenTune extends Omit<LookedAt, 'melody'> {
  readonly key: number;
  readonly file: string;
  /** Tunes that are here and sound the same, most alike first. */
  readonly alike: readonly AlikeTune[];
}

/** Something to tell of a tune or file: why it was left out, or what could not be carried over. */
export interface Told {
  readonly title: string;
  readonly file: string;
  readonly reason: string;
}

const textOf = ({ message, line, column }: Problem) =>
  line === undefined ? message : `Line ${line}, column ${column ?? 1}: ${message}`;
const wordsOf = (problems: readonly Problem[]) => problems.map(textOf).join(' ');

/** @param open opens a file in a worker; tests read here and now */
export function useSeveral(open: typeof openInWorker = openInWorker) {
  const known = shallowRef<readonly SeenTune[]>([]);
  const fresh = shallowRef<readonly SeenTune[]>([]);
  const unread = shallowRef<readonly Told[]>([]);
  const notices = shallowRef<readonly Told[]>([]);
  /** Where it is not simply kept as its own. */
  const takes = ref<ReadonlyMap<number, Take>>(new Map());
  const total = ref(0);
  const reading = ref(false);
  let turn = new AbortController();
  let last = 0;

  const seen = computed(() => known.value.length + fresh.value.length + unread.value.length);
  const takeOf = (key: number): Take => takes.value.get(key) ?? 'own';
  const taken = computed(() => [...known.value, ...fresh.value].filter(({ key }) => takeOf(key) !== 'out'));

  function take(keys: readonly number[], how: Take): void {
    takes.value = new Map([...takes.value, ...keys.map((key) => [key, how] as const)]);
  }

  function leave(title: string, file: string, reason: string): void {
    unread.value = [...unread.value, { title, file, reason }];
  }

  /** Ends the reading; what was read stays on show. */
  function stop(): void {
    turn.abort();
    reading.value = false;
  }

  function clear(): void {
    stop();
    known.value = [];
    fresh.value = [];
    unread.value = [];
    notices.value = [];
    takes.value = new Map();
    total.value = 0;
  }
  onScopeDispose(stop);

  async function read(sources: readonly (File | string)[]): Promise<void> {
    clear();
    turn = new AbortController();
    const { signal } = turn;
    // Whoever ends the reading ends the worker, which then answers no more.
    const over = ended(signal);
    reading.value = true;
    for (const source of sources) {
      await readAll(source, signal, over);
      if (signal.aborted) return;
    }
    reading.value = false;
  }

  async function readAll(source: File | string, signal: AbortSignal, over: Promise<null>): Promise<void> {
    const name = typeof source === 'string' ? 'Pasted text' : source.name;
    const opened = await open(source, signal);
    if (signal.aborted) return opened.ok ? opened.file.close() : undefined;
    if (!opened.ok) {
      total.value += 1;
      return leave(name, name, wordsOf(opened.problems));
    }
    const { file, contents } = opened;
    const end = () => file.close();
    signal.addEventListener('abort', end, { once: true });
    total.value += contents.tunes.length;
    try {
      for (let from = 0; from < contents.tunes.length && !signal.aborted; from += BATCH) {
        const batch = contents.tunes.slice(from, from + BATCH);
        if (!(await readBatch(file, batch, name, signal, over))) {
          // Its worker is gone, and with it the rest of this file.
          const unseen = contents.tunes.length - from - BATCH;
          total.value -= Math.max(0, unseen);
          return;
        }
      }
    } finally {
      signal.removeEventListener('abort', end);
      file.close();
    }
  }

  /** @returns whether the file can be read further */
  async function readBatch(
    file: ReadingFile,
    batch: readonly { readonly number: number; readonly title: string }[],
    name: string,
    signal: AbortSignal,
    over: Promise<null>,
  ): Promise<boolean> {
    const looked: LookedAt[] = [];
    let goesOn = true;
    for (const [index, { number, title }] of batch.entries()) {
      const read = await Promise.race([inTime(file, (service) => Promise.resolve(service.look(number))), over]);
      if (read === null) return false;
      if (read === TOO_LONG) {
        const rest = 'Reading it took too long and was ended. The tunes after it in this file were not read.';
        leave(title, name, rest);
        total.value -= batch.length - index - 1;
        goesOn = false;
        break;
      }
      if (!read.ok) {
        leave(title, name, wordsOf(read.problems));
        continue;
      }
      looked.push(read.value);
      const said = read.notices.map((notice) => ({ title, file: name, reason: textOf(notice) }));
      if (said.length > 0) notices.value = [...notices.value, ...said];
    }
    await show(looked, name, signal);
    return goesOn;
  }

  /** A library that does not answer knows none of them: they can still be looked at. */
  async function show(looked: readonly LookedAt[], name: string, signal: AbortSignal): Promise<void> {
    if (looked.length === 0) return;
    const found = await api.alike(looked.map(({ melody }) => melody)).catch(() => []);
    if (signal.aborted) return;
    const rows = looked.map(({ melody: _, ...one }, index): SeenTune => {
      last += 1;
      return { ...one, key: last, file: name, alike: found[index] ?? [] };
    });
    known.value = [...known.value, ...rows.filter(({ alike }) => alike.length > 0)];
    fresh.value = [...fresh.value, ...rows.filter(({ alike }) => alike.length === 0)];
  }

  return { known, fresh, unread, notices, total, seen, reading, taken, takeOf, take, read, stop, clear };
}

function ended(signal: AbortSignal): Promise<null> {
  return new Promise((resolve) => {
    if (signal.aborted) resolve(null);
    else signal.addEventListener('abort', () => resolve(null), { once: true });
  });
}

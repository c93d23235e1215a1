/**
 * The outbox: everything that was changed and has not reached the server, kept in the browser until it has. It
 * survives a reload and a stopped server, and goes out by itself when the server is back.
 */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { until } from '@vueuse/core';
import { v4 as newId } from 'uuid';
import { del, entries as stored, set, createStore } from 'idb-keyval';
import { RefusedError, messageOf } from '../api/client.ts';
import type { AnyRecord } from '@nokta/api';
import { takingTurns, type TakeTurn } from '../turns/turns.ts';
import { kindOf } from './kinds.ts';
import {
  deliveryOf,
  keyOf,
  newEntry,
  readEntry,
  taken,
  withoutEqual,
  type Answered,
  type Delivery,
  type Entry,
  type Queue,
  type RecordRef,
} from './queue.ts';

/** Where rows are kept; replaced in tests. */
export interface Shelf {
  /** What pages that are gone have left, by its key; nothing where another page sees to it. */
  left(): Promise<readonly (readonly [string, Queue])[]>;
  put(key: string, queue: Queue): Promise<void>;
  remove(key: string): Promise<void>;
}

/** Two windows keep rows for one record side by side. */
const PAGE = newId();
const ownKey = (key: string) => `${PAGE}/${key}`;

/** Where nothing can be kept: rows live with the page. */
const NO_SHELF: Shelf = {
  left: () => Promise.resolve([]),
  put: () => Promise.resolve(),
  remove: () => Promise.resolve(),
};

/**
 * The browser's own database.
 * @returns null where it has none: private windows and blocked storage of some browsers, where even asking throws
 */
function browserShelf(): Shelf | null {
  try {
    if (typeof indexedDB === 'undefined') return null;
    const store = createStore('nokta', 'outbox');
    return {
      left: async () => ((await isFirstWindow()) ? stored<string, Queue>(store) : []),
      put: (key, queue) => set(key, queue, store),
      remove: (key) => del(key, store),
    };
  } catch {
    return null;
  }
}

/** Milliseconds for the browser's database to open, and for a row to be written: one that answers never keeps nobody waiting. */
const OPENS_IN = 1_500;
const WRITES_IN = 5_000;

/** @throws where it takes longer */
function within<T>(ms: number, work: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error('The browser’s database does not answer.')), ms);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}

/** Of several windows the first sees to what is left; the lock is its own until it is closed. */
function isFirstWindow(): Promise<boolean> {
  if (!('locks' in navigator)) return Promise.resolve(true);
  return new Promise((resolve) => {
    void navigator.locks.request('nokta-outbox', { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock && new Promise(() => undefined);
    });
  });
}

/** Milliseconds until a server that does not answer is asked again: longer each time. */
const AGAIN = [500, 1_000, 2_000, 4_000, 8_000];

/**
 * @param now the record as the server has it
 * @param others whether it has more than what was sent: then it is not what is on screen
 */
export type Arrived = (record: RecordRef, now: AnyRecord, left: Queue | null, others: boolean) => void;

/** Where the browser's database is closed to us. */
export const UNKEPT = 'This browser keeps nothing for Nokta: leave this window open until it is saved.';

export const useOutbox = defineStore('outbox', () => {
  const ownShelf = browserShelf();
  let shelf = ownShelf ?? NO_SHELF;
  /** Whether what waits would outlive this page. */
  const keeps = ref(ownShelf !== null);
  const queues = shallowRef<ReadonlyMap<string, Queue>>(new Map());
  const stopped = shallowRef<string | null>(null);
  /** Why nothing goes out at the moment, and what is not safe meanwhile; null while it does. */
  const problem = computed(() => stopped.value && [stopped.value, ...(keeps.value ? [] : [UNKEPT])].join(' '));
  /** Rows of an earlier page that came when their tune was open already: nobody has seen them. */
  const unseen = new Set<string>();
  const sending = new Set<string>();
  const listeners = new Set<Arrived>();
  let failures = 0;
  let again: ReturnType<typeof setTimeout> | undefined;
  /** One change of a tune is on its way at a time, so that undo finds them in the order in which they were made. */
  const turns = new Map<string, TakeTurn>();
  let begun: Promise<void> | null = null;
  /** Rows are written to the shelf one after the other. */
  const shelving = takingTurns();

  const queueOf = (record: RecordRef): Queue | null => queues.value.get(keyOf(record)) ?? null;

  function put(queue: Queue | null, key: string): void {
    const next = new Map(queues.value);
    if (queue) next.set(key, queue);
    else next.delete(key);
    queues.value = next;
    shelve(() => (queue ? shelf.put(ownKey(key), queue) : shelf.remove(ownKey(key))));
  }

  /** A browser that keeps nothing is no reason not to send; but it is told. */
  function shelve(work: () => Promise<void>): void {
    void shelving(() => within(WRITES_IN, work())).then(
      () => (keeps.value = shelf !== NO_SHELF),
      () => (keeps.value = false),
    );
  }

  /** Takes up what an earlier page left, and sends it; once. */
  function begin(own: Shelf = shelf): Promise<void> {
    begun ??= takeUp(own);
    return begun;
  }

  async function takeUp(own: Shelf): Promise<void> {
    shelf = own;
    const rows = shelf.left();
    try {
      takeOver(await within(OPENS_IN, rows));
    } catch {
      keeps.value = false;
      // It may only be slow: what it brings later goes out then.
      rows.then(
        (late) => {
          for (const [, { record }] of late) unseen.add(keyOf(record));
          takeOver(late);
        },
        () => undefined,
      );
    }
  }

  function takeOver(rows: readonly (readonly [string, Queue])[]): void {
    keeps.value = shelf !== NO_SHELF;
    for (const [stood, left] of rows) {
      const queue = { ...left, entries: left.entries.map(readEntry) };
      const key = keyOf(queue.record);
      const known = queues.value.get(key);
      put(known ? { ...known, entries: [...queue.entries, ...known.entries], revision: queue.revision } : queue, key);
      shelve(() => shelf.remove(stood));
    }
    pumpAll();
  }

  /** @param revision the server's, where nothing waits for the record yet */
  function add(
    record: RecordRef,
    of: { tuneId: string; title: string; revision: number },
    change: Omit<Entry, 'id'>,
  ): void {
    const key = keyOf(record);
    const known = queues.value.get(key);
    const queue = known ?? { record, ...of, entries: [], held: null };
    put({ ...queue, entries: [...queue.entries, newEntry(change)] }, key);
    void pump(key);
  }

  const pumpAll = () => [...queues.value.keys()].forEach((key) => void pump(key));

  /** Sends a row until it is empty, or something stands in its way. */
  async function pump(key: string): Promise<void> {
    if (sending.has(key)) return;
    sending.add(key);
    try {
      for (let queue = queues.value.get(key); queue && !queue.held; queue = queues.value.get(key)) {
        const answer = await inTurn(queue);
        if (!answer) break;
        if (answer === 'done') sent(key);
        else arrived(key, answer);
        answers();
      }
    } catch (error) {
      failed(key, error);
    } finally {
      sending.delete(key);
    }
  }

  /** The server is there: what waited for it need not wait longer. */
  function answers(): void {
    failures = 0;
    if (stopped.value === null) return;
    stopped.value = null;
    clearTimeout(again);
    again = undefined;
    queueMicrotask(pumpAll);
  }

  /** @returns null where the row was given up, or held, while others had their turn */
  function inTurn({ tuneId, record }: Queue): Promise<Answered | 'done' | null> {
    const turn = turns.get(tuneId) ?? takingTurns();
    turns.set(tuneId, turn);
    return turn(() => {
      const now = queueOf(record);
      return now && !now.held ? send(now) : null;
    });
  }

  function arrived(key: string, { made, others, ...now }: Answered): void {
    // More may have been added while it was on its way.
    const queue = queues.value.get(key);
    // What waits was made without what others put in meanwhile: it still builds on what was known here.
    if (!queue) return;
    const hasTheirs = others && now.revision === made;
    shorten(queue, taken(queue, hasTheirs ? queue.revision : made), now, others || unseen.has(key));
  }

  /** What changes nothing of the record itself has arrived. */
  function sent(key: string): void {
    const queue = queues.value.get(key);
    if (queue) put(taken(queue, queue.revision), key);
  }

  function shorten(queue: Queue, left: Queue | null, now: AnyRecord, others: boolean): void {
    put(left, keyOf(queue.record));
    if (!left) unseen.delete(keyOf(queue.record));
    for (const listener of listeners) listener(queue.record, now, left, others);
  }

  function failed(key: string, error: unknown): void {
    const queue = queues.value.get(key);
    if (!queue) return;
    if (!(error instanceof RefusedError) || error.status >= 500) {
      stopped.value = messageOf(error);
      again ??= setTimeout(
        () => {
          again = undefined;
          pumpAll();
        },
        AGAIN[Math.min(failures, AGAIN.length - 1)],
      );
      failures += 1;
      return;
    }
    const theirs = error.body.current;
    const left = theirs ? withoutEqual(queue, theirs) : queue;
    if (theirs && left !== queue) {
      shorten(queue, left, theirs, false);
      queueMicrotask(() => void pump(key));
    } else put({ ...queue, held: theirs ? { why: 'stale', theirs } : { why: 'refused', message: error.message } }, key);
  }

  /** Sends again now, whatever was in the way. */
  function retry(): void {
    clearTimeout(again);
    again = undefined;
    stopped.value = null;
    for (const [key, queue] of queues.value) if (queue.held?.why === 'refused') put({ ...queue, held: null }, key);
    pumpAll();
  }

  /** What waits is given up; the server's state counts. */
  function drop(key: string): void {
    put(null, key);
  }
  /** The same for everything that waits for a tune. */
  const dropTune = (tuneId: string) => ofTune(tuneId).forEach(({ record }) => drop(keyOf(record)));

  /** What waits becomes one change on top of what the server has now. */
  function rebase(key: string, revision: number, change: Omit<Entry, 'id'>): void {
    const queue = queues.value.get(key);
    if (!queue) return;
    put({ ...queue, revision, entries: [newEntry(change)], held: null }, key);
    void pump(key);
  }

  const ofTune = (tuneId: string): readonly Queue[] =>
    [...queues.value.values()].filter((queue) => queue.tuneId === tuneId);
  const delivery = (tuneId: string): Delivery => deliveryOf(ofTune(tuneId), stopped.value !== null);

  /** Waits until nothing of a tune is on its way, or it cannot go on. @returns whether all has arrived */
  async function settled(tuneId: string): Promise<boolean> {
    await until(() => delivery(tuneId) === 'saving').toBe(false, { flush: 'sync' });
    return delivery(tuneId) === 'saved';
  }

  function onArrived(listener: Arrived): () => void {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  }

  return {
    queues,
    problem,
    keeps,
    begin,
    add,
    retry,
    drop,
    dropTune,
    rebase,
    settled,
    queueOf,
    ofTune,
    delivery,
    onArrived,
  };
});

/** @returns 'done' where the record is not answered with */
async function send({ record, revision, entries: [entry] }: Queue): Promise<Answered | 'done'> {
  const { id, label, change, value, append, remove } = entry!;
  const kind = kindOf(record.kind);
  if (append) await kind.api.append(record.id, append);
  else if (remove) await kind.api.remove(record.id);
  else return kind.send(record, revision, change ?? null, { label, entry: id, value });
  return 'done';
}

/** The outbox: what waits, survives, arrives in order, and what stands in its way. */
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ArrangementRecord, TuneState } from '@nokta/api';
import { FIRST_DECISIONS, decided, type Decisions } from '@nokta/core/arrange';
import { RefusedError, UnreachableError, api } from '../api/client.ts';
import { NO_STEPS, tune } from '../desk/test/server.ts';
import { useOutbox, type Shelf } from './outbox.ts';
import { deliveryOf, keyOf, newEntry, taken, withWaiting, withoutEqual, type Entry, type Queue } from './queue.ts';

const at = (tempo: number): Entry =>
  newEntry({ label: `tempo ${tempo}`, value: decided(FIRST_DECISIONS, { pace: { tempo } }) });
const A1 = { kind: 'arrangement', id: 'a1' } as const;
const T1 = { kind: 'tune', id: 't1' } as const;
const ORIGIN = { tuneId: 't1', title: 'Trial', revision: 1 };
const queue = (entries: readonly Entry[], more: Partial<Queue> = {}): Queue => ({
  record: A1,
  ...ORIGIN,
  entries,
  held: null,
  ...more,
});
const record = (tempo: number, revision: number): ArrangementRecord => ({
  id: 'a1',
  tuneId: 't1',
  decisions: at(tempo).value as Decisions,
  revision,
  ...NO_STEPS,
  undo: `tempo ${tempo}`,
});

/** A browser's database that outlives its page. */
function shelf(kept = new Map<string, Queue>()): Shelf & { readonly kept: Map<string, Queue> } {
  return {
    kept,
    left: () => Promise.resolve([...kept.entries()].map(([key, one]) => [`old/${key}`, one] as const)),
    put: (key, one) => Promise.resolve(void kept.set(key, structuredClone(one))),
    remove: (key) => Promise.resolve(void kept.delete(key)),
  };
}

/** Answers as the server does; the first ones may fail. */
function serve(...failures: Error[]) {
  let revision = 1;
  return vi.spyOn(api, 'decide').mockImplementation(async (_, known, decisions, label) => {
    await Promise.resolve();
    const failure = failures.shift();
    if (failure) throw failure;
    if (known !== revision) throw new RefusedError(409, { error: 'late', current: record(1, revision) });
    revision += 1;
    return { ...record(0, revision), decisions: decisions as Decisions, undo: label, made: revision, others: false };
  });
}

/** What is told of each arrival: the revision that is there, how many still wait, whether there is more than was sent. */
function arrivals(outbox: ReturnType<typeof useOutbox>): readonly (readonly [number, number, boolean])[] {
  const seen: [number, number, boolean][] = [];
  outbox.onArrived((_, now, left, others) => seen.push([now.revision, left?.entries.length ?? 0, others]));
  return seen;
}

beforeEach(() => {
  vi.restoreAllMocks();
  // An outbox that waits for the server asks again by itself: of a slow test's time it must know nothing, nor go on
  // asking in the next test.
  vi.useFakeTimers();
  setActivePinia(createPinia());
});
afterEach(() => {
  vi.useRealTimers();
});

const settled = () => vi.advanceTimersByTimeAsync(5);

describe('a row', () => {
  it('goes out in order, each change on the one before', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const decide = serve();
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(A1, ORIGIN, at(70));
    outbox.add(A1, ORIGIN, at(80));
    expect(outbox.delivery('t1')).toBe('saving');
    expect(await outbox.settled('t1')).toBe(true);
    expect(decide.mock.calls.map(([, revision, , label]) => `${revision} ${label}`)).toEqual([
      '1 tempo 60',
      '2 tempo 70',
      '3 tempo 80',
    ]);
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('survives the page, and goes out from the next one', async () => {
    const kept = shelf();
    const first = useOutbox();
    await first.begin(kept);
    const decide = serve(new UnreachableError());
    first.add(A1, ORIGIN, at(60));
    first.add(A1, ORIGIN, at(70));
    await settled();
    expect(first.delivery('t1')).toBe('waiting');
    expect([...kept.kept.values()].map(({ entries }) => entries.length)).toEqual([2]);
    setActivePinia(createPinia());
    const second = useOutbox();
    await second.begin(kept);
    expect(await second.settled('t1')).toBe(true);
    expect(decide).toHaveBeenCalledTimes(3);
    await settled();
    expect(kept.kept.size).toBe(0);
  });

  it('goes out by itself when the server is back', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const decide = serve(new UnreachableError(), new UnreachableError());
    outbox.add(A1, ORIGIN, at(60));
    await vi.advanceTimersByTimeAsync(100);
    expect(outbox.problem).toContain('does not answer');
    await vi.advanceTimersByTimeAsync(5_000);
    expect(decide).toHaveBeenCalledTimes(3);
    expect(outbox.problem).toBeNull();
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('sends a change again under its own id, and builds on what it made where only the answer was lost', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const seen = arrivals(outbox);
    const decide = vi
      .spyOn(api, 'decide')
      .mockRejectedValueOnce(new UnreachableError())
      .mockResolvedValueOnce({ ...record(60, 2), made: 2, others: false })
      .mockResolvedValueOnce({ ...record(70, 3), made: 3, others: false });
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(A1, ORIGIN, at(70));
    await vi.advanceTimersByTimeAsync(1_000);
    const [first, again, next] = decide.mock.calls.map(([, revision, , , entry]) => [revision, entry]);
    expect(again).toEqual(first);
    expect(next![0]).toBe(2);
    expect(next![1]).not.toBe(first![1]);
    expect(seen).toEqual([
      [2, 1, false],
      [3, 0, false],
    ]);
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('still builds on what was known here where what was sent was laid over what others made', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const decide = vi
      .spyOn(api, 'decide')
      .mockResolvedValueOnce({ ...record(60, 3), made: 3, others: true })
      .mockResolvedValueOnce({ ...record(70, 4), made: 4, others: true });
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(A1, ORIGIN, at(70));
    await settled();
    expect(decide.mock.calls.map(([, revision]) => revision)).toEqual([1, 1]);
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('tells that others have written on top of what arrived unanswered, and never writes over them', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const seen = arrivals(outbox);
    const decide = vi
      .spyOn(api, 'decide')
      .mockResolvedValueOnce({ ...record(50, 4), made: 2, others: true })
      .mockRejectedValueOnce(new RefusedError(409, { error: 'late', current: record(50, 4) }));
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(A1, ORIGIN, at(70));
    await settled();
    // The second builds on the first and not on what it has not seen: both sides are shown.
    expect(decide.mock.calls.map(([, revision]) => revision)).toEqual([1, 2]);
    expect(seen).toEqual([[4, 1, true]]);
    expect(outbox.queueOf(A1)!.held).toMatchObject({ why: 'stale', theirs: { revision: 4 } });
  });

  it('never takes a change of another window for its own, however alike it looks', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const theirs: TuneState = {
      id: 't1',
      revision: 2,
      ...NO_STEPS,
      undo: 'rename',
      tune: { ...tune, title: 'theirs' },
    };
    vi.spyOn(api, 'edit').mockRejectedValueOnce(
      new RefusedError(409, {
        error: 'late',
        current: theirs,
      }),
    );
    outbox.add(T1, ORIGIN, { label: 'rename', change: {}, value: { ...tune, title: 'mine' } });
    await settled();
    expect(outbox.delivery('t1')).toBe('held');
    expect(outbox.queueOf(T1)!.entries).toHaveLength(1);
  });

  it('that the server refuses is held with its words, and given up only when asked', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    serve(new RefusedError(422, { error: 'This change does not fit.' }));
    outbox.add(A1, ORIGIN, at(60));
    await settled();
    expect(outbox.queueOf(A1)!.held).toEqual({ why: 'refused', message: 'This change does not fit.' });
    expect(outbox.delivery('t1')).toBe('held');
    outbox.drop(keyOf(A1));
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('waits where the disk is full, and goes out when there is room', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    serve(new RefusedError(507, { error: 'The disk is full: this was not saved.' }));
    outbox.add(A1, ORIGIN, at(60));
    await settled();
    expect(outbox.problem).toContain('The disk is full');
    outbox.retry();
    await settled();
    expect(outbox.delivery('t1')).toBe('saved');
  });
});

describe('two rows', () => {
  const state: TuneState = { id: 't1', revision: 2, tune, ...NO_STEPS };
  const rename: Entry = {
    id: 'e1',
    label: 'rename',
    change: { fields: { before: { title: 'a' }, after: { title: 'b' } } },
    value: tune,
  };

  it('do not save for each other: one that arrived hides none that waits', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    serve(new UnreachableError(), new UnreachableError());
    vi.spyOn(api, 'edit').mockResolvedValue({ ...state, made: 2, others: false });
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(T1, ORIGIN, rename);
    await settled();
    expect(outbox.queueOf(T1)).toBeNull();
    expect(outbox.queueOf(A1)!.entries).toHaveLength(1);
    expect(outbox.delivery('t1')).not.toBe('saved');
  });

  it('of two tunes are waited for each by itself, and given up together', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    serve(new RefusedError(404, { error: 'This arrangement is not here any more.' }));
    outbox.add(A1, ORIGIN, at(60));
    expect(await outbox.settled('t1')).toBe(false);
    expect(await outbox.settled('t2')).toBe(true);
    outbox.dropTune('t1');
    expect(await outbox.settled('t1')).toBe(true);
  });

  it('of one tune take turns, so that undo finds them in their order', async () => {
    const outbox = useOutbox();
    await outbox.begin(shelf());
    const order: string[] = [];
    vi.spyOn(api, 'decide').mockImplementation(async () => {
      await new Promise((resolve) => setTimeout(resolve, 4));
      order.push('decide');
      return { ...record(60, 2), made: 2, others: false };
    });
    vi.spyOn(api, 'edit').mockImplementation(() => {
      order.push('edit');
      return Promise.resolve({ ...state, made: 2, others: false });
    });
    outbox.add(A1, ORIGIN, at(60));
    outbox.add(T1, ORIGIN, rename);
    await settled();
    expect(await outbox.settled('t1')).toBe(true);
    expect(order).toEqual(['decide', 'edit']);
  });
});

describe('rows by themselves', () => {
  it('have nothing to ask where both sides say the same, in whatever order their keys stand', () => {
    const locks = (ids: readonly string[]) => Object.fromEntries(ids.map((id) => [id, { finger: 1 }]));
    const of = (ids: readonly string[]) => ({
      ...FIRST_DECISIONS,
      hand: { ...FIRST_DECISIONS.hand, locks: locks(ids) },
    });
    const row = queue([newEntry({ label: 'lock', value: of(['n10', 'n2']) as never }), at(70)]);
    const theirs = { ...record(60, 5), decisions: of(['n2', 'n10']) as never };
    expect(withoutEqual(row, theirs)).toMatchObject({ revision: 5, entries: [{ label: 'tempo 70' }], held: null });
    expect(withoutEqual({ ...row, entries: row.entries.slice(0, 1) }, theirs)).toBeNull();
    expect(withoutEqual(row, record(60, 2))).toBe(row);
  });

  it('get shorter, and end', () => {
    expect(taken(queue([at(60), at(70)]), 2)).toMatchObject({ revision: 2, entries: [{ label: 'tempo 70' }] });
    expect(taken(queue([at(60)]), 2)).toBeNull();
  });

  it('show the tune as it was left', () => {
    const opened = {
      id: 't1',
      title: tune.title,
      revision: 1,
      tune,
      tags: [],
      aside: 0,
      ...NO_STEPS,
      arrangements: [record(1, 1)],
    };
    const renamed = { ...tune, title: 'b' };
    const rows = [queue([at(60), at(70)]), queue([newEntry({ label: 'x', value: renamed })], { record: T1 })];
    const shown = withWaiting(opened, rows);
    expect(shown.title).toBe('b');
    expect(shown.arrangements[0]!.decisions.pace.tempo).toBe(70);
    expect(withWaiting(opened, [])).toEqual(opened);
  });

  it('count by the worst of them', () => {
    expect(deliveryOf([], true)).toBe('saved');
    expect(deliveryOf([queue([at(60)])], false)).toBe('saving');
    expect(deliveryOf([queue([at(60)])], true)).toBe('waiting');
    expect(deliveryOf([queue([at(60)], { held: { why: 'refused', message: '' } })], true)).toBe('held');
  });
});

describe('where the browser keeps nothing', () => {
  const never = <T>() => new Promise<T>(() => undefined);

  it('opens and sends though its database never answers, and says what is not safe', async () => {
    const outbox = useOutbox();
    const begun = outbox.begin({ left: never, put: never, remove: never });
    await vi.advanceTimersByTimeAsync(2_000);
    await begun;
    expect(outbox.keeps).toBe(false);
    const decide = serve(new UnreachableError());
    outbox.add(A1, ORIGIN, at(60));
    await settled();
    expect(outbox.delivery('t1')).toBe('waiting');
    expect(outbox.problem).toContain('leave this window open');
    await vi.advanceTimersByTimeAsync(2_000);
    expect(decide).toHaveBeenCalledTimes(2);
    expect(outbox.delivery('t1')).toBe('saved');
  });

  it('tells of rows that cannot be written, and no more when they can', async () => {
    const outbox = useOutbox();
    let full = true;
    const put = () => (full ? Promise.reject(new Error('quota')) : Promise.resolve());
    await outbox.begin({ ...shelf(), put });
    expect(outbox.keeps).toBe(true);
    serve(new UnreachableError());
    outbox.add(A1, ORIGIN, at(60));
    await settled();
    expect(outbox.keeps).toBe(false);
    full = false;
    outbox.add(A1, ORIGIN, at(70));
    await settled();
    expect(outbox.keeps).toBe(true);
  });

  it('sends what a slow database brings late, and shows it as somebody else’s', async () => {
    const outbox = useOutbox();
    let bring: (rows: readonly (readonly [string, Queue])[]) => void = () => undefined;
    const left = () => new Promise<readonly (readonly [string, Queue])[]>((resolve) => (bring = resolve));
    const begun = outbox.begin({ ...shelf(), left });
    await vi.advanceTimersByTimeAsync(2_000);
    await begun;
    const seen: boolean[] = [];
    outbox.onArrived((_, __, ___, others) => seen.push(others));
    const decide = serve();
    bring([['old/a', queue([at(60)])]]);
    await settled();
    expect(decide).toHaveBeenCalledTimes(1);
    expect(seen).toEqual([true]);
    expect(outbox.keeps).toBe(true);
  });

  it('begins where even asking for the database throws', () => {
    vi.stubGlobal('indexedDB', undefined);
    Object.defineProperty(globalThis, 'indexedDB', {
      configurable: true,
      get() {
        throw new DOMException('denied', 'SecurityError');
      },
    });
    setActivePinia(createPinia());
    expect(useOutbox().keeps).toBe(false);
    Reflect.deleteProperty(globalThis, 'indexedDB');
    vi.unstubAllGlobals();
  });
});

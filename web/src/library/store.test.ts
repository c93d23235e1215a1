import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { PAGE, type ListQuery, type TuneSummary } from '@nokta/api';
import { api } from '../api/client.ts';
import { useMessages } from '../messages.ts';
import { useLibrary } from './store.ts';

const FACETS = { style: [], key: [], metre: [], form: [], trait: [], tag: [], waiting: 0 };
const summary = (number: number): TuneSummary => ({
  id: `t${number}`,
  title: `Tune ${number}`,
  alsoKnownAs: [],
  style: 'reel',
  composer: '',
  key: 'G major',
  metre: '4/4',
  bars: 16,
  parts: 'AABB',
  traits: [],
  played: 32,
  tags: [],
  settings: ['violin'],
  revision: 3,
  updatedAt: '2026-03-01T10:00:00Z',
  usedAt: '2026-03-01T10:00:00Z',
});

/** A server with so many tunes. */
function serve(total: number) {
  vi.spyOn(api, 'facets').mockResolvedValue(FACETS);
  return vi.spyOn(api, 'tunes').mockImplementation(({ offset = 0 }: ListQuery) => {
    const from = Number(offset);
    const count = Math.max(0, Math.min(PAGE, total - from));
    return Promise.resolve({ total, tunes: Array.from({ length: count }, (_, index) => summary(from + index)) });
  });
}

beforeEach(() => {
  setActivePinia(createPinia());
  vi.restoreAllMocks();
});
afterEach(() => vi.useRealTimers());

describe('a long list', () => {
  it('has a place for every tune, and loads a page when it comes into sight, once', async () => {
    const asked = serve(10_000);
    const library = useLibrary();
    await library.load();
    expect(library.rows).toHaveLength(10_000);
    expect(library.rows![PAGE]).toBeNull();
    await Promise.all([library.show(5 * PAGE + 3), library.show(5 * PAGE + 4)]);
    expect(library.rows![5 * PAGE]).toMatchObject({ title: `Tune ${5 * PAGE}` });
    expect(library.rows![4 * PAGE]).toBeNull();
    expect(asked).toHaveBeenCalledTimes(2);
  });

  it('asks again for a page that did not come', async () => {
    const asked = serve(200);
    const library = useLibrary();
    await library.load();
    asked.mockRejectedValueOnce(new Error('Nokta does not answer.'));
    await library.show(PAGE);
    expect(library.problem).toBe('Nokta does not answer.');
    await library.show(PAGE);
    expect(library.rows![PAGE]).not.toBeNull();
  });
});

it('asks again while forms are still being worked out, and shows them when they are', async () => {
  vi.useFakeTimers();
  const asked = serve(3);
  const facets = vi.spyOn(api, 'facets');
  facets.mockResolvedValueOnce({ ...FACETS, waiting: 2 }).mockResolvedValueOnce({ ...FACETS, waiting: 1 });
  const library = useLibrary();
  await library.load();
  expect(library.facets?.waiting).toBe(2);
  await vi.advanceTimersByTimeAsync(2600);
  expect(library.facets?.waiting).toBe(1);
  expect(asked).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(2600);
  expect(library.facets?.waiting).toBe(0);
  expect(asked).toHaveBeenCalledTimes(2);
});

describe('looking for tunes', () => {
  it('sends words, filters and order, and forgets them all at once', async () => {
    vi.useFakeTimers();
    const asked = serve(3);
    const library = useLibrary();
    library.words = 'lamp';
    library.filters.metre = ['6/8'];
    await vi.advanceTimersByTimeAsync(300);
    expect(asked).toHaveBeenLastCalledWith(
      expect.objectContaining({ words: 'lamp', metre: ['6/8'] }),
      expect.anything(),
    );
    expect(library.searching).toBe(true);
    library.clear();
    await vi.advanceTimersByTimeAsync(300);
    expect(asked).toHaveBeenLastCalledWith(expect.objectContaining({ words: '', metre: [] }), expect.anything());
    expect(library.searching).toBe(false);
  });

  it('waits with a melody until there is enough of it', async () => {
    vi.useFakeTimers();
    const asked = serve(3);
    const library = useLibrary();
    library.melody = 'G B';
    await vi.advanceTimersByTimeAsync(300);
    expect(library.melodyReady).toBe(false);
    expect(asked).toHaveBeenLastCalledWith(expect.objectContaining({ melody: '' }), expect.anything());
    library.melody = 'G B d';
    await vi.advanceTimersByTimeAsync(300);
    expect(asked).toHaveBeenLastCalledWith(expect.objectContaining({ melody: 'G B d' }), expect.anything());
  });
});

describe('changing tunes from the list', () => {
  it('renames as one step of the tune’s history', async () => {
    serve(1);
    const edit = vi.spyOn(api, 'edit').mockResolvedValue({} as never);
    await useLibrary().rename(summary(1), 'Other');
    const change = { fields: { before: { title: 'Tune 1' }, after: { title: 'Other' } } };
    expect(edit).toHaveBeenCalledWith('t1', 3, change, 'rename', expect.any(String));
  });

  it('deletes with a way back, and says what went wrong', async () => {
    serve(1);
    const remove = vi.spyOn(api, 'remove').mockResolvedValue(undefined);
    const restore = vi.spyOn(api, 'restore').mockResolvedValue(undefined);
    const library = useLibrary();
    const messages = useMessages();
    await library.remove(summary(1));
    expect(messages.current?.text).toBe('“Tune 1” was deleted.');
    messages.act();
    expect(restore).toHaveBeenCalledWith('t1');
    remove.mockRejectedValueOnce(new Error('Nokta does not answer.'));
    await library.remove(summary(1));
    expect(messages.current?.text).toBe('Nokta does not answer.');
  });
});

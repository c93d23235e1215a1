import { effectScope } from 'vue';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { BATCH } from '@nokta/api';
import { lookAt, openText } from '@nokta/core/files';
import { api } from '../api/client.ts';
import type { openInWorker } from '../workers/files.ts';
import { useSeveral } from './several.ts';

const KNOWN = { id: 'old', title: 'Old one', key: 'D major', likeness: 1 };
const book = (count: number) =>
  Array.from({ length: count }, (_, number) => `X:${number}\nT:Tune ${number}\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n`).join(
    '\n',
  );

const closed = vi.fn();
/** Files are read here and now instead of in a worker. @param silent the number of a tune that is never answered */
const here = (silent = 0) =>
  ((source: string) => {
    const opened = openText(source);
    if (!opened.ok) return Promise.resolve(opened);
    const service = {
      look(tune: number) {
        if (tune === silent) return new Promise(() => undefined);
        const read = opened.value.read({ tune });
        return Promise.resolve(read.ok ? { ...read, value: lookAt(read.value) } : read);
      },
    };
    return Promise.resolve({ ok: true, file: { service, close: closed }, contents: opened.value });
  }) as unknown as typeof openInWorker;

/** The library knows the first of each batch. */
const knowFirst = () =>
  vi
    .spyOn(api, 'alike')
    .mockImplementation((melodies) => Promise.resolve(melodies.map((_, index) => (index === 0 ? [KNOWN] : []))));

const scope = effectScope();
const looking = (open = here()) => scope.run(() => useSeveral(open))!;

beforeEach(() => {
  vi.restoreAllMocks();
  closed.mockClear();
});
afterEach(() => void vi.useRealTimers());

it('shows what is known by itself, with everything that is needed to know the others by', async () => {
  const asked = knowFirst();
  const several = looking();
  await several.read([book(BATCH + 2)]);
  expect(asked.mock.calls.map(([melodies]) => melodies.length)).toEqual([BATCH, 2]);
  expect(several.known.value.map(({ title }) => title)).toEqual(['Tune 0', `Tune ${BATCH}`]);
  expect(several.fresh.value).toHaveLength(BATCH);
  expect(several.fresh.value[0]).toMatchObject({
    title: 'Tune 1',
    about: 'D major · 4/4 · 1 bar',
    file: 'Pasted text',
    firstBars: { bars: [{ id: 'b1' }] },
  });
  expect(several.reading.value).toBe(false);
  expect(closed).toHaveBeenCalledTimes(1);
});

it('takes all of them until something else is said, and tells what could not be read and why', async () => {
  knowFirst();
  const several = looking();
  await several.read([`${book(3)}\nX:9\nT:Torn\nK:D\n[dA |\n`, '']);
  expect(several.unread.value).toMatchObject([
    { title: 'Torn', reason: expect.stringMatching(/^Line \d+, column \d+: /) as string },
    { title: 'Pasted text' },
  ]);
  expect(several.seen.value).toBe(several.total.value);
  expect(several.taken.value).toHaveLength(3);
  several.take([several.known.value[0]!.key], 'out');
  several.take([several.fresh.value[0]!.key], 'name');
  expect(several.taken.value.map(({ title }) => title)).toEqual(['Tune 1', 'Tune 2']);
});

it('is a look at new tunes where the library does not answer', async () => {
  vi.spyOn(api, 'alike').mockRejectedValue(new Error('Nokta does not answer.'));
  const several = looking();
  await several.read([book(2)]);
  expect([several.known.value.length, several.fresh.value.length]).toEqual([0, 2]);
});

it('is stopped while a tune is being read, which ends its worker; what was seen stays', async () => {
  knowFirst();
  const several = looking(here(BATCH + 2));
  const reading = several.read([book(BATCH + 5)]);
  await vi.waitFor(() => expect(several.seen.value).toBe(BATCH));
  several.stop();
  await reading;
  expect(several.seen.value).toBe(BATCH);
  expect(closed).toHaveBeenCalled();
  several.clear();
  expect([several.seen.value, several.total.value]).toEqual([0, 0]);
});

it('gives up what takes too long, says that the rest of its file was not read, and goes on with the next', async () => {
  knowFirst();
  vi.useFakeTimers();
  const several = looking(here(2));
  const reading = several.read([book(4), book(1)]);
  await vi.advanceTimersByTimeAsync(21_000);
  await vi.advanceTimersByTimeAsync(1_000);
  several.stop();
  await reading;
  expect(several.unread.value[0]).toMatchObject({ title: 'Tune 1' });
  expect(several.unread.value[0]!.reason).toContain('took too long');
  expect(several.known.value.map(({ title }) => title)).toEqual(['Tune 0', 'Tune 0']);
});

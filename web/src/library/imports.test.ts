import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { BATCH } from '@nokta/api';
import { lookAt, openText } from '@nokta/core/files';
import { api } from '../api/client.ts';
import { useImports, type Chosen } from './imports.ts';

const OLD = { id: 'old', title: 'Old one', key: 'D major', likeness: 1 };

/** Tunes that were looked at. */
function book(count: number): Chosen[] {
  const text = Array.from(
    { length: count },
    (_, number) => `X:${number}\nT:Tune ${number}\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n`,
  );
  const opened = openText(text.join('\n'));
  if (!opened.ok) throw new Error('unreadable');
  return opened.value.tunes.map(({ number }) => {
    const read = opened.value.read({ tune: number });
    if (!read.ok) throw new Error('unreadable');
    return { held: lookAt(read.value).held, file: 'book.abc', alike: [], nameOf: null };
  });
}

/** A server that keeps everything, and knows each tenth melody. */
function keepAll() {
  let made = 0;
  return vi.spyOn(api, 'addBatch').mockImplementation((tunes) =>
    Promise.resolve({
      refused: [],
      added: tunes.map(({ tune }) => {
        made += 1;
        return { id: `t${made}`, title: tune.title, alike: made % 10 === 0 ? [OLD] : [] };
      }),
    }),
  );
}

beforeEach(() => {
  setActivePinia(createPinia());
  vi.restoreAllMocks();
});

it('keeps a book batch by batch, and reports what came in', async () => {
  const add = keepAll();
  const imports = useImports();
  await imports.run(book(BATCH + 5));
  expect(add.mock.calls.map(([tunes]) => tunes.length)).toEqual([BATCH, 5]);
  expect(add.mock.calls[0]![0][3]).toMatchObject({ tune: { title: 'Tune 3' }, source: 'book.abc' });
  expect(imports.report).toMatchObject({ state: 'done', total: BATCH + 5, sent: BATCH + 5, skipped: [] });
  expect(imports.report!.cameIn.filter(({ alike }) => alike.length > 0)).toHaveLength(4);
});

it('tells again what was left out while it was read', async () => {
  keepAll();
  const imports = useImports();
  const torn = { title: 'Torn', file: 'book.abc', reason: 'Line 3, column 1: A chord is not closed.' };
  await imports.run(book(2), { skipped: [torn] });
  expect(imports.report!.skipped).toEqual([torn]);
});

it('stops after the batch that is on its way, and keeps what came in', async () => {
  const imports = useImports();
  const add = vi.spyOn(api, 'addBatch').mockImplementation((_, signal) => {
    imports.stop();
    return signal?.aborted ? Promise.reject(new Error('aborted')) : Promise.resolve({ added: [], refused: [] });
  });
  await imports.run(book(3 * BATCH));
  expect(add).toHaveBeenCalledTimes(1);
  expect(imports.report!.state).toBe('stopped');
  expect(imports.running).toBe(false);
});

it('lists what the server does not take, tune by tune, and goes on', async () => {
  const imports = useImports();
  const add = vi.spyOn(api, 'addBatch').mockResolvedValue({
    added: [{ id: 't1', title: 'Tune 0', alike: [] }],
    refused: [{ index: 1, title: 'Tune 1', error: 'The title has a sign that cannot be kept.' }],
  });
  await imports.run(book(BATCH + 1));
  expect(add).toHaveBeenCalledTimes(2);
  expect(imports.report!.state).toBe('done');
  expect(imports.report!.skipped[0]).toMatchObject({
    title: 'Tune 1',
    file: 'book.abc',
    reason: 'The title has a sign that cannot be kept.',
  });
});

it('says so when the server goes away, and what came in before', async () => {
  const imports = useImports();
  vi.spyOn(api, 'addBatch')
    .mockResolvedValueOnce({ added: [{ id: 't1', title: 'Tune 0', alike: [] }], refused: [] })
    .mockRejectedValueOnce(new Error('Nokta does not answer.'));
  await imports.run(book(2 * BATCH));
  expect(imports.report).toMatchObject({ state: 'failed', problem: 'Nokta does not answer.' });
  expect(imports.report!.cameIn).toHaveLength(1);
});

it('makes a tune another name of one that is here: as it was chosen before, of the one that was kept', async () => {
  // The first is refused, so that what was added stands at other places than what was sent.
  vi.spyOn(api, 'addBatch').mockImplementation((tunes) =>
    Promise.resolve({
      refused: [{ index: 0, title: 'Tune 0', error: 'No.' }],
      added: tunes.slice(1).map(({ tune }) => ({ id: tune.title, title: tune.title, alike: [OLD] })),
    }),
  );
  const join = vi.spyOn(api, 'join').mockResolvedValue(undefined);
  const [first, second, third] = book(3);
  const imports = useImports();
  await imports.run([first!, { ...second!, alike: [OLD] }, { ...third!, alike: [OLD], nameOf: OLD }]);
  expect(join.mock.calls).toEqual([['old', 'Tune 2']]);
  // What was seen before it was kept is not told again.
  expect(imports.report).toMatchObject({ named: 1, cameIn: [{ id: 'Tune 1', alike: [] }] });
});

it('makes a tune that came in another name of one that was here', async () => {
  keepAll();
  const join = vi.spyOn(api, 'join').mockResolvedValue(undefined);
  const imports = useImports();
  await imports.run(book(10));
  const known = imports.report!.cameIn.find(({ alike }) => alike.length > 0)!;
  await imports.join(known.alike[0]!, known);
  expect(join).toHaveBeenCalledWith('old', known.id);
  expect(imports.report).toMatchObject({ named: 1 });
  expect(imports.report!.cameIn).toHaveLength(9);
});

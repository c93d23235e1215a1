import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { BATCH } from '@nokta/api';
import { openText, type OpenedFile } from '@nokta/core/files';
import { api } from '../api/client.ts';
import { useImports } from './imports.ts';

const { TOO_LONG, slow } = vi.hoisted(() => ({ TOO_LONG: Symbol('took too long'), slow: { on: false } }));

/** Files are read here and now instead of in a worker. */
vi.mock('../workers/files.ts', () => ({
  TOO_LONG,
  inTime: (file: { service: { read(choice: object): unknown } }, ask: (service: unknown) => unknown) =>
    slow.on ? Promise.resolve(TOO_LONG) : ask(file.service),
  openInWorker: (source: string) => {
    const opened = openText(source);
    if (!opened.ok) return Promise.resolve(opened);
    const { value }: { value: OpenedFile } = opened;
    const service = { read: (choice: object) => Promise.resolve(value.read(choice)) };
    return Promise.resolve({ ok: true, file: { service, close: () => undefined }, contents: value });
  },
}));

const book = (count: number) =>
  Array.from({ length: count }, (_, number) => `X:${number}\nT:Tune ${number}\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n`).join(
    '\n',
  );

/** A server that keeps everything, and knows each tenth melody. */
function keepAll() {
  let made = 0;
  return vi.spyOn(api, 'addBatch').mockImplementation((tunes) =>
    Promise.resolve({
      refused: [],
      added: tunes.map(({ tune }) => {
        made += 1;
        const { title } = tune;
        const alike = made % 10 === 0 ? [{ id: 'old', title: 'Old one', key: 'D major', likeness: 1 }] : [];
        return { id: `t${made}`, title, alike };
      }),
    }),
  );
}

beforeEach(() => {
  setActivePinia(createPinia());
  vi.restoreAllMocks();
});

it('brings a book in batch by batch, and reports what came in', async () => {
  const add = keepAll();
  const imports = useImports();
  await imports.run([book(BATCH + 5)]);
  expect(add.mock.calls.map(([tunes]) => tunes.length)).toEqual([BATCH, 5]);
  expect(imports.report).toMatchObject({ state: 'done', total: BATCH + 5, seen: BATCH + 5, skipped: [] });
  expect(imports.report!.cameIn.filter(({ alike }) => alike.length > 0)).toHaveLength(4);
});

it('says of each tune that was skipped why, and goes on with the rest', async () => {
  keepAll();
  const imports = useImports();
  await imports.run([`${book(2)}\nX:9\nT:Torn\nK:D\n[dA |\n`, '']);
  expect(imports.report!.cameIn).toHaveLength(2);
  expect(imports.report!.skipped).toMatchObject([
    { title: 'Torn', reason: expect.stringMatching(/^Line \d+, column \d+: /) as string },
    { title: 'Pasted text' },
  ]);
});

it('stops after the batch that is on its way, and keeps what came in', async () => {
  const imports = useImports();
  const add = vi.spyOn(api, 'addBatch').mockImplementation((_, signal) => {
    imports.stop();
    return signal?.aborted ? Promise.reject(new Error('aborted')) : Promise.resolve({ added: [], refused: [] });
  });
  await imports.run([book(3 * BATCH)]);
  expect(add).toHaveBeenCalledTimes(1);
  expect(imports.report!.state).toBe('stopped');
  expect(imports.running).toBe(false);
});

it('gives up what takes too long, and says that the rest of its file was not read', async () => {
  keepAll();
  const imports = useImports();
  slow.on = true;
  await imports.run([book(3), '']);
  slow.on = false;
  expect(imports.report!.state).toBe('done');
  expect(imports.report!.skipped[0]).toMatchObject({ title: 'Tune 0' });
  expect(imports.report!.skipped[0]!.reason).toContain('took too long');
});

it('lists what the server does not take, tune by tune, and goes on', async () => {
  const imports = useImports();
  const add = vi.spyOn(api, 'addBatch').mockResolvedValue({
    added: [{ id: 't1', title: 'Tune 0', alike: [] }],
    refused: [{ index: 1, title: 'Tune 1', error: 'The title has a sign that cannot be kept.' }],
  });
  await imports.run([book(BATCH + 1)]);
  expect(add).toHaveBeenCalledTimes(2);
  expect(imports.report!.state).toBe('done');
  expect(imports.report!.skipped[0]).toMatchObject({
    title: 'Tune 1',
    file: 'Pasted text',
    reason: 'The title has a sign that cannot be kept.',
  });
});

it('says so when the server goes away, and what came in before', async () => {
  const imports = useImports();
  vi.spyOn(api, 'addBatch')
    .mockResolvedValueOnce({ added: [{ id: 't1', title: 'Tune 0', alike: [] }], refused: [] })
    .mockRejectedValueOnce(new Error('Nokta does not answer.'));
  await imports.run([book(2 * BATCH)]);
  expect(imports.report).toMatchObject({ state: 'failed', problem: 'Nokta does not answer.' });
  expect(imports.report!.cameIn).toHaveLength(1);
});

it('makes a tune that came in another name of one that was here', async () => {
  keepAll();
  const join = vi.spyOn(api, 'join').mockResolvedValue(undefined);
  const imports = useImports();
  await imports.run([book(10)]);
  const known = imports.report!.cameIn.find(({ alike }) => alike.length > 0)!;
  await imports.join(known.alike[0]!, known);
  expect(join).toHaveBeenCalledWith('old', known.id);
  expect(imports.report!.cameIn).toHaveLength(9);
});

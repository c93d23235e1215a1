import { beforeEach, expect, it, vi } from 'vitest';
import { expectFile, openInWorker } from './files.ts';

/** Workers that were started; each answers when it is told to. */
const started: { terminated: boolean; answer(contents: unknown): void }[] = [];

vi.mock('comlink', () => ({
  releaseProxy: Symbol('release'),
  transfer: (value: unknown) => value,
  wrap: (worker: { service: unknown }) => worker.service,
}));

class FakeWorker {
  terminated = false;
  answer: (contents: unknown) => void = () => undefined;
  readonly service = new Proxy(
    {},
    { get: () => () => new Promise((resolve) => (this.answer = (value) => resolve({ ok: true, value, notices: [] }))) },
  );
  constructor() {
    started.push(this);
  }
  terminate(): void {
    this.terminated = true;
  }
}

beforeEach(() => {
  started.length = 0;
  vi.stubGlobal('Worker', FakeWorker);
});

it('opens a file in a worker of its own', async () => {
  const first = openInWorker('X:1');
  const second = openInWorker('X:2');
  expect(started).toHaveLength(2);
  started[0]!.answer('one');
  started[1]!.answer('two');
  expect([await first, await second]).toMatchObject([{ contents: 'one' }, { contents: 'two' }]);
});

it('has a worker ready where a file is expected, for one file only', async () => {
  expectFile();
  expectFile();
  expect(started).toHaveLength(1);
  const first = openInWorker('X:1');
  const second = openInWorker('X:2');
  expect(started).toHaveLength(2);
  started[0]!.answer('one');
  expect(await first).toMatchObject({ contents: 'one' });
  started[1]!.answer('two');
  await second;
});

it('ends the worker at once when the wait is given up', async () => {
  const control = new AbortController();
  const opened = openInWorker('X:1', control.signal);
  expect(started[0]!.terminated).toBe(false);
  control.abort();
  expect(await opened).toEqual({ ok: false, problems: [] });
  expect(started[0]!.terminated).toBe(true);
});

import { beforeEach, expect, it } from 'vitest';
import { filesOf, type ReadingFile } from './files.ts';

/** Workers that were started; each answers when it is told to. */
const started: { terminated: boolean; answer(contents: unknown): void }[] = [];

/** Handed in: what another test has loaded already is not replaced behind its back. */
function begin(): ReadingFile {
  const own = {
    terminated: false,
    answer: (_: unknown): void => undefined,
  };
  started.push(own);
  const asked = () => new Promise((resolve) => (own.answer = (value) => resolve({ ok: true, value, notices: [] })));
  return {
    service: { open: asked, openText: asked } as unknown as ReadingFile['service'],
    close: () => void (own.terminated = true),
  };
}

let { expectFile, openInWorker } = filesOf(begin);
beforeEach(() => {
  started.length = 0;
  ({ expectFile, openInWorker } = filesOf(begin));
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

/** Which thread is asked: one as a rule, two while two things are wanted at once. */
import { afterEach, expect, it, vi } from 'vitest';
import { Thread, Threads } from '../thread.ts';

/** Each question waits until it is let go. */
function asking() {
  const asked: { readonly thread: Thread<unknown>; readonly done: () => void }[] = [];
  const waiting = new Map<Thread<unknown>, number>();
  vi.spyOn(Thread.prototype, 'waiting', 'get').mockImplementation(function (this: Thread<unknown>) {
    return waiting.get(this) ?? 0;
  });
  vi.spyOn(Thread.prototype, 'ask').mockImplementation(function (this: Thread<unknown>) {
    waiting.set(this, (waiting.get(this) ?? 0) + 1);
    return new Promise<never>((resolve) =>
      asked.push({
        thread: this,
        done: () => {
          waiting.set(this, waiting.get(this)! - 1);
          resolve(undefined as never);
        },
      }),
    );
  });
  return asked;
}
const nothing = () => Promise.resolve();

afterEach(() => void vi.restoreAllMocks());

it('asks one thread while one thing is wanted at a time', () => {
  const asked = asking();
  const threads = new Threads('drawing', 1000, 2);
  for (const about of ['a', 'b', 'c']) {
    void threads.ask(nothing, about);
    asked.at(-1)!.done();
  }
  expect(new Set(asked.map(({ thread }) => thread)).size).toBe(1);
});

it('asks a second one beside it, and about the same thing who was asked before', () => {
  const asked = asking();
  const threads = new Threads('drawing', 1000, 2);
  void threads.ask(nothing, 'a');
  void threads.ask(nothing, 'b');
  const [a, b] = asked.map(({ thread }) => thread);
  expect(a).not.toBe(b);
  asked.forEach(({ done }) => done());
  void threads.ask(nothing, 'b');
  void threads.ask(nothing, 'a');
  expect(asked.slice(2).map(({ thread }) => thread)).toEqual([b, a]);
});

it('starts no second one for small questions, however many there are', () => {
  const asked = asking();
  const threads = new Threads('drawing', 1000, 2);
  for (let count = 0; count < 5; count += 1) void threads.ask(nothing);
  expect(new Set(asked.map(({ thread }) => thread)).size).toBe(1);
});

/** Late, failing and called-off answers; answers in steps. */
import { describe, expect, it, vi } from 'vitest';
import type { FactsPatch } from './facts.ts';
import { OUTDATED, STALE, deskOf, serviceOf, type DeskPort } from './protocol.ts';

const PATCH: FactsPatch = { facts: {} };
type Asked = {
  double(state: number, by: number): number;
  slow(state: number): Generator<number, string>;
};

/** A port whose answers come when the test says so. */
function held() {
  const waiting: { resolve(answer: unknown): void; reject(error: Error): void }[] = [];
  const wait = () => new Promise<never>((resolve, reject) => waiting.push({ resolve: resolve as never, reject }));
  const port: DeskPort<string> = { derive: wait, ask: wait, cancel: vi.fn() };
  return { port, waiting };
}

describe('the desk’s side', () => {
  it('gives an answer about the present revision', async () => {
    const { port, waiting } = held();
    const desk = deskOf<string, Asked>(port, () => undefined);
    const answer = desk.ask('double', 2);
    waiting[0]!.resolve(8);
    expect(await answer).toBe(8);
  });

  it('drops what comes late: an answer about an older revision, however it comes', async () => {
    const { port, waiting } = held();
    const failed = vi.fn();
    const desk = deskOf<string, Asked>(port, failed);
    const answers = [desk.ask('double', 2), desk.ask('double', 3)];
    void desk.derive('change');
    waiting[0]!.resolve(8);
    waiting[1]!.reject(new Error('too late to matter'));
    expect(await Promise.all(answers)).toEqual([STALE, STALE]);
    expect(failed).not.toHaveBeenCalled();
  });

  it('says of what was derived whether a later change was sent', async () => {
    const { port, waiting } = held();
    const desk = deskOf<string, Asked>(port, () => undefined);
    const [first, second] = [desk.derive('one'), desk.derive('two')];
    waiting[1]!.resolve(PATCH);
    waiting[0]!.resolve(PATCH);
    expect(await first).toEqual({ patch: PATCH, late: true });
    expect(await second).toEqual({ patch: PATCH, late: false });
  });

  it('tells a failure once, where it can be told, and comes back', async () => {
    const { port, waiting } = held();
    const failed = vi.fn();
    const desk = deskOf<string, Asked>(port, failed);
    const derived = desk.derive('one');
    waiting[0]!.reject(new Error('broken'));
    expect(await derived).toBeNull();
    const answer = desk.ask('double', 1);
    waiting[1]!.reject(new Error('broken too'));
    expect(await answer).toBe(STALE);
    expect(failed.mock.calls.map(([error]) => (error as Error).message)).toEqual(['broken', 'broken too']);
  });

  it('calls a long answer off, and takes nothing of it after that', async () => {
    const { port, waiting } = held();
    const desk = deskOf<string, Asked>(port, () => undefined);
    const control = new AbortController();
    const answer = desk.askLong({ signal: control.signal }, 'slow');
    control.abort();
    expect(port.cancel).toHaveBeenCalledTimes(1);
    waiting[0]!.resolve('done after all');
    expect(await answer).toBe(STALE);
    expect(await desk.askLong({ signal: control.signal }, 'slow')).toBe(STALE);
    expect(waiting).toHaveLength(1);
  });
});

describe('the worker’s side', () => {
  const steps = { made: 0 };
  const service = serviceOf<number, number>(
    // A change of so many steps.
    function* (change) {
      for (let step = 1; step <= change; step += 1) yield step / change;
      return PATCH;
    },
    () => 4,
    {
      double: (state: number, by: number) => state * by,
      fetched: (state: number) => Promise.resolve(state),
      *slow() {
        for (let step = 1; step <= 4; step += 1) {
          steps.made = step;
          yield step / 4;
        }
        return 'done';
      },
    },
  );

  it('answers at once, when it has what it needs, or in steps that tell how far they are', async () => {
    void service.derive(1, 0);
    expect(await service.ask(1, 1, 'double', [3])).toBe(12);
    expect(await service.ask(1, 3, 'fetched', [])).toBe(4);
    const progress: number[] = [];
    expect(await service.ask(1, 2, 'slow', [], (share) => progress.push(share))).toBe('done');
    expect(progress).toEqual([0.25, 0.5, 0.75, 1]);
  });

  it('does not answer about a revision that it has left', async () => {
    void service.derive(5, 0);
    expect(await service.ask(4, 3, 'double', [3])).toBe(OUTDATED);
  });

  it('stops between two steps when it is called off, or when a change comes', async () => {
    void service.derive(6, 0);
    const off = service.ask(6, 9, 'slow', []);
    service.cancel(9);
    expect(await off).toBe(OUTDATED);
    expect(steps.made).toBe(1);
    const left = service.ask(6, 10, 'slow', []);
    void service.derive(7, 0);
    expect(await left).toBe(OUTDATED);
    expect(steps.made).toBe(1);
  });

  it('works a long change out in steps, and leaves it to a later one that comes meanwhile', async () => {
    const progress: number[] = [];
    expect(await service.derive(8, 2, (share) => progress.push(share))).toBe(PATCH);
    expect(progress).toEqual([0.5, 1]);
    const long = service.derive(9, 3);
    const later = service.derive(10, 0);
    expect(await long).toEqual({ facts: {} });
    expect(await later).toBe(PATCH);
  });

  it('answers a question when what it is about is worked out', async () => {
    const order: string[] = [];
    const change = service.derive(11, 2).then(() => order.push('worked out'));
    const answer = service.ask(11, 12, 'double', [3]).then(() => order.push('answered'));
    await Promise.all([change, answer]);
    expect(order).toEqual(['worked out', 'answered']);
    void service.derive(7, 0);
  });

  it('refuses what nobody knows', async () => {
    await expect(service.ask(7, 11, 'fortune', [])).rejects.toThrow('fortune');
  });
});

import { expect, it, vi } from 'vitest';
import { takingTurns } from './turns.ts';

const later = (what: () => void) => () => new Promise<void>((resolve) => setTimeout(() => resolve(what())));

it('runs what comes alone at once, and what comes meanwhile in its turn', async () => {
  const inTurn = takingTurns();
  const done: string[] = [];
  const first = inTurn(later(() => done.push('first')));
  const second = vi.fn(later(() => done.push('second')));
  const waiting = inTurn(second);
  const third = inTurn(() => done.push('third'));
  expect(second).not.toHaveBeenCalled();
  await Promise.all([first, waiting, third]);
  expect(done).toEqual(['first', 'second', 'third']);
  void inTurn(() => done.push('alone'));
  expect(done.at(-1)).toBe('alone');
});

it('goes on after what failed, and says that it failed', async () => {
  const inTurn = takingTurns();
  const failing = inTurn(() => Promise.reject(new Error('no')));
  const next = inTurn(() => undefined);
  await expect(failing).rejects.toThrow('no');
  await expect(next).resolves.toBeUndefined();
});

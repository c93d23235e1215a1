/** @vitest-environment happy-dom */
import { effectScope, nextTick, ref, shallowRef } from 'vue';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { Phrase } from '@nokta/core/form';
import { useStripsComing } from './stripsComing.ts';

const phrasesOf = (count: number) => Array.from({ length: count }, (_, at) => ({ id: `p${at + 1}` }) as Phrase);

function opened(count: number) {
  const tune = ref<string | null>(null);
  const phrases = shallowRef<readonly Phrase[]>([]);
  const selected = ref<string | null>(null);
  const scope = effectScope();
  const isThere = scope.run(() =>
    useStripsComing(
      () => tune.value,
      () => phrases.value,
      () => selected.value,
    ),
  )!;
  const there = () => phrases.value.filter(isThere).map(({ id }) => id);
  const open = async (id: string, many = count) => {
    phrases.value = [];
    tune.value = id;
    await nextTick();
    phrases.value = phrasesOf(many);
    await nextTick();
  };
  return { phrases, selected, scope, there, open };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  document.body.innerHTML = '';
});

it('lets the strips of a tune that was opened come from the top, until all are there', async () => {
  const { there, open } = opened(7);
  await open('t1');
  expect(there()).toEqual(['p1', 'p2']);
  vi.advanceTimersToNextTimer();
  expect(there()).toEqual(['p1', 'p2', 'p3', 'p4']);
  vi.runAllTimers();
  expect(there()).toHaveLength(7);
});

it('brings those in sight first, and the one that is worked on at once', async () => {
  const { selected, there, open } = opened(9);
  document.body.innerHTML = '<section data-phrase="p6" aria-busy="true"></section>';
  vi.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockReturnValue({ top: 10, bottom: 90 } as DOMRect);
  selected.value = 'p9';
  await open('t1');
  expect(there()).toEqual(['p1', 'p6', 'p9']);
});

it('draws at once what changes afterwards, and begins anew with another tune', async () => {
  const { phrases, there, open } = opened(5);
  await open('t1');
  vi.runAllTimers();
  phrases.value = phrasesOf(6);
  await nextTick();
  expect(there()).toHaveLength(6);
  await open('t2');
  expect(there()).toEqual(['p1', 'p2']);
});

it('stops when the desk is left', async () => {
  const { scope, there, open } = opened(9);
  await open('t1');
  scope.stop();
  vi.runAllTimers();
  expect(there()).toHaveLength(2);
});

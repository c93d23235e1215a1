/** A lesson at the stand, with a player that makes no sound. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, type EffectScope } from 'vue';
import type { Score } from '@nokta/core/practice';
import type { Player, PlayOptions } from '../sound/player.ts';
import { useDesk } from '../desk/rooms/store.ts';
import { fakeServer } from '../desk/test/server.ts';
import { freshStores } from '../desk/test/fresh.ts';
import { useLesson } from './lesson.ts';
import { useLessonPlan, usePlanActions } from './plan.ts';

vi.mock('../workers/index.ts', async () => (await import('../desk/test/workers.ts')).fakeWorkers());

let scope: EffectScope;

async function openLesson() {
  const playing = ref(false);
  const play = vi.fn((_instrument: string, _score: Score, _options: PlayOptions) => {
    playing.value = true;
    return Promise.resolve();
  });
  const player = {
    playing,
    loading: ref(false),
    play,
    stop: vi.fn(() => void (playing.value = false)),
    setTempo: vi.fn(),
    setMix: vi.fn(),
    prepare: vi.fn(() => Promise.resolve()),
    sound: vi.fn(() => Promise.resolve()),
  } satisfies Player;
  fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  const [lesson, plan] = scope.run(() => [useLesson(() => player), useLessonPlan()] as const)!;
  return { desk, player, lesson, plan };
}

freshStores();
beforeEach(() => {
  vi.spyOn(console, 'warn').mockImplementation(() => {});
  scope = effectScope();
});
afterEach(() => scope.stop());

describe('a lesson', () => {
  it('plays its step, and nothing but it, at the tempo that was reached', async () => {
    const { desk, player, lesson } = await openLesson();
    lesson.toggle();
    const [, score, options] = player.play.mock.lastCall!;
    expect(new Set(score.notes.map(({ id }) => id))).toEqual(new Set(desk.phrases[0]!.notes));
    expect(options.quarterBpm).toBeCloseTo(lesson.climb.value.tempos[0]!);
    lesson.toggle();
    expect(player.stop).toHaveBeenCalled();
    lesson.say(true);
    lesson.say(true);
    lesson.looping.value = true;
    lesson.toggle();
    expect(player.play.mock.lastCall![2].quarterBpm).toBeCloseTo(lesson.climb.value.tempos[1]!);
    expect(player.play.mock.lastCall![2].loop).toBe(true);
  });

  it('falls silent with its step, stays within the lesson, and knows where it was', async () => {
    const { player, lesson } = await openLesson();
    lesson.go(-3);
    expect(lesson.at.value).toBe(0);
    lesson.go(999);
    expect(lesson.at.value).toBe(lesson.steps.value.length - 1);
    lesson.go(0);
    lesson.toggle();
    player.stop.mockClear();
    lesson.go(1);
    await nextTick();
    if (lesson.steps.value.length > 1) expect(player.stop).toHaveBeenCalled();
    const again = scope.run(() => useLesson(() => player))!;
    expect(again.at.value).toBe(lesson.at.value);
  });

  it('begins a step anew when the tempo that is wanted is another one', async () => {
    const { desk, lesson } = await openLesson();
    lesson.say(true);
    lesson.say(true);
    expect(lesson.climb.value.at).toBe(1);
    await desk.decide({ pace: { tempo: 66 } }, 'tempo');
    await vi.waitFor(() => expect(desk.arrangement?.tempo).toBe(66));
    expect(lesson.climb.value).toMatchObject({ at: 0, clean: 0 });
    expect(lesson.climb.value.tempos.at(-1)).toBe(66);
  });

  it('is the teacher’s: a step left out is not taught, one more than once is, and both are undone', async () => {
    const { desk, lesson, plan } = await openLesson();
    const actions = usePlanActions(plan);
    const before = plan.value.map(({ id }) => id);
    actions.repeat(0);
    await vi.waitFor(() => expect(plan.value.map(({ id }) => id)).toEqual([before[0], ...before]));
    expect(new Set(plan.value.map(({ key }) => key)).size).toBe(plan.value.length);
    // The one that stands there again goes, the first stays.
    actions.toggle(1);
    await vi.waitFor(() => expect(plan.value.map(({ id }) => id)).toEqual(before));
    actions.toggle(0);
    await vi.waitFor(() => expect(lesson.steps.value.map(({ id }) => id)).toEqual(before.slice(1)));
    actions.toggle(0);
    await vi.waitFor(() => expect(lesson.steps.value).toHaveLength(before.length));
    actions.fromTune();
    await vi.waitFor(() => expect(desk.record?.decisions.lesson).toMatchObject({ order: null, out: {} }));
  });
});

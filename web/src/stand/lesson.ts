/** A lesson at the stand: the step that is worked on, how fast it is by now, and what it sounds like. */
import { computed, ref, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { beatTempoText } from '@nokta/core/music';
import { climbTo, spanScore, tried, type Climb, type LessonStep } from '@nokta/core/practice';
import { useDesk } from '../desk/rooms/store.ts';
import { useTuneSound } from '../desk/shared/tuneSound.ts';
import { useLessonPlan } from './plan.ts';
import { useLook } from '../settings/look.ts';
import type { createPlayer } from '../sound/player.ts';
import { createTunePlayer } from '../sound/tunePlayer.ts';

/** How far a lesson has come, by the arrangement that is taught. */
interface Standing {
  readonly step: string | null;
  readonly climbs: Readonly<Record<string, Climb>>;
}
const FIRST: Standing = { step: null, climbs: {} };
/** So many arrangements are remembered; those that were taught longest ago are let go. */
const MOST = 100;

/** @param make makes the sound itself; tests bring their own */
export function useLesson(make?: typeof createPlayer) {
  const desk = useDesk();
  const look = useLook();
  const { settings } = useTuneSound(() => desk.tune?.id ?? null);
  const all = useStorage<Record<string, Standing>>('nokta-stand', {});
  const own = computed<Standing>(() => ({ ...FIRST, ...all.value[desk.record?.id ?? ''] }));
  function keep(change: Partial<Standing>): void {
    const id = desk.record?.id;
    if (id === undefined) return;
    const { [id]: before, ...others } = all.value;
    all.value = {
      ...Object.fromEntries(Object.entries(others).slice(1 - MOST)),
      [id]: { ...FIRST, ...before, ...change },
    };
  }

  const plan = useLessonPlan();
  const steps = computed(() => plan.value.filter(({ out }) => !out));
  const at = computed(() =>
    Math.max(
      0,
      steps.value.findIndex(({ key }) => key === own.value.step),
    ),
  );
  const step = computed(() => steps.value[at.value] ?? null);
  /** A tempo that was changed since has a climb of its own. */
  const climbOf = ({ id }: LessonStep): Climb => {
    const known = own.value.climbs[id];
    const target = desk.arrangement?.tempo ?? 96;
    return known?.tempos.at(-1) === target ? known : climbTo(target);
  };
  const climb = computed(() => (step.value ? climbOf(step.value) : climbTo(96)));
  const tempo = computed(() => climb.value.tempos[climb.value.at]!);
  const metre = computed(() => desk.arrangement?.tune.bars[0]?.metre ?? { beats: 4, unit: 4 });

  const playingId = ref<string | null>(null);
  const player = createTunePlayer({
    arrangement: () => desk.arrangement,
    settings,
    percent: computed(() => (100 * tempo.value) / (desk.arrangement?.tempo ?? tempo.value)),
    names: () => look.names,
    onNote: (id) => (playingId.value = id),
    ...(make && { make }),
  });
  watch(step, () => player.stop());

  const looping = ref(false);
  function toggle(): void {
    const [now, wanted] = [desk.arrangement, step.value];
    if (player.playing.value) return player.stop();
    if (now && wanted)
      player.playDrill({ score: spanScore(now, wanted.from, wanted.to), tempo: now.tempo }, looping.value);
  }

  function go(to: number): void {
    const wanted = steps.value[Math.max(0, Math.min(steps.value.length - 1, to))];
    if (wanted) keep({ step: wanted.key });
  }

  /** What the step was like when it was played last. */
  function say(clean: boolean): void {
    if (!step.value) return;
    keep({ step: step.value.key, climbs: { ...own.value.climbs, [step.value.id]: tried(climb.value, clean) } });
  }

  return {
    steps,
    at,
    step,
    climb,
    tempoText: computed(() => beatTempoText(metre.value, tempo.value)),
    tempoTexts: computed(() => climb.value.tempos.map((one) => beatTempoText(metre.value, one).replace(/^.*= /, ''))),
    reached: computed<ReadonlySet<string>>(
      () => new Set(steps.value.filter((one) => climbOf(one).reached).map(({ id }) => id)),
    ),
    settings,
    looping,
    playingId,
    playing: player.playing,
    loading: player.loading,
    count: player.count,
    prepare: player.prepare,
    stop: player.stop,
    toggle,
    go,
    say,
    /** From the beginning, every step at its slowest. */
    again: () => keep(FIRST),
  };
}

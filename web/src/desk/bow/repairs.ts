/** Warnings about the hair, and what would help: worked out in the worker for the warning that is looked at. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { BowRepair, TravelFlag } from '@nokta/core/bow';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useBowActions } from './actions.ts';

const PAUSE_MS = 300;

export const useRepairs = defineStore('bow-repairs', () => {
  const desk = useDesk();
  const { takeRepair } = useBowActions();
  const flags = computed<readonly TravelFlag[]>(() => desk.travel?.flags ?? []);
  /** The warning that is looked at, by its place in the list. */
  const looked = ref(0);
  const flag = computed<TravelFlag | null>(() => flags.value[looked.value] ?? flags.value[0] ?? null);
  /** What would help; null while it is worked out. */
  const found = shallowRef<readonly BowRepair[] | null>(null);

  watch(
    flag,
    async (now, _, stop) => {
      found.value = null;
      if (!now) return;
      let isPast = false;
      stop(() => (isPast = true));
      // Trying what helps takes far longer than a decision: it begins when the teacher pauses.
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      if (isPast) return;
      const answer = await desk.ask('bowRepairs', now);
      if (answer !== STALE && now === flag.value) found.value = answer;
    },
    { immediate: true },
  );

  /** Goes to a warning, and looks at what would help there. */
  function look(index: number): void {
    looked.value = index;
    const there = flags.value[index];
    if (there) desk.select(there.note);
  }

  /** Takes the first thing that helps; says so where nothing does. */
  function takeFirst(): Promise<void> {
    const [repair] = found.value ?? [];
    if (repair) return takeRepair(repair);
    desk.refused = flag.value === null ? 'The bow is well where it is.' : 'Nothing that Nokta knows helps here.';
    return Promise.resolve();
  }

  return { flags, flag, found, looked, look, takeFirst };
});

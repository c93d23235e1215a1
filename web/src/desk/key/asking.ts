/** A long question of the Key pass, asked anew whenever the arrangement changes, with its progress. */
import { onBeforeUnmount, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';

interface Asking {
  readonly signal: AbortSignal;
  readonly progress: (share: number) => void;
}

interface Answered<Answer> {
  readonly found: ShallowRef<Answer | null>;
  /** Of the question that is being worked on, 0 to 1. */
  readonly done: Ref<number>;
  readonly working: Ref<boolean>;
}

/**
 * @param ask puts the question; what was found before stays until there is something new
 * @param on what the answer depends on: the arrangement on the desk, where it is not said
 */
export function useAsked<Answer>(
  ask: (how: Asking) => Promise<Answer | typeof STALE> | null,
  on?: () => unknown,
): Answered<Answer> {
  const desk = useDesk();
  const found = shallowRef<Answer | null>(null);
  const done = ref(0);
  const working = ref(false);
  let asking = new AbortController();

  async function again(): Promise<void> {
    asking.abort();
    const own = (asking = new AbortController());
    const question = ask({ signal: own.signal, progress: (share) => own === asking && (done.value = share) });
    if (!question) {
      found.value = null;
      working.value = false;
      return;
    }
    working.value = true;
    done.value = 0;
    const answer = await question;
    if (own !== asking) return;
    working.value = false;
    if (answer !== STALE) found.value = answer;
  }
  watch(on ?? (() => desk.arrangement), again, { immediate: true });
  onBeforeUnmount(() => asking.abort());
  return { found, done, working };
}

/**
 * The strips of a tune that was just opened come a few at a time, those in sight first: drawing all of a long tune would
 * keep the page from answering for a second. Once all are there, whatever changes is drawn at once.
 */
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { Phrase } from '@nokta/core/form';

/** Strips of one turn; each takes some ten milliseconds. */
const AT_ONCE = 2;

/** Phrases that are seen within their pane, or nearly. */
function inSight(): ReadonlySet<string> {
  const seen = new Set<string>();
  for (const strip of document.querySelectorAll<HTMLElement>('[data-phrase][aria-busy]')) {
    const { top, bottom } = strip.getBoundingClientRect();
    if (bottom > 0 && top < window.innerHeight) seen.add(strip.dataset['phrase']!);
  }
  return seen;
}

/**
 * @param tune the id of the one that is open
 * @param phrases its phrases, from the top
 * @param selected the phrase that is worked on: its strip is always there
 * @returns whether the strip of a phrase is there
 */
export function useStripsComing(
  tune: () => string | null,
  phrases: () => readonly Phrase[],
  selected: () => string | null,
): (phrase: Phrase) => boolean {
  const isWhole = ref(false);
  const come = shallowRef<ReadonlySet<string>>(new Set());
  let turn: ReturnType<typeof setTimeout> | undefined;

  const isThere = ({ id }: Phrase) => isWhole.value || come.value.has(id) || id === selected();

  function grow(): void {
    const left = phrases().filter((phrase) => !isThere(phrase));
    if (left.length === 0) {
      isWhole.value = true;
      return;
    }
    const seen = inSight();
    const next = [...left.filter(({ id }) => seen.has(id)), ...left].slice(0, AT_ONCE).map(({ id }) => id);
    come.value = new Set([...come.value, ...next]);
    turn = setTimeout(grow);
  }

  watch(
    [tune, () => phrases().length > 0],
    ([id, any], before) => {
      clearTimeout(turn);
      if (id !== before[0]) {
        isWhole.value = false;
        come.value = new Set();
      }
      if (any && !isWhole.value) grow();
    },
    { immediate: true },
  );
  onScopeDispose(() => clearTimeout(turn));
  return isThere;
}

/**
 * The strips that are shown. The one that is worked on is brought up to date at once, the others a few at a time, those
 * in sight first, so that no decision keeps the page from answering.
 */
import { shallowRef, watch, type ShallowRef } from 'vue';
import type { StripSource, StripView } from './strips.ts';

/** So long is looked at others in one go, in milliseconds; and no more are drawn, which takes longer than looking. */
const SLICE_MS = 6;
const DRAWN_AT_ONCE = 5;

export interface ShownStrips {
  readonly strips: Readonly<ShallowRef<readonly StripView[]>>;
  /** Phrases that are in sight, the one that is worked on first; for whoever can tell. */
  inSight: () => ReadonlySet<string>;
}

/** @param source what can be shown now */
export function useShownStrips(source: () => StripSource | null): ShownStrips {
  const strips = shallowRef<readonly StripView[]>([]);
  const shown: ShownStrips = { strips, inSight: () => new Set() };
  /** The last source; work for others is given up. */
  let current: StripSource | null = null;

  watch(
    source,
    (now) => {
      current = now;
      if (!now) {
        strips.value = [];
        return;
      }
      const before = new Map(strips.value.map((view) => [view.phrase.id, view]));
      const fresh = now.phrases.some(({ id, from }) => before.get(id)?.phrase.from !== from);
      // A new tune, or another form, is shown as a whole.
      if (fresh || before.size !== now.phrases.length) {
        strips.value = now.phrases.map(({ id }, index) => now.viewOf(index, before.get(id)));
        return;
      }
      // The first in sight at once, then the others in sight, then the rest.
      const [first, ...soon] = shown.inSight();
      const rank = new Map(soon.map((id, place) => [id, place]));
      const late = now.phrases.flatMap(({ id }, index) => (id === first ? [] : [index]));
      const rankOf = (index: number) => rank.get(now.phrases[index]!.id) ?? Infinity;
      late.sort((a, b) => (rankOf(a) === rankOf(b) ? a - b : rankOf(a) - rankOf(b)));
      strips.value = now.phrases.map(({ id }, index) => {
        const old = before.get(id)!;
        return id === first ? now.viewOf(index, old) : old;
      });
      setTimeout(() => catchUp(now, late), 0);
    },
    { immediate: true, flush: 'sync' },
  );

  function catchUp(source: StripSource, late: number[]): void {
    if (source !== current || late.length === 0) return;
    const next = [...strips.value];
    const end = performance.now() + SLICE_MS;
    let changed = 0;
    do {
      const index = late.shift()!;
      const view = source.viewOf(index, next[index]);
      if (view !== next[index]) changed += 1;
      next[index] = view;
    } while (late.length > 0 && changed < DRAWN_AT_ONCE && performance.now() < end);
    if (changed > 0) strips.value = next;
    setTimeout(() => catchUp(source, late), 0);
  }

  return shown;
}

/**
 * How things look and are called everywhere: on the strips, on paper, in speech. What is seen is what is printed, so
 * there is one style; it is kept in the browser, or where an arrangement or a learner's hand has its own, there.
 */
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { useStorage } from '@vueuse/core';
import {
  LANE_IDS,
  USUAL_STYLE,
  someStyleSchema,
  type LaneId,
  type Names,
  type SheetStyle,
  type TabStyle,
} from '@nokta/core/paper';

/** A style that belongs to something, and where changes of it go. */
export interface OwnedStyle {
  readonly style: SheetStyle;
  keep(style: SheetStyle): void;
}

/** What somebody else's program, or an older one of ours, left in the browser is no reason to fail. */
function readStyle(text: string): SheetStyle {
  try {
    return someStyleSchema.safeParse(JSON.parse(text)).data ?? USUAL_STYLE;
  } catch {
    return USUAL_STYLE;
  }
}

export const useLook = defineStore('look', () => {
  const usual = useStorage<SheetStyle>('nokta-style', USUAL_STYLE, undefined, {
    // Replaced, never written into: plain values can go to a worker as they are.
    shallow: true,
    serializer: { read: readStyle, write: (style) => JSON.stringify(style) },
  });
  const owned = shallowRef<OwnedStyle | null>(null);
  const style = computed<SheetStyle>(() => owned.value?.style ?? usual.value);

  function change(some: Partial<SheetStyle>): void {
    const next = { ...style.value, ...some };
    if (owned.value) owned.value.keep(next);
    else usual.value = next;
  }
  /** Lanes stay in their order, however they are ticked. */
  function toggleLane(lane: LaneId): void {
    const { lanes } = style.value;
    change({ lanes: LANE_IDS.filter((id) => (id === lane ? !lanes.includes(id) : lanes.includes(id))) });
  }

  return {
    usual,
    owned,
    style,
    names: computed<Names>(() => style.value.names),
    tab: computed<TabStyle>(() => style.value.tab),
    change,
    toggleLane,
    call: (names: Partial<Names>) => change({ names: { ...style.value.names, ...names } }),
    draw: (tab: Partial<TabStyle>) => change({ tab: { ...style.value.tab, ...tab } }),
  };
});

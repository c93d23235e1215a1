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
  readStyle,
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

/** What is kept in the browser as JSON, read by what knows its older shapes. */
export function storedAs<Value>(read: (stored: unknown) => Value, usual: Value) {
  return {
    // Replaced, never written into: plain values can go to a worker as they are.
    shallow: true,
    serializer: {
      read(text: string): Value {
        try {
          return read(JSON.parse(text));
        } catch {
          return usual;
        }
      },
      write: (value: Value) => JSON.stringify(value),
    },
  };
}

export const useLook = defineStore('look', () => {
  const usual = useStorage<SheetStyle>('nokta-style', USUAL_STYLE, undefined, storedAs(readStyle, USUAL_STYLE));
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

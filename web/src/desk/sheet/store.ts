/** The sheet as it is wished and as it was laid out: style, pages, which page is looked at and how large. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { LANE_IDS, SHEET_PRESETS, USUAL_STYLE, type LaneId, type PresetId, type SheetStyle } from '@nokta/core/sheet';
import { api, fileUrl, messageOf } from '../../api/client.ts';
import { useLook } from '../../settings/look.ts';
import { useWishedLanes } from '../shared/lanes.ts';
import { useDesk } from '../store.ts';

/** A style that a teacher uses again. */
export interface NamedStyle {
  readonly name: string;
  readonly style: SheetStyle;
}

/** Shares of the room's width. */
const ZOOMS = [0.5, 0.75, 1, 1.4, 2] as const;

export const useSheet = defineStore('sheet', () => {
  const desk = useDesk();
  const lanes = useWishedLanes();
  const look = useLook();
  const stored = useStorage<SheetStyle>('nokta-sheet', USUAL_STYLE, undefined, { mergeDefaults: true });
  const named = useStorage<readonly NamedStyle[]>('nokta-sheet-styles', []);
  /** Lanes are those of the desk: what is seen is what is printed. */
  const style = computed<SheetStyle>(() => ({
    ...stored.value,
    lanes: LANE_IDS.filter((id) => lanes.value.includes(id)),
    names: look.names,
    tab: look.tab,
    phrase: stored.value.layout === 'cue' ? (desk.selectedPhrase?.id ?? null) : null,
  }));
  const pages = shallowRef<readonly string[]>([]);
  const failure = ref('');
  const page = ref(0);
  const zoom = ref(2);
  /** Somebody looks at it. */
  const wanted = ref(false);

  function change({ lanes: wished, ...more }: Partial<SheetStyle>): void {
    if (wished) lanes.value = wished;
    stored.value = { ...stored.value, ...more };
  }
  const toggleLane = (lane: LaneId): void =>
    change({ lanes: LANE_IDS.filter((id) => (id === lane ? !lanes.value.includes(id) : lanes.value.includes(id))) });
  const take = (preset: PresetId): void => change(SHEET_PRESETS[preset]);
  /** The preset that the sheet is like just now. */
  const preset = computed<PresetId | null>(
    () =>
      (Object.keys(SHEET_PRESETS) as PresetId[]).find((id) => {
        const { staff, layout, lanes: own } = SHEET_PRESETS[id];
        return (
          staff === style.value.staff &&
          layout === style.value.layout &&
          [...own].sort().join() === [...style.value.lanes].sort().join()
        );
      }) ?? null,
  );

  function keep(name: string): void {
    const others = named.value.filter((one) => one.name !== name);
    named.value = [...others, { name, style: style.value }].sort((a, b) => a.name.localeCompare(b.name));
  }
  const forget = (name: string): void => void (named.value = named.value.filter((one) => one.name !== name));

  let asked = 0;
  watch(
    () =>
      [
        wanted.value,
        desk.record?.id,
        desk.record?.revision,
        desk.saveState,
        desk.tune?.revision,
        style.value,
        desk.round,
      ] as const,
    async ([on, id, , state]) => {
      if (!on || !id || state === 'saving') return;
      const turn = (asked += 1);
      try {
        const found = await api.sheet(id, style.value, desk.round);
        if (turn !== asked) return;
        pages.value = found.pages;
        page.value = Math.min(page.value, found.pages.length - 1);
        failure.value = '';
      } catch (error) {
        if (turn === asked) failure.value = messageOf(error);
      }
    },
    { immediate: true },
  );

  return {
    style,
    named,
    pages,
    failure,
    page,
    wanted,
    preset,
    change,
    toggleLane,
    take,
    keep,
    forget,
    zoom: computed(() => ZOOMS[zoom.value]!),
    zoomBy: (by: 1 | -1) => void (zoom.value = Math.min(ZOOMS.length - 1, Math.max(0, zoom.value + by))),
    turn: (by: 1 | -1) => void (page.value = Math.min(pages.value.length - 1, Math.max(0, page.value + by))),
    pdf: computed(() => (desk.record ? fileUrl.pdf(desk.record.id, style.value, desk.round) : '')),
  };
});

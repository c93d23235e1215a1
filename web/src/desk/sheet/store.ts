/** The sheet as it was laid out: its pages, which is looked at and how large; styles by name, and whose they are. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { PAGE_KINDS, SHEET_PRESETS, readStyle, type PageKind, type PresetId, type SheetStyle } from '@nokta/core/paper';
import { api, fileUrl, messageOf } from '../../api/client.ts';
import { storedAs, useLook } from '../../settings/look.ts';
import { useDesk } from '../store.ts';

/** A style that a teacher uses again. */
export interface NamedStyle {
  readonly name: string;
  readonly style: SheetStyle;
}

type StylesByName = Readonly<Record<string, SheetStyle>>;

const readNamed = (stored: unknown): readonly NamedStyle[] =>
  (stored as readonly NamedStyle[]).map(({ name, style }) => ({ name: String(name), style: readStyle(style) }));
const readByName = (stored: unknown): StylesByName =>
  Object.fromEntries(Object.entries(stored as StylesByName).map(([name, style]) => [name, readStyle(style)]));

/** Shares of the room's width. */
const ZOOMS = [0.5, 0.75, 1, 1.4, 2] as const;
/** The name of a style that nobody gave one. */
const UNNAMED = 'Own style';

export const useSheet = defineStore('sheet', () => {
  const desk = useDesk();
  const look = useLook();
  const named = useStorage<readonly NamedStyle[]>('nokta-sheet-styles', [], undefined, storedAs(readNamed, []));
  /** Styles of learners' hands, by their names. */
  const ofHands = useStorage<StylesByName>('nokta-hand-styles', {}, undefined, storedAs(readByName, {}));
  const hand = computed(() => desk.record?.decisions.hand.learner?.name ?? null);
  const own = computed(() => desk.record?.decisions.sheet.style ?? null);

  // An arrangement's own style is stronger than its hand's, and that than the usual one.
  watch(
    [own, hand, ofHands],
    ([kept, name]) => {
      const handStyle = name === null ? undefined : ofHands.value[name];
      if (kept) look.owned = { style: kept.style, keep: (style) => void keepHere(style, kept.name) };
      else if (name !== null && handStyle)
        look.owned = { style: handStyle, keep: (style) => (ofHands.value = { ...ofHands.value, [name]: style }) };
      else look.owned = null;
    },
    { immediate: true },
  );

  /** With this arrangement, to be undone like any decision. */
  function keepHere(style: SheetStyle, name = UNNAMED): Promise<void> {
    return desk.decide({ sheet: { style: { name, style } } }, 'how this sheet looks');
  }
  const leaveHere = (): Promise<void> => desk.decide({ sheet: { style: null } }, 'the usual look of the sheet');
  function keepForHand(on: boolean): void {
    if (hand.value === null) return;
    const { [hand.value]: _, ...others } = ofHands.value;
    ofHands.value = on ? { ...others, [hand.value]: look.style } : others;
  }

  const style = computed<SheetStyle>(() => ({
    ...look.style,
    phrase: look.style.layout === 'cue' ? (desk.selectedPhrase?.id ?? null) : null,
  }));
  const pages = shallowRef<readonly string[]>([]);
  const failure = ref('');
  const page = ref(0);
  const zoom = ref(2);
  /** Somebody looks at it. */
  const wanted = ref(false);

  const take = (preset: PresetId): void => look.change(SHEET_PRESETS[preset]);
  /** The preset that the sheet is like just now. */
  const preset = computed<PresetId | null>(
    () =>
      (Object.keys(SHEET_PRESETS) as PresetId[]).find((id) => {
        const { staff, layout, lanes } = SHEET_PRESETS[id];
        return (
          staff === style.value.staff &&
          layout === style.value.layout &&
          [...lanes].sort().join() === [...style.value.lanes].sort().join()
        );
      }) ?? null,
  );
  /** At least one kind of page is always there. */
  function togglePages(kind: PageKind): void {
    const chosen = style.value.pages;
    const next = PAGE_KINDS.filter((id) => (id === kind ? !chosen.includes(id) : chosen.includes(id)));
    if (next.length > 0) look.change({ pages: next });
  }

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
    hand,
    own,
    forHand: computed(() => hand.value !== null && hand.value in ofHands.value),
    pages,
    failure,
    page,
    wanted,
    preset,
    take,
    togglePages,
    keep,
    forget,
    keepHere,
    leaveHere,
    keepForHand,
    zoom: computed(() => ZOOMS[zoom.value]!),
    zoomBy: (by: 1 | -1) => void (zoom.value = Math.min(ZOOMS.length - 1, Math.max(0, zoom.value + by))),
    turn: (by: 1 | -1) => void (page.value = Math.min(pages.value.length - 1, Math.max(0, page.value + by))),
    pdf: computed(() => (desk.record ? fileUrl.pdf(desk.record.id, style.value, desk.round) : '')),
    png: computed(() => (desk.record ? fileUrl.png(desk.record.id, style.value, page.value + 1, desk.round) : '')),
  };
});

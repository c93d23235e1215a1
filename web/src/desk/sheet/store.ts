/** The sheet as it was laid out: its pages, which is looked at and how large; styles by name, and whose they are. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { PAGE_KINDS, SHEET_PRESETS, type PageKind, type PresetId, type SheetStyle } from '@nokta/core/paper';
import { api, fileUrl, messageOf } from '../../api/client.ts';
import { useKept } from '../../kept/store.ts';
import { useLearners } from '../../learners/store.ts';
import { useLook } from '../../settings/look.ts';
import { moveStyles } from '../../settings/older.ts';
import { useDesk } from '../rooms/store.ts';

/** Shares of the room's width. */
const ZOOMS = [0.5, 0.75, 1, 1.4, 2] as const;
/** The name of a style that nobody gave one. */
const UNNAMED = 'Own style';

export const useSheet = defineStore('sheet', () => {
  const desk = useDesk();
  const look = useLook();
  const kept = useKept();
  const learners = useLearners();
  const named = computed(() => kept.of('style'));
  void kept.load().then(moveStyles);
  const learner = computed(() => desk.record?.decisions.hand.learner ?? null);
  const known = computed(() => learners.find(learner.value?.id));
  const hand = computed(() => learner.value && learners.nameOf(learner.value));
  const own = computed(() => desk.record?.decisions.sheet.style ?? null);

  // An arrangement's own style is stronger than its learner's, and that than the usual one.
  watch(
    [own, known],
    ([here, of]) => {
      if (here) look.owned = { style: here.style, keep: (style) => void keepHere(style, here.name) };
      else if (of?.value.paper.style) look.owned = { style: of.value.paper.style, keep: (style) => keepFor(style) };
      else look.owned = null;
    },
    { immediate: true },
  );

  /** With this arrangement, to be undone like any decision. */
  function keepHere(style: SheetStyle, name = UNNAMED): Promise<void> {
    return desk.decide({ sheet: { style: { name, style } } }, 'how this sheet looks');
  }
  const leaveHere = (): Promise<void> => desk.decide({ sheet: { style: null } }, 'the usual look of the sheet');
  /** With the learner, for all that is printed for them; null for the usual look. */
  function keepFor(style: SheetStyle | null): void {
    if (known.value) learners.change(known.value.id, (now) => ({ ...now, paper: { style } }), 'how their sheets look');
  }
  const keepForHand = (on: boolean): void => keepFor(on ? look.style : null);

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

  const keep = (name: string): Promise<boolean> => kept.keep('style', name, { style: style.value });
  const forget = (id: string): Promise<boolean> => kept.drop(id);

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
    canKeepForHand: computed(() => known.value !== null),
    forHand: computed(() => (known.value?.value.paper.style ?? null) !== null),
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

/**
 * Where writing stands in a tune, and what is chosen there. Two ways to be at a note: with the caret behind it, letters
 * write new notes; with a box around it, letters, lengths and signs change it.
 */
import { computed, ref, watch, type Ref } from 'vue';
import { spotOf } from '@nokta/core/edit';
import { NOTE_NAMES, barNumbers, printedName, type Tune, type TuneEvent } from '@nokta/core/music';

export type CaretMode = 'caret' | 'box';
/** A line of text that is typed under or over notes. */
export type TextEntry = 'words' | 'chord';

/** Keeps a change as one step. @param why said where nothing changes @returns whether anything did */
export type Edit = (next: Tune | null, label: string, why?: string) => boolean;

export type Caret = ReturnType<typeof createCaret>;

/** @param say tells where it stands after each move */
export function createCaret(tune: Readonly<Ref<Tune | null>>, say: (text: string) => void) {
  /** Event that the caret stands behind, or the box around; null before the first. */
  const at = ref<string | null>(null);
  const mode = ref<CaretMode>('box');
  /** Other end of the selection. */
  const anchor = ref<string | null>(null);
  const entry = ref<TextEntry | null>(null);

  const events = computed<readonly TuneEvent[]>(() => tune.value?.bars.flatMap((bar) => bar.events) ?? []);
  const place = computed(() => events.value.findIndex(({ id }) => id === at.value));
  const current = computed(() => events.value[place.value] ?? null);
  const barIndex = computed(() => (tune.value && at.value ? (spotOf(tune.value, at.value)?.bar ?? 0) : 0));

  /** Chosen events, from anchor to caret; the one at the caret alone. */
  const chosen = computed<ReadonlySet<string>>(() => {
    if (at.value === null) return new Set();
    const other = events.value.findIndex(({ id }) => id === anchor.value);
    if (anchor.value === null || other < 0) return new Set([at.value]);
    const [from, to] = [Math.min(place.value, other), Math.max(place.value, other)];
    return new Set(events.value.slice(from, to + 1).map(({ id }) => id));
  });
  const chosenBars = computed(() => {
    const bars = tune.value?.bars ?? [];
    const found = bars.flatMap(({ events: list }, index) =>
      list.some(({ id }) => chosen.value.has(id)) ? [index] : [],
    );
    return { from: found[0] ?? 0, to: found.at(-1) ?? 0 };
  });

  // Undo may take the note away that the caret stood at.
  watch(events, (now) => {
    if (at.value !== null && !now.some(({ id }) => id === at.value)) at.value = now.at(-1)?.id ?? null;
    if (anchor.value !== null && !now.some(({ id }) => id === anchor.value)) anchor.value = null;
  });

  /** Around a note that is there, or behind the last one. */
  function stand(where: string | null): void {
    const known = where !== null && events.value.some(({ id }) => id === where);
    at.value = known ? where : (events.value.at(-1)?.id ?? null);
    mode.value = known ? 'box' : 'caret';
    anchor.value = null;
    entry.value = null;
  }

  /** What stands at the caret, in words. */
  function describe(): string {
    const now = current.value;
    if (!now || !tune.value) return 'At the start';
    const number = barNumbers(tune.value.bars)[barIndex.value];
    const dots = now.value.dots > 0 ? 'dotted ' : '';
    const what =
      now.kind === 'rest' ? 'rest' : now.heads.map(({ pitch }) => `${printedName(pitch)}${pitch.octave}`).join(' and ');
    return `${what}, ${dots}${NOTE_NAMES[now.value.type]}, bar ${number}`;
  }

  function move(by: number, extend: boolean): void {
    const last = events.value.length - 1;
    const target = Math.max(0, Math.min(last, place.value + by));
    const id = events.value[target]?.id ?? null;
    if (extend) anchor.value ??= at.value;
    else anchor.value = null;
    // The first arrow key after writing boxes the note that was written last.
    const boxing = mode.value === 'caret' && !extend;
    mode.value = 'box';
    at.value = boxing && by < 0 ? at.value : id;
    say(describe());
  }

  function moveBar(by: 1 | -1, extend: boolean): void {
    const bars = tune.value?.bars ?? [];
    const target = bars[Math.max(0, Math.min(bars.length - 1, barIndex.value + by))];
    const to = events.value.findIndex(({ id }) => id === target?.events[0]?.id);
    move(to - place.value, extend);
  }

  function goTo(id: string, extend = false): void {
    if (extend) anchor.value ??= at.value;
    else anchor.value = null;
    at.value = id;
    mode.value = 'box';
    say(describe());
  }

  function toEdge(end: boolean): void {
    anchor.value = null;
    at.value = (end ? events.value.at(-1) : events.value[0])?.id ?? null;
    mode.value = end ? 'caret' : 'box';
    say(describe());
  }

  function toggleMode(): void {
    anchor.value = null;
    mode.value = mode.value === 'caret' && at.value !== null ? 'box' : 'caret';
    say(mode.value === 'caret' ? `Writing after ${describe()}` : describe());
  }

  /** To the next note, over rests and notes that a tie holds. */
  function nextNote(by: 1 | -1): boolean {
    let target = place.value + by;
    while (events.value[target] && entry.value === 'words' && events.value[target]!.kind === 'rest') target += by;
    const id = events.value[target]?.id;
    if (!id) return false;
    goTo(id);
    return true;
  }

  return {
    at,
    mode,
    anchor,
    entry,
    events,
    place,
    current,
    barIndex,
    chosen,
    chosenBars,
    stand,
    describe,
    move,
    moveBar,
    goTo,
    toEdge,
    toggleMode,
    nextNote,
  };
}

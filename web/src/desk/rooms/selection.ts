/** What is chosen on the desk: a note, several, the phrase around them; and what is pointed at. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import type { Phrase } from '@nokta/core/form';
import type { FingeredNote } from '@nokta/core/hand';

export type Selection = ReturnType<typeof createSelection>;

/** @param refused why the last thing asked for could not be done: gone when something else is chosen */
export function createSelection(
  notes: Readonly<Ref<readonly FingeredNote[]>>,
  phrases: Readonly<Ref<readonly Phrase[]>>,
  refused: Ref<string | null>,
) {
  const selectedId = ref<string | null>(null);
  /** Where choosing several notes began; they reach from here to the selected one. */
  const rangeFrom = ref<string | null>(null);
  /** A note that a panel asks for; the desk brings it into view. */
  const wanted = shallowRef<{ readonly note: string } | null>(null);
  /** Notes that something pointed at is about: a difference, a lick. */
  const hinted = shallowRef<ReadonlySet<string>>(new Set());

  const selected = computed(() => notes.value.find(({ ids }) => ids.includes(selectedId.value ?? '')) ?? null);
  const selectedPhrase = computed(() => phraseOf(selected.value?.id ?? null) ?? phrases.value[0] ?? null);
  /** What leads to the selected note. */
  const graces = computed<readonly FingeredNote[]>(() => {
    const note = selected.value;
    return note && !note.grace ? notes.value.filter(({ grace, of }) => grace && of === note.id) : [];
  });
  /** The notes that are chosen together; empty where only one is selected. */
  const range = computed<readonly FingeredNote[]>(() => {
    const from = notes.value.findIndex(({ ids }) => ids.includes(rangeFrom.value ?? ''));
    const to = selected.value ? notes.value.indexOf(selected.value) : -1;
    return from < 0 || to < 0 ? [] : notes.value.slice(Math.min(from, to), Math.max(from, to) + 1);
  });

  /** The phrase that a note, or a grace before it, belongs to. */
  function phraseOf(noteId: string | null): Phrase | undefined {
    const own = notes.value.find(({ ids }) => ids.includes(noteId ?? ''))?.of ?? noteId;
    return own === null ? undefined : phrases.value.find((phrase) => phrase.notes.includes(own));
  }

  /** Selects a note. @param more goes on choosing from where the selection was */
  function choose(noteId: string, more = false): void {
    if (more) rangeFrom.value ??= selectedId.value;
    // The focus that follows a step of choosing is no new choice.
    else if (!selected.value?.ids.includes(noteId)) rangeFrom.value = null;
    refused.value = null;
    selectedId.value = noteId;
  }

  function select(note: string): void {
    choose(note);
    wanted.value = { note };
  }

  /** The first note, where the one that was selected is gone. */
  function settle(): void {
    if (!selected.value) selectedId.value = notes.value[0]?.id ?? null;
  }

  function clear(): void {
    selectedId.value = null;
    rangeFrom.value = null;
  }

  // Something is always selected, however the notes came.
  watch(notes, (now) => (selectedId.value ??= now[0]?.id ?? null));

  return {
    selectedId,
    rangeFrom,
    wanted,
    hinted,
    selected,
    selectedPhrase,
    graces,
    range,
    phraseOf,
    choose,
    select,
    settle,
    clear,
  };
}

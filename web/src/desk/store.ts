/**
 * The desk's state: one tune, its arrangements, what is computed from them, and what is selected.
 * A decision is shown at once and saved in the background, one after the other.
 */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { ArrangementRecord, TuneRecord } from '@nokta/api';
import { bestOctave, type Arrangement, type Decisions, type VersionId } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { lockOf, type FingeredNote, type Stop } from '@nokta/core/hand';
import type { InstrumentId } from '@nokta/core/instrument';
import type { EngravedLine } from '@nokta/engrave';
import { RefusedError, api, messageOf } from '../api/client.ts';
import { arranger, engraver } from '../workers/index.ts';

export type SaveState = 'saved' | 'saving' | 'failed';

export const useDesk = defineStore('desk', () => {
  const tune = shallowRef<TuneRecord | null>(null);
  const records = shallowRef<readonly ArrangementRecord[]>([]);
  const currentId = ref<string | null>(null);
  const arrangement = shallowRef<Arrangement | null>(null);
  const staves = shallowRef<ReadonlyMap<string, EngravedLine>>(new Map());
  const selectedId = ref<string | null>(null);
  const playingId = ref<string | null>(null);
  const saveState = ref<SaveState>('saved');
  const problem = ref<string | null>(null);
  const spoken = ref('');

  /** A decision that is on screen but did not reach the server. */
  let unsaved: { id: string; label: string } | null = null;
  let saving: Promise<void> = Promise.resolve();
  /** Goes up when what is shown was replaced by what another window wrote; saves still waiting are void. */
  let epoch = 0;
  let waiting = 0;
  let computing = 0;
  let engraving = 0;

  const record = computed(() => records.value.find(({ id }) => id === currentId.value) ?? null);
  const phrases = computed<readonly Phrase[]>(() => (arrangement.value ? phrasesOf(arrangement.value.form) : []));
  const notes = computed<readonly FingeredNote[]>(() => arrangement.value?.fingering.notes ?? []);
  const selected = computed(() => notes.value.find(({ ids }) => ids.includes(selectedId.value ?? '')) ?? null);
  const selectedPhrase = computed(() => phraseOf(selected.value?.id ?? null) ?? phrases.value[0] ?? null);

  /** The phrase that a note, or a grace before it, belongs to. */
  function phraseOf(noteId: string | null): Phrase | undefined {
    const own = noteId?.replace(/g\d+$/, '');
    return own === undefined ? undefined : phrases.value.find((phrase) => phrase.notes.includes(own));
  }

  async function open(id: string): Promise<void> {
    if (tune.value?.id !== id) close();
    try {
      const opened = await api.tune(id);
      tune.value = opened;
      records.value = opened.arrangements;
      currentId.value = opened.arrangements.some((other) => other.id === currentId.value)
        ? currentId.value
        : (opened.arrangements[0]?.id ?? null);
      problem.value = null;
      await compute();
      selectedId.value ??= notes.value[0]?.id ?? null;
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  function close(): void {
    tune.value = null;
    records.value = [];
    arrangement.value = null;
    staves.value = new Map();
    selectedId.value = null;
    problem.value = null;
  }

  /** Works everything out anew; a newer call makes an older one's result void. */
  async function compute(): Promise<void> {
    if (!tune.value || !record.value) return;
    const turn = (computing += 1);
    const result = await arranger.arrange(tune.value.tune, record.value.decisions);
    if (turn !== computing) return;
    const before = arrangement.value;
    arrangement.value = result;
    const samePicture =
      before && sameStaff(before.decisions, result.decisions) && before.tune.title === result.tune.title;
    if (!samePicture || staves.value.size === 0) await engrave(result);
  }

  /** Fills the strips from the top, each as soon as it is engraved. */
  async function engrave(result: Arrangement): Promise<void> {
    const turn = (engraving += 1);
    const lines = new Map<string, EngravedLine>();
    for (const phrase of phrasesOf(result.form)) {
      const line = await engraver.engrave({ tune: result.tune, decisions: result.decisions }, phrase);
      if (turn !== engraving) return;
      lines.set(phrase.id, line);
      staves.value = new Map([...staves.value, ...lines]);
    }
    staves.value = lines;
  }

  /** Shows the change at once and saves it. `label` is what undo will call it. */
  function decide(change: Partial<Decisions>, label: string): Promise<void> {
    const now = record.value;
    if (!now) return Promise.resolve();
    const decisions = { ...now.decisions, ...change };
    put({ ...now, decisions });
    saveDecisions(now.id, decisions, label);
    return compute();
  }

  function saveDecisions(id: string, decisions: Decisions, label: string): void {
    save(id, label, (version) => api.decide(id, version, decisions, label));
  }

  /** Sends again what could not be saved; with nothing unsaved, opens the tune anew. */
  function retry(): void {
    const now = records.value.find(({ id }) => id === unsaved?.id);
    problem.value = null;
    if (unsaved && now) saveDecisions(now.id, now.decisions, unsaved.label);
    else if (tune.value) void open(tune.value.id);
  }

  function put(next: ArrangementRecord): void {
    records.value = records.value.map((other) => (other.id === next.id ? next : other));
  }

  /** Saves stand in line, so that each knows the version that the one before it made. */
  function save(id: string, label: string, send: (version: number) => Promise<ArrangementRecord>): void {
    const own = epoch;
    waiting += 1;
    saveState.value = 'saving';
    saving = saving.then(async () => {
      try {
        if (own !== epoch) return;
        const saved = await send(records.value.find((other) => other.id === id)?.version ?? 1);
        // Later decisions are on screen already; only what the save itself made is taken over.
        const shown = records.value.find((other) => other.id === id);
        put(waiting === 1 || !shown ? saved : { ...saved, decisions: shown.decisions });
        unsaved = null;
        if (waiting === 1) saveState.value = 'saved';
      } catch (error) {
        failed(error, id, label);
      } finally {
        waiting -= 1;
      }
    });
  }

  function failed(error: unknown, id: string, label: string): void {
    problem.value = messageOf(error);
    if (error instanceof RefusedError && error.body.current && 'decisions' in error.body.current) {
      epoch += 1;
      put(error.body.current);
      saveState.value = 'saved';
      void compute();
    } else {
      unsaved = { id, label };
      saveState.value = 'failed';
    }
  }

  async function step(direction: 'undo' | 'redo'): Promise<void> {
    await saving;
    const now = record.value;
    const label = now?.[direction];
    if (!now || !label) return;
    save(now.id, label, (version) => api[direction](now.id, version));
    await saving;
    spoken.value = `${direction === 'undo' ? 'Undone' : 'Done again'}: ${label}`;
    await compute();
  }

  /** Another version of the tune is an arrangement of its own, made when first asked for. */
  async function showVersion(version: VersionId): Promise<void> {
    const now = record.value;
    if (!now || !tune.value || now.decisions.version === version) return;
    await saving;
    const known = records.value.find(({ decisions }) => decisions.version === version);
    try {
      const next = known ?? (await api.arrange(tune.value.id, { ...now.decisions, version, locks: {} }));
      if (!known) records.value = [...records.value, next];
      currentId.value = next.id;
      staves.value = new Map();
      await compute();
      if (!selected.value) selectedId.value = notes.value[0]?.id ?? null;
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  function setInstrument(instrument: InstrumentId): Promise<void> {
    const now = record.value?.decisions;
    if (!now || !tune.value || now.instrument === instrument) return Promise.resolve();
    const change = { ...now, instrument, tuning: 'standard', transpose: ((now.transpose % 12) + 12) % 12 };
    return decide({ ...change, transpose: bestOctave(tune.value.tune, change) }, `set for ${instrument}`);
  }

  function lock(note: FingeredNote, stops: readonly Stop[], label: string): Promise<void> {
    const now = record.value?.decisions;
    if (!now) return Promise.resolve();
    return decide({ locks: { ...now.locks, [note.id]: lockOf({ stops }, now.instrument) } }, label);
  }

  function unlock(noteId: string): Promise<void> {
    const now = record.value?.decisions;
    if (!now?.locks[noteId]) return Promise.resolve();
    const { [noteId]: _, ...locks } = now.locks;
    return decide({ locks }, 'free a finger');
  }

  async function rename(title: string): Promise<void> {
    const now = tune.value;
    if (!now || title.trim() === '' || title === now.title) return;
    try {
      const renamed = await api.rename(now.id, title, now.version);
      tune.value = {
        ...now,
        title: renamed.title,
        version: renamed.version,
        tune: { ...now.tune, title: renamed.title },
      };
      await compute();
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  return {
    tune,
    record,
    records,
    arrangement,
    staves,
    phrases,
    notes,
    selectedId,
    selected,
    selectedPhrase,
    playingId,
    saveState,
    problem,
    spoken,
    open,
    close,
    retry,
    compute,
    decide,
    step,
    showVersion,
    setInstrument,
    lock,
    unlock,
    rename,
    phraseOf,
  };
});

/** Whether two sets of decisions give the same staff, so that nothing needs engraving anew. */
function sameStaff(a: Decisions, b: Decisions): boolean {
  return a.transpose === b.transpose && a.version === b.version && a.instrument === b.instrument;
}

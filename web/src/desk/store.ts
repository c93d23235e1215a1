/**
 * The desk's state: one tune, its arrangements, what is computed from them, and what is selected.
 * A decision is shown at once and saved in the background, one after the other.
 */
import { dequal } from 'dequal';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ArrangementRecord, TuneRecord, TuneState } from '@nokta/api';
import { decided, piecesBetween, type DecisionChange } from '@nokta/core/arrange';
import { v4 as newId } from 'uuid';
import { changeBetween } from '@nokta/core/edit';
import { phrasesOf, type PartingResult, type Phrase } from '@nokta/core/form';
import { neededAgain, type FingeredNote } from '@nokta/core/hand';
import type { InstrumentId, InstrumentMake } from '@nokta/core/instrument';
import type { Bowing, Travelling } from '@nokta/core/bow';
import type { Bpm, Midi, Tune } from '@nokta/core/music';
import type { Score } from '@nokta/core/practice';
import { partingText } from '@nokta/core/words';
import { RefusedError, UnreachableError, api, messageOf } from '../api/client.ts';
import { useOutbox } from '../outbox/outbox.ts';
import { decisionsWith, keyOf, tuneWith, withWaiting, type Delivery, type Queue } from '../outbox/queue.ts';
import { useShownStrips } from './shared/shown.ts';
import { useLook } from '../settings/look.ts';
import { stripSource } from './shared/strips.ts';
import { STALE } from '../workers/protocol.ts';
import { createArranging, setFor } from './arranging.ts';
import { createWorking } from './working.ts';

export type SaveState = Delivery;

/** What a phrase is heard with instead of what holds: other strokes, or the tune that a version was made from. */
export interface Heard {
  readonly bowing?: Bowing;
  readonly tune?: Tune;
  /** Several at once: a group that plays together. */
  readonly tunes?: readonly Tune[];
}

/** Something to play beside the tune, at its own tempo in quarters a minute. */
export interface Drill {
  readonly score: Score;
  readonly tempo: Bpm;
}

/** Undo walks along what the server has. */
const NOT_YET = 'What was changed before is not saved yet. Undo when it is.';

/** Bars of an echo are none of the tune's: what is parted here would be parted elsewhere there. */
const ECHOES_PARTED =
  'This arrangement plays echoes, which are no bars of the tune. Part the tune in an arrangement without them.';

/** Asks once more where no answer came: it may only have been lost. */
const twice = <T>(ask: () => Promise<T>): Promise<T> =>
  ask().catch((error: unknown) => {
    if (error instanceof UnreachableError) return ask();
    throw error;
  });

export const useDesk = defineStore('desk', () => {
  const look = useLook();
  const tune = shallowRef<TuneRecord | null>(null);
  const records = shallowRef<readonly ArrangementRecord[]>([]);
  const currentId = ref<string | null>(null);
  const selectedId = ref<string | null>(null);
  /** Where choosing several notes began; they reach from here to the selected one. */
  const rangeFrom = ref<string | null>(null);
  const playingId = ref<string | null>(null);
  const outbox = useOutbox();
  /** Undo and redo that are on their way to the server. */
  const stepsUnderway = ref(0);
  const saveState = computed<SaveState>(() => {
    const delivery = tune.value ? outbox.delivery(tune.value.id) : 'saved';
    return delivery === 'saved' && stepsUnderway.value > 0 ? 'saving' : delivery;
  });
  /** What went wrong in opening, undoing or making a version. */
  const ownProblem = ref<string | null>(null);
  const problem = computed(() => ownProblem.value ?? (saveState.value === 'waiting' ? outbox.problem : null));
  /** A note that a panel asks for; the desk brings it into view. */
  const wanted = shallowRef<{ readonly note: string } | null>(null);
  const select = (note: string) => {
    choose(note);
    wanted.value = { note };
  };
  /** A phrase that a panel wants to be heard; goes up with each wish. */
  const hearing = ref(0);
  /** Strokes that it shall be heard with, before they are taken; null for those that hold. */
  const heardWith = shallowRef<Heard | null>(null);
  function hear(heard: Heard | null = null): void {
    heardWith.value = heard;
    hearing.value += 1;
  }
  /** A drill that a panel wants to be heard, which is no part of the tune. */
  const drill = shallowRef<Drill | null>(null);
  const hearDrill = (wanted: Drill): void => void (drill.value = { ...wanted });
  /** Whoever can sound pitches by themselves: the player. */
  const sounder = shallowRef<(pitches: readonly Midi[]) => void>(() => undefined);
  /** Notes that something pointed at is about: a difference, a lick. */
  const hinted = shallowRef<ReadonlySet<string>>(new Set());
  const spoken = ref('');
  /** Why the last thing asked for could not be done; shown until something else is. */
  const refused = ref<string | null>(null);

  const record = computed(() => records.value.find(({ id }) => id === currentId.value) ?? null);
  /** Which time round is looked at, where phrases change when they come again. */
  const round = ref(1);
  const working = createWorking(() =>
    tune.value && record.value
      ? { tune: tune.value.tune, decisions: record.value.decisions, timeRound: round.value }
      : null,
  );
  const { facts: arrangement, staves, compute, refresh, showStrips } = working;
  const phrases = computed<readonly Phrase[]>(() => (arrangement.value ? phrasesOf(arrangement.value.form) : []));
  const notes = computed<readonly FingeredNote[]>(() => arrangement.value?.fingering.notes ?? []);
  /** Where the bow is on its hair; worked out only while something that shows it is open. */
  const travel = shallowRef<Travelling | null>(null);
  const travelWanted = ref(false);
  /** Quarters a minute at which the tune is heard just now; null before anything says so. */
  const heardTempo = ref<number | null>(null);
  watch([arrangement, travelWanted, heardTempo], async ([now, wanted, tempo]) => {
    if (!wanted || !now) return;
    const other = tempo !== null && tempo !== now.tempo;
    const found = await (other ? working.ask('travelAt', tempo) : working.ask('travel'));
    if (found !== STALE && tempo === heardTempo.value) travel.value = found;
  });
  /** What was worked out for other strokes is not laid under these. */
  const shownTravel = computed(() =>
    travelWanted.value && travel.value?.strokes.length === arrangement.value?.bowing.strokes.length
      ? travel.value
      : null,
  );
  const stripsSource = computed(() =>
    arrangement.value
      ? stripSource(arrangement.value, shownTravel.value ?? (travelWanted.value ? 'coming' : null), {
          names: look.names,
          tab: look.tab,
        })
      : null,
  );
  const shownStrips = useShownStrips(() => stripsSource.value);
  const selected = computed(() => notes.value.find(({ ids }) => ids.includes(selectedId.value ?? '')) ?? null);
  const selectedPhrase = computed(() => phraseOf(selected.value?.id ?? null) ?? phrases.value[0] ?? null);

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

  async function open(id: string): Promise<void> {
    if (tune.value?.id !== id) close();
    try {
      await outbox.begin();
      const opened = withWaiting(await api.tune(id), outbox.ofTune(id));
      tune.value = opened;
      records.value = opened.arrangements;
      currentId.value = opened.arrangements.some((other) => other.id === currentId.value)
        ? currentId.value
        : (opened.arrangements[0]?.id ?? null);
      ownProblem.value = null;
      await compute();
    } catch (error) {
      ownProblem.value = messageOf(error);
    }
  }

  function close(): void {
    tune.value = null;
    records.value = [];
    working.clear();
    selectedId.value = null;
    rangeFrom.value = null;
    round.value = 1;
    ownProblem.value = null;
  }

  // Something is always selected, however the notes came.
  watch(notes, (now) => (selectedId.value ??= now[0]?.id ?? null));

  function showRound(time: number): Promise<void> {
    round.value = time;
    return compute();
  }

  /** Shows the change at once and saves it. `label` is what undo will call it. */
  function decide(change: DecisionChange, label: string): Promise<void> {
    const now = record.value;
    if (!now) return Promise.resolve();
    const decisions = decided(now.decisions, change);
    const pieces = piecesBetween(now.decisions, decisions);
    if (pieces.length === 0) return Promise.resolve();
    put({ ...now, decisions });
    outbox.add({ kind: 'arrangement', id: now.id }, origin(now.revision), { label, decisions, pieces });
    return compute();
  }

  const origin = (revision: number) => ({ tuneId: tune.value!.id, title: tune.value!.title, revision });

  outbox.onArrived(({ id }, now, left, others) => {
    if (ownProblem.value === NOT_YET) ownProblem.value = null;
    if ('decisions' in now) {
      // Later decisions are on screen already, and stay over what the server has.
      const shown = records.value.find((other) => other.id === id);
      if (!shown) return;
      const decisions = others ? decisionsWith(now.decisions, left?.entries ?? []) : shown.decisions;
      put({ ...now, decisions });
      if (others) void compute();
      // A decision is made after whatever was undone in the tune.
      if (tune.value) tune.value = { ...tune.value, redo: null, redoAt: null };
    } else if (tune.value?.id === id) {
      if (others) {
        const next = tuneWith(now.tune, left?.entries ?? []);
        tune.value = { ...tune.value, title: next.title, tune: next };
        void compute();
      }
      takeSteps(now);
      records.value = records.value.map((other) => ({ ...other, redo: null, redoAt: null }));
    }
  });

  /** Changes the tune itself: shown at once, saved in the background as one step of its history. */
  function editTune(next: Tune, label: string): void {
    const now = tune.value;
    const change = now && changeBetween(now.tune, next);
    if (!now || !change) return;
    tune.value = { ...now, title: next.title, tune: next };
    outbox.add({ kind: 'tune', id: now.id }, origin(now.revision), { label, change, tune: next });
  }

  /** Version and steps as the server has them; the tune stays as it is on screen. */
  function takeSteps({ revision, undo, redo, undoAt, redoAt }: TuneState): void {
    if (tune.value) tune.value = { ...tune.value, revision, undo, redo, undoAt, redoAt };
  }

  /** The tune as the server has it. */
  function takeState(state: TuneState): void {
    if (!tune.value) return;
    tune.value = { ...tune.value, title: state.tune.title, tune: state.tune };
    takeSteps(state);
  }

  /** Sends again what could not be saved; with nothing unsaved, opens the tune anew. */
  function retry(): void {
    ownProblem.value = null;
    if (working.trouble.value) void working.restart();
    if (saveState.value !== 'saved') outbox.retry();
    else if (tune.value) void open(tune.value.id);
  }

  function put(next: ArrangementRecord): void {
    records.value = records.value.map((other) => (other.id === next.id ? next : other));
  }

  /** Two sides of a record: what was changed here and waits, and what the server has instead. */
  const conflict = computed<Queue | null>(
    () => (tune.value && outbox.ofTune(tune.value.id).find(({ held }) => held)) ?? null,
  );

  /** What was changed here goes on top of what somebody else changed; undo leads back to theirs. */
  function keepMine(): void {
    const queue = conflict.value;
    if (!queue?.held) return;
    const last = queue.entries.at(-1)!;
    const label = queue.entries.length === 1 ? last.label : `${queue.entries.length} changes`;
    if (queue.held.why === 'refused') return outbox.retry();
    const { theirs } = queue.held;
    if ('decisions' in theirs) {
      // What was decided here, piece by piece, over theirs: what they decided elsewhere stays.
      const decisions = decisionsWith(theirs.decisions, queue.entries);
      const pieces = piecesBetween(theirs.decisions, decisions);
      if (pieces.length === 0) return void takeTheirs();
      put({ ...theirs, decisions });
      outbox.rebase(keyOf(queue.record), theirs.revision, { label, decisions, pieces });
      return void compute();
    }
    const change = changeBetween(theirs.tune, last.tune!);
    if (!change) return void takeTheirs();
    outbox.rebase(keyOf(queue.record), theirs.revision, { label, change, tune: last.tune! });
  }

  /** What was changed here is given up. */
  async function takeTheirs(): Promise<void> {
    const queue = conflict.value;
    if (!queue?.held) return;
    outbox.drop(keyOf(queue.record));
    if (queue.held.why === 'refused') return open(queue.tuneId);
    const { theirs } = queue.held;
    if ('decisions' in theirs) put(theirs);
    else takeState(theirs);
    await compute();
  }

  /** What undo or redo would do next: of the tune's steps and the arrangement's, the latest (or the first undone). */
  function nextStep(direction: 'undo' | 'redo'): { chain: 'tune' | 'arrangement'; label: string } | null {
    const at = direction === 'undo' ? 'undoAt' : 'redoAt';
    const own = tune.value?.[at] ?? null;
    const decided = record.value?.[at] ?? null;
    if (own === null && decided === null) return null;
    const tuneFirst = decided === null || (own !== null && (direction === 'undo' ? own > decided : own < decided));
    return tuneFirst
      ? { chain: 'tune', label: tune.value?.[direction] ?? '' }
      : { chain: 'arrangement', label: record.value?.[direction] ?? '' };
  }
  const undoLabel = computed(() => nextStep('undo')?.label ?? null);
  const redoLabel = computed(() => nextStep('redo')?.label ?? null);

  /** Steps stand in line too: the second of two quick ones begins where the first has arrived. */
  let stepping: Promise<void> = Promise.resolve();
  let steps = 0;
  function step(direction: 'undo' | 'redo'): Promise<void> {
    steps += 1;
    stepping = stepping
      .catch(() => undefined)
      .then(() => takeStep(direction))
      .finally(() => (steps -= 1));
    return stepping;
  }

  /** Runs at once, or, while something is being undone, when that is done: what is decided next builds on it. */
  function afterSteps(run: () => unknown): void {
    if (steps === 0) run();
    else void stepping.catch(() => undefined).then(run);
  }

  /** The step whose answer did not come: it may have been taken, and is known by its id when it is asked for again. */
  let unanswered: { readonly asked: string; readonly entry: string } | null = null;

  async function takeStep(direction: 'undo' | 'redo'): Promise<void> {
    if (tune.value && !(await outbox.settled(tune.value.id))) {
      spoken.value = NOT_YET;
      ownProblem.value = NOT_YET;
      return;
    }
    const next = nextStep(direction);
    const now = record.value;
    const own = tune.value;
    if (!next || !now || !own) return;
    stepsUnderway.value += 1;
    const { id, revision } = next.chain === 'arrangement' ? now : own;
    const asked = `${direction} ${id} ${revision}`;
    const entry = unanswered?.asked === asked ? unanswered.entry : newId();
    unanswered = { asked, entry };
    try {
      if (next.chain === 'arrangement') put(await twice(() => api[direction](id, revision, entry)));
      else takeState(await twice(() => api[direction === 'undo' ? 'undoTune' : 'redoTune'](id, revision, entry)));
      unanswered = null;
      ownProblem.value = null;
      spoken.value = `${direction === 'undo' ? 'Undone' : 'Done again'}: ${next.label}`;
    } catch (error) {
      ownProblem.value = messageOf(error);
      const current = error instanceof RefusedError ? error.body.current : undefined;
      // Somebody else wrote meanwhile: what is there now is shown, and undone if that is still wanted.
      if (current && 'decisions' in current) put(current);
      else if (current) takeState(current);
    } finally {
      stepsUnderway.value -= 1;
    }
    await compute();
  }

  const arranging = createArranging({
    tune,
    records,
    currentId,
    record,
    problem: ownProblem,
    settled: outbox.settled,
    async shown() {
      round.value = 1;
      working.clearStaves();
      await compute();
      if (!selected.value) selectedId.value = notes.value[0]?.id ?? null;
    },
  });

  /** @param make how it differs from the usual one of its kind */
  function setInstrument(instrument: InstrumentId, make: InstrumentMake | null = null): Promise<void> {
    const now = record.value?.decisions;
    const same = dequal([now?.key.instrument, now?.key.make], [instrument, make]);
    if (!now || !tune.value || same) return Promise.resolve();
    return decide(setFor(instrument, tune.value, now, make), `set for ${make?.name.toLowerCase() ?? instrument}`);
  }

  /** Where the note's finger is needed again at the same place, soon after; null if it is not. */
  function againAt(note: FingeredNote): string | null {
    return neededAgain(notes.value, notes.value.indexOf(note))?.id ?? null;
  }

  /** Something about parts and phrases; says why where it cannot be done. @returns whether it was done */
  async function part(change: (tune: Tune) => PartingResult, label: string): Promise<boolean> {
    const now = tune.value;
    if (!now) return false;
    const echoes = Object.values(record.value?.decisions.key.phrases ?? {}).some(({ echo }) => echo !== 0);
    const result = echoes ? null : change(now.tune);
    if (!result?.ok) {
      refused.value = result ? partingText(result.why) : ECHOES_PARTED;
      spoken.value = refused.value;
      return false;
    }
    refused.value = null;
    editTune(result.tune, label);
    await compute();
    return true;
  }

  /** Title, composer and the like. */
  function setFields(fields: Partial<Tune>, label: string): Promise<void> {
    const now = tune.value;
    if (!now) return Promise.resolve();
    editTune({ ...now.tune, ...fields }, label);
    return compute();
  }

  return {
    tune,
    record,
    records,
    arrangement,
    staves,
    phrases,
    strips: shownStrips.strips,
    /** Who can tell which phrases are in sight: those are brought up to date first. */
    sightFrom: (inSight: () => ReadonlySet<string>) => (shownStrips.inSight = inSight),
    notes,
    selectedId,
    selected,
    rangeFrom,
    range,
    refused,
    hinted,
    wanted,
    select,
    choose,
    hearing,
    heardWith,
    hear,
    sounder,
    travel: shownTravel,
    travelWanted,
    heardTempo,
    part,
    selectedPhrase,
    playingId,
    saveState,
    problem,
    spoken,
    open,
    close,
    retry,
    conflict,
    keepMine,
    takeTheirs,
    compute,
    refresh,
    showStrips,
    decide,
    step,
    afterSteps,
    ...arranging,
    round,
    showRound,
    making: working.making,
    setInstrument,
    againAt,
    ask: working.ask,
    drill,
    hearDrill,
    askLong: working.askLong,
    trouble: working.trouble,
    restart: working.restart,
    undoLabel,
    redoLabel,
    editTune,
    setFields,
    phraseOf,
  };
});

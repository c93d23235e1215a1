/**
 * What is open on the desk: one tune and its arrangements, what is worked out from them, and how they are changed. A
 * change is shown at once and saved in the background; what other desks change comes in by itself.
 */
import { computed, ref, shallowRef, watch } from 'vue';
import type { AnyRecord, ArrangementRecord, TuneRecord, TuneState } from '@nokta/api';
import { arrangementRecord, decided, type DecisionChange } from '@nokta/core/arrange';
import { tuneRecord } from '@nokta/core/edit';
import type { Tune } from '@nokta/core/music';
import { api, messageOf } from '../../api/client.ts';
import { useLearners } from '../../learners/store.ts';
import { kindOf, type RecordRef } from '../../outbox/kinds.ts';
import { useOutbox } from '../../outbox/outbox.ts';
import { laidOver, withWaiting, type Entry } from '../../outbox/queue.ts';
import { createWorking } from './working.ts';
import { followOthers } from './others.ts';

/** Undo walks along what the server has. */
export const NOT_YET = 'What was changed before is not saved yet. Undo when it is.';

export type Session = ReturnType<typeof createSession>;

export function createSession() {
  const outbox = useOutbox();
  const tune = shallowRef<TuneRecord | null>(null);
  const records = shallowRef<readonly ArrangementRecord[]>([]);
  const currentId = ref<string | null>(null);
  const record = computed(() => records.value.find(({ id }) => id === currentId.value) ?? null);
  /** Which time round is looked at, where phrases change when they come again. */
  const round = ref(1);
  /** What went wrong in opening, undoing or making a version. */
  const problem = ref<string | null>(null);
  const spoken = ref('');
  const learners = useLearners();
  /** What is decided, with the learner called as they are by now. */
  const named = computed(() => {
    const decisions = record.value?.decisions ?? null;
    const learner = decisions?.hand.learner;
    if (!decisions || !learner) return decisions;
    const name = learners.nameOf(learner);
    return name === learner.name
      ? decisions
      : { ...decisions, hand: { ...decisions.hand, learner: { ...learner, name } } };
  });
  const working = createWorking(() =>
    tune.value && named.value ? { tune: tune.value.tune, decisions: named.value, timeRound: round.value } : null,
  );
  const { compute } = working;
  // Reasons name the learner as everybody else does.
  watch(
    () => named.value !== null && named.value !== record.value?.decisions && named.value.hand.learner?.name,
    () => void compute(),
  );

  function recordOf({ kind, id }: RecordRef): AnyRecord | null {
    if (kind === 'tune') return tune.value?.id === id ? tune.value : null;
    return records.value.find((other) => other.id === id) ?? null;
  }

  /** A record as it is now, its steps with it. */
  function put({ kind, id }: RecordRef, next: AnyRecord): void {
    if (kind === 'tune') {
      const { revision, tune: own, undo, redo, undoAt, redoAt } = next as TuneState;
      if (tune.value?.id === id)
        tune.value = { ...tune.value, revision, title: own.title, tune: own, undo, redo, undoAt, redoAt };
    } else {
      records.value = records.value.map((other) => (other.id === id ? (next as ArrangementRecord) : other));
    }
  }

  /** A record as the server has it by now. @param entries what waits, and stays over it */
  function takeIn(own: RecordRef, now: AnyRecord, entries: readonly Entry[], others: boolean): void {
    const shown = recordOf(own);
    if (!shown) return;
    const { valueOf, with: withValue } = kindOf(own.kind);
    // What was sent is on screen already, with what was done since.
    put(own, withValue(now, others ? laidOver(own.kind, valueOf(now), entries) : valueOf(shown)));
    if (others) void compute();
  }

  outbox.onArrived((own, now, left, others) => {
    if (problem.value === NOT_YET) problem.value = null;
    if (!recordOf(own)) return;
    takeIn(own, now, left?.entries ?? [], others);
    // A change is made after whatever was undone in the others.
    const undone = { redo: null, redoAt: null };
    if (own.kind === 'arrangement' && tune.value) tune.value = { ...tune.value, ...undone };
    if (own.kind === 'tune') records.value = records.value.map((other) => ({ ...other, ...undone }));
  });

  followOthers({
    family: () => tune.value?.id ?? null,
    recordOf,
    takeIn,
    come: (made) => (records.value = [...records.value, made]),
  });

  /** @param wanted the arrangement that shall be on the desk, where there is such a one */
  async function open(id: string, wanted: string | null = null): Promise<void> {
    if (tune.value?.id !== id) close();
    try {
      await outbox.begin();
      const opened = withWaiting(await api.tune(id), outbox.ofTune(id));
      tune.value = opened;
      records.value = opened.arrangements;
      const known = [wanted, currentId.value].find((own) => opened.arrangements.some((other) => other.id === own));
      currentId.value = known ?? opened.arrangements[0]?.id ?? null;
      problem.value = null;
      if (opened.arrangements.some(({ decisions }) => decisions.hand.learner?.id)) void learners.need();
      await compute();
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  const closed = new Set<() => void>();
  function close(): void {
    tune.value = null;
    records.value = [];
    working.clear();
    round.value = 1;
    problem.value = null;
    spoken.value = '';
    closed.forEach((tell) => tell());
  }

  const origin = (revision: number) => ({ tuneId: tune.value!.id, title: tune.value!.title, revision });

  /** Shows the change at once and saves it. `label` is what undo will call it. */
  function decide(change: DecisionChange, label: string): Promise<void> {
    const now = record.value;
    if (!now) return Promise.resolve();
    const value = decided(now.decisions, change);
    const pieces = arrangementRecord.between(now.decisions, value);
    if (!pieces) return Promise.resolve();
    const own = { kind: 'arrangement', id: now.id } as const;
    put(own, { ...now, decisions: value } as ArrangementRecord);
    outbox.add(own, origin(now.revision), { label, change: pieces, value });
    return compute();
  }

  /** Changes the tune itself: shown at once, saved in the background as one step of its history. */
  function editTune(value: Tune, label: string): void {
    const now = tune.value;
    const change = now && tuneRecord.between(now.tune, value);
    if (!now || !change) return;
    tune.value = { ...now, title: value.title, tune: value };
    outbox.add({ kind: 'tune', id: now.id }, origin(now.revision), { label, change, value });
  }

  /** Title, composer and the like. */
  function setFields(fields: Partial<Tune>, label: string): Promise<void> {
    const now = tune.value;
    if (!now) return Promise.resolve();
    editTune({ ...now.tune, ...fields }, label);
    return compute();
  }

  function showRound(time: number): Promise<void> {
    round.value = time;
    return compute();
  }

  return {
    tune,
    records,
    currentId,
    record,
    round,
    problem,
    spoken,
    working,
    compute,
    put,
    open,
    close,
    onClose: (tell: () => void) => void closed.add(tell),
    decide,
    editTune,
    setFields,
    showRound,
  };
}

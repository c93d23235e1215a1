/** Learners, as every screen knows them: by id, up to date with what other desks change, saved like everything else. */
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { v4 as newId } from 'uuid';
import type { StoredRecord } from '@nokta/api';
import type { LearnerHand } from '@nokta/core/hand';
import { learnerRecord, type Learner } from '@nokta/core/learner';
import { api, messageOf } from '../api/client.ts';
import { onNotice } from '../notices/notices.ts';
import { kindOf } from '../outbox/kinds.ts';
import { useOutbox } from '../outbox/outbox.ts';
import { keyOf, laidOver } from '../outbox/queue.ts';

export type LearnerRecord = StoredRecord<Learner>;

export const useLearners = defineStore('learners', () => {
  const outbox = useOutbox();
  const known = shallowRef<readonly LearnerRecord[]>([]);
  /** What did not work, in words; empty where nothing went wrong. */
  const problem = shallowRef('');
  const all = computed(() =>
    [...known.value].sort((a, b) => a.value.person.name.localeCompare(b.value.person.name) || a.id.localeCompare(b.id)),
  );

  const ref = (id: string) => ({ kind: 'learner', id }) as const;
  const find = (id: string | undefined): LearnerRecord | null => known.value.find((one) => one.id === id) ?? null;
  const put = (next: LearnerRecord): void =>
    void (known.value = find(next.id)
      ? known.value.map((one) => (one.id === next.id ? next : one))
      : [...known.value, next]);

  /** With what waits here laid over it. */
  function withWaiting(one: LearnerRecord): LearnerRecord {
    const queue = outbox.queueOf(ref(one.id));
    return queue ? { ...one, value: laidOver('learner', one.value, queue.entries) as Learner } : one;
  }

  async function load(): Promise<void> {
    try {
      await outbox.begin();
      known.value = (await api.learners()).map(withWaiting);
      problem.value = '';
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  let loading: Promise<void> | null = null;
  /** Loads them once; later changes come by themselves. */
  function need(): Promise<void> {
    loading ??= load().then(() => {
      if (problem.value) loading = null;
    });
    return loading;
  }

  onNotice(
    ({ kind, id, revision }) => {
      if (kind !== 'learner' || loading === null) return;
      // What is on its way here brings theirs with its answer; a learner who went or came has no other count.
      if (!outbox.queueOf(ref(id)) && revision !== null) void load();
    },
    () => loading && void load(),
  );

  outbox.onArrived((own, now, left, others) => {
    if (own.kind !== 'learner') return;
    const shown = find(own.id);
    const { valueOf } = kindOf('learner');
    const value = others || !shown ? laidOver('learner', valueOf(now), left?.entries ?? []) : shown.value;
    put({ ...now, value: value as Learner });
  });

  /** @returns what is kept now; null where it could not be, and `problem` says why */
  async function add(value: Learner): Promise<LearnerRecord | null> {
    try {
      const made = await api.addLearner(newId(), value);
      put(made);
      problem.value = '';
      return made;
    } catch (error) {
      problem.value = messageOf(error);
      return null;
    }
  }

  /** Shown at once, saved in the background. @param label what undo will call it */
  function change(id: string, make: (now: Learner) => Learner, label: string): void {
    const now = find(id);
    if (!now) return;
    const value = make(now.value);
    const pieces = learnerRecord.between(now.value, value);
    if (!pieces) return;
    put({ ...now, value });
    const of = { tuneId: id, title: value.person.name, revision: now.revision };
    outbox.add(ref(id), of, { label, change: pieces, value });
  }

  const rename = (id: string, name: string): void =>
    change(id, (now) => ({ ...now, person: { ...now.person, name } }), `rename to ${name}`);

  async function attempt(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      problem.value = '';
      return true;
    } catch (error) {
      problem.value = messageOf(error);
      return false;
    }
  }

  /** @returns whether they are gone; until the next start of Nokta they can be brought back */
  async function drop(id: string): Promise<boolean> {
    const gone = await attempt(() => api.dropLearner(id));
    if (gone) known.value = known.value.filter((one) => one.id !== id);
    return gone;
  }

  async function bringBack(id: string): Promise<boolean> {
    const back = await attempt(() => api.bringLearnerBack(id));
    if (back) await load();
    return back;
  }

  /** What a learner is called now; where there is no record of them, as they were called when they were chosen. */
  const nameOf = (hand: Pick<LearnerHand, 'id' | 'name'>): string => find(hand.id)?.value.person.name ?? hand.name;

  /** Whose change stands against another desk's, where there is one; a piece at a time, so mostly there is none. */
  const held = computed(() => {
    const [queue] = [...outbox.queues.values()].filter(({ record, held: why }) => record.kind === 'learner' && why);
    return queue ?? null;
  });
  function giveUp(): void {
    if (!held.value) return;
    outbox.drop(keyOf(held.value.record));
    void load();
  }

  return { all, problem, held, giveUp, need, load, find, nameOf, add, change, rename, drop, bringBack };
});

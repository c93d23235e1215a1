/** Two sides of a record: what was changed here and waits, and what the server has instead. */
import { computed } from 'vue';
import { useOutbox } from '../../outbox/outbox.ts';
import { kindOf } from '../../outbox/kinds.ts';
import { keyOf, laidOver, type Queue } from '../../outbox/queue.ts';
import type { Session } from './session.ts';

export function createConflict({ tune, put, open, compute }: Pick<Session, 'tune' | 'put' | 'open' | 'compute'>) {
  const outbox = useOutbox();
  const conflict = computed<Queue | null>(
    () => (tune.value && outbox.ofTune(tune.value.id).find(({ held }) => held)) ?? null,
  );

  /** What was changed here goes on top of what somebody else changed; undo leads back to theirs. */
  function keepMine(): void {
    const queue = conflict.value;
    if (!queue?.held) return;
    if (queue.held.why === 'refused') return outbox.retry();
    const { theirs } = queue.held;
    const { record, valueOf, with: withValue } = kindOf(queue.record.kind);
    // Piece by piece, where the kind has pieces: what they changed elsewhere in it stays.
    const value = laidOver(queue.record.kind, valueOf(theirs), queue.entries);
    const change = record.between(valueOf(theirs), value);
    if (change === null) return void takeTheirs();
    const label = queue.entries.length === 1 ? queue.entries[0]!.label : `${queue.entries.length} changes`;
    put(queue.record, withValue(theirs, value));
    outbox.rebase(keyOf(queue.record), theirs.revision, { label, change, value });
    void compute();
  }

  /** What was changed here is given up. */
  async function takeTheirs(): Promise<void> {
    const queue = conflict.value;
    if (!queue?.held) return;
    outbox.drop(keyOf(queue.record));
    if (queue.held.why === 'refused') return open(queue.tuneId);
    put(queue.record, queue.held.theirs);
    await compute();
  }

  return { conflict, keepMine, takeTheirs };
}

/** What other desks do to what is open here: shown within a moment, under whatever waits here. */
import { getCurrentScope, onScopeDispose } from 'vue';
import type { AnyRecord, ArrangementRecord, Notice } from '@nokta/api';
import { api } from '../../api/client.ts';
import { onNotice } from '../../notices/notices.ts';
import { isKind, kindOf, type RecordRef } from '../../outbox/kinds.ts';
import { useOutbox } from '../../outbox/outbox.ts';
import { keyOf, type Entry } from '../../outbox/queue.ts';

interface Open {
  /** What is open: a tune's id. */
  family(): string | null;
  recordOf(ref: RecordRef): AnyRecord | null;
  takeIn(ref: RecordRef, now: AnyRecord, entries: readonly Entry[], others: boolean): void;
  /** Another desk made an arrangement. */
  come(made: ArrangementRecord): void;
}

export function followOthers({ family, recordOf, takeIn, come }: Open): void {
  const outbox = useOutbox();
  /** The count of changes that was heard of, by record. */
  const heard = new Map<string, number>();

  /** Fetches a record that others have changed, unless its own answer is about to bring what they did. */
  async function look(ref: RecordRef): Promise<void> {
    const isBehind = () => (recordOf(ref)?.revision ?? Infinity) < (heard.get(keyOf(ref)) ?? 0);
    if (!isBehind() || outbox.queueOf(ref)) return;
    const now = await kindOf(ref.kind)
      .api.state(ref.id)
      .catch(() => null);
    // Meanwhile something may have been done here: its answer brings theirs too.
    if (now && isBehind() && !outbox.queueOf(ref)) takeIn(ref, now, [], true);
  }

  async function comes(id: string): Promise<void> {
    const of = family();
    const made = await api.arrangement(id).catch(() => null);
    if (made && of === family() && !recordOf({ kind: 'arrangement', id })) come(made);
  }

  function hear({ kind, id, family: of, revision }: Notice): void {
    if (of !== family() || revision === null || !isKind(kind)) return;
    const ref = { kind, id };
    if (kind === 'arrangement' && !recordOf(ref)) return void comes(id);
    heard.set(keyOf(ref), Math.max(revision, heard.get(keyOf(ref)) ?? 0));
    void look(ref);
  }

  /** The line was down: everything that is open is compared. */
  async function lookAgain(): Promise<void> {
    const of = family();
    if (of === null) return;
    const now = await api.tune(of).catch(() => null);
    if (!now || of !== family()) return;
    const { revision } = now;
    hear({ kind: 'tune', id: of, family: of, revision, entry: null });
    for (const { id, revision: own } of now.arrangements)
      hear({ kind: 'arrangement', id, family: of, revision: own, entry: null });
  }

  const end = onNotice(hear, () => void lookAgain());
  // What was heard while own changes were on their way is looked at when they have arrived.
  const endArrived = outbox.onArrived((ref, _, left) => {
    if (!left) void look(ref);
  });
  if (getCurrentScope())
    onScopeDispose(() => {
      end();
      endArrived();
    });
}

/** Undo and redo: of the tune's steps and the arrangement's, the latest first; one after the other, each known by its id. */
import { computed, ref } from 'vue';
import { v4 as newId } from 'uuid';
import { RefusedError, UnreachableError, messageOf } from '../../api/client.ts';
import { kindOf, type RecordRef } from '../../outbox/kinds.ts';
import { useOutbox } from '../../outbox/outbox.ts';
import { takingTurns } from '../../turns/turns.ts';
import { NOT_YET, type Session } from './session.ts';

type Way = 'undo' | 'redo';

/** Asks once more where no answer came: it may only have been lost. */
const twice = <T>(ask: () => Promise<T>): Promise<T> =>
  ask().catch((error: unknown) => {
    if (error instanceof UnreachableError) return ask();
    throw error;
  });

export function createUndo({ tune, record, put, compute, problem, spoken }: Session) {
  const outbox = useOutbox();
  /** Those that are on their way to the server. */
  const underway = ref(0);

  /** What would be done next: of several records the latest step (or the first undone). */
  function next(way: Way): { readonly ref: RecordRef; readonly revision: number; readonly label: string } | null {
    const at = way === 'undo' ? 'undoAt' : 'redoAt';
    const all = [
      { kind: 'tune' as const, now: tune.value },
      { kind: 'arrangement' as const, now: record.value },
    ].flatMap(({ kind, now }) => (now && now[at] !== null ? [{ kind, now, moment: now[at] }] : []));
    const [first] = all.sort((a, b) =>
      way === 'undo' ? b.moment.localeCompare(a.moment) : a.moment.localeCompare(b.moment),
    );
    if (!first) return null;
    const { kind, now } = first;
    return { ref: { kind, id: now.id }, revision: now.revision, label: now[way] ?? '' };
  }

  /** Steps stand in line too: the second of two quick ones begins where the first has arrived. */
  const inTurn = takingTurns();
  const step = (way: Way): Promise<void> => inTurn(() => take(way));

  /** Runs at once, or, while something is being undone, when that is done: what is decided next builds on it. */
  function afterSteps(run: () => unknown): void {
    if (inTurn.isFree()) run();
    else void inTurn(run);
  }

  /** The step whose answer did not come: it may have been taken, and is known by its id when it is asked for again. */
  let unanswered: { readonly asked: string; readonly entry: string } | null = null;

  async function take(way: Way): Promise<void> {
    if (tune.value && !(await outbox.settled(tune.value.id))) {
      spoken.value = NOT_YET;
      problem.value = NOT_YET;
      return;
    }
    const wanted = next(way);
    if (!wanted) return;
    underway.value += 1;
    const { kind, id } = wanted.ref;
    const asked = `${way} ${id} ${wanted.revision}`;
    const entry = unanswered?.asked === asked ? unanswered.entry : newId();
    unanswered = { asked, entry };
    try {
      put(wanted.ref, await twice(() => kindOf(kind).api[way](id, wanted.revision, entry)));
      unanswered = null;
      problem.value = null;
      spoken.value = `${way === 'undo' ? 'Undone' : 'Done again'}: ${wanted.label}`;
    } catch (error) {
      problem.value = messageOf(error);
      // Somebody else wrote meanwhile: what is there now is shown, and undone if that is still wanted.
      const current = error instanceof RefusedError ? error.body.current : undefined;
      if (current) put(wanted.ref, current);
    } finally {
      underway.value -= 1;
    }
    await compute();
  }

  return {
    underway,
    step,
    afterSteps,
    undoLabel: computed(() => next('undo')?.label ?? null),
    redoLabel: computed(() => next('redo')?.label ?? null),
  };
}

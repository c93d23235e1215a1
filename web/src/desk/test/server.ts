/** Help for tests: a server of one tune and one arrangement, kept as the real one keeps it. */
import { vi } from 'vitest';
import type { Answer, ArrangementRecord, TuneRecord } from '@nokta/api';
import { FIRST_DECISIONS, arrangementRecord, type Decisions } from '@nokta/core/arrange';
import type { Piece } from '@nokta/core/record';
import { readAbc } from '@nokta/core/formats';
import { RefusedError, api } from '../../api/client.ts';

const read = readAbc('X:1\nT:Trial\nM:4/4\nL:1/8\nQ:1/4=120\nK:G\nAGAB AGAB | G8 |\n');
if (!read.ok) throw new Error('unreadable');
export const { tune } = read.value;

/** Steps one second apart. */
const time = (step: number) => new Date(step * 1000).toISOString();
export const NO_STEPS = { undo: null, redo: null, undoAt: null, redoAt: null };

/** A server of one arrangement, kept as the real one keeps it. */
export function fakeServer() {
  const states: { decisions: Decisions; label: string }[] = [{ decisions: FIRST_DECISIONS, label: 'start' }];
  let step = 0;
  let revision = 1;
  const record = (): ArrangementRecord => ({
    id: 'a1',
    tuneId: 't1',
    decisions: states[step]!.decisions,
    revision,
    undo: step > 0 ? states[step]!.label : null,
    redo: states[step + 1]?.label ?? null,
    undoAt: step > 0 ? time(step) : null,
    redoAt: states[step + 1] ? time(step + 1) : null,
  });
  /** Changes that have arrived, by their ids, and the revision that each made. */
  const arrived = new Map<string, number>();
  async function once(
    known: number,
    entry: string,
    change: () => void,
    merges = false,
  ): Promise<Answer<ArrangementRecord>> {
    await Promise.resolve();
    const made = arrived.get(entry);
    if (made !== undefined) return { ...record(), made, others: true };
    const others = known !== revision;
    if (others && !merges) throw new RefusedError(409, { error: 'Changed in another window.', current: record() });
    revision += 1;
    change();
    arrived.set(entry, revision);
    return { ...record(), made: revision, others };
  }
  const tuneRecord = (): TuneRecord => ({
    id: 't1',
    title: tune.title,
    revision: 1,
    tune,
    tags: [],
    ...NO_STEPS,
    arrangements: [record()],
    aside: 0,
  });
  vi.spyOn(api, 'tune').mockImplementation(() => Promise.resolve(tuneRecord()));
  const decide = vi.spyOn(api, 'decide').mockImplementation((_, known, wanted, label, entry) => {
    const pieces = Array.isArray(wanted) ? (wanted as readonly Piece[]) : null;
    const fits = pieces !== null && arrangementRecord.merge(states[step]!.decisions, pieces) !== null;
    const lay = () => {
      const decisions = pieces ? arrangementRecord.lay(states[step]!.decisions, pieces) : (wanted as Decisions);
      states.splice(step + 1, Infinity, { decisions, label });
      step += 1;
    };
    return once(known, entry, lay, fits);
  });
  const undo = vi
    .spyOn(api, 'undo')
    .mockImplementation((_, known, entry) => once(known, entry, () => void (step -= 1)));
  vi.spyOn(api, 'redo').mockImplementation((_, known, entry) => once(known, entry, () => void (step += 1)));
  let made = 1;
  vi.spyOn(api, 'arrange').mockImplementation(async (_, decisions) => {
    await Promise.resolve();
    made += 1;
    return { ...record(), ...NO_STEPS, id: `a${made}`, decisions, revision: 1 };
  });
  return {
    decide,
    undo,
    stored: () => states[step]!.decisions,
    elsewhere: (change: Partial<Decisions>) =>
      void (
        (revision += 1),
        (states[step] = { decisions: { ...states[step]!.decisions, ...change }, label: 'elsewhere' })
      ),
  };
}

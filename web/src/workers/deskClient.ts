/** The desk's facts, kept up to date from a worker: sends what changed, and puts together what comes back. */
import type { Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';
import type { DeskChange } from './deskService.ts';
import { applyPatch, type DeskFacts } from './facts.ts';
import { STALE, deskOf, type Desk, type DeskPort, type Progress, type Stale } from './protocol.ts';
import { takingTurns } from '../turns/turns.ts';
import type { Questions } from './questions.ts';

/** What there is to work on. */
export interface Workpiece {
  readonly tune: Tune;
  readonly decisions: Decisions;
  /** Which time round is looked at, from 1; the first where none is named. */
  readonly timeRound?: number;
}

export interface DeskClient extends Pick<Desk<DeskChange, Questions>, 'ask' | 'askLong'> {
  /** @returns the facts, or STALE where a later change was sent meanwhile or the worker failed */
  work(piece: Workpiece, progress?: Progress): Promise<DeskFacts | Stale>;
  /** After a failure: everything is sent again. */
  reset(): void;
}

export function deskClient(
  service: DeskPort<DeskChange>,
  onFailure: (error: unknown) => void,
  mark?: (progress: Progress) => Progress,
): DeskClient {
  const desk = deskOf<DeskChange, Questions>(service, onFailure, mark);
  let sentTune: Tune | null = null;
  let sentDecisions: Partial<Decisions> = {};
  let sentRound = 1;
  /** What the worker has sent, patch by patch: also of changes whose answer came too late to be shown. */
  let facts: DeskFacts | null = null;
  let anew = true;

  function reset(): void {
    sentTune = null;
    sentDecisions = {};
    sentRound = 1;
    facts = null;
    anew = true;
  }

  /** A patch builds on the one before, so each is applied, in order, whether or not it is shown. */
  const applied = takingTurns();

  async function work({ tune, decisions, timeRound = 1 }: Workpiece, progress?: Progress): Promise<DeskFacts | Stale> {
    const slices = Object.entries(decisions).filter(
      ([name, slice]) => sentDecisions[name as keyof Decisions] !== slice,
    );
    const change: DeskChange = {
      ...(tune !== sentTune && { tune }),
      ...(slices.length > 0 && { decisions: Object.fromEntries(slices) as Partial<Decisions> }),
      ...(timeRound !== sentRound && { timeRound }),
      ...(anew && { anew }),
    };
    sentTune = tune;
    sentDecisions = decisions;
    sentRound = timeRound;
    anew = false;
    const answer = desk.derive(change, progress);
    return applied(async () => {
      const given = await answer;
      if (!given) return STALE;
      // The first thing asked for, taken over by the next before it was worked out: there is nothing yet.
      if (facts === null && !given.patch.fingering) return STALE;
      facts = applyPatch(given.patch, tune, facts);
      return given.late ? STALE : facts;
    });
  }

  return { ask: desk.ask, askLong: desk.askLong, work, reset };
}

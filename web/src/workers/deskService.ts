/** The worker's side of the desk, apart from the worker itself. */
import { FIRST_DECISIONS, STAGES, type Arrangement, type Decisions, type Facts } from '@nokta/core/arrange';
import { versionAhead } from '@nokta/core/version';
import type { Tune } from '@nokta/core/music';
import { Derivation } from '@nokta/core/stage';
import { patchTo, type FactsPatch, type Sent } from './facts.ts';
import { serviceOf, type DeskService } from './protocol.ts';
import { QUESTIONS } from './questions.ts';

/** What changed since the change before; the first one has it all. */
export interface DeskChange {
  readonly tune?: Tune;
  readonly decisions?: Partial<Decisions>;
  /** Which time round is looked at. */
  readonly timeRound?: number;
  /** Nothing of what was sent before is there any more. */
  readonly anew?: boolean;
}

export function makeDeskService(): DeskService<DeskChange> {
  const derivation = new Derivation<Decisions, Facts>(STAGES);
  let source: Tune | null = null;
  let decisions = FIRST_DECISIONS;
  let timeRound = 1;
  let state: Arrangement | null = null;
  let sent: Sent | null = null;

  /** What was sent before holds until something was sent again. */
  function* derive(change: DeskChange): Generator<number, FactsPatch> {
    source = change.tune ?? source;
    decisions = { ...decisions, ...change.decisions };
    timeRound = change.timeRound ?? timeRound;
    if (!source) throw new Error('There is no tune to work on.');
    if (change.anew) sent = null;
    const { inKey: tune, ...facts } = derivation.derive(decisions, { source, timeRound }, 'version').facts;
    yield* versionAhead(decisions.version, { ...facts, tune });
    state = { ...derivation.derive(decisions, { source, timeRound }).facts, decisions };
    const made = patchTo(state, source, sent);
    sent = made.sent;
    return made.patch;
  }

  return serviceOf<DeskChange, Arrangement>(derive, () => state, QUESTIONS);
}

/** Works arrangements out, off the main thread, and answers questions about the one worked out last. */
import { expose } from 'comlink';
import { prepare, work, type Arrangement, type Decisions, type Prepared, type Worked } from '@nokta/core/arrange';
import {
  compare,
  hardPlaces,
  secondBest,
  takeBrought,
  waysOfShift,
  waysWith,
  type Comparison,
  type FingeredNote,
  type Fingering,
  type HardPlace,
  type Taken,
  type Way,
} from '@nokta/core/hand';
import { lookOver, type LookOver } from '@nokta/core/look';
import type { Tune } from '@nokta/core/music';

let last: (Worked & { readonly source: Tune }) | null = null;
/** A finger that is kept changes neither tune nor form, so both are kept for the next one. */
let prepared: { readonly of: string; readonly what: Prepared } | null = null;

function prepareOnce(tune: Tune, { transpose, version }: Decisions): Prepared {
  const of = JSON.stringify([transpose, version, tune]);
  if (prepared?.of !== of) prepared = { of, what: prepare(tune, { transpose, version }) };
  return prepared.what;
}

/** Another fingering of the same notes beside the one that is shown. */
export interface Beside {
  readonly fingering: Fingering;
  readonly comparison: Comparison;
}

const service = {
  arrange(tune: Tune, decisions: Decisions): Arrangement {
    last = { source: tune, ...work(tune, decisions, prepareOnce(tune, decisions)) };
    return last.arrangement;
  },
  /** Of the arrangement that was worked out last, as are all below. */
  lookOver: (): LookOver | null => last && lookOver(last.arrangement),
  /** A note with the reasons for its finger and for the price of every other. */
  explain: (noteId: string): FingeredNote | null => last?.hand.explained(noteId) ?? null,
  waysWith: (noteIds: readonly string[]): readonly Way[] => (last ? waysWith(last.hand, noteIds) : []),
  waysOfShift: (noteId: string): readonly Way[] => (last ? waysOfShift(last.hand, noteId) : []),
  secondBest: (): Way | null => last && secondBest(last.hand),
  hardPlaces: (): readonly HardPlace[] => (last ? hardPlaces(last.hand) : []),
  takeBrought: (): Taken | null => last && takeBrought(last.hand),
  /** The same tune fingered by other decisions, and what it costs by these. */
  beside(decisions: Decisions): Beside | null {
    if (!last) return null;
    const { fingering } = work(last.source, decisions, prepareOnce(last.source, decisions)).arrangement;
    return { fingering, comparison: compare(last.hand, fingering) };
  },
};

export type ArrangeService = typeof service;
expose(service);

/** Works arrangements out, off the main thread. */
import { expose } from 'comlink';
import { arrange, prepare, type Arrangement, type Decisions, type Prepared } from '@nokta/core/arrange';
import { lookOver, type LookOver } from '@nokta/core/look';
import type { Tune } from '@nokta/core/music';

let last: Arrangement | null = null;
/** A finger that is kept changes neither tune nor form, so both are kept for the next one. */
let prepared: { readonly of: string; readonly what: Prepared } | null = null;

function prepareOnce(tune: Tune, { transpose, version }: Decisions): Prepared {
  const of = JSON.stringify([transpose, version, tune]);
  if (prepared?.of !== of) prepared = { of, what: prepare(tune, { transpose, version }) };
  return prepared.what;
}

const service = {
  arrange(tune: Tune, decisions: Decisions): Arrangement {
    last = arrange(tune, decisions, prepareOnce(tune, decisions));
    return last;
  },
  /** Of the arrangement that was worked out last. */
  lookOver: (): LookOver | null => last && lookOver(last),
};

export type ArrangeService = typeof service;
expose(service);

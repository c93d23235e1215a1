/** What every refusal looks like, and whether the server is well. */
import type { Problem } from '@nokta/core/formats';
import type { AnyRecord } from './records.ts';

/** Every refusal has this shape. `current` is the record as it is now, where a stale write was refused. */
export interface ApiError {
  readonly error: string;
  readonly remedy?: string;
  readonly problems?: readonly Problem[];
  readonly current?: AnyRecord;
}

export interface Health {
  readonly ok: true;
  readonly version: string;
  /** Which server answers: another start has another one. */
  readonly token?: string;
}

/** Backups: compared and put back. */
import { z } from 'zod';
import { momentSchema } from '@nokta/core/files';
import { BATCH, type RefusedTune, newTune } from './tunes.ts';

/**
 * What becomes of a tune of a backup that is here too, in another state: `backup` goes back to the backup's, as a
 * step that can be undone; `both` stays as it is here and takes in what only the backup has. Nothing is removed.
 */
export const RESTORES = ['backup', 'both'] as const;

export type Restore = (typeof RESTORES)[number];

/** A tune of a backup, put back under its own id. */
export const restoredTune = newTune.extend({
  id: z.uuid(),
  updatedAt: momentSchema,
  how: z.enum(RESTORES).default('backup'),
  /** Ids of its arrangements, in their order; none where the backup does not tell them. */
  arrangementIds: z.array(z.uuid()).max(1000).default([]),
});

/** Each is judged by itself. */
export const restoreRequest = z.strictObject({
  /** When the backup was made. */
  madeAt: momentSchema,
  tunes: z.array(z.unknown()).min(1).max(BATCH),
});

/** What of a backup is here already. */
export const compareRequest = z.strictObject({
  tunes: z
    .array(z.strictObject({ id: z.uuid(), updatedAt: momentSchema, sha256: z.string().length(64).optional() }))
    .max(200_000),
});

export type RestoredTune = z.input<typeof restoredTune>;

export interface RestoreResult {
  readonly restored: readonly string[];
  readonly refused: readonly RefusedTune[];
}

/** For each tune of a backup, in its order. */
export type Compared = readonly ('new' | 'same' | 'differs')[];

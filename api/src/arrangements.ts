/** Arrangements: decided, and contracts found in them. */
import { z } from 'zod';
import { type Decisions, arrangementRecord, decisionsSchema } from '@nokta/core/arrange';
import type { Contract } from '@nokta/core/grade';
import type { HandId } from '@nokta/core/instrument';
import { type AnyRecord, entry, label, revision } from './records.ts';

export const arrangeRequest = z.strictObject({ decisions: decisionsSchema });

/** What was decided, as older windows send it: piece by piece, or all of it as it is then. */
export const decideRequest = z
  .strictObject({
    entry,
    revision,
    pieces: arrangementRecord.changeSchema.optional(),
    decisions: decisionsSchema.optional(),
    label,
  })
  .refine(
    ({ pieces, decisions }) => (pieces === undefined) !== (decisions === undefined),
    'A decision is sent as pieces, or whole.',
  );

export type DecideRequest = z.infer<typeof decideRequest>;

/** A contract that a teacher made. */
export interface OwnContract {
  readonly hand: HandId;
  readonly contract: Contract;
  /** Title of a tune that has an arrangement under it. */
  readonly tune: string;
}

export interface ArrangementRecord extends AnyRecord {
  readonly tuneId: string;
  readonly decisions: Decisions;
}

/** Tunes: kept, changed, named, joined. */
import { z } from 'zod';
import { tuneRecord } from '@nokta/core/edit';
import { type NamedVersion, companions, tagSchema } from '@nokta/core/files';
import { INSTRUMENTS } from '@nokta/core/instrument';
import { type Tune, tuneSchema } from '@nokta/core/music';
import type { ArrangementRecord } from './arrangements.ts';
import type { ApiError } from './errors.ts';
import { type AnyRecord, changeRequest } from './records.ts';

const source = z.string().max(300).default('');

/** A tune to keep, with whatever came along in its file. */
export const newTune = z.strictObject({
  tune: tuneSchema,
  source,
  /** The instrument of its first arrangement, where the file says one. */
  instrument: z.enum(INSTRUMENTS).nullable().default(null),
  ...companions,
});

export const addTuneRequest = newTune;

/** So many tunes go over at once when a book comes in. */
export const BATCH = 40;

/** Each tune is judged by itself: one that cannot be kept keeps none of the others out. */
export const addBatchRequest = z.strictObject({ tunes: z.array(z.unknown()).min(1).max(BATCH) });

export const editRequest = changeRequest(tuneRecord);

export const tagsRequest = z.strictObject({ tags: z.array(tagSchema).max(100) });

export const versionRequest = z.strictObject({ name: z.string().trim().min(1, 'A version needs a name.').max(200) });

/** Melodies as `packMelody` writes them: which tunes here are the same? */
export const alikeRequest = z.strictObject({
  melodies: z
    .array(
      z
        .string()
        .max(100_000)
        .regex(/^[(-p]*$/),
    )
    .min(1)
    .max(BATCH),
});

export type NewTune = z.input<typeof newTune>;

/** The tune itself, and where it stands in its history. */
export interface TuneState extends AnyRecord {
  readonly tune: Tune;
}

export interface TuneRecord extends TuneState {
  readonly title: string;
  readonly tags: readonly string[];
  readonly arrangements: readonly ArrangementRecord[];
  /** Arrangements that are stored in a shape this program cannot read; they are kept. */
  readonly aside: number;
}

/** A tune that is here already and sounds the same. */
export interface AlikeTune {
  readonly id: string;
  readonly title: string;
  readonly key: string;
  /** Share of figures in common, 0 to 1. */
  readonly likeness: number;
}

/** A tune of a batch that was not kept, and why. */
export interface RefusedTune extends Pick<ApiError, 'error' | 'remedy'> {
  /** Its place in the batch, from 0. */
  readonly index: number;
  readonly title: string;
}

export interface BatchResult {
  readonly refused: readonly RefusedTune[];
  readonly added: readonly { readonly id: string; readonly title: string; readonly alike: readonly AlikeTune[] }[];
}

export interface VersionSummary {
  readonly id: string;
  readonly name: string;
  readonly madeAt: string;
}

export interface VersionRecord extends VersionSummary {
  readonly tune: NamedVersion['tune'];
}

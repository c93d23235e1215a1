/** Requests and responses: the one place where both sides of the API meet. */
import { z } from 'zod';
import { VERSIONS, type Decisions } from '@nokta/core/arrange';
import { MAX_ABC_CHARACTERS, type Problem } from '@nokta/core/formats';
import { POSITIONS } from '@nokta/core/hand';
import { INSTRUMENTS, parseTuning } from '@nokta/core/instrument';
import { PAPERS } from '@nokta/core/sheet';
import type { Tune } from '@nokta/core/music';

const noteId = z.string().min(1).max(64);
const finger = z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3), z.literal(4)]);
const lock = z.object({
  instrument: z.enum(INSTRUMENTS),
  stops: z
    .array(z.object({ string: z.number().int().min(0).max(5), finger, midi: z.number().int().min(0).max(127) }))
    .min(1)
    .max(4),
});

/** The teacher's decisions; a tuning that does not fit its instrument is refused. */
export const decisionsSchema: z.ZodType<Decisions> = z
  .object({
    instrument: z.enum(INSTRUMENTS),
    tuning: z.string().min(1).max(60),
    transpose: z.number().int().min(-48).max(48),
    version: z.enum(VERSIONS),
    tempo: z.number().min(20).max(400).nullable(),
    limits: z.object({
      noFourth: z.boolean().optional(),
      maxPosition: z.enum(POSITIONS as readonly [string, ...string[]]).optional(),
      bassSchool: z.enum(['three', 'four']).optional(),
    }) as z.ZodType<Decisions['limits']>,
    locks: z.record(noteId, lock),
  })
  .refine(({ instrument, tuning }) => !('error' in parseTuning(instrument, tuning)), {
    message: 'This tuning does not fit the instrument. Choose one of its tunings.',
    path: ['tuning'],
  });

const title = z.string().trim().min(1, 'A tune needs a title.').max(300, 'The title is longer than 300 letters.');
const version = z.number().int().min(1);

export const previewRequest = z.object({
  text: z.string().max(MAX_ABC_CHARACTERS, 'The text is too long. Split it into smaller tune books.'),
  tune: z.number().int().min(1).default(1),
  voice: z.number().int().min(1).default(1),
});
export const addTuneRequest = previewRequest;
export const renameRequest = z.object({ title, version });
export const arrangeRequest = z.object({ decisions: decisionsSchema });
export const decideRequest = z.object({ version, decisions: decisionsSchema, label: z.string().min(1).max(200) });
export const stepRequest = z.object({ version });
export const paperQuery = z.object({ paper: z.enum(PAPERS).default('a4') });

export type PreviewRequest = z.input<typeof previewRequest>;
export type DecideRequest = z.infer<typeof decideRequest>;

/** A tune as the library lists it. */
export interface TuneSummary {
  readonly id: string;
  readonly title: string;
  readonly style: string;
  readonly composer: string;
  readonly key: string;
  readonly metre: string;
  readonly bars: number;
  readonly parts: string;
  readonly arrangements: number;
  readonly version: number;
  readonly updatedAt: string;
}

export interface ArrangementRecord {
  readonly id: string;
  readonly tuneId: string;
  readonly decisions: Decisions;
  readonly version: number;
  /** What undo would take back and redo bring again; null where there is nothing. */
  readonly undo: string | null;
  readonly redo: string | null;
}

export interface TuneRecord {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  readonly tune: Tune;
  readonly arrangements: readonly ArrangementRecord[];
}

/** What was understood of a text, before it is kept. */
export interface Preview {
  readonly tunes: readonly { readonly number: number; readonly title: string }[];
  readonly voices: readonly string[];
  readonly tune: Tune;
  readonly notices: readonly Problem[];
}

/** Every refusal has this shape. `current` is the record as it is now, where a stale write was refused. */
export interface ApiError {
  readonly error: string;
  readonly remedy?: string;
  readonly problems?: readonly Problem[];
  readonly current?: ArrangementRecord | TuneSummary;
}

export interface Health {
  readonly ok: true;
  readonly version: string;
}

export interface SheetPages {
  readonly pages: readonly string[];
}

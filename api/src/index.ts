/** Requests and responses: the one place where both sides of the API meet. */
import { z } from 'zod';
import { arrangementRecord, decisionsSchema, type Decisions } from '@nokta/core/arrange';
import { MOST_ROUNDS, type Contract } from '@nokta/core/grade';
import { tuneRecord } from '@nokta/core/edit';
import type { RecordKind } from '@nokta/core/record';
import { companions, keptSchema, momentSchema, tagSchema, type NamedVersion } from '@nokta/core/files';
import type { Problem } from '@nokta/core/formats';
import { INSTRUMENTS, MAKE_BOUNDS, type HandId } from '@nokta/core/instrument';
import { tuneSchema, type Tune } from '@nokta/core/music';
import { MOST_STEPS } from '@nokta/core/search';
import { PAPERS, someStyleSchema, tapesSchema, type SheetStyle } from '@nokta/core/paper';

const revision = z.number().int().min(1);
const label = z.string().min(1).max(200);
/** A change's id, given by its sender: sent again, it is known by it and not made twice. */
const entry = z.uuid().nullable().default(null);
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
/** A change of a record, as any kind of record is sent it. */
export const changeRequest = <Change>({ changeSchema }: Pick<RecordKind<never, Change>, 'changeSchema'>) =>
  z.strictObject({ entry, revision, label, change: changeSchema });
export const editRequest = changeRequest(tuneRecord);
export const tagsRequest = z.strictObject({ tags: z.array(tagSchema).max(100) });
export const versionRequest = z.strictObject({ name: z.string().trim().min(1, 'A version needs a name.').max(200) });
export const alikeRequest = z.strictObject({ tune: tuneSchema });
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
/** A new record that needs no tune to belong to. @param value its schema */
export const recordRequest = <Value>(value: z.ZodType<Value, Value>) => z.strictObject({ id: z.uuid(), value });
/** Something that happened to a record. */
export const logRequest = z.strictObject({ id: z.uuid(), at: momentSchema, value: z.looseObject({}) });
/** A strip of tapes to print. */
export const tapeQuery = z.strictObject({
  name: z.string().trim().min(1).max(60),
  length: z.coerce
    .number('A string length is a number of millimetres.')
    .min(
      MAKE_BOUNDS.length[0],
      `A string is at least ${MAKE_BOUNDS.length[0]} mm long. Measure it from the nut to the bridge.`,
    )
    .max(
      MAKE_BOUNDS.length[1],
      `A string is at most ${MAKE_BOUNDS.length[1]} mm long. Measure it from the nut to the bridge.`,
    ),
  tapes: z
    .string()
    .max(4000)
    .transform((text, context) => jsonIn(text, context, 'The tapes are no JSON.'))
    .pipe(tapesSchema),
  paper: z.enum(PAPERS).default('a4'),
});
/** A page of the workshop's, of a tune that is not kept. */
export const printRequest = z.strictObject({ tune: tuneSchema, decisions: decisionsSchema, style: someStyleSchema });
export const keptRequest = keptSchema;
export const stepRequest = z.strictObject({ entry, revision });
function jsonIn(text: string, context: z.RefinementCtx, message: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    context.addIssue({ code: 'custom', message });
    return z.NEVER;
  }
}

/** A sheet's style as JSON, as much of it as is not usual. */
const style = z
  .string()
  .max(20_000)
  .default('{}')
  .transform((text, context) => jsonIn(text, context, 'The style of the sheet is no JSON.'))
  .pipe(someStyleSchema);
/** Which time round, where phrases change when they come again. */
const round = z.coerce.number().int().min(1).max(MOST_ROUNDS).default(1);
export const sheetQuery = z.strictObject({ style, round });
/** A page as a picture. */
export const pictureQuery = z.strictObject({ style, round, page: z.coerce.number().int().min(1).max(200).default(1) });
export const fileQuery = z.strictObject({ tab: z.stringbool().default(false), round });

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

export const SORTS = ['title', 'used', 'added', 'style', 'key'] as const;
export type Sort = (typeof SORTS)[number];

const several = z
  .union([z.string(), z.array(z.string())])
  .transform((value) => (Array.isArray(value) ? value : [value]))
  .default([]);
export const PAGE = 60;
export const listQuery = z.strictObject({
  words: z.string().max(200).default(''),
  /** Notes, or ups and downs; see `readMelodyQuery`. */
  melody: z
    .string()
    .max(20 * MOST_STEPS)
    .default(''),
  style: several,
  key: several,
  metre: several,
  form: several,
  trait: several,
  tag: several,
  sort: z.enum(SORTS).default('title'),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(200).default(PAGE),
});
export const incipitQuery = z.strictObject({
  from: z.coerce.number().int().min(0).max(1_000_000).optional(),
  length: z.coerce.number().int().min(0).max(100).default(0),
});

export interface PrintRequest {
  readonly tune: Tune;
  readonly decisions: Decisions;
  readonly style: SheetStyle;
}
export type NewTune = z.input<typeof newTune>;
export type RestoredTune = z.input<typeof restoredTune>;
export type ListQuery = z.input<typeof listQuery>;
export type DecideRequest = z.infer<typeof decideRequest>;

/** A tune as the library lists it. */
/** A contract that a teacher made. */
export interface OwnContract {
  readonly hand: HandId;
  readonly contract: Contract;
  /** Title of a tune that has an arrangement under it. */
  readonly tune: string;
}

export interface TuneSummary {
  readonly id: string;
  readonly title: string;
  readonly alsoKnownAs: readonly string[];
  readonly style: string;
  readonly composer: string;
  readonly key: string;
  readonly metre: string;
  readonly bars: number;
  readonly parts: string;
  /** How it is made: "question and answer". */
  readonly traits: readonly string[];
  /** Bars as they are played. */
  readonly played: number;
  readonly tags: readonly string[];
  /** Instruments and versions that it is set for: "cello", "violin, bare". */
  readonly settings: readonly string[];
  readonly revision: number;
  readonly updatedAt: string;
  readonly usedAt: string;
  /** Where the melody that was looked for stands, best place. */
  readonly place?: MelodyPlace;
}

export interface MelodyPlace {
  /** 1 is exact. */
  readonly score: number;
  /** Number of the sound that it begins with, from 0. */
  readonly from: number;
  readonly length: number;
}

export interface TuneList {
  readonly total: number;
  readonly tunes: readonly TuneSummary[];
}

/** First bars of a tune, or the bars of a place in it, engraved. Lengths are in staff spaces. */
export interface Incipit {
  /** Contents for `<svg viewBox={viewBox}>`; ink is `currentColor`, heads carry `data-note`. */
  readonly markup: string;
  readonly viewBox: string;
  readonly width: number;
  readonly height: number;
  /** Bar that it begins with, as people count. */
  readonly bar: number;
  /** Note that the place begins with, for opening the desk there. */
  readonly noteId: string | null;
  /** Notes of the place. */
  readonly marked: readonly string[];
}

/** What the library can be filtered by, with how many tunes have each. */
export interface Facets {
  readonly style: readonly Facet[];
  readonly key: readonly Facet[];
  readonly metre: readonly Facet[];
  readonly form: readonly Facet[];
  readonly trait: readonly Facet[];
  readonly tag: readonly Facet[];
  /** Tunes whose form is still being worked out. */
  readonly waiting: number;
}

export interface Facet {
  readonly value: string;
  readonly tunes: number;
}

export interface Steps {
  /** What undo would take back and redo bring again; null where there is nothing. */
  readonly undo: string | null;
  readonly redo: string | null;
  /** When those steps were made: of several chains the latest is undone first. */
  readonly undoAt: string | null;
  readonly redoAt: string | null;
}

/** What desks are sent of any record, whatever else of it. */
export interface AnyRecord extends Steps {
  readonly id: string;
  readonly revision: number;
}

/** A record that belongs to no tune. */
export interface StoredRecord<Value> extends AnyRecord {
  readonly value: Value;
}

/** Something that happened to a record. */
export interface LogEntry {
  readonly id: string;
  /** ISO 8601. */
  readonly at: string;
  readonly value: unknown;
}

/** A record changed, came or went. */
export interface Notice {
  readonly kind: string;
  readonly id: string;
  /** Records that belong together bear the same: a tune and its arrangements. */
  readonly family: string;
  /** The record's count of changes; null where something beside its content changed. */
  readonly revision: number | null;
  /** The change's id, where its sender gave one. */
  readonly entry: string | null;
}

/** What a change is answered with: the record as it is now. */
export type Answer<Record> = Record & {
  /** The count of changes that it had with this one. */
  readonly made: number;
  /** It may hold more than its sender knows: the change was laid over others, or had arrived before. */
  readonly others: boolean;
};

export interface ArrangementRecord extends AnyRecord {
  readonly tuneId: string;
  readonly decisions: Decisions;
}

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

export interface RestoreResult {
  readonly restored: readonly string[];
  readonly refused: readonly RefusedTune[];
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

/** For each tune of a backup, in its order. */
export type Compared = readonly ('new' | 'same' | 'differs')[];

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

export interface SheetPages {
  readonly pages: readonly string[];
}

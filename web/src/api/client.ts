/** Talking to the server. A refusal keeps its words, places and remedy. */
import type {
  AlikeTune,
  AnyRecord,
  Answer,
  ApiError,
  ArrangementRecord,
  BatchResult,
  Compared,
  Facets,
  Incipit,
  ListQuery,
  LogEntry,
  NewTune,
  OwnContract,
  BookProgress,
  BookRequest,
  PrintRequest,
  RestoreResult,
  RestoredTune,
  SheetPages,
  StoredRecord,
  TuneList,
  TuneRecord,
  TuneState,
  VersionRecord,
  VersionSummary,
} from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import type { Learner } from '@nokta/core/learner';
import type { Piece } from '@nokta/core/record';
import type { TuneChange } from '@nokta/core/edit';
import type { Ending, Kept, KeptKind } from '@nokta/core/files';
import type { SheetStyle, TapeStrip } from '@nokta/core/sheet';

export class RefusedError extends Error {
  constructor(
    readonly status: number,
    readonly body: ApiError,
  ) {
    super([body.error, body.remedy].filter(Boolean).join(' '));
  }
}

/** The server did not answer at all. */
export class UnreachableError extends Error {
  constructor() {
    super('Nokta does not answer. Is it still running on this computer? What was saved is safe.');
  }
}

/** Milliseconds in which a change is answered at the latest. What got no answer is sent again, and known where it had arrived. */
const PATIENCE = 20_000;

/** Whoever asked does not want the answer any more; that it takes too long is another matter. */
const isCalledOff = (signal: AbortSignal | undefined): boolean =>
  signal?.aborted === true && (signal.reason as { name?: unknown } | undefined)?.name !== 'TimeoutError';

/** What the server sends, whatever it is. @throws RefusedError where it sends an error */
async function answered(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(signal && { signal }),
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch (error) {
    if (isCalledOff(signal)) throw error;
    throw new UnreachableError();
  }
  if (response.ok) return response;
  const problem = (await response.json().catch(() => ({ error: 'The answer was not understood.' }))) as ApiError;
  throw new RefusedError(response.status, problem);
}

async function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const response = await answered(method, path, body, signal);
  if (response.status === 204) return undefined as T;
  try {
    return (await response.json()) as T;
  } catch (error) {
    if (isCalledOff(signal)) throw error;
    // Cut off on its way: as good as none.
    throw new UnreachableError();
  }
}

/** Ids of changes that were sent from here: whatever is heard of them is known already. */
export const sentHere = new Set<string>();

/** A change to a record: answered in time, or taken for unanswered. */
function changed<Record>(
  method: string,
  path: string,
  body: { readonly entry: string; readonly [field: string]: unknown },
): Promise<Answer<Record>> {
  sentHere.add(body.entry);
  return call<Answer<Record>>(method, path, body, AbortSignal.timeout(PATIENCE));
}

/** Lists become several members of the same name; what is empty is left out. */
function queryText(query: Readonly<Record<string, unknown>>): string {
  const members = Object.entries(query).flatMap(([name, value]) =>
    (Array.isArray(value) ? value : [value])
      .filter((one) => one !== undefined && one !== '')
      .map((one) => [name, String(one)]),
  );
  return new URLSearchParams(members).toString();
}

/** A style as an address says it. */
const styleText = (style: SheetStyle, round: number) => queryText({ style: JSON.stringify(style), round });

/** What the addresses of every kind of record have in common. @param path under which they stand */
export const recordApi = <Record extends AnyRecord>(path: string) => ({
  /** The record as it is now. */
  state: (id: string) => call<Record>('GET', `/${path}/${id}/state`),
  /** @param entry the change's id: sent again, it is known by it and not made twice */
  change: (id: string, revision: number, change: unknown, label: string, entry: string) =>
    changed<Record>('PATCH', `/${path}/${id}`, { revision, change, label, entry }),
  undo: (id: string, revision: number, entry: string) =>
    changed<Record>('POST', `/${path}/${id}/undo`, { revision, entry }),
  redo: (id: string, revision: number, entry: string) =>
    changed<Record>('POST', `/${path}/${id}/redo`, { revision, entry }),
  /** Something that happened; sent again, it is known by its id. */
  append: (id: string, entry: LogEntry) => call<LogEntry>('POST', `/${path}/${id}/log`, entry),
  remove: (id: string) => call<undefined>('DELETE', `/${path}/${id}`),
});
export type RecordApi<Record extends AnyRecord> = ReturnType<typeof recordApi<Record>>;

const tunes = recordApi<TuneState>('tunes');
const arrangements = recordApi<ArrangementRecord>('arrangements');
const learners = recordApi<StoredRecord<Learner>>('learners');

export const api = {
  tunes: (query: ListQuery, signal?: AbortSignal) =>
    call<TuneList>('GET', `/tunes?${queryText(query)}`, undefined, signal),
  /** Contracts of the teacher's own, from all tunes. */
  contracts: () => call<readonly OwnContract[]>('GET', '/contracts'),
  facets: () => call<Facets>('GET', '/tunes/facets'),
  incipit: (id: string, place?: { from: number; length: number }) =>
    call<Incipit>('GET', `/tunes/${id}/incipit${place ? `?${queryText({ ...place })}` : ''}`),
  /** @param melodies packed; at most a batch. For each the tunes here that are the same */
  alike: (melodies: readonly string[]) => call<readonly (readonly AlikeTune[])[]>('POST', '/tunes/alike', { melodies }),
  add: (tune: NewTune) => call<TuneRecord>('POST', '/tunes', tune),
  addBatch: (tunes: readonly NewTune[], signal?: AbortSignal) =>
    call<BatchResult>('POST', '/tunes/batch', { tunes }, signal),
  join: (kept: string, joined: string) => call<undefined>('POST', `/tunes/${kept}/join/${joined}`),
  tune: (id: string) => call<TuneRecord>('GET', `/tunes/${id}`),
  edit: (id: string, revision: number, change: TuneChange, label: string, entry: string) =>
    tunes.change(id, revision, change, label, entry),
  tuneState: tunes.state,
  undoTune: tunes.undo,
  redoTune: tunes.redo,
  tag: (id: string, tags: readonly string[]) => call<{ tags: string[] }>('PUT', `/tunes/${id}/tags`, { tags }),
  versions: (id: string) => call<readonly VersionSummary[]>('GET', `/tunes/${id}/versions`),
  version: (id: string, version: string) => call<VersionRecord>('GET', `/tunes/${id}/versions/${version}`),
  nameVersion: (id: string, name: string) => call<VersionSummary>('POST', `/tunes/${id}/versions`, { name }),
  deleteVersion: (id: string, version: string) => call<undefined>('DELETE', `/tunes/${id}/versions/${version}`),
  remove: (id: string) => call<undefined>('DELETE', `/tunes/${id}`),
  restore: (id: string) => call<undefined>('POST', `/tunes/${id}/restore`),
  arrange: (id: string, decisions: Decisions) =>
    call<ArrangementRecord>('POST', `/tunes/${id}/arrangements`, { decisions }),
  /** @param wanted piece by piece; all of it only from windows of before, which knew no pieces */
  decide: (id: string, revision: number, wanted: readonly Piece[] | Decisions, label: string, entry: string) =>
    Array.isArray(wanted)
      ? arrangements.change(id, revision, wanted, label, entry)
      : changed<ArrangementRecord>('PUT', `/arrangements/${id}`, { revision, decisions: wanted, label, entry }),
  arrangement: arrangements.state,
  undo: arrangements.undo,
  redo: arrangements.redo,
  sheet: (id: string, style: SheetStyle, round = 1) =>
    call<SheetPages>('GET', `/arrangements/${id}/sheet?${styleText(style, round)}`),
  learners: () => call<readonly StoredRecord<Learner>[]>('GET', '/learners'),
  learner: learners.state,
  /** @param id given here: sent again, there is still one */
  addLearner: (id: string, value: Learner) => call<StoredRecord<Learner>>('POST', '/learners', { id, value }),
  dropLearner: learners.remove,
  bringLearnerBack: (id: string) => call<undefined>('POST', `/learners/${id}/restore`),
  /** Pages of a tune that is not kept. */
  makeBook: async (asked: BookRequest, signal: AbortSignal) => (await answered('POST', '/books', asked, signal)).blob(),
  bookProgress: (run: string) => call<BookProgress>('GET', `/books/${run}`),
  printSheet: async (asked: PrintRequest) => (await answered('POST', '/print/sheet.pdf', asked)).blob(),
  kept: () => call<readonly Kept[]>('GET', '/kept'),
  addKept: <Kind extends KeptKind>(one: Omit<Kept<Kind>, 'id'>) => call<Kept<Kind>>('POST', '/kept', one),
  keep: (one: Kept) => call<Kept>('PUT', `/kept/${one.id}`, one),
  dropKept: (id: string) => call<undefined>('DELETE', `/kept/${id}`),
  compareBackup: (
    tunes: readonly { readonly id: string; readonly updatedAt: string; readonly sha256?: string | undefined }[],
  ) => call<Compared>('POST', '/backup/compare', { tunes }),
  restoreBackup: (madeAt: string, tunes: readonly RestoredTune[], signal?: AbortSignal) =>
    call<RestoreResult>('POST', '/backup/restore', { madeAt, tunes }, signal),
};

/** Addresses of files to download. */
export const fileUrl = {
  pdf: (id: string, style: SheetStyle, round = 1) => `/api/arrangements/${id}/sheet.pdf?${styleText(style, round)}`,
  /** One page as a picture; pages count from 1. */
  png: (id: string, style: SheetStyle, page: number, round = 1) =>
    `/api/arrangements/${id}/sheet.png?${styleText(style, round)}&page=${page}`,
  tune: (id: string, ending: Ending, { tab = false, round = 1 } = {}) => {
    const asked = queryText({ tab: tab || undefined, round: round > 1 ? round : undefined });
    return `/api/arrangements/${id}/tune.${ending}${asked && `?${asked}`}`;
  },
  tapes: ({ tapes, ...strip }: TapeStrip) =>
    `/api/print/tapes.pdf?${queryText({ ...strip, tapes: JSON.stringify(tapes) })}`,
  backup: () => '/api/backup',
};

/** What to show for anything that went wrong. */
export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

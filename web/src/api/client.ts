/** Talking to the server. A refusal keeps its words, places and remedy. */
import type {
  ApiError,
  ArrangementRecord,
  Preview,
  PreviewRequest,
  SheetPages,
  TuneRecord,
  TuneSummary,
} from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import type { Paper } from '@nokta/core/sheet';

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

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new UnreachableError();
  }
  if (response.status === 204) return undefined as T;
  const json: unknown = await response.json().catch(() => ({ error: 'The answer was not understood.' }));
  if (!response.ok) throw new RefusedError(response.status, json as ApiError);
  return json as T;
}

export const api = {
  tunes: () => call<readonly TuneSummary[]>('GET', '/tunes'),
  preview: (request: PreviewRequest) => call<Preview>('POST', '/tunes/preview', request),
  add: (request: PreviewRequest) => call<TuneRecord>('POST', '/tunes', request),
  tune: (id: string) => call<TuneRecord>('GET', `/tunes/${id}`),
  rename: (id: string, title: string, version: number) =>
    call<TuneSummary>('PATCH', `/tunes/${id}`, { title, version }),
  remove: (id: string) => call<undefined>('DELETE', `/tunes/${id}`),
  restore: (id: string) => call<undefined>('POST', `/tunes/${id}/restore`),
  arrange: (id: string, decisions: Decisions) =>
    call<ArrangementRecord>('POST', `/tunes/${id}/arrangements`, { decisions }),
  decide: (id: string, version: number, decisions: Decisions, label: string) =>
    call<ArrangementRecord>('PUT', `/arrangements/${id}`, { version, decisions, label }),
  undo: (id: string, version: number) => call<ArrangementRecord>('POST', `/arrangements/${id}/undo`, { version }),
  redo: (id: string, version: number) => call<ArrangementRecord>('POST', `/arrangements/${id}/redo`, { version }),
  sheet: (id: string, paper: Paper) => call<SheetPages>('GET', `/arrangements/${id}/sheet?paper=${paper}`),
};

/** Addresses of files to download. */
export const fileUrl = {
  pdf: (id: string, paper: Paper) => `/api/arrangements/${id}/sheet.pdf?paper=${paper}`,
  musicXml: (id: string) => `/api/arrangements/${id}/tune.musicxml`,
  abc: (id: string) => `/api/arrangements/${id}/tune.abc`,
};

/** What to show for anything that went wrong. */
export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

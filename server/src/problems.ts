/** Refusals: what happened, what it means, what can be done. */
import type { ErrorRequestHandler } from 'express';
import { ZodError } from 'zod';
import type { ApiError } from '@nokta/api';
import type { Logger } from 'pino';

export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly body: ApiError,
  ) {
    super(body.error);
  }
}

export const notFound = (what: string) =>
  new Refusal(404, {
    error: `This ${what} is not here any more.`,
    remedy: 'Go back to the library and open it again.',
  });

export const diskFull = () =>
  new Refusal(507, {
    error: 'The disk is full: this was not saved.',
    remedy: 'Make some room on the disk, then try again. What was saved before is safe.',
  });

/** PostgreSQL's number for a full disk, and what the system calls it. */
const FULL = /\b53100\b|ENOSPC|no space left|could not extend file/i;

/** Whether an error, or one that it came from, says that the disk is full. */
export function isDiskFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code = '' } = error as { code?: string };
  return FULL.test(`${code} ${error.message}`) || isDiskFull(error.cause);
}

export function errorHandler(log: Logger): ErrorRequestHandler {
  // Express knows an error handler by its four parameters.
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const { status, body } = refusalOf(error);
    if (status >= 500) log.error({ err: error, url: request.url }, 'request failed');
    response.status(status).json(body);
  };
}

/** What an error is to whoever asked. */
export function refusalOf(error: unknown): { status: number; body: ApiError } {
  if (error instanceof Refusal) return error;
  if (error instanceof ZodError) {
    const issue = error.issues[0];
    return {
      status: 400,
      body: {
        error: issue?.message ?? 'This request was not understood.',
        ...(issue?.path.length && { remedy: `Check ${issue.path.join('.')}.` }),
      },
    };
  }
  if (isDiskFull(error)) return diskFull();
  if (isHttpError(error) && error.status === 413)
    return { status: 413, body: { error: 'The file is too large.', remedy: 'Split it into smaller tune books.' } };
  if (isHttpError(error) && error.status < 500)
    return { status: error.status, body: { error: 'This request was not understood.' } };
  return {
    status: 500,
    body: {
      error: 'Something went wrong inside Nokta. Nothing you had saved is lost.',
      remedy: 'Try again; if it comes back, restart Nokta.',
    },
  };
}

function isHttpError(error: unknown): error is { status: number } {
  return typeof error === 'object' && error !== null && 'status' in error && typeof error.status === 'number';
}

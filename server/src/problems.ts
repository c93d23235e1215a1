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

export function errorHandler(log: Logger): ErrorRequestHandler {
  // Express knows an error handler by its four parameters.
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const { status, body } = refusalOf(error);
    if (status >= 500) log.error({ err: error, url: request.url }, 'request failed');
    response.status(status).json(body);
  };
}

function refusalOf(error: unknown): { status: number; body: ApiError } {
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

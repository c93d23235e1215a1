/** What a reader has to say about a text: where, what it means for the tune, and what can be done. */
export interface Problem {
  /** An `error` refuses the tune; a `notice` says what could not be carried over or looks odd. */
  readonly severity: 'error' | 'notice';
  readonly message: string;
  readonly remedy?: string;
  /** Both count from 1; left out where the problem has no one place. */
  readonly line?: number;
  readonly column?: number;
}

/**
 * `file:line:column: message remedy`, as compilers print it.
 * @example formatProblem('tar.abc', { severity: 'error', message: 'No title.', remedy: 'Add T:.', line: 2, column: 1 }) // 'tar.abc:2:1: No title. Add T:.'
 */
export function formatProblem(file: string, { line, column, message, remedy }: Problem): string {
  const place = line === undefined ? file : `${file}:${line}:${column ?? 1}`;
  return `${place}: ${message}${remedy ? ` ${remedy}` : ''}`;
}

export type ReadResult<T> =
  | { readonly ok: true; readonly value: T; readonly notices: readonly Problem[] }
  | { readonly ok: false; readonly problems: readonly Problem[] };

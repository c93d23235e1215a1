/** Reading the file a command is given. */
import { readFile, stat } from 'node:fs/promises';
import { extname } from 'node:path';
import { text } from 'node:stream/consumers';
import { MAX_ABC_CHARACTERS, formatProblem, readAbc, type Problem } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { UsageError, type CliOptions } from './options.ts';

/** The input was read but is no tune: each problem has its place. */
export class InputError extends Error {
  constructor(
    readonly file: string,
    readonly problems: readonly Problem[],
  ) {
    super(problems.map((problem) => formatProblem(file, problem)).join('\n'));
  }
}

/** Reads the tune; notices go to standard error. */
export async function readTune(options: CliOptions): Promise<{ tune: Tune; notices: readonly Problem[] }> {
  const file = options.file;
  if (file === null) throw new UsageError('Name a file, or - to read from standard input.');
  const kind = options.from ?? extname(file).slice(1).toLowerCase();
  if (kind !== 'abc') {
    throw new UsageError(
      file === '-'
        ? 'Say what comes in: --from abc.'
        : `${file}: files ending in .${kind || '?'} cannot be read yet. Give an .abc file.`,
    );
  }
  const result = readAbc(await contents(file), { tune: options.tune, voice: options.voice });
  if (!result.ok) throw new InputError(file, result.problems);
  for (const notice of result.notices) console.error(formatProblem(file, notice));
  return { tune: result.value.tune, notices: result.notices };
}

async function contents(file: string): Promise<string> {
  if (file === '-') return text(process.stdin);
  try {
    if ((await stat(file)).size > 4 * MAX_ABC_CHARACTERS)
      throw new UsageError(`${file}: the file is too large for a tune book.`);
    return await readFile(file, 'utf8');
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError(`${file}: the file cannot be read. Check its name and place.`);
  }
}

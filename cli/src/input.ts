/** Reading the file a command is given, in whatever format it is. */
import { readFile, stat } from 'node:fs/promises';
import { buffer } from 'node:stream/consumers';
import { decided, openingOctave, type Decisions } from '@nokta/core/arrange';
import { MAX_FILE_BYTES, openFile, type Incoming } from '@nokta/core/files';
import { formatProblem, type Problem, type ReadResult } from '@nokta/core/formats';
import { MOST_MS, inTime } from './limit.ts';
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

/** Endings that name a format on standard input, where nothing else does. */
const KINDS = ['abc', 'musicxml', 'xml', 'mxl', 'mid', 'midi', 'nokta.json', 'zip'] as const;

/** A tune with what is to be said of it. */
export interface Read extends Incoming {
  readonly notices: readonly Problem[];
  /** What the options say, in the octave in which the tune opens on the instrument. */
  readonly decisions: Decisions;
}

/** Reads the tune; notices go to standard error. */
export async function readTune(options: CliOptions): Promise<Read> {
  const file = options.file;
  if (file === null) throw new UsageError('Name a file, or - to read from standard input.');
  if (options.from !== null && !(KINDS as readonly string[]).includes(options.from))
    throw new UsageError(`--from ${options.from} is not known. Use one of ${KINDS.join(', ')}.`);
  if (file === '-' && options.from === null) throw new UsageError('Say what comes in: --from abc, or another format.');
  const name = options.from === null ? file : `input.${options.from}`;
  const bytes = await contents(file);
  const result = inTime(() =>
    taken(file, openFile(bytes, name)).value.read({ tune: options.tune, voice: options.voice }),
  );
  const { value, notices } = taken(file, result ?? TOO_LONG);
  for (const notice of notices) console.error(formatProblem(file, notice));
  const { decisions, transposed } = options;
  const transpose = transposed ? decisions.key.transpose : openingOctave(value.tune, decisions);
  return { ...value, notices, decisions: decided(decisions, { key: { transpose } }) };
}

/** How many tunes a file holds. */
export async function tunesIn(options: CliOptions, file: string): Promise<number> {
  const name = options.from === null ? file : `input.${options.from}`;
  return taken(file, openFile(await contents(file), name)).value.tunes.length;
}

const TOO_LONG: ReadResult<never> = {
  ok: false,
  problems: [
    {
      severity: 'error',
      message: `Reading this took longer than ${MOST_MS / 1000} seconds and was ended.`,
      remedy: 'The file may be damaged. Export it again, or read a part of it.',
    },
  ],
};

function taken<T>(file: string, result: ReadResult<T>): { value: T; notices: readonly Problem[] } {
  if (!result.ok) throw new InputError(file, result.problems);
  return result;
}

async function contents(file: string): Promise<Uint8Array> {
  if (file === '-') return buffer(process.stdin);
  let bytes: number;
  try {
    bytes = (await stat(file)).size;
  } catch {
    throw new UsageError(`${file}: the file cannot be read. Check its name and place.`);
  }
  if (bytes > MAX_FILE_BYTES) throw new UsageError(`${file}: the file is larger than 120 megabytes.`);
  return readFile(file).catch(() => {
    throw new UsageError(`${file}: the file cannot be read. Check its name and place.`);
  });
}

/**
 * Nokta's own file: open JSON with a tune, everything decided for it, its tags and named versions.
 * The guide's page "The Nokta file" describes it for others.
 */
import { z } from 'zod';
import { decisionsSchema, type Decisions } from '../arrange/index.ts';
import type { Problem, ReadResult } from '../formats/index.ts';
import { tuneSchema, type Tune } from '../music/index.ts';
import { momentSchema, tagSchema } from './schema.ts';

export const NOKTA_FORMAT = 'nokta-tune';
/** Goes up when a file of this program cannot be read by an older one. */
export const NOKTA_VERSION = 2;
/** A long tune with a hundred named versions stays below this. */
const MAX_CHARACTERS = 60_000_000;

/** A state of the tune that the teacher gave a name. */
export interface NamedVersion {
  readonly name: string;
  /** ISO 8601. */
  readonly madeAt: string;
  readonly tune: Tune;
}

export interface NoktaContents {
  readonly tune: Tune;
  readonly arrangements: readonly Decisions[];
  readonly tags: readonly string[];
  readonly versions: readonly NamedVersion[];
}

/** What comes along with a tune, wherever it is sent or kept. */
export const companions = {
  arrangements: z.array(decisionsSchema).max(200).default([]),
  tags: z.array(tagSchema).max(100).default([]),
  versions: z
    .array(z.strictObject({ name: z.string().trim().min(1).max(200), madeAt: momentSchema, tune: tuneSchema }))
    .max(1000)
    .default([]),
};

const fileSchema = z.strictObject({
  format: z.literal(NOKTA_FORMAT),
  // Version 1 had all decisions side by side; its slices know how to read that.
  version: z.literal([1, NOKTA_VERSION]),
  tune: tuneSchema,
  ...companions,
});

/**
 * @returns JSON text, the same for the same contents
 * @example JSON.parse(writeNokta({ tune: reel, arrangements: [], tags: [], versions: [] })).format // 'nokta-tune'
 */
export function writeNokta({ tune, arrangements, tags, versions }: NoktaContents): string {
  const file = { format: NOKTA_FORMAT, version: NOKTA_VERSION, tune, arrangements, tags, versions };
  return `${JSON.stringify(file, null, 1)}\n`;
}

/** @example readNokta('{}').problems[0].line // 1 */
export function readNokta(source: string): ReadResult<NoktaContents> {
  if (source.length > MAX_CHARACTERS) return fail('The file is larger than any tune.', 'Check where it comes from.');
  let json: unknown;
  try {
    json = JSON.parse(source);
  } catch (error) {
    return { ok: false, problems: [jsonProblem(source, error)] };
  }
  const head = (typeof json === 'object' && json !== null ? json : {}) as { format?: unknown; version?: unknown };
  if (head.format !== NOKTA_FORMAT) {
    return fail(
      'This is JSON, but no Nokta file: it does not say “format”: “nokta-tune”.',
      'Open a file that ends in .nokta.json.',
    );
  }
  if (typeof head.version === 'number' && head.version > NOKTA_VERSION) {
    return fail(
      `This file was written by a newer Nokta (version ${head.version} of the file, known are up to ${NOKTA_VERSION}).`,
      'Bring Nokta up to date, then open it again.',
    );
  }
  const parsed = fileSchema.safeParse(json);
  if (parsed.success) {
    const { tune, arrangements, tags, versions } = parsed.data;
    return { ok: true, value: { tune, arrangements, tags, versions }, notices: [] };
  }
  const problems = parsed.error.issues.slice(0, 5).map(({ message, path }): Problem => ({
    severity: 'error',
    message: `${message} (at ${path.join('.') || 'the top'})`,
    remedy: 'The file was changed or cut. Open an older copy of it.',
  }));
  return { ok: false, problems };
}

const fail = (message: string, remedy: string): ReadResult<never> => ({
  ok: false,
  problems: [{ severity: 'error', message, remedy, line: 1, column: 1 }],
});

/** Line and column where the JSON breaks off, as far as the engine tells. */
function jsonProblem(source: string, error: unknown): Problem {
  const position = /position (\d+)/.exec(String(error));
  const at = position ? Number(position[1]) : source.length;
  const before = source.slice(0, at).split('\n');
  return {
    severity: 'error',
    message: 'The file is damaged or cut short: it is not whole JSON.',
    remedy: 'Copy or download it again.',
    line: before.length,
    column: before.at(-1)!.length + 1,
  };
}

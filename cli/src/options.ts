/** Options that most commands share, read and checked once. */
import { parseArgs } from 'node:util';
import { FIRST_DECISIONS, type Decisions } from '@nokta/core/arrange';
import { INSTRUMENTS, isInstrument, parseTuning } from '@nokta/core/instrument';
import { POSITIONS, type Position } from '@nokta/core/hand';
import { PAPERS, type Paper } from '@nokta/core/sheet';

/** Bad input or options: what the user reads, exit code 2. */
export class UsageError extends Error {}

export interface CliOptions {
  readonly file: string | null;
  readonly json: boolean;
  readonly help: boolean;
  readonly tune: number;
  readonly voice: number;
  readonly from: string | null;
  readonly out: string | null;
  readonly paper: Paper;
  /** MusicXML with a staff of finger tablature. */
  readonly tab: boolean;
  readonly decisions: Decisions;
}

const SPEC = {
  json: { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
  tune: { type: 'string', default: '1' },
  voice: { type: 'string', default: '1' },
  from: { type: 'string' },
  out: { type: 'string', short: 'o' },
  paper: { type: 'string', default: 'a4' },
  instrument: { type: 'string', default: 'violin' },
  tuning: { type: 'string', default: 'standard' },
  transpose: { type: 'string', default: '0' },
  tempo: { type: 'string' },
  bare: { type: 'boolean', default: false },
  tab: { type: 'boolean', default: false },
  'no-fourth': { type: 'boolean', default: false },
  'max-position': { type: 'string' },
  'bass-school': { type: 'string', default: 'three' },
} as const;

/** Furthest that a tune is transposed: four octaves. */
const MAX_TRANSPOSE = 48;

/** @throws UsageError with what is wrong and what is possible */
export function readOptions(args: readonly string[]): CliOptions {
  const { values, positionals } = parse(args);
  const { instrument } = values;
  if (!isInstrument(instrument))
    throw new UsageError(`--instrument ${instrument} is not known. Use one of ${INSTRUMENTS.join(', ')}.`);
  const tuning = parseTuning(instrument, values.tuning);
  if ('error' in tuning) throw new UsageError(`--tuning: ${tuning.error}`);
  const maxPosition = values['max-position'];
  if (maxPosition !== undefined && !isPosition(maxPosition))
    throw new UsageError(`--max-position ${maxPosition} is not known. Use one of ${POSITIONS.join(', ')}.`);
  const school = values['bass-school'];
  if (school !== 'three' && school !== 'four') throw new UsageError('--bass-school is three or four.');
  if (values.paper !== 'a4' && values.paper !== 'letter')
    throw new UsageError(`--paper is one of ${PAPERS.join(', ')}.`);
  if (positionals.length > 1) throw new UsageError(`One file at a time, please: ${positionals.join(', ')}.`);
  return {
    file: positionals[0] ?? null,
    json: values.json,
    help: values.help,
    tune: wholeNumber('--tune', values.tune, 1, 100_000),
    voice: wholeNumber('--voice', values.voice, 1, 99),
    from: values.from ?? null,
    out: values.out ?? null,
    paper: values.paper,
    tab: values.tab,
    decisions: {
      ...FIRST_DECISIONS,
      instrument,
      tuning: tuning.id,
      transpose: wholeNumber('--transpose', values.transpose, -MAX_TRANSPOSE, MAX_TRANSPOSE),
      tempo: values.tempo === undefined ? null : wholeNumber('--tempo', values.tempo, 20, 400),
      version: values.bare ? 'bare' : 'tune',
      limits: {
        ...(values['no-fourth'] && { noFourth: true }),
        ...(maxPosition && { maxPosition }),
        bassSchool: school,
      },
    },
  };
}

function parse(args: readonly string[]) {
  try {
    return parseArgs({ args: joinNegative(args), options: SPEC, allowPositionals: true });
  } catch (error) {
    throw new UsageError(`${error instanceof Error ? error.message : String(error)} Use --help to see the options.`);
  }
}

/** `--transpose -5`: a value that begins with a minus belongs to the option before it. */
function joinNegative(args: readonly string[]): string[] {
  return args.flatMap((arg, index) => {
    if (/^-\d+$/.test(arg) && args[index - 1]?.startsWith('--')) return [];
    const next = args[index + 1];
    return arg.startsWith('--') && next !== undefined && /^-\d+$/.test(next) ? [`${arg}=${next}`] : [arg];
  });
}

const isPosition = (text: string): text is Position => (POSITIONS as readonly string[]).includes(text);

function wholeNumber(option: string, text: string, least: number, most: number): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < least || number > most)
    throw new UsageError(`${option} is a whole number from ${least} to ${most}, not ${text}.`);
  return number;
}

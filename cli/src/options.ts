/** Options that most commands share, read and checked once. */
import { extname } from 'node:path';
import { parseArgs } from 'node:util';
import { FIRST_DECISIONS, decided, type Decisions } from '@nokta/core/arrange';
import { LINE_ROLES, type GradeNumber } from '@nokta/core/grade';
import {
  INSTRUMENT,
  INSTRUMENTS,
  MOST_TRANSPOSED,
  isInstrument,
  askedTuning,
  type InstrumentId,
} from '@nokta/core/instrument';
import { COUNTINGS, LONGEST_SLUR, PATTERN_IDS, SCHOOLS, TUNE_SLURS, type Counting } from '@nokta/core/bow';
import { POSITIONS, OPEN_STRING_IDS, PRESET_IDS, type Level, type PresetId } from '@nokta/core/hand';
import {
  FINGER_SIGNS,
  FINGER_WORDS,
  LANE_IDS,
  NAMINGS,
  PAGE_KINDS,
  BAR_NUMBERS,
  MOST_NEXT,
  linkSchema,
  MOST_WRITING_LINES,
  SIZES_OF_PRINT,
  PAPERS,
  SHEET_PRESETS,
  STRING_NAMES,
  USUAL_NAMES,
  USUAL_STYLE,
  USUAL_TAB,
  type PresetId as SheetPresetId,
  type Binding,
  type Paper,
  type SheetStyle,
} from '@nokta/core/paper';
import { USUAL_TALK, VOICES, type TalkOptions, type Voice } from '@nokta/core/talk';

/** Bad input or options: what the user reads, exit code 2. */
export class UsageError extends Error {}

export interface Player {
  readonly instrument: InstrumentId;
  /** Null for the tune as it is. */
  readonly grade: GradeNumber | null;
}

export interface CliOptions {
  readonly file: string | null;
  /** All that were named; only a book takes several. */
  readonly files: readonly string[];
  /** Of a book: how its pages come onto paper. */
  readonly binding: Binding;
  readonly title: string | null;
  /** Of a book: with what is played before its tunes. */
  readonly warmUps: boolean;
  readonly json: boolean;
  readonly help: boolean;
  readonly tune: number;
  readonly voice: number;
  /** In which voice a talk-through speaks. */
  readonly talk: TalkOptions;
  readonly from: string | null;
  readonly out: string | null;
  /** How a sheet looks. */
  readonly sheet: SheetStyle;
  /** Players of a group, each with the instrument and the grade that the sheet is for. */
  readonly players: readonly Player[];
  /** MusicXML with a staff of finger tablature. */
  readonly tab: boolean;
  /** Fingers and strings that the file brings along are kept. */
  readonly keepFingers: boolean;
  /** What a Nokta file decided for the instrument is used, in place of the options. */
  readonly asDecided: boolean;
  /** How is counted, whatever was decided; null where it is not said. */
  readonly counting: Counting | null;
  /** Chords that are written are left aside. */
  readonly found: boolean;
  readonly grade: GradeNumber | null;
  readonly decisions: Decisions;
  /** Whether the pitch was said, so that the octave is not chosen. */
  readonly transposed: boolean;
}

const SPEC = {
  json: { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
  tune: { type: 'string', default: '1' },
  voice: { type: 'string', default: '1' },
  from: { type: 'string' },
  out: { type: 'string', short: 'o' },
  paper: { type: 'string', default: 'a4' },
  layout: { type: 'string', default: 'usual' },
  lanes: { type: 'string' },
  names: { type: 'string', default: 'english' },
  short: { type: 'boolean', default: false },
  plain: { type: 'boolean', default: false },
  landscape: { type: 'boolean', default: false },
  counting: { type: 'string' },
  'bar-numbers': { type: 'string', default: 'lines' },
  size: { type: 'string', default: 'usual' },
  folded: { type: 'boolean', default: false },
  'in-full': { type: 'boolean', default: false },
  lesson: { type: 'boolean', default: false },
  date: { type: 'string' },
  next: { type: 'string' },
  link: { type: 'string' },
  'writing-lines': { type: 'string', default: '0' },
  phrase: { type: 'string' },
  instrument: { type: 'string', default: 'violin' },
  tuning: { type: 'string', default: 'standard' },
  transpose: { type: 'string' },
  tempo: { type: 'string' },
  'finger-words': { type: 'string', default: 'sign-first' },
  'finger-signs': { type: 'string', default: 'dots' },
  'string-names': { type: 'string', default: 'place' },
  turned: { type: 'boolean', default: false },
  pages: { type: 'string', default: 'tune' },
  fingerboard: { type: 'boolean', default: false },
  title: { type: 'string' },
  'warm-ups': { type: 'boolean', default: false },
  for: { type: 'string' },
  bare: { type: 'boolean', default: false },
  tab: { type: 'boolean', default: false },
  'no-fourth': { type: 'boolean', default: false },
  'max-position': { type: 'string' },
  'no-extension': { type: 'boolean', default: false },
  'no-double-stops': { type: 'boolean', default: false },
  'bass-school': { type: 'string', default: 'three' },
  'cello-school': { type: 'string' },
  preset: { type: 'string', default: 'all-round' },
  'open-strings': { type: 'string' },
  school: { type: 'string', default: 'as-it-comes' },
  pattern: { type: 'string' },
  start: { type: 'string' },
  'max-slur': { type: 'string' },
  slurs: { type: 'string', default: 'keep' },
  grade: { type: 'string' },
  line: { type: 'string' },
  'keep-key': { type: 'boolean', default: false },
  density: { type: 'string' },
  'every-mark': { type: 'boolean', default: false },
  'keep-fingers': { type: 'boolean', default: false },
  'as-decided': { type: 'boolean', default: false },
  found: { type: 'boolean', default: false },
} as const;

/** Papers of a book. A booklet is printed on both sides and folded. */
const BOOK_PAPERS = {
  a4: { paper: 'a4', binding: 'pages' },
  letter: { paper: 'letter', binding: 'pages' },
  'a5-booklet': { paper: 'a4', binding: 'booklet' },
  'half-letter-booklet': { paper: 'letter', binding: 'booklet' },
  'a4-two-up': { paper: 'a4', binding: 'two-up' },
  'letter-two-up': { paper: 'letter', binding: 'two-up' },
} as const satisfies Readonly<Record<string, { readonly paper: Paper; readonly binding: Binding }>>;

/** A talk-through has voices of its own, beside those of a file. */
const isVoice = (text: string): text is Voice => (VOICES as readonly string[]).includes(text);
/** Several of a few names, with commas between them. */
const listOf = <Id extends string>(option: string, text: string, known: readonly Id[]): readonly Id[] =>
  text.split(',').map((name) => oneOf(option, name.trim(), known));

/** A day as "2026-03-14". */
function dayIn(text: string | undefined): string | null {
  if (text === undefined) return null;
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(Date.parse(text)))
    throw new UsageError(`--date ${text} is no day. Write it as 2026-03-14.`);
  return text;
}

function linkIn(text: string | undefined): string | null {
  const read = linkSchema.optional().safeParse(text);
  if (!read.success) throw new UsageError(`--link ${text}: ${read.error.issues[0]!.message}`);
  return read.data ?? null;
}

/** "violin,cello:2": the tune for a violin, grade 2 for a cello. */
function playersIn(text: string): readonly Player[] {
  return text.split(',').map((one) => {
    const [name = '', grade] = one.trim().split(':');
    const instrument = oneOf('--for', name, INSTRUMENTS);
    return { instrument, grade: grade === undefined ? null : (wholeNumber('--for', grade, 1, 6) as GradeNumber) };
  });
}

/** @throws UsageError with what is wrong and what is possible */
export function readOptions(args: readonly string[], several = false): CliOptions {
  const { values, positionals } = parse(args);
  const { instrument } = values;
  if (!isInstrument(instrument))
    throw new UsageError(`--instrument ${instrument} is not known. Use one of ${INSTRUMENTS.join(', ')}.`);
  const tuning = askedTuning(INSTRUMENT[instrument], values.tuning);
  if ('error' in tuning) throw new UsageError(`--tuning: ${tuning.error}`);
  const maxPosition = values['max-position'];
  if (maxPosition !== undefined && !isPosition(maxPosition))
    throw new UsageError(`--max-position ${maxPosition} is not known. Use one of ${POSITIONS.join(', ')}.`);
  const school = values['bass-school'];
  if (school !== 'three' && school !== 'four') throw new UsageError('--bass-school is three or four.');
  const cello = values['cello-school'];
  if (cello !== undefined && cello !== 'shift' && cello !== 'extend')
    throw new UsageError('--cello-school is shift or extend.');
  const { preset } = values;
  if (!isPreset(preset)) throw new UsageError(`--preset ${preset} is not known. Use one of ${PRESET_IDS.join(', ')}.`);
  const openStrings =
    values['open-strings'] === undefined
      ? undefined
      : oneOf('--open-strings', values['open-strings'], [...OPEN_STRING_IDS, 'context'] as const);
  const transpose =
    values.transpose === undefined
      ? null
      : wholeNumber('--transpose', values.transpose, -MOST_TRANSPOSED, MOST_TRANSPOSED);
  const papers = Object.keys(BOOK_PAPERS) as (keyof typeof BOOK_PAPERS)[];
  const { paper, binding } = several
    ? BOOK_PAPERS[oneOf('--paper', values.paper, papers)]
    : { paper: oneOf('--paper', values.paper, PAPERS), binding: 'pages' as const };
  const layouts = Object.keys(SHEET_PRESETS) as SheetPresetId[];
  const sheet: SheetStyle = {
    ...USUAL_STYLE,
    ...SHEET_PRESETS[oneOf('--layout', values.layout, layouts)],
    ...(values.lanes !== undefined && { lanes: listOf('--lanes', values.lanes, LANE_IDS) }),
    paper,
    names: {
      ...USUAL_NAMES,
      notes: oneOf('--names', values.names, NAMINGS),
      fingers: oneOf('--finger-words', values['finger-words'], FINGER_WORDS),
    },
    tab: {
      ...USUAL_TAB,
      signs: oneOf('--finger-signs', values['finger-signs'], FINGER_SIGNS),
      turned: values.turned,
      stringNames: oneOf('--string-names', values['string-names'], STRING_NAMES),
    },
    pages: listOf('--pages', values.pages, PAGE_KINDS),
    barNumbers: oneOf('--bar-numbers', values['bar-numbers'], BAR_NUMBERS),
    size: oneOf('--size', values.size, SIZES_OF_PRINT),
    ...(values.folded && { folded: true }),
    ...(values['in-full'] && { folded: false }),
    lesson: values.lesson || values.date !== undefined || values.next !== undefined,
    writingLines: wholeNumber('--writing-lines', values['writing-lines'], 0, MOST_WRITING_LINES),
    fingerboard: values.fingerboard,
    landscape: values.landscape,
    phrase: values.phrase ?? null,
  };
  const bowSchool = oneOf('--school', values.school, SCHOOLS);
  const tuneSlurs = oneOf('--slurs', values.slurs, TUNE_SLURS);
  const start = values.start === undefined ? null : oneOf('--start', values.start, ['down', 'up'] as const);
  const pattern = values.pattern === undefined ? null : oneOf('--pattern', values.pattern, PATTERN_IDS);
  const line = values.line === undefined ? null : oneOf('--line', values.line, LINE_ROLES);
  const grade = values.grade === undefined ? null : (wholeNumber('--grade', values.grade, 1, 6) as GradeNumber);
  if (line !== null && grade === null)
    throw new UsageError('--line goes with --grade: it says what the line may ask of the hand.');
  if (positionals.length > 1 && !several)
    throw new UsageError(`One file at a time, please: ${positionals.join(', ')}.`);
  return {
    file: positionals[0] ?? null,
    files: positionals,
    binding,
    title: values.title ?? null,
    warmUps: values['warm-ups'],
    json: values.json,
    help: values.help,
    tune: wholeNumber('--tune', values.tune, 1, 100_000),
    voice: isVoice(values.voice) ? 1 : wholeNumber('--voice', values.voice, 1, 99),
    talk: {
      ...USUAL_TALK,
      voice: isVoice(values.voice) ? values.voice : USUAL_TALK.voice,
      short: values.short,
      plain: values.plain,
      names: sheet.names,
    },
    from: values.from ?? null,
    out: values.out ?? null,
    sheet,
    players: values.for === undefined ? [] : playersIn(values.for),
    tab: values.tab,
    keepFingers: values['keep-fingers'],
    asDecided: values['as-decided'],
    counting: values.counting === undefined ? null : oneOf('--counting', values.counting, COUNTINGS),
    found: values.found,
    grade,
    transposed: transpose !== null,
    decisions: decided(FIRST_DECISIONS, {
      key: {
        instrument,
        tuning: tuning.id,
        transpose: transpose ?? 0,
      },
      version: {
        grade: grade ?? (values.bare ? ('bare' as const) : ('tune' as const)),
        line,
        kept: values['keep-key'] ? ['key'] : [],
        ...(values.density !== undefined && { density: wholeNumber('--density', values.density, 0, 100) / 100 }),
      },
      sheet: {
        lesson: { date: dayIn(values.date), next: (values.next ?? '').slice(0, MOST_NEXT) },
        link: linkIn(values.link),
      },
      pace: { tempo: values.tempo === undefined ? null : wholeNumber('--tempo', values.tempo, 20, 400) },
      bow: {
        school: bowSchool,
        tuneSlurs,
        start,
        pattern,
        everyMark: values['every-mark'],
        maxSlur:
          values['max-slur'] === undefined ? null : wholeNumber('--max-slur', values['max-slur'], 1, LONGEST_SLUR),
      },
      hand: {
        wishes: { preset, ...(openStrings && openStrings !== 'context' && { openStrings }) },
        limits: {
          ...(values['no-fourth'] && { noFourth: true }),
          ...(values['no-extension'] && { noExtension: true }),
          ...(values['no-double-stops'] && { noDoubleStops: true }),
          ...(maxPosition && { maxPosition }),
          ...(cello && { celloSchool: cello }),
          bassSchool: school,
        },
      },
    }),
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

const isPosition = (text: string): text is Level => (POSITIONS as readonly string[]).includes(text);

const isPreset = (text: string): text is PresetId => (PRESET_IDS as readonly string[]).includes(text);

/** @throws UsageError with what is possible */
function oneOf<Known extends string>(option: string, text: string, known: readonly Known[]): Known {
  const found = known.find((one) => one === text);
  if (found === undefined) throw new UsageError(`${option} ${text} is not known. Use one of ${known.join(', ')}.`);
  return found;
}

function wholeNumber(option: string, text: string, least: number, most: number): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < least || number > most)
    throw new UsageError(`${option} is a whole number from ${least} to ${most}, not ${text}.`);
  return number;
}

/** Where to write: a name with one of these endings. @throws UsageError */
export function requireOut(options: CliOptions, endings: readonly string[]): string {
  const known = endings.map((ending) => `.${ending}`).join(' or ');
  if (!options.out) throw new UsageError(`Say where to write with -o, a name ending in ${known}.`);
  if (!endings.includes(extname(options.out).slice(1).toLowerCase()))
    throw new UsageError(`-o ${options.out}: the name must end in ${known}.`);
  return options.out;
}

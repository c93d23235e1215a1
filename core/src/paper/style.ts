/** How a sheet looks: on which paper, laid out how, with which lanes and signs. A value of its own, so that desk, server and command line ask for the same. */
import { z } from 'zod';
import { USUAL_NAMES, namesSchema, type Names } from './names.ts';

export const PAPERS = ['a4', 'letter'] as const;
export type Paper = (typeof PAPERS)[number];

/** One phrase a line; as many phrases on a line as fit; large, with few bars a line; one phrase on a card for the stand. */
export const LAYOUTS = ['phrases', 'width', 'big', 'cue'] as const;
export type Layout = (typeof LAYOUTS)[number];

/**
 * What is printed: the tune, how to read it, what to play before it, the lesson, the map of what is new in it, where the
 * fingers go, the words with chords over them, the chords for whoever plays along, empty tab lines.
 */
export const PAGE_KINDS = ['tune', 'how', 'warmups', 'plan', 'weave', 'chart', 'words', 'chords', 'blank'] as const;
export type PageKind = (typeof PAGE_KINDS)[number];

/** From top to bottom. */
export const LANE_IDS = [
  'chords',
  'counts',
  'bow',
  'fingers',
  'tab',
  'rhythm',
  'names',
  'words',
  'hand',
  'hair',
] as const;
export type LaneId = (typeof LANE_IDS)[number];

/** Low and high fingers: a dot under or over the number, a letter or an arrow before it, or the number alone. */
export const FINGER_SIGNS = ['dots', 'letters', 'arrows', 'plain'] as const;
export type FingerSigns = (typeof FINGER_SIGNS)[number];

/** A retuned string is called by its usual place, or by what it sounds. */
export const STRING_NAMES = ['place', 'sound'] as const;
export type StringNames = (typeof STRING_NAMES)[number];

/** Bars are counted nowhere, at the beginning of each line, or each over its beginning: lessons and talk speak of bars. */
export const BAR_NUMBERS = ['none', 'lines', 'bars'] as const;
export type BarNumbers = (typeof BAR_NUMBERS)[number];

/** How the pages of a book come onto paper: as they are; two on a sheet, to be folded to a booklet; two beside each other. */
export const BINDINGS = ['pages', 'booklet', 'two-up'] as const;
export type Binding = (typeof BINDINGS)[number];

/** How large everything is printed: music, title, words, legend. */
export const SIZES_OF_PRINT = ['usual', 'large', 'largest'] as const;
export type PrintSize = (typeof SIZES_OF_PRINT)[number];

/** How the tab's lines and fingers look. */
export interface TabStyle {
  readonly signs: FingerSigns;
  /** The lowest string on top, as some hold the instrument. */
  readonly turned: boolean;
  readonly stringNames: StringNames;
  /** Colours of the strings by their usual names; those that are not named stay ink. */
  readonly strings: Readonly<Record<string, string>>;
}

export const USUAL_TAB: TabStyle = { signs: 'dots', turned: false, stringNames: 'place', strings: {} };

/** A strip of tape across the fingerboard. */
export interface Tape {
  /** Above the open string. */
  readonly semitones: number;
  readonly colour: string;
  /** What is written on it; nothing where it is not said. */
  readonly label?: string | undefined;
}

export interface SheetStyle {
  readonly paper: Paper;
  readonly landscape: boolean;
  readonly pages: readonly PageKind[];
  readonly layout: Layout;
  /** With the staff, or its lanes alone. */
  readonly staff: boolean;
  readonly lanes: readonly LaneId[];
  readonly barNumbers: BarNumbers;
  readonly size: PrintSize;
  /** A phrase that is printed already is named and not printed again. */
  readonly folded: boolean;
  /** With a line at the top for a lesson: whose sheet it is, when, what for, and boxes to tick. */
  readonly lesson: boolean;
  /** So many empty lines to write on under each phrase. */
  readonly writingLines: number;
  readonly names: Names;
  readonly tab: TabStyle;
  /** With what to say under each phrase. */
  readonly talk: boolean;
  /** With a small fingerboard beside each phrase. */
  readonly fingerboard: boolean;
  /** The tapes on it; null where the learner's instrument has the usual ones. */
  readonly tapes: readonly Tape[] | null;
  /** For a card: which phrase, by its id; the first where there is none such. */
  readonly phrase: string | null;
}

/** What a sheet has, where nothing else is asked for. */
export const USUAL_LANES: readonly LaneId[] = ['bow', 'tab', 'hand'];

export const USUAL_STYLE: SheetStyle = {
  paper: 'a4',
  landscape: false,
  pages: ['tune'],
  layout: 'phrases',
  staff: true,
  lanes: USUAL_LANES,
  barNumbers: 'lines',
  size: 'usual',
  folded: false,
  lesson: false,
  writingLines: 0,
  names: USUAL_NAMES,
  tab: USUAL_TAB,
  talk: false,
  fingerboard: false,
  tapes: null,
  phrase: null,
};

/** The tab by itself, read without a staff. */
export const TAB_LANES: readonly LaneId[] = ['chords', 'bow', 'tab', 'rhythm', 'words', 'hand'];

/** Styles that a teacher starts from. */
export const SHEET_PRESETS = {
  usual: { staff: true, talk: false, folded: false, layout: 'phrases', lanes: USUAL_LANES },
  tab: { staff: false, talk: false, folded: false, layout: 'phrases', lanes: TAB_LANES },
  staff: { staff: true, talk: false, folded: false, layout: 'width', lanes: ['fingers', 'bow'] },
  big: { staff: true, talk: false, folded: true, layout: 'big', lanes: USUAL_LANES },
  cue: { staff: false, talk: true, folded: false, layout: 'cue', lanes: ['bow', 'tab', 'rhythm', 'names', 'hand'] },
} as const satisfies Readonly<Record<string, Partial<SheetStyle>>>;
export type PresetId = keyof typeof SHEET_PRESETS;

/**
 * Our own colours for strings from the top one down: told apart by the colour-blind, and by their darkness in
 * black and white.
 */
export const STRING_COLOURS = ['#a04a00', '#1f6f8b', '#6b3fa0', '#2b2b2b', '#7a7a16', '#8c2f5b'] as const;
/** Colours of tapes from the nut on. */
export const TAPE_COLOURS = ['#c98a2b', '#2f7f8f', '#8a5fb0', '#a8503c', '#5d7d2f', '#555555'] as const;

const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is a # and six digits, such as #1f6f8b.');

const tabSchema = z.strictObject({
  signs: z.enum(FINGER_SIGNS),
  turned: z.boolean(),
  stringNames: z.enum(STRING_NAMES),
  strings: z.record(z.string().min(1).max(4), colour),
}) satisfies z.ZodType<TabStyle, TabStyle>;

/** So far up a string a tape may lie. */
const LAST_TAPE = 24;

export const tapesSchema = z
  .array(
    z.strictObject({
      semitones: z.number().int().min(1, 'A tape lies above the nut.').max(LAST_TAPE, 'Tapes go up to two octaves.'),
      colour,
      label: z.string().max(12, 'A label has at most 12 letters.').optional(),
    }),
  )
  .max(LAST_TAPE) satisfies z.ZodType<Tape[], Tape[]>;

/** More under a phrase than this is a page of its own. */
export const MOST_WRITING_LINES = 4;

export const sheetStyleSchema = z.strictObject({
  paper: z.enum(PAPERS),
  landscape: z.boolean(),
  pages: z.array(z.enum(PAGE_KINDS)).min(1).max(PAGE_KINDS.length),
  layout: z.enum(LAYOUTS),
  staff: z.boolean(),
  lanes: z.array(z.enum(LANE_IDS)).max(LANE_IDS.length),
  barNumbers: z.enum(BAR_NUMBERS),
  size: z.enum(SIZES_OF_PRINT),
  folded: z.boolean(),
  lesson: z.boolean(),
  writingLines: z.number().int().min(0).max(MOST_WRITING_LINES),
  names: namesSchema,
  tab: tabSchema,
  talk: z.boolean(),
  fingerboard: z.boolean(),
  tapes: tapesSchema.nullable(),
  phrase: z.string().max(64).nullable(),
}) satisfies z.ZodType<SheetStyle, SheetStyle>;

/**
 * The lanes that are drawn beside what the staff shows itself: on the desk it has the words, the chords and the rhythm.
 * @example shownLanes({ staff: true, lanes: ['tab', 'words'] }) // ['tab']
 */
export const shownLanes = ({ staff, lanes }: Pick<SheetStyle, 'staff' | 'lanes'>): readonly LaneId[] =>
  staff ? lanes.filter((id) => id !== 'words' && id !== 'chords' && id !== 'rhythm') : lanes;

/**
 * The lanes of a printed line. Beside a staff there are always its words and chords, which are set in the sheet's own
 * font and so are lanes here.
 * @example printedLanes({ staff: true, lanes: ['tab'] }) // ['chords', 'words', 'tab']
 */
export const printedLanes = ({ staff, lanes }: Pick<SheetStyle, 'staff' | 'lanes'>): readonly LaneId[] =>
  staff ? ['chords', 'words', ...shownLanes({ staff, lanes })] : lanes;

/** A style of which some is said; the rest is as usual. */
export const someStyleSchema = sheetStyleSchema
  .extend({ names: namesSchema.partial(), tab: tabSchema.partial() })
  .partial()
  .transform(
    ({ names, tab, ...rest }): SheetStyle =>
      ({ ...USUAL_STYLE, ...rest, names: { ...USUAL_NAMES, ...names }, tab: { ...USUAL_TAB, ...tab } }) as SheetStyle,
  );

/** What was stored may lack fields that came later, and have some that are gone. */
const storedStyleSchema = z
  .object({ ...sheetStyleSchema.shape, names: namesSchema.partial(), tab: tabSchema.partial() })
  .partial();

/**
 * A style as some program of ours left it somewhere: what is known of it, the rest as usual.
 * @example readStyle({ layout: 'big', naming: 'german' }).layout // 'big'
 * @example readStyle('nonsense').layout // 'phrases'
 */
export function readStyle(stored: unknown): SheetStyle {
  const known = storedStyleSchema.safeParse(stored);
  return someStyleSchema.parse(known.success ? known.data : {});
}

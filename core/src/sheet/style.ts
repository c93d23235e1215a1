/** How a sheet looks: on which paper, laid out how, with which lanes. A value of its own, so that desk, server and command line ask for the same. */
import { z } from 'zod';
import { NAMINGS, USUAL_NAMING, type Naming } from '../words/index.ts';
import { LANE_IDS, USUAL_LANES, type LaneId } from './lanes/index.ts';

export const PAPERS = ['a4', 'letter'] as const;
export type Paper = (typeof PAPERS)[number];

/** One phrase a line; as many phrases on a line as fit; large, two bars a line; one phrase on a card for the stand. */
export const LAYOUTS = ['phrases', 'width', 'big', 'cue'] as const;
export type Layout = (typeof LAYOUTS)[number];

export interface SheetStyle {
  readonly paper: Paper;
  readonly landscape: boolean;
  readonly layout: Layout;
  /** With the staff, or its lanes alone. */
  readonly staff: boolean;
  readonly lanes: readonly LaneId[];
  readonly naming: Naming;
  /** With what to say under each phrase. */
  readonly talk: boolean;
  /** For a card: which phrase, by its id; the first where there is none such. */
  readonly phrase: string | null;
}

export const USUAL_STYLE: SheetStyle = {
  ...{ paper: 'a4', landscape: false, layout: 'phrases', staff: true },
  ...{ lanes: USUAL_LANES, naming: USUAL_NAMING, talk: false, phrase: null },
};

/** The tab by itself, read without a staff. */
export const TAB_LANES: readonly LaneId[] = ['chords', 'bow', 'tab', 'rhythm', 'words', 'hand'];

/** Styles that a teacher starts from. */
export const SHEET_PRESETS = {
  usual: { staff: true, talk: false, layout: 'phrases', lanes: USUAL_LANES },
  tab: { staff: false, talk: false, layout: 'phrases', lanes: TAB_LANES },
  staff: { staff: true, talk: false, layout: 'width', lanes: ['fingers', 'bow'] },
  big: { staff: true, talk: false, layout: 'big', lanes: USUAL_LANES },
  cue: { staff: false, talk: true, layout: 'cue', lanes: ['bow', 'tab', 'rhythm', 'names', 'hand'] },
} as const satisfies Readonly<Record<string, Partial<SheetStyle>>>;
export type PresetId = keyof typeof SHEET_PRESETS;

export const sheetStyleSchema = z.strictObject({
  paper: z.enum(PAPERS),
  landscape: z.boolean(),
  layout: z.enum(LAYOUTS),
  staff: z.boolean(),
  lanes: z.array(z.enum(LANE_IDS)).max(LANE_IDS.length),
  naming: z.enum(NAMINGS),
  talk: z.boolean(),
  phrase: z.string().max(64).nullable(),
}) as unknown as z.ZodType<SheetStyle, SheetStyle>;

/**
 * The lanes that are drawn: what the staff shows itself stands in no lane.
 * @example shownLanes({ staff: true, lanes: ['tab', 'words'] }) // ['tab']
 */
export const shownLanes = ({ staff, lanes }: Pick<SheetStyle, 'staff' | 'lanes'>): readonly LaneId[] =>
  staff ? lanes.filter((id) => id !== 'words' && id !== 'chords' && id !== 'rhythm') : lanes;

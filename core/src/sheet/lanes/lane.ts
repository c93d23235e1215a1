/** What a lane is: a name, a side of the staff, what it draws for a phrase, and the signs that the legend has to tell. */
import type { Bowing, Counts, Travel, Travelling } from '../../bow/index.ts';
import type { Phrase } from '../../form/index.ts';
import type { FingeredNote } from '../../hand/index.ts';
import type { Instrument } from '../../instrument/index.ts';
import type { LegendSign } from '../legend.ts';
import type { Names, TabStyle } from '../../paper/index.ts';
import type { Pitch } from '../../music/index.ts';
import type { Shape } from '../shapes.ts';
import type { BarMark, WrittenEvent } from '../written.ts';

/** A note as it is drawn: without its reasons and the prices of other ways, which change where nothing else does. */
export type DrawnNote = Omit<FingeredNote, 'alternatives' | 'why'>;

/** A decision leaves most notes the very ones they were. */
const known = new WeakMap<FingeredNote, DrawnNote>();

/** The same note gives the same drawn one. @example 'alternatives' in drawnOf(fingering.notes[0]) // false */
export function drawnOf(note: FingeredNote): DrawnNote {
  const before = known.get(note);
  if (before) return before;
  const { alternatives: _, why: __, ...drawn } = note;
  known.set(note, drawn);
  return drawn;
}

/** Where the strokes of a phrase lie on the hair, the first time round. */
export interface HairLine {
  /** Length of the hair in millimetres. */
  readonly hair: number;
  readonly strokes: readonly (Pick<Travel, 'start' | 'end' | 'strain' | 'drift'> & {
    readonly notes: readonly string[];
  })[];
}

/**
 * The strokes of some notes on the hair, or of all.
 * @example hairLine(facts.bowing, facts.travel(), new Set(phrase.notes)).strokes.length // 12
 */
export function hairLine(
  { strokes }: Pick<Bowing, 'strokes'>,
  { hair, strokes: travel }: Travelling,
  notes?: ReadonlySet<string>,
): HairLine {
  return {
    hair,
    strokes: strokes.flatMap(({ notes: own, time }, index) => {
      const there = travel[index];
      if (time !== 1 || !there || (notes && !notes.has(own[0]!))) return [];
      const { start, end, strain, drift } = there;
      return [{ notes: own, start, end, strain, drift }];
    }),
  };
}

/** What of a bowing stands as signs above the notes. */
export type BowSigns = Pick<Bowing, 'marked' | 'later' | 'accents' | 'regions'>;

/** Facts of a phrase, all that lanes draw from. */
export interface PhraseFacts {
  readonly instrument: Instrument;
  /** In the order they are played. */
  readonly notes: readonly DrawnNote[];
  readonly starts: Bowing['starts'];
  readonly signs: BowSigns;
  /** Null where nobody asked for it: it costs more than the rest. */
  readonly hair: HairLine | null;
  readonly counts: Counts;
  /** Notes and rests as they are written. */
  readonly written: readonly WrittenEvent[];
  /** Repeats and endings, bar by bar. */
  readonly bars: readonly BarMark[];
  /** How notes and fingers are called. */
  readonly names: Names;
  /** How the lines and signs of the tab look. */
  readonly tab: TabStyle;
  /** What the strings sound, low to high. */
  readonly sounds: readonly Pitch[];
}

/** The facts with the places where the engraver put the notes. */
export interface LaneInput extends PhraseFacts {
  /** Centre of a written note or rest. */
  x(noteId: string): number | undefined;
  readonly width: number;
  readonly barlines: readonly number[];
}

/** What a lane draws for a phrase. */
export interface LaneDrawing {
  readonly height: number;
  readonly shapes: readonly Shape[];
}

/** Facts of a whole tune, for the legend: the phrases stand each on a line of its own. */
export interface SheetFacts extends PhraseFacts {
  readonly bowing: Bowing;
  readonly phrases: readonly Pick<Phrase, 'notes'>[];
}

export interface LaneDefinition {
  readonly name: string;
  readonly side: 'above' | 'below';
  /** Which facts it draws from: it is drawn anew only when one of them changes. */
  readonly needs: readonly (keyof PhraseFacts)[];
  draw(input: LaneInput): LaneDrawing;
  /** The signs that it really uses for this tune, in the legend's order. */
  signs(facts: SheetFacts): readonly LegendSign[];
}

/** Lengths of the drawing, in the unit of one staff space times seven: pixels at the desk's size. */
export const SIZES = {
  row: 13,
  tabTop: 9,
  tabLeft: 20,
  bow: 22,
  hand: 12,
  holdGap: 3.5,
  /** Middle of a position's label, and how far a shift's arrow reaches before it. */
  label: 6,
  arrow: 15,
  dot: 1.8,
} as const;

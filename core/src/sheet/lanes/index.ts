/** The registry of lanes: one entry each. Desk and sheet draw from it by id. */
import { LANE_IDS, USUAL_LANES, type LaneId } from '../../paper/index.ts';
import { LEGEND_ORDER, type LegendSign } from '../legend.ts';
import { BOW } from './bow.ts';
import { COUNTS } from './counts.ts';
import { FINGERS } from './fingers.ts';
import { HAIR_LANE } from './hair.ts';
import { HAND } from './hand.ts';
import type { LaneDefinition, LaneDrawing, LaneInput, SheetFacts } from './lane.ts';
import { RHYTHM } from './rhythm.ts';
import { TAB } from './tab.ts';
import { CHORDS, NAMES, WORDS } from './texts.ts';

/** From top to bottom; those above the staff come first. */
export const LANES: Readonly<Record<LaneId, LaneDefinition>> = {
  chords: CHORDS,
  counts: COUNTS,
  bow: BOW,
  fingers: FINGERS,
  tab: TAB,
  rhythm: RHYTHM,
  names: NAMES,
  words: WORDS,
  hand: HAND,
  hair: HAIR_LANE,
};

/** A lane as it is drawn. */
export interface Lane extends LaneDrawing {
  readonly id: LaneId;
  readonly side: LaneDefinition['side'];
}

/**
 * These lanes for a phrase, in the registry's order.
 * @example lanesOf({ ...sheetFacts(arrangement), x: () => 10, width: 100, barlines: [] }, ['tab', 'counts']).map(({ id }) => id) // ['counts', 'tab']
 */
export function lanesOf(input: LaneInput, ids: readonly LaneId[] = USUAL_LANES): readonly Lane[] {
  return LANE_IDS.filter((id) => ids.includes(id)).map((id) => ({
    id,
    side: LANES[id].side,
    ...LANES[id].draw(input),
  }));
}

/**
 * The signs that these lanes use, in the legend's order.
 * @example signsOf(sheetFacts(arrangement), ['bow']) // ['down']
 */
export function signsOf(facts: SheetFacts, ids: readonly LaneId[] = USUAL_LANES): readonly LegendSign[] {
  const used = new Set(ids.flatMap((id) => LANES[id].signs(facts)));
  return LEGEND_ORDER.filter((sign) => used.has(sign));
}

export {
  SIZES,
  drawnOf,
  hairLine,
  type BowSigns,
  type HairLine,
  type DrawnNote,
  type LaneDefinition,
  type LaneInput,
  type PhraseFacts,
  type SheetFacts,
} from './lane.ts';

/** Everything that a fingering is worked out from beside the tune. */
import type { Instrument, Tuning } from '../instrument/index.ts';
import type { Bpm } from '../music/index.ts';
import { HANDS, type HandModel } from './hands/index.ts';
import type { LimitLayer } from './limits.ts';
import { limitLayers, type HandDecisions } from './slice.ts';
import { FIRST_WISHES, profileOf, type Profile } from './wishes.ts';

export interface HandSetup
  extends Pick<HandDecisions, 'limits' | 'locks'>, Partial<Pick<HandDecisions, 'wishes' | 'partWishes' | 'learner'>> {
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  /** Working tempo in quarters per minute. */
  readonly tempo: Bpm;
  /** Notes on the stroke of the note before them; by the tune's own slurs where no strokes are at hand. */
  readonly slurred?: ReadonlySet<string>;
  /** What a grade's contract allows, where one is to be met. */
  readonly grade?: LimitLayer;
}

/** @example handOf({ instrument: INSTRUMENT.viola }).id // 'viola' */
export const handOf = ({ instrument }: Pick<HandSetup, 'instrument'>): HandModel => HANDS[instrument.hand];

/** How far an instrument that says so lets the hand go. */
const boundsOf = ({ name, reach }: Instrument): readonly LimitLayer[] =>
  reach === undefined ? [] : [{ by: 'instrument', name, limits: { reach } }];

/**
 * What holds for the tune as a whole, or for a part with wishes of its own.
 * @example profileFor({ ...setup, wishes: { preset: 'first-lessons' } }).limits.maxPosition // 'I'
 */
export function profileFor(setup: HandSetup, part?: string): Profile {
  const wishes = (part === undefined ? undefined : setup.partWishes?.[part]) ?? setup.wishes ?? FIRST_WISHES;
  const { grade, instrument } = setup;
  return profileOf(handOf(setup), wishes, [...boundsOf(instrument), ...(grade ? [grade] : []), ...limitLayers(setup)]);
}

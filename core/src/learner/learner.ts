/**
 * A learner as a record: kept once, and meant by its id wherever an arrangement or a group is for somebody. Arrangements
 * keep what was taken from it, so that an old one stays as it was.
 */
import { dequal } from 'dequal';
import { z } from 'zod';
import {
  FIRST_WISHES,
  handNameSchema,
  limitsSchema,
  namedWishesSchema,
  type HandLimits,
  type HandWishes,
  type LearnerHand,
} from '../hand/index.ts';
import { playedInstrumentSchema, type PlayedInstrument } from '../instrument/index.ts';
import { someStyleSchema, type SheetStyle } from '../paper/index.ts';
import { slicedRecord } from '../record/index.ts';
import { readSlices, slice, type Slice } from '../stage/index.ts';

export interface Learner {
  readonly person: { readonly name: string };
  readonly plays: {
    /** Null where the hand is chosen for whatever is set. */
    readonly instrument: PlayedInstrument | null;
  };
  readonly hand: { readonly wishes: HandWishes; readonly limits: HandLimits };
  readonly paper: {
    /** How their sheets look; null for the usual. */
    readonly style: SheetStyle | null;
  };
}

/** No older program kept learners flat. */
const older = () => ({});

const SLICES: { readonly [Name in keyof Learner]: Slice<Learner[Name]> } = {
  person: slice<Learner['person']>({ schema: z.strictObject({ name: handNameSchema }), first: { name: '' }, older }),
  plays: slice<Learner['plays']>({
    schema: z.strictObject({ instrument: playedInstrumentSchema.nullable() }),
    first: { instrument: null },
    older,
  }),
  hand: slice<Learner['hand']>({
    schema: z.strictObject({ wishes: namedWishesSchema, limits: limitsSchema }),
    first: { wishes: FIRST_WISHES, limits: {} },
    older,
  }),
  paper: slice<Learner['paper']>({
    schema: z.strictObject({ style: (someStyleSchema as unknown as z.ZodType<SheetStyle, SheetStyle>).nullable() }),
    first: { style: null },
    older,
  }),
};

/**
 * Learners and changes of them.
 * @example learnerRecord.between(learnerNamed('Ida'), learnerNamed('Ida May'))[0].after // 'Ida May'
 */
export const learnerRecord = slicedRecord<Learner>({
  kind: 'learner',
  schema: readSlices(SLICES),
  slices: Object.fromEntries(
    Object.entries(SLICES).map(([name, { schema }]): [string, z.ZodType] => [name, schema as z.ZodType]),
  ),
});

/**
 * Somebody of whom nothing is known yet but the name.
 * @example learnerNamed('Ida').plays.instrument // null
 */
export const learnerNamed = (name: string): Learner => ({
  person: { name },
  plays: SLICES.plays.first,
  hand: SLICES.hand.first,
  paper: SLICES.paper.first,
});

/** A learner with the id that others know it by. */
export interface KnownLearner {
  readonly id: string;
  readonly value: Learner;
}

/**
 * What an arrangement takes over from a learner.
 * @example takenFrom({ id: 'l1', value: learnerNamed('Ida') }).name // 'Ida'
 */
export const takenFrom = ({ id, value: { person, hand } }: KnownLearner): LearnerHand => ({
  id,
  name: person.name,
  limits: hand.limits,
  wishes: hand.wishes,
});

/**
 * Whether a learner can do other things by now than when an arrangement took them over. Another name is no such change.
 * @example hasChanged(takenFrom({ id: 'l1', value: learnerNamed('Ida') }), learnerNamed('Ida May')) // false
 */
export const hasChanged = ({ limits, wishes }: LearnerHand, { hand }: Pick<Learner, 'hand'>): boolean =>
  !dequal(limits, hand.limits) || (wishes !== undefined && !dequal(wishes, hand.wishes));

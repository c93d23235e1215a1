/** The tune, as it is, held against the contract of each grade: fingered as that grade would finger it. */
import {
  GRADE_NUMBERS,
  breachesOf,
  contractFor,
  type Breach,
  type Contract,
  type GradeNumber,
  type Limits,
} from '../grade/index.ts';
import { slurredInto } from '../bow/index.ts';
import { Hand, type HandLimits } from '../hand/index.ts';
import type { Arrangement } from './arrange.ts';

export interface GradeFit {
  readonly grade: GradeNumber;
  readonly contract: Contract;
  readonly breaches: readonly Breach[];
}

/**
 * What a contract lets the solver of the left hand do.
 * @example handLimitsOf(contractFor('violin', 1).limits).noFourth // true
 */
export function handLimitsOf({ fingers, extension, doubleStops, maxPosition }: Limits): HandLimits {
  return {
    ...(fingers && !fingers.includes(4) && { noFourth: true }),
    ...(!extension && { noExtension: true }),
    ...(doubleStops === 'none' && { noDoubleStops: true }),
    ...(maxPosition && { maxPosition }),
  };
}

/** One grade. @example fitOf(arrangement, 6).breaches // [] */
export function fitOf(arrangement: Arrangement, grade: GradeNumber): GradeFit {
  const { tune, form, bowing, tempo, tuning, instrument, decisions } = arrangement;
  const contract = contractFor(instrument.hand, grade);
  // The teacher's own limits are stronger than a grade's.
  const limits = { ...handLimitsOf(contract.limits), ...decisions.hand.limits };
  const { fingering } = new Hand(tune, form, {
    ...{ ...decisions.hand, limits, instrument, tuning, tempo },
    slurred: slurredInto(bowing),
  });
  return { grade, contract, breaches: breachesOf({ tune, form, bowing, tempo, tuning, fingering }, contract.limits) };
}

/**
 * All six, easiest first; each step gives the share that is done.
 * @example gradeFits(arrangement).next().done // false
 */
export function* gradeFits(arrangement: Arrangement): Generator<number, readonly GradeFit[]> {
  const fits: GradeFit[] = [];
  for (const grade of GRADE_NUMBERS) {
    fits.push(fitOf(arrangement, grade));
    yield grade / GRADE_NUMBERS.length;
  }
  return fits;
}

/**
 * The lowest grade whose contract the tune fits as it is; null where every grade is easier.
 * @example ownGrade([]) // null
 */
export const ownGrade = (fits: readonly GradeFit[]): GradeNumber | null =>
  fits.find(({ breaches }) => breaches.length === 0)?.grade ?? null;

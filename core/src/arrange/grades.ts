/** The tune, as it is, held against the contract of each grade: fingered as that grade would finger it. */
import {
  GRADE_NUMBERS,
  breachesOf,
  brokenRules,
  contractFor,
  type Breach,
  type Contract,
  type GradeNumber,
  type Limits,
  type Rule,
} from '../grade/index.ts';
import { bowTune, slurredInto } from '../bow/index.ts';
import { analyseForm } from '../form/index.ts';
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

/** One grade, for the tune itself, whatever version the arrangement is. @example fitOf(arrangement, 6).breaches // [] */
export function fitOf(
  {
    inKey: tune,
    tempo,
    tuning,
    instrument,
    decisions,
  }: Pick<Arrangement, 'inKey' | 'tempo' | 'tuning' | 'instrument' | 'decisions'>,
  grade: GradeNumber,
): GradeFit {
  const contract = contractFor(instrument.hand, grade);
  const form = analyseForm(tune);
  const bowing = bowTune(tune, form, decisions.bow, tempo);
  // The teacher's own limits are stronger than a grade's.
  const { fingering } = new Hand(tune, form, {
    ...decisions.hand,
    instrument,
    tuning,
    tempo,
    grade: { by: 'grade', name: null, limits: handLimitsOf(contract.limits) },
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

/**
 * What keeps a tune from the grade below its own: the rules that it breaks there. Where it fits none, what the last breaks.
 * @example keptFrom([]) // []
 */
export function keptFrom(fits: readonly GradeFit[]): readonly Rule[] {
  const own = fits.findIndex(({ breaches }) => breaches.length === 0);
  const below = fits[own < 0 ? fits.length - 1 : own - 1];
  return below ? brokenRules(below.breaches) : [];
}

/**
 * What a version asks that the grade below it does not: what a learner meets who climbs to it. Nothing for the first.
 * @example newSince(facts, 1) // []
 */
export function newSince(
  { tune, form, bowing, tempo, tuning, fingering, instrument }: Arrangement,
  grade: GradeNumber,
): readonly Breach[] {
  if (grade === 1) return [];
  const { limits } = contractFor(instrument.hand, (grade - 1) as GradeNumber);
  return breachesOf({ tune, form, bowing, tempo, tuning, fingering }, limits);
}

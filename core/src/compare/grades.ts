/** The tune, as it is, held against the contract of each grade: fingered as that grade would finger it. */
import {
  GRADE_NUMBERS,
  breachesOf,
  brokenRules,
  contractFor,
  type Breach,
  type Contract,
  type GradeNumber,
  type Rule,
} from '../grade/index.ts';
import { analyseForm } from '../form/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { weighVersion } from '../version/index.ts';

export interface GradeFit {
  readonly grade: GradeNumber;
  readonly contract: Contract;
  readonly breaches: readonly Breach[];
}

type Fitted = Pick<Arrangement, 'inKey' | 'tempo' | 'tuning' | 'instrument' | 'decisions'>;

/** One grade, for the tune itself, whatever version the arrangement is. @example fitOf(arrangement, 6).breaches // [] */
export function fitOf({ inKey: tune, decisions: { hand, bow }, ...set }: Fitted, grade: GradeNumber): GradeFit {
  const contract = contractFor(set.instrument.hand, grade);
  const context = { ...set, tune, hand, bow };
  return { grade, contract, breaches: weighVersion(context, tune, analyseForm(tune), contract.limits, 'as-decided') };
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

/** A version for a grade, as it was found. */
import type { Breach, GradeChange, GradeNumber } from '../grade/index.ts';
import type { Semitones, Tune } from '../music/index.ts';

export interface GradedVersion {
  readonly grade: GradeNumber;
  readonly tune: Tune;
  /** Semitones from the key that was chosen. */
  readonly transpose: Semitones;
  readonly changes: readonly GradeChange[];
  readonly breaches: readonly Breach[];
  readonly likeness: number;
}

/** The ladder: what a version keeps of its tune that the next richer one does not. */
import { isGraded, type GradeNumber } from '../grade/index.ts';
import { midi, soundingNotes, type Semitones, type Tune } from '../music/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { versionAhead, versionOf } from '../version/index.ts';

export interface LadderStep {
  /** The next richer one. */
  readonly grade: GradeNumber;
  /** It lies so many semitones from this one. */
  readonly away: Semitones;
  /** Notes of this version that it does not have, or has at another octave. */
  readonly missing: readonly string[];
}

/**
 * The exceptions to "what a grade keeps, the next keeps too"; null for what has no next.
 * @example ladderStep(arrangement).next().value // null
 */
export function* ladderStep({
  inKey,
  plain,
  instrument,
  tuning,
  tempo,
  decisions,
  graded,
}: Arrangement): Generator<number, LadderStep | null> {
  const { version } = decisions;
  if (!isGraded(version.grade) || version.grade === 6 || !graded) return null;
  const grade = (version.grade + 1) as GradeNumber;
  const wanted = { ...version, grade, contract: null, locked: [], chosen: {}, slots: {} };
  const context = { tune: inKey, instrument, tuning, tempo };
  // In steps: whoever takes a card meanwhile does not wait for it.
  yield* versionAhead(wanted, context);
  const next = versionOf(wanted, context);
  const away = (next.graded?.transpose ?? 0) - graded.transpose;
  const own = new Set(soundingNotes(inKey).map(({ note }) => note.id));
  const there = pitches(next.plain);
  const missing = [...pitches(plain)].flatMap(([id, pitch]) =>
    own.has(id) && there.get(id) !== pitch + away ? [id] : [],
  );
  return { grade, away, missing };
}

const pitches = (tune: Tune): ReadonlyMap<string, number> =>
  new Map(soundingNotes(tune).map(({ note }) => [note.id, midi(note.heads.at(-1)!.pitch)]));

/** Richer than the tune: what is added is held against the contract, and what breaks it is left out. */
import { type Form, formLike, layoutOf } from '../form/index.ts';
import { type GradeNumber, type Limits, dressed, likenessOf } from '../grade/index.ts';
import { type VersionContext, placesFor, weighVersion } from './underContract.ts';
import { type VersionWishes } from './versionFit.ts';
import { type GradedVersion } from './graded.ts';

/** Rounds in which what the hand cannot do is left out again. */
const DRESS_ROUNDS = 6;

/** What is added is held against the contract with hand and bow; what breaks it is left out, and the rest looked at again. */
export function richer(
  context: VersionContext,
  form: Form,
  grade: GradeNumber,
  limits: Limits,
  { kept, density }: VersionWishes,
  share: number,
): GradedVersion {
  const { instrument, tuning } = context;
  // What is added lies in first position: nobody shifts for an ornament.
  const places = placesFor(instrument, tuning, { ...limits, maxPosition: 'I', shifts: 0, extension: false });
  const without = new Set(kept);
  const layout = layoutOf(context.tune);
  for (let round = 0; ; round += 1) {
    const amount = round < DRESS_ROUNDS ? Math.min(1, 2 * density * share) : 0;
    const { tune, changes, owners } = dressed({
      tune: context.tune,
      form,
      limits,
      places,
      open: tuning.pitches,
      density: amount,
      without,
    });
    const breaches = weighVersion(context, tune, formLike(tune, layout), limits);
    if (breaches.length === 0 || changes.length === 0) {
      return { grade, tune, transpose: 0, changes, breaches, likeness: likenessOf(context.tune, tune) };
    }
    const order = context.tune.bars.flatMap(({ events }) => events.map(({ id }) => id));
    for (const { note } of breaches) {
      // What is broken at a note that nothing was added to comes of what was added just before it.
      const at = order.indexOf(note);
      const blamed =
        owners.get(note) ??
        order
          .slice(Math.max(0, at - 4), at)
          .reverse()
          .map((id) => owners.get(id))
          .find(Boolean);
      if (blamed) without.add(blamed);
      else changes.slice(-1).forEach(({ id }) => without.add(id));
    }
  }
}

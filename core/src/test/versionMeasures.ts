/**
 * How well a simpler version sings, measured from its notes alone: nothing of the program that makes versions is used. Test help;
 * not part of any public index.
 */
import { barLength, barStarts, beatLength, isStrongBeat, midi, soundingNotes, type Tune } from '../music/index.ts';

export interface VersionMeasures {
  /** Strong beats on which the tune sounds; of these, where the version has a pitch of that beat; and where it is silent. */
  readonly strong: number;
  readonly kept: number;
  readonly silent: number;
  /** Moves from strong note to strong note; of these, in the tune's direction. */
  readonly moves: number;
  readonly along: number;
  /** Leaps over more than a fifth that the tune does not have. */
  readonly leaps: number;
}

const soundsOf = (tune: Tune) =>
  soundingNotes(tune).map(({ note, onset, duration }) => ({
    id: note.id,
    from: onset,
    to: onset + duration,
    pitch: midi(note.heads.at(-1)!.pitch),
  }));

/** @param tune in the version's key */
export function measuresOf(tune: Tune, version: Tune): VersionMeasures {
  const [mine, theirs] = [soundsOf(version), soundsOf(tune)];
  const starts = barStarts(tune.bars);
  const found = { strong: 0, kept: 0, silent: 0, moves: 0, along: 0, leaps: 0 };
  let before: readonly [number, number] | null = null;
  tune.bars.forEach(({ metre, length }, index) => {
    if (length !== barLength(metre)) return;
    const beat = beatLength(metre);
    for (let place = 0; place < length; place += beat) {
      if (!isStrongBeat(place, metre)) continue;
      const at = starts[index]! + place;
      const here = theirs.find(({ from, to }) => from <= at && to > at);
      if (!here) continue;
      found.strong += 1;
      const there = mine.find(({ from, to }) => from <= at && to > at);
      if (!there) {
        found.silent += 1;
        continue;
      }
      const inBeat = theirs.filter(({ from, to }) => from < at + beat && to > at);
      if (inBeat.some(({ pitch }) => (pitch - there.pitch) % 12 === 0)) found.kept += 1;
      if (before) {
        found.moves += 1;
        if (Math.sign(here.pitch - before[0]) === Math.sign(there.pitch - before[1])) found.along += 1;
      }
      before = [here.pitch, there.pitch];
    }
  });
  const own = new Map(theirs.map(({ id, pitch }, index) => [id, [index, pitch] as const]));
  mine.forEach(({ id, pitch }, index) => {
    const next = mine[index + 1];
    if (!next || Math.abs(next.pitch - pitch) <= 7) return;
    const [a, b] = [own.get(id), own.get(next.id)];
    const same = a && b && b[0] === a[0] + 1 && Math.abs(b[1] - a[1]) >= Math.abs(next.pitch - pitch);
    if (!same) found.leaps += 1;
  });
  return found;
}

/** How much of a tune is in a version of it. */
import { barStarts, midi, type Bar, type Midi, type Ticks, type Tune } from '../music/index.ts';

/**
 * By what part of the tune's time a version is the tune: weighted by beats, an octave off counts less.
 * @example likenessOf(reel, reel) // 1
 */
export function likenessOf(tune: Tune, version: Tune): number {
  const mine = soundsAt(version);
  let [all, same, first] = [0, 0, 0];
  for (const [from, to, pitch, weight] of soundsAt(tune)) {
    all += weight * (to - from);
    while (mine[first] && mine[first]![1] <= from) first += 1;
    for (let at = first; mine[at] && mine[at]![0] < to; at += 1) {
      const [begin, end, other] = mine[at]!;
      const both = Math.min(to, end) - Math.max(from, begin);
      if (other === pitch) same += weight * both;
      else if ((other - pitch) % 12 === 0) same += OCTAVE_ALIKE * weight * both;
    }
  }
  return all === 0 ? 1 : same / all;
}
const OCTAVE_ALIKE = 0.7;

type Sounded = readonly [from: Ticks, to: Ticks, pitch: Midi, weight: number];

function soundsAt(tune: Tune): readonly Sounded[] {
  const starts = barStarts(tune.bars);
  return tune.bars.flatMap((bar: Bar, index) =>
    bar.events.flatMap((event): Sounded[] => {
      if (event.kind !== 'note') return [];
      const from = starts[index]! + event.at;
      const strong = (bar.offset + event.at) % (bar.length / 2 || 1) === 0 ? 1.5 : 1;
      return [[from, from + event.duration, midi(event.heads.at(-1)!.pitch), strong]];
    }),
  );
}

/** Which notes share a beam: by half bar where plain eighths allow it, else by beat. */
import { TICKS_PER_QUARTER, beatLength, type Bar, type Ticks, type TuneEvent } from '../../music/index.ts';

export type Beam = 'begin' | 'continue' | 'end';

const flags = (event: TuneEvent) =>
  Math.max(0, ['eighth', '16th', '32nd', '64th', '128th'].indexOf(event.value.type) + 1);

/** For each event with beams: what happens on beam levels 1, 2, …; hooks are left to the engraver. */
export function beamsOf(bar: Bar): ReadonlyMap<string, readonly Beam[]> {
  const beams = new Map<string, readonly Beam[]>();
  for (const group of groups(bar)) {
    if (group.length < 2) continue;
    group.forEach((event, index) => {
      const levels = Array.from({ length: flags(event) }, (_, level): Beam | null => {
        const before = index > 0 && flags(group[index - 1]!) > level;
        const after = index < group.length - 1 && flags(group[index + 1]!) > level;
        return before && after ? 'continue' : after ? 'begin' : before ? 'end' : null;
      });
      beams.set(
        event.id,
        levels.filter((level) => level !== null),
      );
    });
  }
  return beams;
}

function groups(bar: Bar): readonly (readonly TuneEvent[])[] {
  const result: TuneEvent[][] = [];
  let current: TuneEvent[] = [];
  let window = -1;
  for (const event of bar.events) {
    const at = bar.offset + event.at;
    const own = Math.floor(at / groupLength(bar, at));
    const key = own * groupLength(bar, at);
    if (event.kind === 'rest' || flags(event) === 0) {
      if (current.length > 0) result.push(current);
      current = [];
      window = -1;
      continue;
    }
    if (key !== window && current.length > 0) {
      result.push(current);
      current = [];
    }
    window = key;
    current.push(event);
  }
  if (current.length > 0) result.push(current);
  return result;
}

function groupLength(bar: Bar, at: Ticks): Ticks {
  const { metre } = bar;
  const half = 2 * TICKS_PER_QUARTER;
  const halfBars =
    (metre.unit === 4 && metre.beats === 4) ||
    (metre.unit === 2 && metre.beats === 2) ||
    (metre.unit === 4 && metre.beats === 2);
  if (halfBars) {
    const start = Math.floor(at / half) * half;
    const inside = bar.events.filter((event) => bar.offset + event.at >= start && bar.offset + event.at < start + half);
    if (inside.every((event) => event.value.type === 'eighth' && !event.value.dots && !event.tuplet)) return half;
    return TICKS_PER_QUARTER;
  }
  if (metre.unit === 8 && metre.beats === 3) return 3 * (TICKS_PER_QUARTER / 2);
  return Math.max(TICKS_PER_QUARTER, metre.unit === 2 ? TICKS_PER_QUARTER : beatLength(metre));
}

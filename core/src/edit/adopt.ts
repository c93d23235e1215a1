/**
 * A tune that was read anew takes over the ids of the one it was edited from, so that whatever was
 * decided for a note still finds it.
 */
import { diffArrays } from 'diff';
import { midi, type Bar, type Tune, type TuneEvent } from '../music/index.ts';
import { freshIds } from './settle.ts';

interface Flat {
  readonly event: TuneEvent;
  /** What makes two events the same to a player. */
  readonly like: string;
}

function flat(tune: Tune): readonly Flat[] {
  return tune.bars.flatMap(({ events }) =>
    events.map((event) => ({
      event,
      like: `${event.kind === 'note' ? event.heads.map(({ pitch }) => midi(pitch)).join('+') : 'z'}:${event.duration}`,
    })),
  );
}

/**
 * @returns `after` with ids of `before` wherever a note stayed, or was changed where it stood
 * @example adoptIds(reel, tuneOf('G2BG dGBG |')).bars[0].events[0].id // 'n1'
 */
export function adoptIds(before: Tune, after: Tune): Tune {
  const old = flat(before);
  const now = flat(after);
  const known = new Map<string, string>();
  let oldAt = 0;
  let newAt = 0;
  let gone: readonly Flat[] = [];
  const parts = diffArrays(old as Flat[], now as Flat[], { comparator: (a, b) => a.like === b.like });
  for (const { value, added, removed } of parts) {
    if (removed) {
      gone = old.slice(oldAt, oldAt + value.length);
      oldAt += value.length;
      continue;
    }
    const own = now.slice(newAt, newAt + value.length);
    const theirs = added ? gone : old.slice(oldAt, oldAt + value.length);
    // Notes that were changed in place keep their ids in order.
    own.forEach(({ event }, index) => theirs[index] && known.set(event.id, theirs[index].event.id));
    newAt += value.length;
    if (!added) oldAt += value.length;
    gone = [];
  }
  return renamed(before, after, known, freshIds(before), barIds(before, after));
}

/** A bar keeps its id where it keeps its place. */
const barIds = (before: Tune, after: Tune) =>
  after.bars.map((_, index) => before.bars[index]?.id ?? `b${after.bars.length + before.bars.length + index}`);

function renamed(
  before: Tune,
  tune: Tune,
  known: ReadonlyMap<string, string>,
  fresh: () => string,
  bars: readonly string[],
): Tune {
  const ids = new Map<string, string>();
  const nameOf = (id: string) => {
    const own = ids.get(id) ?? known.get(id) ?? fresh();
    ids.set(id, own);
    return own;
  };
  const renamedBars = tune.bars.map((bar, index): Bar => ({
    ...bar,
    id: bars[index]!,
    events: bar.events.map((event): TuneEvent => {
      const id = nameOf(event.id);
      if (event.kind === 'rest' || !event.graces) return { ...event, id };
      return { ...event, id, graces: event.graces.map((grace, at) => ({ ...grace, id: `${id}g${at + 1}` })) };
    }),
  }));
  return {
    ...tune,
    // Text knows nothing of what was decided about phrases.
    parting: before.parting ?? null,
    bars: renamedBars,
    slurs: tune.slurs.map(({ from, to }) => ({ from: nameOf(from), to: nameOf(to) })),
  };
}

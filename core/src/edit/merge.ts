/** A change of a tune that was made before another one came: laid over the tune as it is now, where the two do not touch. */
import { dequal } from 'dequal';
import { isSound, midi, type Bar, type Pitch, type Slur, type Tune } from '../music/index.ts';
import type { TuneChange } from './change.ts';

/**
 * The tune with a change that was made for an earlier state of it.
 * @returns null where what the change is about stands otherwise by now, or where the two do not make a sound tune
 * @example mergedChange({ ...reel, style: 'reel' }, changeBetween(reel, { ...reel, title: 'Other' })).title // 'Other'
 */
export function mergedChange(tune: Tune, { fields, bars, slurs }: TuneChange): Tune | null {
  let next: Tune = tune;
  for (const [name, after] of Object.entries(fields?.after ?? {})) {
    const field = name as keyof Tune;
    const now = tune[field] ?? null;
    const before = (fields!.before as Partial<Tune>)[field] ?? null;
    if (!dequal(now, before) && !dequal(now, after)) return null;
    next = { ...next, [field]: after };
  }
  if (bars) {
    const own = mergedBars(tune.bars, bars);
    if (!own) return null;
    next = { ...next, bars: own };
  }
  if (slurs) {
    const own = mergedSlurs(tune.slurs, slurs);
    if (!own) return null;
    const places = new Map(next.bars.flatMap(({ events }) => events.map(({ id }) => id)).map((id, at) => [id, at]));
    const place = (id: string) => places.get(id) ?? 0;
    next = { ...next, slurs: own.toSorted((a, b) => place(a.from) - place(b.from) || place(a.to) - place(b.to)) };
  }
  const present = Object.fromEntries(
    Object.entries(next).filter(([name, value]) => value !== null || name === 'tempo'),
  ) as unknown as Tune;
  const loose = looseTies(tune);
  const joins = [...looseTies(present)].every((id) => loose.has(id));
  return joins && isSound(present) ? present : null;
}

/** Notes whose tie leads to no note of their pitch: of two edits the one may have tied what the other has moved. */
function looseTies({ bars }: Tune): ReadonlySet<string> {
  const events = bars.flatMap((bar) => bar.events);
  return new Set(
    events.flatMap((event, index) => {
      if (event.kind !== 'note') return [];
      const next = events[index + 1];
      const reaches = (pitch: Pitch) =>
        next?.kind === 'note' && next.heads.some((head) => midi(head.pitch) === midi(pitch));
      return event.heads.some(({ pitch, tied }) => tied && !reaches(pitch)) ? [event.id] : [];
    }),
  );
}

type Run<T> = { readonly before: readonly T[]; readonly after: readonly T[] };

/** Bars are found by their ids: what was put in or taken out before them moves them along. */
function mergedBars(bars: readonly Bar[], { before, after }: Run<Bar>): readonly Bar[] | null {
  // What is put in between two bars names neither of them: nobody knows where it belongs by now.
  if (before.length === 0) return null;
  const from = bars.findIndex(({ id }) => id === before[0]!.id);
  if (from < 0 || !dequal(bars.slice(from, from + before.length), before)) return null;
  return bars.toSpliced(from, before.length, ...after);
}

function mergedSlurs(slurs: readonly Slur[], { before, after }: Run<Slur>): readonly Slur[] | null {
  const removed = before.filter((slur) => !after.some((other) => dequal(slur, other)));
  const added = after.filter((slur) => !before.some((other) => dequal(slur, other)));
  if (removed.some((slur) => !slurs.some((other) => dequal(slur, other)))) return null;
  const left = slurs.filter((slur) => !removed.some((other) => dequal(slur, other)));
  return [...left, ...added.filter((slur) => !left.some((other) => dequal(slur, other)))];
}

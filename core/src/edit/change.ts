/**
 * What an edit changed, small enough to keep for ever: undo and redo without limit walk along these.
 * Bars are replaced as one run, everything else by its name.
 */
import type { Bar, Slur, Tune } from '../music/index.ts';

type Fields = Omit<Tune, 'bars' | 'slurs'>;

export interface TuneChange {
  readonly fields?: { readonly before: Partial<Fields>; readonly after: Partial<Fields> };
  readonly bars?: { readonly at: number; readonly before: readonly Bar[]; readonly after: readonly Bar[] };
  readonly slurs?: { readonly at: number; readonly before: readonly Slur[]; readonly after: readonly Slur[] };
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The smallest run that has to be replaced to make one list of the other. */
function run<T>(before: readonly T[], after: readonly T[]) {
  let at = 0;
  while (at < before.length && at < after.length && same(before[at], after[at])) at += 1;
  let end = 0;
  while (
    end < before.length - at &&
    end < after.length - at &&
    same(before[before.length - 1 - end], after[after.length - 1 - end])
  ) {
    end += 1;
  }
  const removed = before.slice(at, before.length - end);
  const added = after.slice(at, after.length - end);
  return removed.length === 0 && added.length === 0 ? undefined : { at, before: removed, after: added };
}

/**
 * @returns null where nothing changed
 * @example changeBetween(reel, { ...reel, style: 'reel' }).fields.after // { style: 'reel' }
 */
export function changeBetween(before: Tune, after: Tune): TuneChange | null {
  const names = ['title', 'alsoKnownAs', 'composer', 'origin', 'style', 'notes', 'tempo', 'parting'] as const;
  // What is not there is told by null: a store of JSON would forget that it was left out.
  const value = (tune: Tune, name: (typeof names)[number]) => tune[name] ?? null;
  const changed = names.filter((name) => !same(value(before, name), value(after, name)));
  const pick = (tune: Tune) => Object.fromEntries(changed.map((name) => [name, value(tune, name)])) as Partial<Fields>;
  const bars = run(before.bars, after.bars);
  const slurs = run(before.slurs, after.slurs);
  if (changed.length === 0 && !bars && !slurs) return null;
  return {
    ...(changed.length > 0 && { fields: { before: pick(before), after: pick(after) } }),
    ...(bars && { bars }),
    ...(slurs && { slurs }),
  };
}

/**
 * @throws if the change was made for another tune: it would leave bars that nobody wrote
 * @example applyChange(reel, changeBetween(reel, { ...reel, title: 'Other' })).title // 'Other'
 */
export function applyChange(tune: Tune, { fields, bars, slurs }: TuneChange): Tune {
  return {
    ...tune,
    ...fields?.after,
    bars: bars ? replaced(tune.bars, bars) : tune.bars,
    slurs: slurs ? replaced(tune.slurs, slurs) : tune.slurs,
  };
}

function replaced<T>(
  list: readonly T[],
  { at, before, after }: { at: number; before: readonly T[]; after: readonly T[] },
) {
  if (!same(orderless(list.slice(at, at + before.length)), orderless(before))) {
    throw new Error('This change was made for another state of the tune.');
  }
  return list.toSpliced(at, before.length, ...after);
}

/** The store keeps JSON in an order of its own. */
function orderless(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(orderless);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]) => [key, orderless(inner)]),
  );
}

/** @example applyChange({ ...reel, title: 'Other' }, invertChange(changeBetween(reel, { ...reel, title: 'Other' }))).title // 'Test' */
export function invertChange({ fields, bars, slurs }: TuneChange): TuneChange {
  const turned = <T>(part: { at: number; before: T; after: T }) => ({
    at: part.at,
    before: part.after,
    after: part.before,
  });
  return {
    ...(fields && { fields: { before: fields.after, after: fields.before } }),
    ...(bars && { bars: turned(bars) }),
    ...(slurs && { slurs: turned(slurs) }),
  };
}

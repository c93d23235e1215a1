/**
 * What an edit changed, small enough to keep for ever: undo and redo without limit walk along these.
 * Bars are replaced as one run, everything else by its name.
 */
import { dequal } from 'dequal';
import type { Bar, Slur, Tune } from '../music/index.ts';

type Fields = Omit<Tune, 'bars' | 'slurs'>;

export interface TuneChange {
  readonly fields?: { readonly before: Partial<Fields>; readonly after: Partial<Fields> };
  readonly bars?: { readonly at: number; readonly before: readonly Bar[]; readonly after: readonly Bar[] };
  readonly slurs?: { readonly at: number; readonly before: readonly Slur[]; readonly after: readonly Slur[] };
}

/**
 * All that a tune has beside bars and slurs; the compiler misses what is not here. True for what may be left out: a
 * store of JSON would forget that it was, so a change tells it by null.
 */
const FIELDS: Readonly<Record<keyof Fields, boolean>> = {
  title: false,
  alsoKnownAs: false,
  composer: false,
  origin: false,
  style: false,
  notes: false,
  tempo: false,
  parting: true,
  clef: true,
};
const NAMES = Object.keys(FIELDS) as (keyof Fields)[];

/** The smallest run that has to be replaced to make one list of the other. */
function run<T>(before: readonly T[], after: readonly T[]) {
  let at = 0;
  while (at < before.length && at < after.length && dequal(before[at], after[at])) at += 1;
  let end = 0;
  while (
    end < before.length - at &&
    end < after.length - at &&
    dequal(before[before.length - 1 - end], after[after.length - 1 - end])
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
  const value = (tune: Tune, name: keyof Fields) => tune[name] ?? null;
  const changed = NAMES.filter((name) => !dequal(value(before, name), value(after, name)));
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
  const given: Tune = { ...tune, ...fields?.after };
  const left = NAMES.filter((name) => FIELDS[name] && given[name] === null);
  const present = left.length === 0 ? given : without(given, left);
  return {
    ...present,
    bars: bars ? replaced(tune.bars, bars) : tune.bars,
    slurs: slurs ? replaced(tune.slurs, slurs) : tune.slurs,
  };
}

const without = (tune: Tune, names: readonly (keyof Fields)[]): Tune =>
  Object.fromEntries(Object.entries(tune).filter(([name]) => !names.includes(name as keyof Fields))) as unknown as Tune;

/**
 * Whether a tune is as a change's maker saw it: its fields, and the runs of bars and slurs that become others.
 * @example isMadeOn({ ...reel, title: 'Other' }, changeBetween(reel, { ...reel, title: 'Third' })) // false
 */
export function isMadeOn(tune: Tune, { fields, bars, slurs }: TuneChange): boolean {
  const before = (fields?.before ?? {}) as Partial<Tune>;
  const names = Object.keys(fields?.after ?? {}) as (keyof Fields)[];
  return (
    names.every((name) => dequal(tune[name] ?? null, before[name] ?? null)) &&
    (!bars || standsAt(tune.bars, bars)) &&
    (!slurs || standsAt(tune.slurs, slurs))
  );
}

const standsAt = <T>(list: readonly T[], { at, before }: { readonly at: number; readonly before: readonly T[] }) =>
  dequal(list.slice(at, at + before.length), before);

function replaced<T>(
  list: readonly T[],
  { at, before, after }: { at: number; before: readonly T[]; after: readonly T[] },
) {
  if (!standsAt(list, { at, before })) {
    throw new Error('This change was made for another state of the tune.');
  }
  return list.toSpliced(at, before.length, ...after);
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

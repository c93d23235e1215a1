/**
 * What only the whole can tell comes back as prices: the version is fingered, bowed and held against the contract, and where a rule
 * is broken, something is made dearer there before the search runs again.
 */
import { type Breach, type Raised, type Simplified, type TuneWindow, cellOf } from '../grade/index.ts';
import {
  type Bpm,
  type Midi,
  type Ticks,
  type Tune,
  TICKS_PER_QUARTER,
  barStarts,
  isNote,
  midi,
  playedOrder,
} from '../music/index.ts';

/** Price of a first raise, and how it grows. */
const RAISE = 2;
const RAISED_BY = 1.8;
/** Seconds over which a contract counts notes and crossings. */
const WINDOW = 2;

/**
 * Where beats had to become slower, those of one rhythm become so alike: a beat that stayed quicker than most of its kind is made
 * dear. Null where there is none.
 */
export function evenly(raised: Raised, { windows, fillings }: Simplified): Raised | null {
  if (raised.density.size + raised.quick.size === 0) return null;
  const kinds = new Map<string, number[]>();
  windows.forEach(({ from, to, starting }, index) => {
    if (starting.length < 2) return;
    const kind = [to - from, ...starting.map(({ onset }) => onset - from)].join(' ');
    kinds.set(kind, [...(kinds.get(kind) ?? []), index]);
  });
  const cells = new Map<string, string>();
  for (const own of kinds.values()) {
    const found = own.map((index) => cellOf(windows[index]!, fillings[index]!));
    const often = (cell: string) => found.filter((other) => other === cell).length;
    const usual = found.reduce((most, cell) => (often(cell) > often(most) ? cell : most));
    const size = (cell: string) => (cell === '' ? 0 : cell.split(' ').length);
    if (size(usual) === 0) continue;
    for (const [at, cell] of found.entries())
      if (cell !== usual && size(cell) >= size(usual)) cells.set(windows[own[at]!]!.id, usual);
  }
  return cells.size > 0 ? { ...raised, cells } : null;
}

/** Prices raised for what was broken; null where nothing can be done by prices. */
export function raisedBy(
  raised: Raised,
  breaches: readonly Breach[],
  { windows, fillings, roots, tune }: Simplified,
  tempo: Bpm,
): Raised | null {
  const density = new Map(raised.density);
  const quick = new Map(raised.quick);
  const crossing = new Map(raised.crossing);
  const pitch = new Map(raised.pitch);
  const single = new Set(raised.single);
  const placed = placedIn(tune, windows);
  const played = windowsPlayed(tune, windows);
  let any = false;
  const done = new Set<string>();
  // Once in a round, however often a rule is broken there.
  const raise = (map: Map<string, number>, key: string, least = RAISE): void => {
    const once = `${map === density ? 'd' : map === quick ? 'q' : map === crossing ? 'c' : 'p'} ${key}`;
    if (done.has(once)) return;
    done.add(once);
    map.set(key, map.has(key) ? map.get(key)! * RAISED_BY : least);
    any = true;
  };
  const back = (WINDOW * tempo * TICKS_PER_QUARTER) / 60;
  // What is dear in a beat is dear in every one that is the same, so that they go on being changed alike.
  const groups = new Map<number, string[]>();
  windows.forEach(({ id }, index) => {
    const root = roots.get(index) ?? index;
    groups.set(root, [...(groups.get(root) ?? []), id]);
  });
  const alike = (index: number): readonly string[] => groups.get(roots.get(index) ?? index)!;
  const known = new Map<number, ReadonlySet<number>>();
  // Whenever it is played, after a repeat too, what is played just before takes part.
  const nearTo = (index: number): ReadonlySet<number> => {
    const found = known.get(index) ?? playedJustBefore(played, windows, index, back);
    known.set(index, found);
    return found;
  };
  for (const { rule, note } of breaches) {
    const place = placed.get(note);
    const window = place && windows[place.window];
    const number = place?.pitch ?? null;
    const near = place ? nearTo(place.window) : NOWHERE;
    const around = (map: Map<string, number>): void =>
      near.forEach((one) => alike(one).forEach((id) => raise(map, id)));
    // What is too fast somewhere is made slower wherever it is as quick: one rhythm for a figure.
    const everywhere = (): void => {
      const most = Math.max(0, ...[...near].map((one) => fillings[one]!.pieces.length));
      // Where there is but one note to a beat, only the beats around can be rested on.
      if (most <= 1) around(density);
      else
        windows.forEach((one, index) => {
          if (fillings[index]!.pieces.length >= most) raise(quick, one.id);
        });
    };
    if (rule === 'notesPerSecond') everywhere();
    else if (rule === 'crossingsPerSecond' || rule === 'skips') around(crossing);
    else if (rule === 'doubleStops' || rule === 'drones') {
      single.add(note);
      any = true;
    } else if ((rule === 'shifts' || rule === 'accidentals') && window && number !== null)
      for (const id of alike(place!.window)) raise(pitch, `${id} ${number}`, rule === 'shifts' ? 20 : 60);
    else if (number !== null && FINGER_RULES.has(rule)) raise(pitch, String(number), BARRED);
    else if (number !== null && PITCH_RULES.has(rule)) raise(pitch, String(number), 12);
  }
  return any ? { density, quick, crossing, pitch, single, cells: raised.cells } : null;
}

const PITCH_RULES: ReadonlySet<string> = new Set(['extension', 'range', 'patterns', 'strings']);
/** What a pitch is fingered with wherever it stands: it is as good as out of place. */
const FINGER_RULES: ReadonlySet<string> = new Set([
  'fingers',
  'low1',
  'low2',
  'high3',
  'low4',
  'halfPosition',
  'maxPosition',
]);
const BARRED = 200;

const NOWHERE: ReadonlySet<number> = new Set();

/** Windows that are played so little before another, or as it is. */
function playedJustBefore(
  played: readonly PlayedWindow[],
  windows: readonly TuneWindow[],
  index: number,
  back: Ticks,
): ReadonlySet<number> {
  const found = new Set<number>();
  played.forEach(({ window, at }, place) => {
    if (window !== index) return;
    for (let before = place; before >= 0; before -= 1) {
      const { window: own, at: begun } = played[before]!;
      if (begun + windows[own]!.to - windows[own]!.from <= at - back) break;
      found.add(own);
    }
  });
  return found;
}

interface PlayedWindow {
  readonly window: number;
  readonly at: Ticks;
}

/** By event of a version: the window in which it begins, and what it sounds. */
function placedIn(
  { bars }: Tune,
  windows: readonly TuneWindow[],
): ReadonlyMap<string, { readonly window: number; readonly pitch: Midi | null }> {
  const starts = barStarts(bars);
  let window = 0;
  return new Map(
    bars.flatMap(({ events }, index) =>
      events.map((event) => {
        const onset = starts[index]! + event.at;
        while (windows[window + 1] && windows[window + 1]!.from <= onset) window += 1;
        return [event.id, { window, pitch: isNote(event) ? midi(event.heads.at(-1)!.pitch) : null }] as const;
      }),
    ),
  );
}

/** The windows as they are played, repeats and all, each with its time. */
function windowsPlayed({ bars }: Tune, windows: readonly TuneWindow[]): readonly PlayedWindow[] {
  const starts = barStarts(bars);
  const byBar = new Map<number, number[]>();
  windows.forEach(({ barIndex }, index) => byBar.set(barIndex, [...(byBar.get(barIndex) ?? []), index]));
  let time: Ticks = 0;
  return playedOrder(bars).flatMap(({ index }) => {
    const begin = time;
    time += bars[index]!.length;
    return (byBar.get(index) ?? []).map((window) => ({ window, at: begin + windows[window]!.from - starts[index]! }));
  });
}

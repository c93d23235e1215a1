/** What is wrong in a tune, at its bar, each with repairs that make it right. */
import {
  amountText,
  barLength,
  barNumbers,
  fillsBar,
  isPickup,
  midi,
  misfitText,
  valueOf,
  writeDuration,
  type Bar,
  type Rest,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { toggleRepeatEnd, toggleRepeatStart } from './bars.ts';
import { setValue, toggleSlur, toggleTie, toggleTriplet } from './notes.ts';
import { freshBarIds, freshIds, settle, withEvents } from './settle.ts';

export interface Repair {
  /** What it does, as a command: "Lengthen the last note". */
  readonly label: string;
  run(): Tune;
}

export interface Trouble {
  readonly kind: 'bar' | 'repeat' | 'ending' | 'slur' | 'tie';
  readonly bar: number;
  /** Where it is, if at one note. */
  readonly note?: string;
  readonly message: string;
  /** Best first; never empty. */
  readonly repairs: readonly Repair[];
}

/**
 * All troubles in the order of the tune.
 * @example findTroubles(tuneOf('A2 B2')).length // 1
 */
export function findTroubles(tune: Tune): readonly Trouble[] {
  const numbers = barNumbers(tune.bars);
  const found = [
    ...barTroubles(tune, numbers),
    ...repeatTroubles(tune, numbers),
    ...tieTroubles(tune, numbers),
    ...slurTroubles(tune, numbers),
  ];
  return found.sort((a, b) => a.bar - b.bar);
}

function replaceBar(tune: Tune, index: number, ...bars: readonly Bar[]): Tune {
  return settle(tune, tune.bars.toSpliced(index, 1, ...bars));
}

function barTroubles(tune: Tune, numbers: readonly number[]): readonly Trouble[] {
  return tune.bars.flatMap((bar, index): Trouble[] => {
    const missing = barLength(bar.metre) - bar.length;
    if (!fillsBar(tune.bars, index)) {
      const repairs = missing > 0 ? shortRepairs(tune, index, missing) : longRepairs(tune, index, -missing);
      return [{ kind: 'bar', bar: index, message: `Bar ${numbers[index]} is ${misfitText(bar)}.`, repairs }];
    }
    const pickup = pickupToGiveBack(tune.bars, index);
    if (pickup === null) return [];
    return [
      {
        kind: 'bar',
        bar: index,
        message: `Bar ${numbers[index]} is full, but the repeat goes back to a pickup of ${amountText(pickup)}: together they are too long.`,
        repairs: [
          { label: 'Take the pickup out of this bar', run: () => replaceBar(tune, index, shortened(bar, pickup)) },
          ...longRepairs(tune, index, pickup).filter(({ label }) => label.startsWith('Leave out')),
        ],
      },
    ];
  });
}

/** A repeated part that starts with a pickup must end short by as much. */
function pickupToGiveBack(bars: readonly Bar[], index: number): Ticks | null {
  const bar = bars[index]!;
  if (!bar.repeatEnd || bar.length !== barLength(bar.metre) || bar.endings) return null;
  let start = index;
  while (start > 0 && !bars[start]!.repeatStart && !bars[start - 1]!.repeatEnd) start -= 1;
  const first = bars[start]!;
  if (start === index || !isPickup(bars, start) || first.length >= bar.length) return null;
  // A pickup before the repeat sign is played once only.
  return start > 0 || first.repeatStart || !bars[start + 1]?.repeatStart ? first.length : null;
}

/** The bar with its end cut off by so much. */
function shortened(bar: Bar, by: Ticks): Bar {
  const events: TuneEvent[] = [];
  const end = bar.length - by;
  for (const event of bar.events) {
    if (event.at >= end) break;
    if (event.at + event.duration <= end) {
      events.push(event);
      continue;
    }
    const [first] = writeDuration(event.at, end - event.at, bar.metre);
    if (first && first.duration === end - event.at && !event.tuplet) {
      events.push({ ...event, duration: first.duration, value: first.value });
    }
  }
  const last = events.at(-1);
  if (last?.kind === 'note')
    events[events.length - 1] = { ...last, heads: last.heads.map(({ tied: _, ...head }) => head) };
  return withEvents(bar, events);
}

function restOf(tune: Tune, bar: Bar, length: Ticks): readonly Rest[] {
  const id = freshIds(tune);
  return writeDuration(bar.length, length, bar.metre).map(({ value, duration }) => ({
    kind: 'rest',
    id: id(),
    at: 0,
    duration,
    value,
  }));
}

function shortRepairs(tune: Tune, index: number, missing: Ticks): readonly Repair[] {
  const bar = tune.bars[index]!;
  const last = bar.events.at(-1)!;
  const next = tune.bars[index + 1];
  const before = tune.bars[index - 1];
  const grown = last.tuplet ? null : valueOf(last.duration + missing);
  const amount = amountText(missing);
  const repairs: Repair[] = [];
  if (before && isPickup(tune.bars, index - 1) && before.length === missing && !bar.repeatStart) {
    repairs.push({ label: 'Take the missing beat from the pickup', run: () => merged(tune, index - 1) });
  }
  if (before && before.length - barLength(before.metre) === missing) {
    const moved = movedOver(tune, index - 1, missing);
    if (moved) repairs.push({ label: 'Move the bar line before it back', run: () => moved });
  }
  if (next && next.length - barLength(next.metre) === missing) {
    const moved = movedOver(tune, index + 1, missing, 'back');
    if (moved) repairs.push({ label: 'Move the bar line after it on', run: () => moved });
  }
  if (next && bar.length + next.length === barLength(bar.metre) && !next.repeatStart && !bar.repeatEnd) {
    repairs.push({ label: 'Make one bar of it and the next', run: () => merged(tune, index) });
  }
  if (grown)
    repairs.push({ label: `Lengthen the last note by ${amount}`, run: () => lengthened(tune, index, missing) });
  const doubled = bar.length * 2 === barLength(bar.metre) && bar.events.every(({ tuplet }) => !tuplet);
  if (doubled) repairs.push({ label: 'Make every note twice as long', run: () => scaled(tune, index, 2) });
  repairs.push({
    label: `Add a rest of ${amount}`,
    run: () => replaceBar(tune, index, withEvents(bar, [...bar.events, ...restOf(tune, bar, missing)])),
  });
  return repairs;
}

function longRepairs(tune: Tune, index: number, extra: Ticks): readonly Repair[] {
  const bar = tune.bars[index]!;
  const full = barLength(bar.metre);
  const last = bar.events.at(-1)!;
  const next = tune.bars[index + 1];
  const amount = amountText(extra);
  const repairs: Repair[] = [];
  if (next && barLength(next.metre) - next.length === extra && !bar.repeatEnd) {
    const moved = movedOver(tune, index, extra);
    if (moved) repairs.push({ label: 'Move the bar line after it back', run: () => moved });
  }
  if (bar.length % full === 0 && bar.events.some(({ at }) => at === full)) {
    repairs.push({ label: 'Put the bar line in that is missing', run: () => split(tune, index, full) });
  }
  const triplet = tripletFor(bar, extra);
  if (triplet) repairs.push({ label: 'Make three notes a triplet', run: () => toggleTriplet(tune, triplet) });
  if (last.duration > extra && !last.tuplet && valueOf(last.duration - extra)) {
    repairs.push({ label: `Shorten the last note by ${amount}`, run: () => lengthened(tune, index, -extra) });
  }
  if (bar.length === 2 * full && bar.events.every(({ tuplet }) => !tuplet)) {
    repairs.push({ label: 'Make every note half as long', run: () => scaled(tune, index, 0.5) });
  }
  const longest = bar.events.reduce((best, event) => (event.duration > best.duration ? event : best));
  if (longest !== last && !longest.tuplet && longest.duration > extra && valueOf(longest.duration - extra)) {
    const value = valueOf(longest.duration - extra)!;
    repairs.push({
      label: `Shorten the longest note by ${amount}`,
      run: () => setValue(tune, new Set([longest.id]), value),
    });
  }
  repairs.push({ label: `Leave out ${amount} at the end`, run: () => replaceBar(tune, index, shortened(bar, extra)) });
  return repairs;
}

/** Three equal notes in a row that are too long by one of them. */
function tripletFor(bar: Bar, extra: Ticks): ReadonlySet<string> | null {
  for (let index = bar.events.length - 3; index >= 0; index -= 1) {
    const three = bar.events.slice(index, index + 3);
    if (three.every((event) => event.kind === 'note' && event.duration === extra && !event.tuplet)) {
      return new Set(three.map(({ id }) => id));
    }
  }
  return null;
}

function lengthened(tune: Tune, index: number, by: Ticks): Tune {
  const last = tune.bars[index]!.events.at(-1)!;
  return setValue(tune, new Set([last.id]), valueOf(last.duration + by)!);
}

function scaled(tune: Tune, index: number, factor: 2 | 0.5): Tune {
  const bar = tune.bars[index]!;
  const events = bar.events.map((event): TuneEvent => {
    const value = valueOf(event.duration * factor);
    return value ? { ...event, duration: event.duration * factor, value } : event;
  });
  return replaceBar(tune, index, withEvents(bar, events));
}

/** What a bar says of its beginning and of its end; halves take what is theirs. */
const BEGINS = ['repeatStart', 'endings', 'label', 'segno', 'coda', 'tempo'] as const satisfies readonly (keyof Bar)[];
const ENDS = ['repeatEnd', 'endingStop', 'fine', 'toCoda', 'jump'] as const satisfies readonly (keyof Bar)[];

function without(bar: Bar, names: readonly (keyof Bar)[]): Bar {
  return Object.fromEntries(
    Object.entries(bar).filter(([name]) => !names.includes(name as keyof Bar)),
  ) as unknown as Bar;
}

function split(tune: Tune, index: number, at: Ticks): Tune {
  const bar = tune.bars[index]!;
  const head = bar.events.filter((event) => event.at < at);
  const tail = bar.events.filter((event) => event.at >= at);
  return replaceBar(
    tune,
    index,
    withEvents({ ...without(bar, ENDS), barline: 'single' }, head),
    withEvents({ ...without(bar, BEGINS), id: freshBarIds(tune)() }, tail),
  );
}

function merged(tune: Tune, index: number): Tune {
  const bar = tune.bars[index]!;
  const next = tune.bars[index + 1]!;
  const one = withEvents({ ...without(next, BEGINS), ...without(bar, [...ENDS, 'barline']) }, [
    ...bar.events,
    ...next.events,
  ]);
  return settle(tune, tune.bars.toSpliced(index, 2, one));
}

/** Notes that are too much go over the bar line; null where no note ends there. */
function movedOver(tune: Tune, index: number, amount: Ticks, way: 'on' | 'back' = 'on'): Tune | null {
  const bar = tune.bars[index]!;
  const edge = way === 'on' ? bar.length - amount : amount;
  if (!bar.events.some(({ at }) => at === edge)) return null;
  const moving = bar.events.filter(({ at }) => (way === 'on' ? at >= edge : at < edge));
  const staying = bar.events.filter((event) => !moving.includes(event));
  const other = tune.bars[way === 'on' ? index + 1 : index - 1]!;
  const grown = withEvents(other, way === 'on' ? [...moving, ...other.events] : [...other.events, ...moving]);
  const bars = tune.bars.map((each) => (each === bar ? withEvents(bar, staying) : each === other ? grown : each));
  return settle(tune, bars);
}

/** A repeat that opens and never closes; endings of which one is missing. */
function repeatTroubles(tune: Tune, numbers: readonly number[]): readonly Trouble[] {
  const { bars } = tune;
  const endOfPart = (index: number): number => {
    const later = bars.findIndex((other, at) => at > index && other.repeatStart);
    return later < 0 ? bars.length : later;
  };
  return bars.flatMap((bar, index): Trouble[] => {
    const found: Trouble[] = [];
    const end = bar.repeatStart ? endOfPart(index) : index;
    if (bar.repeatStart && !bars.slice(index, end).some((other) => other.repeatEnd)) {
      found.push({
        kind: 'repeat',
        bar: index,
        message: `The repeat that opens at bar ${numbers[index]} never closes.`,
        repairs: [
          { label: `Close it after bar ${numbers[end - 1]}`, run: () => toggleRepeatEnd(tune, end - 1) },
          { label: 'Take the repeat away', run: () => toggleRepeatStart(tune, index) },
        ],
      });
    }
    if (!bar.endings?.includes(1)) return found;
    const stop = bars.findIndex(
      (other, at) => at >= index && (other.endingStop === true || other.repeatEnd !== undefined),
    );
    if (stop >= 0 && !bars[stop]!.repeatEnd) {
      found.push({
        kind: 'ending',
        bar: index,
        message: `The first ending at bar ${numbers[index]} does not go back.`,
        repairs: [{ label: `Repeat after bar ${numbers[stop]}`, run: () => toggleRepeatEnd(tune, stop) }],
      });
    }
    return found;
  });
}

function tieTroubles(tune: Tune, numbers: readonly number[]): readonly Trouble[] {
  const events = tune.bars.flatMap(({ events: list }, bar) => list.map((event) => ({ event, bar })));
  return events.flatMap(({ event, bar }, index): Trouble[] => {
    if (event.kind === 'rest' || !event.heads.some(({ tied }) => tied)) return [];
    const next = events[index + 1]?.event;
    const leads = event.heads.every(
      ({ tied, pitch }) =>
        !tied || (next?.kind === 'note' && next.heads.some((head) => midi(head.pitch) === midi(pitch))),
    );
    if (leads) return [];
    return [
      {
        kind: 'tie',
        bar,
        note: event.id,
        message: `A tie in bar ${numbers[bar]} leads to no note of the same pitch.`,
        repairs: [
          { label: 'Take the tie off', run: () => toggleTie(tune, event.id) },
          ...slurInstead(tune, event.id, next),
        ],
      },
    ];
  });
}

/** Ties and slurs look alike on paper; between two pitches a slur was meant. */
function slurInstead(tune: Tune, id: string, next: TuneEvent | undefined): readonly Repair[] {
  return next?.kind === 'note'
    ? [{ label: 'Make it a slur', run: () => toggleSlur(toggleTie(tune, id), [id, next.id]) }]
    : [];
}

function slurTroubles(tune: Tune, numbers: readonly number[]): readonly Trouble[] {
  const barOf = new Map(tune.bars.flatMap(({ events }, bar) => events.map(({ id }) => [id, bar] as const)));
  return tune.slurs.flatMap((slur): Trouble[] => {
    if (slur.from !== slur.to) return [];
    const bar = barOf.get(slur.from) ?? 0;
    const notes = tune.bars[bar]!.events.filter(({ kind }) => kind === 'note');
    const without = { ...tune, slurs: tune.slurs.filter((other) => other !== slur) };
    const last = notes.at(-1)!;
    return [
      {
        kind: 'slur',
        bar,
        note: slur.from,
        message: `A slur in bar ${numbers[bar]} begins and never ends.`,
        repairs: [
          { label: 'Slur to the next note', run: () => toggleSlur(without, [slur.from]) },
          ...(last.id === slur.from
            ? []
            : [
                {
                  label: 'Slur to the end of the bar',
                  run: () => ({ ...without, slurs: [...without.slurs, { from: slur.from, to: last.id }] }),
                },
              ]),
          { label: 'Take the slur away', run: () => without },
        ],
      },
    ];
  });
}

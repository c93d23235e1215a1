/** Changes to bars: repeats, endings, keys, metres, labels; copying and pasting; bar lines anew. */
import { dequal } from 'dequal';
import {
  barLength,
  transposePitch,
  transposeKey,
  valueOf,
  writeDuration,
  type Bar,
  type Barline,
  type Key,
  type Metre,
  type Note,
  type Tempo,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { freshBarIds, freshIds, settle, withEvents } from './settle.ts';

/** First and last bar, both included. */
export interface BarRange {
  readonly from: number;
  readonly to: number;
}

function change(tune: Tune, index: number, edit: (bar: Bar) => Bar): Tune {
  return settle(
    tune,
    tune.bars.map((bar, at) => (at === index ? edit(bar) : bar)),
  );
}

/** Without members that are false or undefined, so that equal bars compare equal. */
function tidy(bar: Bar): Bar {
  return Object.fromEntries(
    Object.entries(bar).filter(([, value]) => value !== undefined && value !== false),
  ) as unknown as Bar;
}

/** @example toggleRepeatStart(reel, 0).bars[0].repeatStart === undefined // true */
export function toggleRepeatStart(tune: Tune, index: number): Tune {
  return change(tune, index, (bar) => tidy({ ...bar, repeatStart: bar.repeatStart ? undefined : true } as Bar));
}

/** @example toggleRepeatEnd(reel, 3).bars[3].repeatEnd === undefined // true */
export function toggleRepeatEnd(tune: Tune, index: number): Tune {
  return change(tune, index, (bar) =>
    tidy({ ...bar, repeatEnd: bar.repeatEnd ? undefined : 2, barline: 'single' } as Bar),
  );
}

/**
 * An ending bracket over a run of bars, or none there any more.
 * @example toggleEnding(reel, { from: 3, to: 3 }, 1).bars[3].endings // [1]
 */
export function toggleEnding(tune: Tune, { from, to }: BarRange, number: number): Tune {
  const has = tune.bars[from]?.endings?.includes(number) ?? false;
  const bars = tune.bars.map((bar, index) => {
    if (index < from || index > to) return bar;
    const plain = tidy({ ...bar, endings: undefined, endingStop: undefined } as unknown as Bar);
    if (has) return plain;
    return { ...plain, ...(index === from && { endings: [number] }), ...(index === to && { endingStop: true }) };
  });
  return settle(tune, bars);
}

/** @example setBarline(reel, 0, 'double').bars[0].barline // 'double' */
export function setBarline(tune: Tune, index: number, barline: Barline): Tune {
  return change(tune, index, (bar) => ({ ...bar, barline }));
}

/** @example setLabel(reel, 0, 'A').bars[0].label // 'A' */
export function setLabel(tune: Tune, index: number, label: string): Tune {
  return change(tune, index, (bar) => tidy({ ...bar, label: label.trim() || undefined } as Bar));
}

/** @example setBarTempo(reel, 1, { beat: 3360, bpm: 90 }).bars[1].tempo.bpm // 90 */
export function setBarTempo(tune: Tune, index: number, tempo: Tempo | null): Tune {
  if (index === 0) return { ...tune, tempo };
  return change(tune, index, (bar) => tidy({ ...bar, tempo: tempo ?? undefined } as Bar));
}

/** Last bar before the key or metre changes by itself. */
function sameUntil(bars: readonly Bar[], from: number, same: (a: Bar, b: Bar) => boolean): number {
  let to = from;
  while (to + 1 < bars.length && same(bars[to + 1]!, bars[from]!)) to += 1;
  return to;
}

const metreText = ({ metre }: Bar) => `${metre.beats}/${metre.unit}`;

/**
 * A new key from a bar on, as far as the old one went. The notes stay where they sound, with accidentals,
 * or move along: `move` says which.
 * @example abc(setKey(tuneOf('F4 G4 |', { key: 'C' }), 0, keyOf({ letter: 'G', alter: 0 }, 'major'), 'stay')) // '=F4 G4 |'
 */
export function setKey(tune: Tune, from: number, key: Key, move: 'stay' | 'with-signature'): Tune {
  const to = sameUntil(tune.bars, from, (a, b) => dequal(a.key, b.key));
  const bars = tune.bars.map((bar, index) => {
    if (index < from || index > to) return bar;
    if (move === 'stay') return { ...bar, key };
    // A signature read wrongly: notes that had no sign of their own follow the right one.
    const events = bar.events.map((event): TuneEvent =>
      event.kind === 'rest'
        ? event
        : {
            ...event,
            heads: event.heads.map((head) => ({ ...head, pitch: inSignature(head.pitch, bar.key, key) })),
          },
    );
    return { ...bar, key, events };
  });
  return settle(tune, bars);
}

function inSignature(pitch: Note['heads'][number]['pitch'], before: Key, after: Key): typeof pitch {
  const plain = pitch.alter === (before.signature[pitch.letter] ?? 0);
  return plain ? { ...pitch, alter: after.signature[pitch.letter] ?? 0 } : pitch;
}

/**
 * Transposes a run of bars, or the notes chosen in it, with keys where whole bars move.
 * @example abc(transposeNotes(tuneOf('A2 B2'), new Set(['n1']), 12)) // 'a2 B2 |'
 */
export function transposeNotes(tune: Tune, ids: ReadonlySet<string>, semitones: number): Tune {
  const bars = tune.bars.map((bar) => {
    if (!bar.events.some(({ id }) => ids.has(id))) return bar;
    const { steps } = transposeKey(bar.key, semitones);
    const events = bar.events.map((event): TuneEvent => {
      if (!ids.has(event.id) || event.kind === 'rest') return event;
      const heads = event.heads.map(({ pitch, tied }) => ({
        pitch: transposePitch(pitch, steps, semitones),
        ...(tied && { tied }),
      }));
      const graces = event.graces?.map((grace) => ({ ...grace, pitch: transposePitch(grace.pitch, steps, semitones) }));
      return { ...event, heads, ...(graces && { graces }) };
    });
    return withEvents(bar, events);
  });
  return settle(tune, bars);
}

/**
 * A new metre from a bar on; with `rebar` the bar lines are drawn anew, else the notes keep their bars.
 * @example setMetre(tuneOf('A4 B4 |'), 0, { beats: 2, unit: 4 }, true).bars.length // 2
 */
export function setMetre(tune: Tune, from: number, metre: Metre, rebar: boolean): Tune {
  const to = sameUntil(tune.bars, from, (a, b) => metreText(a) === metreText(b));
  const named = tune.bars.map((bar, index) => (index >= from && index <= to ? { ...bar, metre } : bar));
  const next = settle(tune, named);
  return rebar ? rebarred(next, { from, to }) : next;
}

/**
 * Draws bar lines anew over a run of bars. Repeats, endings and labels hold their notes: a bar line
 * falls before and after each of them.
 *
 * @param pickup length of the first bar; full if left out
 * @example rebarred(tuneOf('A2 B2 c4 d4 e4 |'), { from: 0, to: 0 }).bars.length // 2
 */
export function rebarred(tune: Tune, { from, to }: BarRange, pickup?: Ticks): Tune {
  const id = freshIds(tune);
  const barId = freshBarIds(tune);
  const made: Bar[] = [];
  let open: Bar | null = null;
  let first = true;
  const close = (signs: Partial<Bar>) => {
    if (open) made.push({ ...open, ...signs });
    open = null;
  };
  for (const bar of tune.bars.slice(from, to + 1)) {
    const { repeatStart, label, endings, segno, coda, tempo } = bar;
    const begins = tidy({ repeatStart, label, endings, segno, coda, tempo } as unknown as Bar) as Partial<Bar>;
    if (Object.keys(begins).length > 0) close({});
    const queue: TuneEvent[] = [...bar.events];
    let starting: Partial<Bar> = begins;
    while (queue.length > 0) {
      const event = queue.shift()!;
      open ??= {
        ...starting,
        id: barId(),
        metre: bar.metre,
        key: bar.key,
        events: [],
        length: 0,
        offset: 0,
        barline: 'single',
      };
      starting = {};
      const now: Bar = open;
      const full = first && pickup ? pickup : barLength(now.metre);
      const room: Ticks = full - now.length;
      if (event.duration > room && event.tuplet === undefined) {
        const parts = cut(event, now.length, room, now.metre, id);
        open = withEvents(now, [...now.events, ...(parts?.[0] ?? [event])]);
        queue.unshift(...(parts?.[1] ?? []));
      } else open = withEvents(now, [...now.events, event]);
      if ((open as Bar).length >= full) {
        close({});
        first = false;
      }
    }
    const { repeatEnd, endingStop, barline, toCoda, fine, jump } = bar;
    const ends = tidy({ repeatEnd, endingStop, toCoda, fine, jump } as unknown as Bar) as Partial<Bar>;
    if (Object.keys(ends).length > 0 || barline !== 'single') {
      if (open) close({ ...ends, barline });
      else made[made.length - 1] = { ...made.at(-1)!, ...ends, barline };
    }
  }
  close({});
  return settle(tune, [...tune.bars.slice(0, from), ...made, ...tune.bars.slice(to + 1)]);
}

/** An event in two, tied where it is a note; null where the bar line falls inside a triplet's beat. */
function cut(
  event: TuneEvent,
  at: Ticks,
  room: Ticks,
  metre: Metre,
  id: () => string,
): readonly [readonly TuneEvent[], readonly TuneEvent[]] | null {
  const head = writeDuration(at, room, metre);
  const whole = valueOf(event.duration - room);
  const tail = whole
    ? [{ duration: event.duration - room, value: whole }]
    : writeDuration(0, event.duration - room, metre);
  const all = [...head, ...tail];
  if (all.reduce((sum, { duration }) => sum + duration, 0) !== event.duration) return null;
  const events = all.map(({ duration, value }, index): TuneEvent => {
    const last = index === all.length - 1;
    const base = index === 0 ? { ...event } : bareCopy(event, id());
    const sized = { ...base, duration, value };
    if (sized.kind === 'rest' || last) return sized;
    return { ...sized, heads: sized.heads.map((entry) => ({ ...entry, tied: true })) };
  });
  return [events.slice(0, head.length), events.slice(head.length)];
}

/** The part of a note after a tie: its pitches, and nothing that is said once. */
function bareCopy(event: TuneEvent, id: string): TuneEvent {
  const { at, duration, value } = event;
  if (event.kind === 'rest') return { kind: 'rest', id, at, duration, value };
  const heads = event.heads.map(({ pitch, tied }) => ({ pitch, ...(tied && { tied }) }));
  return { kind: 'note', id, at, duration, value, heads };
}

/**
 * Makes the first bar a pickup of this length, or a full bar, and moves all bar lines after it.
 * @example setPickup(tuneOf('A2 B2 c2 d2 e2 |'), 3360).bars[0].length // 3360
 */
export function setPickup(tune: Tune, length: Ticks): Tune {
  const to = sameUntil(tune.bars, 0, (a, b) => metreText(a) === metreText(b));
  return rebarred(tune, { from: 0, to }, length > 0 ? length : undefined);
}

/** @example deleteBars(reel, { from: 1, to: 2 }).bars.length // 2 */
export function deleteBars(tune: Tune, { from, to }: BarRange): Tune {
  if (to - from + 1 >= tune.bars.length) return tune;
  return settle(tune, tune.bars.toSpliced(from, to - from + 1));
}

/** Bars to paste elsewhere, with the slurs that lie wholly inside. */
export interface Clip {
  readonly bars: readonly Bar[];
  readonly slurs: Tune['slurs'];
}

/** @example copyBars(reel, { from: 0, to: 1 }).bars.length // 2 */
export function copyBars(tune: Tune, { from, to }: BarRange): Clip {
  const bars = tune.bars.slice(from, to + 1);
  const ids = new Set(bars.flatMap(({ events }) => events.map(({ id }) => id)));
  return { bars, slurs: tune.slurs.filter((slur) => ids.has(slur.from) && ids.has(slur.to)) };
}

/**
 * Puts copied bars after a bar, with ids of their own. @returns the tune and the id of the first pasted event
 * @example pasteBars(reel, 3, copyBars(reel, { from: 0, to: 1 })).tune.bars.length // 6
 */
export function pasteBars(tune: Tune, after: number, clip: Clip): { readonly tune: Tune; readonly id: string | null } {
  const id = freshIds(tune);
  const barId = freshBarIds(tune);
  const renamed = new Map<string, string>();
  const before = tune.bars[after];
  const pasted = clip.bars.map((bar, index) => {
    const events = bar.events.map((event): TuneEvent => {
      const own = id();
      renamed.set(event.id, own);
      if (event.kind === 'rest' || !event.graces) return { ...event, id: own };
      return {
        ...event,
        id: own,
        graces: event.graces.map((grace, place) => ({ ...grace, id: `${own}g${place + 1}` })),
      };
    });
    const ends = before?.barline === 'final' && after === tune.bars.length - 1 && index === clip.bars.length - 1;
    return withEvents({ ...bar, id: barId(), offset: 0, ...(ends && { barline: 'final' as const }) }, events);
  });
  const head = tune.bars
    .slice(0, after + 1)
    .map((bar, index): Bar =>
      index === after && bar.barline === 'final' && pasted.length > 0 ? { ...bar, barline: 'single' } : bar,
    );
  const slurs = clip.slurs.map(({ from, to }) => ({ from: renamed.get(from)!, to: renamed.get(to)! }));
  const grown = { ...tune, slurs: [...tune.slurs, ...slurs] };
  return {
    tune: settle(grown, [...head, ...pasted, ...tune.bars.slice(after + 1)]),
    id: pasted[0]?.events[0]?.id ?? null,
  };
}

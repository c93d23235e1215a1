/** Played sounds laid into bars whose metre and key may change on the way. */
import {
  TICKS_PER_QUARTER,
  barLength,
  layBars,
  midi,
  spellInKey,
  writeDuration,
  type Bar,
  type Key,
  type Metre,
  type Ticks,
  type TuneEvent,
} from '../../music/index.ts';
import type { QuantisedSound } from './quantise.ts';

/** Something that holds from a time on. */
export interface From<T> {
  readonly at: Ticks;
  readonly value: T;
}

interface Section {
  readonly from: Ticks;
  readonly to: Ticks;
  readonly metre: Metre;
  readonly key: Key;
}

export interface Changing {
  /** The first of each holds from time 0, where a bar begins. */
  readonly metres: readonly From<Metre>[];
  readonly keys: readonly From<Key>[];
  /** Length of the pickup; 0 for none. */
  readonly pickup: Ticks;
  readonly tripletBeats: ReadonlySet<number>;
}

/**
 * Bars of all sections, one after the other. A key that changes inside a bar holds from the nearest bar line; a metre
 * that changes inside a bar ends it there.
 * @param sounds in order, from time 0 on
 */
export function laySections(
  sounds: readonly QuantisedSound[],
  { metres, keys, pickup, tripletBeats }: Changing,
): readonly Bar[] {
  const end = sounds.reduce((latest, { onset, duration }) => Math.max(latest, onset + duration), 1);
  const bars: Bar[] = [];
  let ids = 0;
  let next = 0;
  const thirds = [...tripletBeats].sort((a, b) => a - b);
  let third = 0;
  for (const [index, section] of sectionsOf(metres, keys, end).entries()) {
    const length = section.to - section.from;
    // None overlaps the next: what this section holds is one run of them.
    while (next < sounds.length && sounds[next]!.onset + sounds[next]!.duration <= section.from) next += 1;
    let after = next;
    while (after < sounds.length && sounds[after]!.onset < section.to) after += 1;
    const own = sounds.slice(next, after);
    while (third < thirds.length && (thirds[third]! + 1) * QUARTER <= section.from) third += 1;
    let afterThird = third;
    while (afterThird < thirds.length && thirds[afterThird]! * QUARTER < section.to) afterThird += 1;
    const laid = layBars(
      own.flatMap(({ onset, duration, midis }) => {
        const [from, to] = [Math.max(onset, section.from), Math.min(onset + duration, section.to)];
        if (to <= from) return [];
        return [
          {
            onset: from - section.from,
            duration: to - from,
            pitches: midis.map((one) => spellInKey(one, section.key)),
          },
        ];
      }),
      {
        metre: section.metre,
        key: section.key,
        pickup: index === 0 ? pickup : 0,
        tripletBeats: new Set(thirds.slice(third, afterThird).map((beat) => beat - section.from / QUARTER)),
      },
    );
    const whole = filled(laid, section, length);
    for (const bar of whole) {
      const events = bar.events.map((event) => ({ ...event, id: `n${(ids += 1)}` }));
      bars.push({ ...bar, id: `b${bars.length + 1}`, events, barline: 'single' });
    }
    const over = own.filter(({ onset, duration }) => onset < section.to && onset + duration > section.to);
    if (over.length > 0) tieOver(bars, new Set(over.flatMap(({ midis }) => midis)));
  }
  return bars.map((bar, index) => (index === bars.length - 1 ? { ...bar, barline: 'final' } : bar));
}
const QUARTER = TICKS_PER_QUARTER;

/** @param keys in order, as metres are */
function sectionsOf(metres: readonly From<Metre>[], keys: readonly From<Key>[], end: Ticks): readonly Section[] {
  const sections: Section[] = [];
  let now = 0;
  const keyAt = (at: Ticks) => {
    while (now + 1 < keys.length && keys[now + 1]!.at <= at) now += 1;
    return keys[now]!.value;
  };
  let next = 0;
  metres.forEach(({ at, value: metre }, index) => {
    const full = barLength(metre);
    const last = index === metres.length - 1;
    const to = last ? Math.max(at + full, at + Math.ceil((end - at) / full) * full) : metres[index + 1]!.at;
    if (at >= end && index > 0) return;
    while (next < keys.length && keys[next]!.at < at - full) next += 1;
    const inside = new Set<Ticks>();
    for (let key = next; key < keys.length && keys[key]!.at < to + full; key += 1) {
      const place = at + Math.round((keys[key]!.at - at) / full) * full;
      if (place > at && place < Math.min(to, end)) inside.add(place);
    }
    const starts = [at, ...inside];
    starts.forEach((from, number) =>
      sections.push({ from, to: starts[number + 1] ?? to, metre, key: keyAt(from + full / 2) }),
    );
  });
  return sections;
}

/** As many bars as the section is long; a last one that is cut short ends with it. */
function filled(laid: readonly Bar[], { metre, key }: Section, length: Ticks): readonly Bar[] {
  const full = barLength(metre);
  const bars = [...laid];
  const count = Math.ceil(length / full);
  while (bars.length < count) bars.push(...layBars([], { metre, key, pickup: 0 }));
  const over = count * full - length;
  const last = bars[count - 1]!;
  if (over > 0)
    bars[count - 1] = { ...last, events: cut(last.events, last.length - over, metre), length: last.length - over };
  return bars.slice(0, count);
}

function cut(events: readonly TuneEvent[], length: Ticks, metre: Metre): readonly TuneEvent[] {
  return events.flatMap((event): readonly TuneEvent[] => {
    if (event.at >= length) return [];
    if (event.at + event.duration <= length) return [event];
    return writeDuration(event.at, length - event.at, metre).map((piece) => ({ kind: 'rest', id: event.id, ...piece }));
  });
}

/** Notes that sound on into the next section. */
function tieOver(bars: Bar[], midis: ReadonlySet<number>): void {
  const bar = bars.at(-1)!;
  const last = bar.events.at(-1);
  if (last?.kind !== 'note') return;
  const heads = last.heads.map((head) => (midis.has(midi(head.pitch)) ? { ...head, tied: true } : head));
  bars[bars.length - 1] = { ...bar, events: [...bar.events.slice(0, -1), { ...last, heads }] };
}

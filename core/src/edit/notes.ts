/** Changes to notes. Each takes a tune and gives a new one; what is not touched stays the same object. */
import {
  LETTERS,
  barLength,
  isNote,
  midi,
  signatureAlter,
  spell,
  step,
  transposePitch,
  valueLength,
  writeDuration,
  type Alter,
  type Bar,
  type Head,
  type Key,
  type Letter,
  type Note,
  type NoteValue,
  type Pitch,
  type Rest,
  type Syllable,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { freshBarIds, freshIds, mapEvents, settle, spotOf, withEvents } from './settle.ts';

/** What is typed: a pitch or a rest, with its value. */
export interface Typed {
  readonly pitch: Pitch | null;
  readonly value: NoteValue;
  readonly triplet?: boolean;
}

export interface Inserted {
  readonly tune: Tune;
  /** The event that was made; the last one where a bar line cut it in two. */
  readonly id: string;
}

/** Lowest and highest pitch that any of the instruments writes, with room: C0 and C9. */
const LOWEST = 12;
const HIGHEST = 120;

const durationOf = ({ value, triplet }: Typed): Ticks => (valueLength(value) * (triplet ? 2 : 3)) / 3;

function eventOf(id: string, { pitch, value, triplet }: Typed, duration: Ticks, tied = false): TuneEvent {
  const base = { id, at: 0, duration, value, ...(triplet && { tuplet: { actual: 3, normal: 2 } }) };
  return pitch
    ? ({ kind: 'note', ...base, heads: [{ pitch, ...(tied && { tied }) }] } satisfies Note)
    : ({ kind: 'rest', ...base } satisfies Rest);
}

/**
 * A tune that holds nothing yet but a bar of rest.
 * @example isBlank(reel) // false
 */
export function isBlank(tune: Tune): boolean {
  return tune.bars.length === 1 && tune.bars[0]!.events.every(({ kind }) => kind === 'rest');
}

/**
 * Puts a note or rest after an event, or at the very start. At the end of the tune bar lines fall by
 * themselves: what the last bar has no room for goes on, tied, in a new one. Elsewhere the bar grows.
 *
 * @param after event that it follows; null for the start
 * @param newBar a bar line was asked for: the last bar takes no more
 * @example abc(insertNote(tuneOf('A2 B2'), 'n1', { pitch: pitch('C5'), value: { type: 'quarter', dots: 0 } }).tune) // 'A2 c2 B2 |'
 */
export function insertNote(tune: Tune, after: string | null, typed: Typed, newBar = false): Inserted {
  const id = freshIds(tune);
  if (isBlank(tune)) {
    const bar = { ...tune.bars[0]!, offset: 0 };
    const made = eventOf(id(), typed, durationOf(typed));
    return { tune: settle(tune, [withEvents(bar, [made])]), id: made.id };
  }
  const spot = after === null ? null : spotOf(tune, after);
  const last = tune.bars.length - 1;
  const atEnd = spot !== null && spot.bar === last && spot.index === tune.bars[last]!.events.length - 1;
  if (atEnd) return append(tune, typed, id, newBar);
  const made = eventOf(id(), typed, durationOf(typed));
  const at = spot ?? { bar: 0, index: -1 };
  const bars = tune.bars.map((bar, index) =>
    index === at.bar ? withEvents(bar, bar.events.toSpliced(at.index + 1, 0, made)) : bar,
  );
  return { tune: settle(tune, bars), id: made.id };
}

export interface Filled extends Inserted {
  /** The rest that is left behind the note, where writing goes on; null where none is. */
  readonly next: string | null;
}

/**
 * Writes over a rest: the note takes its own value out of it and of the rests behind it in the bar, so that the bar
 * stays as long as it was. A note longer than they are takes the value of the rest itself.
 *
 * @param id the rest
 * @example abc(fillRest(tuneOf('z4 A2'), 'n1', { pitch: pitch('D4'), value: { type: 'quarter', dots: 0 } }).tune) // 'D2 z2 A2 |'
 */
export function fillRest(tune: Tune, id: string, typed: Typed & { readonly pitch: Pitch }): Filled {
  const bar = tune.bars.find(({ events }) => events.some((event) => event.id === id));
  const from = bar?.events.findIndex((event) => event.id === id) ?? -1;
  if (!bar || from < 0) return { tune, id, next: null };
  const after = bar.events.findIndex((event, index) => index > from && (event.kind !== 'rest' || event.tuplet));
  const run = bar.events.slice(from, after < 0 ? undefined : after);
  const room = run.reduce((sum, { duration }) => sum + duration, 0);
  const rest = bar.events[from]!;
  const fresh = freshIds(tune);
  // Three of a triplet stand together.
  const own = typed.triplet ? 3 * durationOf(typed) : durationOf(typed);
  const whole = own > room || rest.tuplet !== undefined;
  const more = typed.triplet ? [1, 2].map(() => eventOf(fresh(), { ...typed, pitch: null }, durationOf(typed))) : [];
  const left = writeDuration(bar.offset + rest.at + own, room - own, bar.metre).map(({ value, duration }) =>
    eventOf(fresh(), { pitch: null, value }, duration),
  );
  const inRun = new Set(run.map((event) => event.id));
  const note = eventOf(id, typed, durationOf(typed));
  const filled = whole
    ? setPitch(tune, id, typed.pitch)
    : mapEvents(tune, (event) => {
        if (event.id !== id) return inRun.has(event.id) ? [] : event;
        const { chordSymbol, annotation } = event;
        const signs = { ...(chordSymbol && { chordSymbol }), ...(annotation && { annotation }) };
        return [{ ...note, ...signs, at: event.at }, ...more, ...left];
      });
  const events = filled.bars.find((other) => other.id === bar.id)?.events ?? [];
  const next = events[events.findIndex((event) => event.id === id) + 1];
  return { tune: filled, id, next: next?.kind === 'rest' ? next.id : null };
}

function append(tune: Tune, typed: Typed, id: () => string, newBar: boolean): Inserted {
  const bars = [...tune.bars];
  const barId = freshBarIds(tune);
  const last = bars.at(-1)!;
  const full = barLength(last.metre);
  const duration = durationOf(typed);
  const room = newBar ? 0 : Math.max(0, full - last.length);
  const open = (): Bar => {
    const ends = bars.at(-1)!;
    // The end of the tune moves on with its last bar.
    if (ends.barline === 'final') bars[bars.length - 1] = { ...ends, barline: 'single' };
    return {
      id: barId(),
      metre: last.metre,
      key: last.key,
      events: [],
      length: 0,
      offset: 0,
      barline: ends.barline === 'final' ? 'final' : 'single',
    };
  };
  if (duration <= room) {
    const made = eventOf(id(), typed, duration);
    bars[bars.length - 1] = withEvents(last, [...last.events, made]);
    return { tune: settle(tune, bars), id: made.id };
  }
  // A triplet is not cut; it stands whole in the next bar.
  const cut = typed.triplet ? 0 : room;
  const rest = duration - cut;
  const before = pieces(typed, last.length, cut, last, id, true);
  const next = open();
  const after = typed.triplet
    ? [eventOf(id(), typed, duration)]
    : pieces(typed, 0, Math.min(rest, full), next, id, false);
  if (before.length > 0) {
    const now = bars.at(-1)!;
    bars[bars.length - 1] = withEvents(now, [...now.events, ...before]);
  }
  bars.push(withEvents(next, after));
  return { tune: settle(tune, bars), id: after.at(-1)!.id };
}

/** A stretch in written values, tied together and, if `on`, to what follows. */
function pieces(
  typed: Typed,
  at: Ticks,
  duration: Ticks,
  bar: Bar,
  id: () => string,
  on: boolean,
): readonly TuneEvent[] {
  const written = writeDuration(at, duration, bar.metre);
  return written.map(({ value, duration: length }, index) =>
    eventOf(id(), { pitch: typed.pitch, value }, length, on || index < written.length - 1),
  );
}

/**
 * Takes events out; their bars get shorter, and bars with nothing left go. One bar of rest always stays.
 * @example abc(deleteEvents(tuneOf('A2 B2 c4'), new Set(['n2']))) // 'A2 c4 |'
 */
export function deleteEvents(tune: Tune, ids: ReadonlySet<string>): Tune {
  const left = mapEvents(tune, (event) => (ids.has(event.id) ? [] : event));
  if (left.bars.length > 0) return withoutLostTies(left);
  return { ...blankBars(tune, tune.bars[0]!), slurs: [] };
}

/**
 * One bar of rest in the metre and key of another bar.
 * @example blankBars(reel, reel.bars[0]).bars.length // 1
 */
export function blankBars(tune: Tune, like: Pick<Bar, 'metre' | 'key'>): Tune {
  const rests = writeDuration(0, barLength(like.metre), like.metre).map(({ value, duration }, index): Rest => ({
    kind: 'rest',
    id: `n${index + 1}`,
    at: 0,
    duration,
    value,
  }));
  const bar: Bar = { id: 'b1', metre: like.metre, key: like.key, events: [], length: 0, offset: 0, barline: 'final' };
  return { ...tune, bars: [withEvents(bar, rests)] };
}

/** Ties that led to a note that is gone, or changed, are taken off. */
function withoutLostTies(tune: Tune): Tune {
  const events = tune.bars.flatMap((bar) => bar.events);
  const next = new Map(events.map((event, index) => [event.id, events[index + 1]]));
  return mapEvents(tune, (event) => {
    if (event.kind === 'rest' || !event.heads.some(({ tied }) => tied)) return event;
    const to = next.get(event.id);
    const heads = event.heads.map((head): Head => {
      const leads = to?.kind === 'note' && to.heads.some(({ pitch }) => midi(pitch) === midi(head.pitch));
      return leads || !head.tied ? head : untied(head);
    });
    return { ...event, heads };
  });
}

const untied = ({ tied: _, ...head }: Head): Head => head;

/**
 * Gives notes another written value; a triplet stays a triplet.
 * @example abc(setValue(tuneOf('A2 B2'), new Set(['n2']), { type: 'half', dots: 0 })) // 'A2 B4 |'
 */
export function setValue(tune: Tune, ids: ReadonlySet<string>, value: NoteValue): Tune {
  return mapEvents(tune, (event) => {
    if (!ids.has(event.id)) return event;
    const scale = event.tuplet ? event.tuplet.normal / event.tuplet.actual : 1;
    return { ...event, value, duration: Math.round(valueLength(value) * scale) };
  });
}

/**
 * One dot more, after two none.
 * @example abc(cycleDots(tuneOf('A2 B2'), new Set(['n1']))) // 'A3 B2 |'
 */
export function cycleDots(tune: Tune, ids: ReadonlySet<string>): Tune {
  return mapEvents(tune, (event) => {
    if (!ids.has(event.id) || event.tuplet) return event;
    const value: NoteValue = {
      type: event.value.type,
      dots: event.value.dots === 0 ? 1 : event.value.dots === 1 ? 2 : 0,
    };
    return { ...event, value, duration: valueLength(value) };
  });
}

/**
 * Makes notes triplets, or plain again if all of them are.
 * @example abc(toggleTriplet(tuneOf('A2 B2 c2'), new Set(['n1', 'n2', 'n3']))) // '(3:2:3A2B2c2 |'
 */
export function toggleTriplet(tune: Tune, ids: ReadonlySet<string>): Tune {
  const chosen = tune.bars.flatMap(({ events }) => events).filter(({ id }) => ids.has(id));
  const make = !chosen.every(({ tuplet }) => tuplet);
  return mapEvents(tune, (event) => {
    if (!ids.has(event.id)) return event;
    const { tuplet: _, ...plain } = event;
    const length = valueLength(event.value);
    return make
      ? ({ ...plain, tuplet: { actual: 3, normal: 2 }, duration: (length * 2) / 3 } as TuneEvent)
      : ({ ...plain, duration: length } as TuneEvent);
  });
}

/**
 * Turns notes into rests and rests of the selection, given a pitch, into notes.
 * @example abc(makeRest(tuneOf('A2 B2'), new Set(['n1']))) // 'z2 B2 |'
 */
export function makeRest(tune: Tune, ids: ReadonlySet<string>): Tune {
  const changed = mapEvents(tune, (event) => {
    if (!ids.has(event.id) || event.kind === 'rest') return event;
    const { id, at, duration, value, tuplet, chordSymbol, annotation } = event;
    return {
      kind: 'rest',
      id,
      at,
      duration,
      value,
      ...(tuplet && { tuplet }),
      ...(chordSymbol && { chordSymbol }),
      ...(annotation && { annotation }),
    };
  });
  return withoutLostTies({
    ...changed,
    slurs: changed.slurs.filter(({ from, to }) => !ids.has(from) && !ids.has(to)),
  });
}

/**
 * Gives an event one pitch; fingers that the source brought for another pitch go.
 * @example abc(setPitch(tuneOf('A2 B2'), 'n1', pitch('C5'))) // 'c2 B2 |'
 */
export function setPitch(tune: Tune, id: string, pitch: Pitch): Tune {
  return withoutLostTies(
    mapEvents(tune, (event) => {
      if (event.id !== id) return event;
      if (event.kind === 'note') return { ...event, heads: [{ pitch }] };
      const { invisible: _, ...rest } = event;
      return { ...rest, kind: 'note', heads: [{ pitch }] };
    }),
  );
}

/**
 * Adds a note to a chord, or takes it out if it is there.
 * @example abc(toggleHead(tuneOf('A2 B2'), 'n1', pitch('E4'))) // '[EA]2 B2 |'
 */
export function toggleHead(tune: Tune, id: string, pitch: Pitch): Tune {
  return mapEvents(tune, (event) => {
    if (event.id !== id || event.kind === 'rest') return event;
    const without = event.heads.filter((head) => midi(head.pitch) !== midi(pitch));
    if (without.length < event.heads.length) return without.length > 0 ? { ...event, heads: without } : event;
    return { ...event, heads: [...event.heads, { pitch }].sort((a, b) => midi(a.pitch) - midi(b.pitch)) };
  });
}

export type PitchMove = 'step' | 'semitone' | 'octave';

/**
 * Moves notes up or down: along the scale, by semitones, or by octaves. Notes at the edge stay.
 * @example abc(movePitch(tuneOf('A2 B2'), new Set(['n1']), 'octave', 1)) // 'a2 B2 |'
 */
export function movePitch(tune: Tune, ids: ReadonlySet<string>, move: PitchMove, by: 1 | -1): Tune {
  return withoutLostTies(
    mapEvents(tune, (event, { key }) => {
      if (!ids.has(event.id) || event.kind === 'rest') return event;
      const moved = event.heads.map(({ pitch, tied }): Head => ({
        pitch: movedPitch(pitch, move, by, key),
        ...(tied && { tied }),
      }));
      const fits = moved.every(({ pitch }) => midi(pitch) >= LOWEST && midi(pitch) <= HIGHEST);
      return fits ? { ...event, heads: moved } : event;
    }),
  );
}

function movedPitch(pitch: Pitch, move: PitchMove, by: 1 | -1, key: Key): Pitch {
  if (move === 'octave') return { ...pitch, octave: pitch.octave + by };
  if (move === 'step') {
    const at = step(pitch) + by;
    const letter = LETTERS[((at % 7) + 7) % 7]!;
    return { letter, alter: signatureAlter(key, letter), octave: Math.floor(at / 7) };
  }
  const alter = pitch.alter + by;
  if (Math.abs(alter) <= 1) return { ...pitch, alter: alter as Alter };
  return spell(step(pitch) + by, midi(pitch) + by) ?? transposePitch(pitch, by, by);
}

/**
 * The pitch of a typed letter: in the key, in the octave nearest to the note before.
 * @example pitchName(pitchNear('C', pitch('B4'), reel.bars[0].key)) // 'C5'
 */
export function pitchNear(letter: Letter, near: Pitch | null, key: Key): Pitch {
  const alter = signatureAlter(key, letter);
  if (!near) return { letter, alter, octave: letter === 'A' || letter === 'B' || letter === 'G' ? 4 : 5 };
  const distance = LETTERS.indexOf(letter) - LETTERS.indexOf(near.letter);
  return { letter, alter, octave: near.octave + (distance > 3 ? -1 : distance < -3 ? 1 : 0) };
}

/**
 * Ties a note to the next one of the same pitch, or takes the tie off; a next note of another pitch is left alone.
 * @example abc(toggleTie(tuneOf('A2 A2'), 'n1')) // 'A2- A2 |'
 */
export function toggleTie(tune: Tune, id: string): Tune {
  const events = tune.bars.flatMap((bar) => bar.events);
  const index = events.findIndex((event) => event.id === id);
  const from = events[index];
  const to = events[index + 1];
  if (from?.kind !== 'note') return tune;
  const tied = from.heads.some((head) => head.tied);
  const matches = (head: Head) => to?.kind === 'note' && to.heads.some(({ pitch }) => midi(pitch) === midi(head.pitch));
  if (!tied && !from.heads.some(matches)) return tune;
  const heads = from.heads.map((head): Head => (tied || !matches(head) ? untied(head) : { ...head, tied: true }));
  return mapEvents(tune, (event) => (event.id === id ? { ...from, heads } : event));
}

/**
 * One slur over a run of notes; takes away what slurs begin or end inside. With one note, the next is taken in.
 * @example abc(toggleSlur(tuneOf('A2 B2 c4'), ['n1', 'n2'])) // '(A2 B2) c4 |'
 */
export function toggleSlur(tune: Tune, ids: readonly string[]): Tune {
  const notes = tune.bars.flatMap(({ events }) => events).filter(isNote);
  const places = ids.map((id) => notes.findIndex((note) => note.id === id)).filter((place) => place >= 0);
  if (places.length === 0) return tune;
  const from = Math.min(...places);
  const to = Math.max(Math.max(...places), Math.min(from + 1, notes.length - 1));
  const inside = new Set(notes.slice(from, to + 1).map(({ id }) => id));
  const exact = tune.slurs.some((slur) => slur.from === notes[from]!.id && slur.to === notes[to]!.id);
  const others = tune.slurs.filter((slur) => !inside.has(slur.from) && !inside.has(slur.to));
  return {
    ...tune,
    slurs: exact || from === to ? others : [...others, { from: notes[from]!.id, to: notes[to]!.id }],
  };
}

/**
 * Words under a note; an empty text takes them away.
 * @example setSyllable(reel, 'n1', 0, { text: 'sea' }).bars[0].events[0].words[0].text // 'sea'
 */
export function setSyllable(tune: Tune, id: string, verse: number, syllable: Syllable | null): Tune {
  return mapEvents(tune, (event) => {
    if (event.id !== id || event.kind === 'rest') return event;
    const words: (Syllable | null)[] = [...(event.words ?? [])];
    while (words.length <= verse) words.push(null);
    words[verse] = syllable && syllable.text !== '' ? syllable : null;
    const { words: _, ...without } = event;
    const last = words.findLastIndex((word) => word !== null);
    return last < 0 ? without : { ...event, words: words.slice(0, last + 1) };
  });
}

/**
 * A chord symbol over a note or rest; an empty text takes it away.
 * @example setChord(reel, 'n1', 'G').bars[0].events[0].chordSymbol // 'G'
 */
export function setChord(tune: Tune, id: string, symbol: string): Tune {
  return mapEvents(tune, (event) => {
    if (event.id !== id) return event;
    const { chordSymbol: _, ...without } = event;
    return symbol.trim() === '' ? without : { ...event, chordSymbol: symbol.trim() };
  });
}

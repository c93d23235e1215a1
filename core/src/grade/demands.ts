/**
 * What an arrangement asks of a player, measured once, note by note, field by field of a contract. Breaches are demands
 * beyond limits; what is new for somebody is what is asked and not known. Section 6 of the domain.
 */
import { dequal } from 'dequal';
import type { Bowing } from '../bow/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { levelOf, type Finger, type FingeredNote, type Fingering, type Stop } from '../hand/index.ts';
import { isRetuned, type Tuning } from '../instrument/index.ts';
import {
  TICKS_PER_QUARTER,
  barLength,
  beatLength,
  isCompound,
  isNote,
  isPickup,
  metricWeight,
  midi,
  playedOrder,
  seconds,
  soundingNotes,
  type Bar,
  type Bpm,
  type Note,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import type { Limits, Rule } from './contract.ts';

/** What is measured. */
export interface Weighed {
  readonly tune: Tune;
  readonly form: Form;
  readonly fingering: Fingering;
  readonly bowing: Bowing;
  readonly tempo: Bpm;
  readonly tuning: Tuning;
}

/** How a double stop is made: with an open string in it; of two fingers in one frame. */
export interface Doubling {
  readonly open: boolean;
  readonly simple: boolean;
}

/** What a demand's figure is, by the field of the contract that speaks of it. */
export interface Measures {
  /** Which different string this is. */
  readonly strings: number;
  readonly fingers: readonly Finger[];
  /** Place among the positions, from the lowest. */
  readonly maxPosition: number;
  /** Which change of the hand this is in its phrase. */
  readonly shifts: number;
  /** Semitones from the lowest to the highest note so far; without end for a note that the hand cannot reach. */
  readonly range: number;
  /** As it is written, in quarters. */
  readonly shortest: number;
  /** Sounds on the stroke. */
  readonly maxSlur: number;
  readonly doubleStops: Doubling;
  /** In the two seconds up to here, for each of them. */
  readonly crossingsPerSecond: number;
  readonly notesPerSecond: number;
  /** Which different note outside the signature this is in its phrase. */
  readonly accidentals: number;
  readonly signature: { readonly sharps: number; readonly flats: number };
  /** Which different finger pattern this is. */
  readonly patterns: number;
}
/** `true` where something is only there or not. */
type MeasureOf<Name extends Rule> = Name extends keyof Measures ? Measures[Name] : true;

/** Something that is asked, at a note; the first of the tune where it is about all of it. */
export type Demand = {
  readonly [Name in Rule]: { readonly rule: Name; readonly value: MeasureOf<Name>; readonly note: string };
}[Rule];

type Add = <Name extends Rule>(rule: Name, value: MeasureOf<Name>, note: string) => void;

/** Seconds over which notes and crossings are counted. */
const WINDOW = 2;
/** Lengths and rates are compared with this much room for what counting in fractions leaves. */
const CLOSE = 1e-9;

/**
 * All that is asked, in the order of the rules, and of the notes.
 * @param isAsked rules that are of interest; all where none are named
 * @example demandsOf(facts).some(({ rule }) => rule === 'strings') // true
 */
export function demandsOf(weighed: Weighed, isAsked: (rule: Rule) => boolean = () => true): readonly Demand[] {
  const found: Demand[] = [];
  const add = ((rule, value, note) => {
    if (isAsked(rule)) found.push({ rule, value, note } as Demand);
  }) as Add;
  askedOfHand(weighed, add);
  askedInRhythm(weighed, add, isAsked('syncopation'));
  askedOfBow(weighed, add);
  askedInChords(weighed, add);
  askedAtSpeed(weighed, add);
  askedByKey(weighed, add);
  return found;
}

/**
 * Whether a demand is beyond what limits allow.
 * @example exceeds({ rule: 'strings', value: 3, note: 'n1' }, contractFor('violin', 1).limits) // true
 */
export function exceeds(demand: Demand, limits: Limits): boolean {
  switch (demand.rule) {
    case 'fingers':
      return limits.fingers !== null && demand.value.some((finger) => !limits.fingers!.includes(finger));
    case 'maxPosition':
      return limits.maxPosition !== null && demand.value > levelOf(limits.maxPosition);
    case 'range':
      return demand.value === Infinity || isOver(demand.value, limits.range);
    case 'shortest':
      return limits.shortest !== null && demand.value < limits.shortest - CLOSE;
    case 'doubleStops':
      if (limits.doubleStops === 'any') return false;
      return limits.doubleStops === 'none' || !demand.value[limits.doubleStops];
    case 'signature': {
      const { signature } = limits;
      return signature !== null && (demand.value.sharps > signature.sharps || demand.value.flats > signature.flats);
    }
    case 'strings':
    case 'shifts':
    case 'maxSlur':
    case 'crossingsPerSecond':
    case 'notesPerSecond':
    case 'accidentals':
    case 'patterns':
      return isOver(demand.value, limits[demand.rule]);
    default:
      return !limits[demand.rule];
  }
}

const isOver = (value: number, most: number | null): boolean => most !== null && value > most + CLOSE;

/** What the left hand has to do. */
function askedOfHand({ fingering, form }: Weighed, add: Add): void {
  const { notes, problems } = fingering;
  countedUp(notes, ({ stops }) => stops.map(({ string }) => string)).forEach(([id, count]) =>
    add('strings', count, id),
  );
  for (const { id, stops } of notes) {
    if (stops.length > 0) add('fingers', [...new Set(stops.map(({ finger }) => finger))], id);
  }
  const where = (rule: 'low1' | 'low2' | 'high3' | 'low4', finger: Finger, sign: Stop['sign']): void => {
    for (const { id, stops } of notes)
      if (stops.some((stop) => stop.finger === finger && stop.sign === sign)) add(rule, true, id);
  };
  where('low1', 1, 'low');
  where('low2', 2, 'low');
  where('high3', 3, 'high');
  where('low4', 4, 'low');
  for (const { id, extension } of notes) if (extension) add('extension', true, id);
  for (const { id, position } of notes) if (position === 'half') add('halfPosition', true, id);
  for (const { id, position } of notes) if (position !== null) add('maxPosition', levelOf(position), id);
  for (const phrase of phrasesOf(form)) {
    const own = new Set(phrase.notes);
    notes
      .filter(({ of, shift }) => shift !== null && own.has(of))
      .forEach(({ id }, index) => add('shifts', index + 1, id));
  }
  for (const { kind, noteId } of problems) if (kind === 'out-of-reach') add('range', Infinity, noteId);
  askedOfRange(notes, add);
  patternsIn(notes).forEach(({ begins }, index) => add('patterns', index + 1, begins));
  notes.forEach((note, index) => {
    if (index > 0 && skipsTo(notes[index - 1]!, note)) add('skips', true, note.id);
  });
}

/** A finger pattern: where the fingers lie above the first one's place, in semitones. */
export interface FingerPattern {
  /** The note with which it comes in. */
  readonly begins: string;
  readonly notes: readonly string[];
  /** By finger, as far as it is used. */
  readonly places: ReadonlyMap<Finger, number>;
}

/**
 * The finger patterns, in the order in which they come in, on whatever string. A note goes on with its string's pattern as
 * long as its finger has no other place there, else with any known one.
 */
export function patternsIn(notes: readonly FingeredNote[]): readonly FingerPattern[] {
  interface Open {
    readonly begins: string;
    readonly notes: string[];
    readonly places: Map<Finger, number>;
  }
  const known: Open[] = [];
  const onString = new Map<number, Open>();
  for (const note of notes) {
    for (const { finger, string, semitones } of note.stops) {
      if (finger === 0 || note.base === null) continue;
      const place = semitones - note.base;
      const fits = ({ places }: Open) => (places.get(finger) ?? place) === place;
      const current = onString.get(string);
      let pattern = current && fits(current) ? current : known.find(fits);
      if (!pattern) {
        pattern = { begins: note.id, notes: [], places: new Map() };
        known.push(pattern);
      }
      pattern.places.set(finger, place);
      pattern.notes.push(note.id);
      onString.set(string, pattern);
    }
  }
  return known;
}

/** Notes that bring in something new, with how many there are by then. */
function countedUp(
  notes: readonly FingeredNote[],
  values: (note: FingeredNote) => readonly number[],
): readonly (readonly [string, number])[] {
  const known = new Set<number>();
  return notes.flatMap((note) => {
    const before = known.size;
    values(note).forEach((value) => known.add(value));
    return known.size > before ? [[note.id, known.size] as const] : [];
  });
}

/** Notes that stretch the range. */
function askedOfRange(notes: readonly FingeredNote[], add: Add): void {
  let [low, high] = [Infinity, -Infinity];
  for (const { id, pitches } of notes) {
    const before = high - low;
    for (const pitch of pitches) [low, high] = [Math.min(low, midi(pitch)), Math.max(high, midi(pitch))];
    if (high - low > before) add('range', high - low, id);
  }
}

/** A string is jumped over, with no rest between. */
function skipsTo(before: FingeredNote, note: FingeredNote): boolean {
  if (before.onset + before.duration < note.onset || before.stops.length === 0) return false;
  const near = Math.min(
    ...before.stops.flatMap(({ string }) => note.stops.map((stop) => Math.abs(stop.string - string))),
  );
  return Number.isFinite(near) && near > 1;
}

/** What is written: lengths, rests, ties, where notes begin. */
function askedInRhythm({ tune }: Weighed, add: Add, syncopated: boolean): void {
  for (const bar of tune.bars) {
    for (const event of bar.events) {
      if (!isNote(event)) {
        add('rests', true, event.id);
        continue;
      }
      const { quarters, triplet, dotted } = writtenAs(event, bar);
      add('shortest', quarters, event.id);
      if (triplet) add('triplets', true, event.id);
      if (dotted) add('dotted', true, event.id);
      if (event.heads.some(({ tied }) => tied)) add('ties', true, event.id);
      if (event.graces) add('graces', true, event.id);
      if (event.decorations?.includes('slide')) add('slides', true, event.id);
    }
  }
  if (syncopated) {
    for (const sound of soundingNotes(tune)) if (isSyncopated(tune, sound)) add('syncopation', true, sound.note.id);
  }
  const opening = tune.bars[0]?.events.filter(isNote) ?? [];
  if (isPickup(tune.bars, 0)) for (const { id } of opening) add('pickup', true, id);
}

type Written = Pick<Note, 'duration' | 'tuplet'>;
type InMetre = Pick<Bar, 'metre'>;

function writtenAs({ duration, tuplet }: Written, bar: InMetre) {
  const written = tuplet ? (duration * tuplet.actual) / tuplet.normal : duration;
  return {
    quarters: written / TICKS_PER_QUARTER,
    triplet: tuplet !== undefined,
    dotted: !tuplet && isDotted(duration, bar),
  };
}

/**
 * Rules that a length breaks as it is written.
 * @example writtenBreaks({ duration: 1680 }, reel.bars[0], contractFor('violin', 1).limits) // ['shortest']
 */
export function writtenBreaks(
  note: Written,
  bar: InMetre,
  limits: Pick<Limits, 'shortest' | 'triplets' | 'dotted'>,
): readonly Rule[] {
  const { quarters, triplet, dotted } = writtenAs(note, bar);
  const found: Rule[] = [];
  if (limits.shortest !== null && quarters < limits.shortest - CLOSE) found.push('shortest');
  if (!limits.triplets && triplet) found.push('triplets');
  if (!limits.dotted && dotted) found.push('dotted');
  return found;
}

/** Neither whole beats nor a plain division of one; in beats of three, thirds are plain. */
function isDotted(duration: Ticks, { metre }: InMetre): boolean {
  const beat = beatLength(metre);
  if (duration % beat === 0 || beat % duration === 0) return false;
  return !(isCompound(metre) && duration % (beat / 3) === 0);
}

/** A note begins on a weaker place than one that it sounds across. */
const isSyncopated = ({ bars }: Tune, { note, barIndex, duration }: SoundingNote): boolean =>
  soundsAcross(bars[barIndex]!, bars[barIndex]!.offset + note.at, duration, note.tuplet !== undefined);

/**
 * Whether a note that begins at a place of the bar sounds across a stronger one. A tuplet has its own division: only beats count.
 * @param at from the nominal bar line
 */
export function soundsAcross(bar: InMetre, at: Ticks, duration: Ticks, inTuplet = false): boolean {
  const beat = beatLength(bar.metre);
  const part = inTuplet ? beat : isCompound(bar.metre) ? beat / 3 : beat / 2;
  const length = barLength(bar.metre);
  const own = metricWeight(at % length, bar.metre);
  for (let place = (Math.floor(at / part) + 1) * part; place < at + duration; place += part) {
    if (metricWeight(place % length, bar.metre) > own) return true;
  }
  return false;
}

/** What the bow has to do, the first time round. */
function askedOfBow({ bowing, tune }: Weighed, add: Add): void {
  const firsts = new Set(soundingNotes(tune).map(({ note }) => note.id));
  for (const { notes, hook, retake, time } of bowing.strokes) {
    if (time !== 1) continue;
    const note = notes[0]!;
    add('maxSlur', notes.filter((id) => firsts.has(id)).length, note);
    if (hook) add('hooks', true, note);
    if (retake) add('retakes', true, note);
  }
}

function askedInChords({ fingering, tune }: Weighed, add: Add): void {
  const chords = new Set(
    tune.bars.flatMap(({ events }) => events.filter(isNote)).flatMap(({ id, heads }) => (heads.length > 1 ? [id] : [])),
  );
  const doubled = fingering.notes.filter(({ id }) => chords.has(id));
  for (const { id, stops, extension } of doubled) {
    const open = stops.some(({ finger }) => finger === 0);
    add('doubleStops', { open, simple: stops.length === 2 && !extension }, id);
  }
  // An open string that sounds on under another note is a drone.
  const opens = ({ stops }: FingeredNote) => stops.filter(({ finger }) => finger === 0).map(({ string }) => string);
  doubled.forEach((note, index) => {
    const before = doubled[index - 1];
    if (before !== undefined && opens(note).some((string) => opens(before).includes(string)))
      add('drones', true, note.id);
  });
}

/** Notes and crossings in any two seconds, as it is played. */
function askedAtSpeed({ tune, fingering, tempo }: Weighed, add: Add): void {
  const strings = new Map(fingering.notes.map(({ id, stops }) => [id, stops.at(-1)?.string]));
  const byBar = new Map<number, { note: Note; at: Ticks }[]>();
  for (const { note, barIndex } of soundingNotes(tune)) {
    const own = byBar.get(barIndex);
    if (own) own.push({ note, at: note.at });
    else byBar.set(barIndex, [{ note, at: note.at }]);
  }
  let begin: Ticks = 0;
  const events: { readonly id: string; readonly at: number; readonly crosses: boolean }[] = [];
  let last: number | undefined;
  for (const { index } of playedOrder(tune.bars)) {
    for (const { note, at } of byBar.get(index) ?? []) {
      const string = strings.get(note.id);
      events.push({ id: note.id, at: seconds(begin + at, tempo), crosses: last !== undefined && string !== last });
      last = string;
    }
    begin += tune.bars[index]!.length;
  }
  askedRate(events, 'notesPerSecond', add);
  askedRate(
    events.filter(({ crosses }) => crosses),
    'crossingsPerSecond',
    add,
  );
}

/** With each event, how many fall into the two seconds up to it. */
function askedRate(
  events: readonly { readonly id: string; readonly at: number }[],
  rule: 'notesPerSecond' | 'crossingsPerSecond',
  add: Add,
): void {
  let first = 0;
  events.forEach(({ id, at }, index) => {
    while (events[first]!.at < at - WINDOW + CLOSE) first += 1;
    add(rule, (index - first) / WINDOW, id);
  });
}

function askedByKey({ tune, form, tuning, fingering }: Weighed, add: Add): void {
  tune.bars.forEach((bar, index) => {
    const before = tune.bars[index - 1]?.key.signature;
    const note = bar.events[0]?.id;
    if (!note || (before !== undefined && dequal(before, bar.key.signature))) return;
    const alters = Object.values(bar.key.signature);
    const sharps = alters.filter((alter) => alter > 0).length;
    const flats = alters.filter((alter) => alter < 0).length;
    add('signature', { sharps, flats }, note);
  });
  askedOutside(tune, form, add);
  const note = fingering.notes[0]?.id;
  if (note && isRetuned(fingering.instrument, tuning)) add('retuned', true, note);
}

/** Different notes outside the signature, phrase by phrase. */
function askedOutside({ bars }: Tune, form: Form, add: Add): void {
  const phraseOf = new Map(phrasesOf(form).flatMap(({ id, notes }) => notes.map((note) => [note, id] as const)));
  const known = new Map<string, Set<string>>();
  for (const { events, key } of bars) {
    for (const { id, heads } of events.filter(isNote)) {
      const phrase = phraseOf.get(id) ?? '';
      const own = known.get(phrase) ?? new Set<string>();
      known.set(phrase, own);
      const before = own.size;
      for (const { pitch } of heads) {
        if (pitch.alter !== (key.signature[pitch.letter] ?? 0)) own.add(`${pitch.letter}${pitch.alter}`);
      }
      if (own.size > before) add('accidentals', own.size, id);
    }
  }
}

/**
 * Every place where a tune, as it is fingered and bowed, asks more than a contract allows. Section 6 of the domain.
 */
import { dequal } from 'dequal';
import type { Bowing } from '../bow/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { POSITIONS, levelOf, type FingeredNote, type Fingering, type Stop } from '../hand/index.ts';
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

export interface Breach {
  readonly rule: Rule;
  /** Written note, grace or rest; the first of the tune where it is about all of it. */
  readonly note: string;
}

/** What is held against a contract. */
export interface Weighed {
  readonly tune: Tune;
  readonly form: Form;
  readonly fingering: Fingering;
  readonly bowing: Bowing;
  readonly tempo: Bpm;
  readonly tuning: Tuning;
}

/** Seconds over which notes and crossings are counted. */
const WINDOW = 2;

/**
 * In the order of the rules, and of the notes.
 * @example breachesOf(facts, contractFor('violin', 6).limits) // []
 */
export function breachesOf(weighed: Weighed, limits: Limits): readonly Breach[] {
  return [
    ...handBreaches(weighed, limits),
    ...rhythmBreaches(weighed, limits),
    ...bowBreaches(weighed, limits),
    ...chordBreaches(weighed, limits),
    ...speedBreaches(weighed, limits),
    ...keyBreaches(weighed, limits),
  ];
}

/**
 * Rules that are broken, each once.
 * @example brokenRules([{ rule: 'ties', note: 'n1' }, { rule: 'ties', note: 'n2' }]) // ['ties']
 */
export const brokenRules = (breaches: readonly Breach[]): readonly Rule[] => [
  ...new Set(breaches.map(({ rule }) => rule)),
];

const each = (rule: Rule, notes: readonly { readonly id: string }[]): readonly Breach[] =>
  notes.map(({ id }) => ({ rule, note: id }));

/** What the left hand has to do. */
function handBreaches({ fingering, form }: Weighed, limits: Limits): readonly Breach[] {
  const { notes, problems } = fingering;
  const found: Breach[] = [];
  const where = (rule: Rule, is: (stop: Stop, note: FingeredNote) => boolean): void => {
    found.push(
      ...each(
        rule,
        notes.filter((note) => note.stops.some((stop) => is(stop, note))),
      ),
    );
  };
  const without = (allowed: boolean, rule: Rule, finger: number, sign: Stop['sign']): void => {
    if (!allowed) where(rule, (stop) => stop.finger === finger && stop.sign === sign);
  };
  const { fingers, maxPosition } = limits;
  found.push(...pastFirst(limits.strings, 'strings', notes, ({ stops }) => stops.map(({ string }) => string)));
  if (fingers) where('fingers', ({ finger }) => !fingers.includes(finger));
  without(limits.low1, 'low1', 1, 'low');
  without(limits.low2, 'low2', 2, 'low');
  without(limits.high3, 'high3', 3, 'high');
  without(limits.low4, 'low4', 4, 'low');
  if (!limits.extension)
    found.push(
      ...each(
        'extension',
        notes.filter(({ extension }) => extension),
      ),
    );
  if (!limits.halfPosition)
    found.push(
      ...each(
        'halfPosition',
        notes.filter(({ position }) => position === 'half'),
      ),
    );
  if (maxPosition) {
    const most = POSITIONS.indexOf(maxPosition);
    found.push(
      ...each(
        'maxPosition',
        notes.filter(({ position }) => position !== null && levelOf(position) > most),
      ),
    );
  }
  if (limits.shifts !== null) {
    for (const phrase of phrasesOf(form)) {
      const own = new Set(phrase.notes);
      const moved = notes.filter(({ of, shift }) => shift !== null && own.has(of));
      found.push(...each('shifts', moved.slice(limits.shifts)));
    }
  }
  found.push(
    ...each(
      'range',
      problems.filter(({ kind }) => kind === 'out-of-reach').map(({ noteId }) => ({ id: noteId })),
    ),
  );
  found.push(...tooWide(notes, limits.range));
  if (limits.patterns !== null) {
    found.push(...each('patterns', newPatterns(notes).slice(limits.patterns)));
  }
  if (!limits.skips) {
    found.push(
      ...each(
        'skips',
        notes.filter((note, index) => index > 0 && skipsTo(notes[index - 1]!, note)),
      ),
    );
  }
  return found;
}

/**
 * Notes with which a finger pattern comes in: where the fingers lie above the first one's place, on whatever string. A
 * note goes on with its string's pattern as long as its finger has no other place there, else with any known one.
 */
function newPatterns(notes: readonly FingeredNote[]): readonly FingeredNote[] {
  const known: Map<number, number>[] = [];
  const onString = new Map<number, Map<number, number>>();
  const begun: FingeredNote[] = [];
  for (const note of notes) {
    for (const { finger, string, semitones } of note.stops) {
      if (finger === 0 || note.base === null) continue;
      const place = semitones - note.base;
      const fits = (pattern: Map<number, number>) => (pattern.get(finger) ?? place) === place;
      const current = onString.get(string);
      let pattern = current && fits(current) ? current : known.find(fits);
      if (!pattern) {
        pattern = new Map<number, number>();
        known.push(pattern);
        begun.push(note);
      }
      pattern.set(finger, place);
      onString.set(string, pattern);
    }
  }
  return begun;
}

/** Notes that bring in one more of something than there may be. */
function pastFirst(
  most: number | null,
  rule: Rule,
  notes: readonly FingeredNote[],
  values: (note: FingeredNote) => readonly number[],
): readonly Breach[] {
  if (most === null) return [];
  const known = new Set<number>();
  return notes.flatMap((note) => {
    const before = known.size;
    values(note).forEach((value) => known.add(value));
    return known.size > most && known.size > before ? [{ rule, note: note.id }] : [];
  });
}

/** Notes that stretch the range further than it may be. */
function tooWide(notes: readonly FingeredNote[], most: number | null): readonly Breach[] {
  if (most === null) return [];
  let [low, high] = [Infinity, -Infinity];
  return notes.flatMap(({ id, pitches }) => {
    const before = high - low;
    for (const pitch of pitches) [low, high] = [Math.min(low, midi(pitch)), Math.max(high, midi(pitch))];
    return high - low > most && high - low > before ? [{ rule: 'range' as const, note: id }] : [];
  });
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
function rhythmBreaches({ tune }: Weighed, limits: Limits): readonly Breach[] {
  const found: Breach[] = [];
  for (const bar of tune.bars) {
    for (const event of bar.events) {
      const add = (rule: Rule) => found.push({ rule, note: event.id });
      if (!isNote(event)) {
        if (!limits.rests) add('rests');
        continue;
      }
      for (const rule of writtenBreaks(event, bar, limits)) add(rule);
      if (!limits.ties && event.heads.some(({ tied }) => tied)) add('ties');
      if (!limits.graces && event.graces) add('graces');
      if (!limits.slides && event.decorations?.includes('slide')) add('slides');
    }
  }
  if (!limits.syncopation) {
    found.push(
      ...each(
        'syncopation',
        soundingNotes(tune)
          .filter((sound) => isSyncopated(tune, sound))
          .map(({ note }) => note),
      ),
    );
  }
  const opening = tune.bars[0]?.events.filter(isNote) ?? [];
  if (!limits.pickup && isPickup(tune.bars, 0)) found.push(...each('pickup', opening));
  return found;
}

/** Rules that a length breaks as it is written. */
export function writtenBreaks(
  { duration, tuplet }: Pick<Note, 'duration' | 'tuplet'>,
  bar: Pick<Bar, 'metre'>,
  limits: Pick<Limits, 'shortest' | 'triplets' | 'dotted'>,
): readonly Rule[] {
  const written = tuplet ? (duration * tuplet.actual) / tuplet.normal : duration;
  const found: Rule[] = [];
  if (limits.shortest !== null && written / TICKS_PER_QUARTER < limits.shortest - 1e-9) found.push('shortest');
  if (!limits.triplets && tuplet) found.push('triplets');
  if (!limits.dotted && !tuplet && isDotted(duration, bar)) found.push('dotted');
  return found;
}

/** Neither whole beats nor a plain division of one; in beats of three, thirds are plain. */
function isDotted(duration: Ticks, { metre }: Pick<Bar, 'metre'>): boolean {
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
export function soundsAcross(bar: Pick<Bar, 'metre'>, at: Ticks, duration: Ticks, inTuplet = false): boolean {
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
function bowBreaches({ bowing, tune }: Weighed, limits: Limits): readonly Breach[] {
  const firsts = new Set(soundingNotes(tune).map(({ note }) => note.id));
  return bowing.strokes
    .filter(({ time }) => time === 1)
    .flatMap(({ notes, hook, retake }): Breach[] => {
      const [note] = notes as [string];
      const sounds = notes.filter((id) => firsts.has(id)).length;
      return [
        ...(limits.maxSlur !== null && sounds > limits.maxSlur ? [{ rule: 'maxSlur' as const, note }] : []),
        ...(hook && !limits.hooks ? [{ rule: 'hooks' as const, note }] : []),
        ...(retake && !limits.retakes ? [{ rule: 'retakes' as const, note }] : []),
      ];
    });
}

function chordBreaches({ fingering, tune }: Weighed, limits: Limits): readonly Breach[] {
  const chords = new Set(
    tune.bars.flatMap(({ events }) => events.filter(isNote)).flatMap(({ id, heads }) => (heads.length > 1 ? [id] : [])),
  );
  const doubled = fingering.notes.filter(({ id }) => chords.has(id));
  const isOpen = ({ stops }: FingeredNote) => stops.some(({ finger }) => finger === 0);
  const found: Breach[] = [];
  if (limits.doubleStops === 'none') found.push(...each('doubleStops', doubled));
  if (limits.doubleStops === 'open')
    found.push(
      ...each(
        'doubleStops',
        doubled.filter((note) => !isOpen(note)),
      ),
    );
  if (limits.doubleStops === 'simple') {
    found.push(
      ...each(
        'doubleStops',
        doubled.filter(({ stops, extension }) => stops.length !== 2 || extension),
      ),
    );
  }
  if (!limits.drones) {
    // An open string that sounds on under another note is a drone.
    const opens = ({ stops }: FingeredNote) => stops.filter(({ finger }) => finger === 0).map(({ string }) => string);
    found.push(
      ...each(
        'drones',
        doubled.filter((note, index) => {
          const before = doubled[index - 1];
          return before !== undefined && opens(note).some((string) => opens(before).includes(string));
        }),
      ),
    );
  }
  return found;
}

/** Notes and crossings in any two seconds, as it is played. */
function speedBreaches({ tune, fingering, tempo }: Weighed, limits: Limits): readonly Breach[] {
  const strings = new Map(fingering.notes.map(({ id, stops }) => [id, stops.at(-1)?.string]));
  const byBar = new Map<number, { note: Note; at: Ticks }[]>();
  for (const { note, barIndex } of soundingNotes(tune)) {
    const own = byBar.get(barIndex) ?? [];
    byBar.set(barIndex, [...own, { note, at: note.at }]);
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
  const crossings = events.filter(({ crosses }) => crosses);
  return [
    ...tooMany(events, limits.notesPerSecond, 'notesPerSecond'),
    ...tooMany(crossings, limits.crossingsPerSecond, 'crossingsPerSecond'),
  ];
}

/** Events with which more fall into two seconds than may be; each place once. */
function tooMany(
  events: readonly { readonly id: string; readonly at: number }[],
  most: number | null,
  rule: Rule,
): readonly Breach[] {
  if (most === null) return [];
  const told = new Set<string>();
  let first = 0;
  events.forEach(({ id, at }, index) => {
    while (events[first]!.at < at - WINDOW + 1e-9) first += 1;
    if ((index - first) / WINDOW > most + 1e-9) told.add(id);
  });
  return [...told].map((note) => ({ rule, note }));
}

function keyBreaches({ tune, form, tuning, fingering }: Weighed, limits: Limits): readonly Breach[] {
  const found: Breach[] = [];
  const first = (bar: Bar) => bar.events[0]?.id;
  tune.bars.forEach((bar, index) => {
    const alters = Object.values(bar.key.signature);
    const sharps = alters.filter((alter) => alter > 0).length;
    const flats = alters.filter((alter) => alter < 0).length;
    const before = tune.bars[index - 1]?.key.signature;
    const changed = before === undefined || !dequal(before, bar.key.signature);
    const { signature } = limits;
    const note = first(bar);
    if (changed && note && signature && (sharps > signature.sharps || flats > signature.flats)) {
      found.push({ rule: 'signature', note });
    }
  });
  if (limits.accidentals !== null) found.push(...strangers(tune, form, limits.accidentals));
  const note = fingering.notes[0]?.id;
  if (!limits.retuned && note && isRetuned(fingering.instrument, tuning)) {
    found.push({ rule: 'retuned', note });
  }
  return found;
}

/** Notes outside the signature that are more different ones in a phrase than there may be. */
function strangers({ bars }: Tune, form: Form, most: number): readonly Breach[] {
  const phraseOf = new Map(phrasesOf(form).flatMap(({ id, notes }) => notes.map((note) => [note, id] as const)));
  const known = new Map<string, Set<string>>();
  return bars.flatMap(({ events, key }) =>
    events.filter(isNote).flatMap(({ id, heads }): Breach[] => {
      const phrase = phraseOf.get(id) ?? '';
      const own = known.get(phrase) ?? new Set<string>();
      known.set(phrase, own);
      const before = own.size;
      for (const { pitch } of heads) {
        if (pitch.alter !== (key.signature[pitch.letter] ?? 0)) own.add(`${pitch.letter}${pitch.alter}`);
      }
      return own.size > most && own.size > before ? [{ rule: 'accidentals', note: id }] : [];
    }),
  );
}

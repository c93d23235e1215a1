/**
 * The tune as brought in, for no instrument in particular: plain, readonly data.
 * Pitches sound as written here; a writer for bass puts them an octave up.
 */
import { barLength, type Metre, type NoteValue, type Tempo, type Ticks } from './time.ts';
import type { Key } from './key.ts';
import type { Pitch } from './pitch.ts';

/** Stable across edits; unique within a tune. */
export type EventId = string;

/** Where something stood in the text it was read from; both count from 1. */
export interface Place {
  readonly line: number;
  readonly column: number;
}

export interface Syllable {
  readonly text: string;
  /** The word goes on in the next syllable. */
  readonly hyphen?: boolean;
  /** The syllable is held over the next note. */
  readonly extend?: boolean;
}

/** One pitch of a note or chord. */
export interface Head {
  readonly pitch: Pitch;
  /** Tied to the same pitch of the next event. */
  readonly tied?: boolean;
  /** Finger brought along by the source, `0` to `4` or `T`. */
  readonly finger?: string;
  /** Other fingers that the source offers for the same note. */
  readonly otherFingers?: readonly string[];
  /** String brought along by the source, 1 is the highest. */
  readonly string?: number;
}

export interface Grace {
  readonly id: EventId;
  readonly pitch: Pitch;
  /** Struck through: as short as it can be. */
  readonly slash?: boolean;
  /** Finger and string brought along by the source, as of a head. */
  readonly finger?: string;
  readonly string?: number;
}

export interface Tuplet {
  /** So many notes … */
  readonly actual: number;
  /** … in the time of so many. */
  readonly normal: number;
  readonly edge?: 'start' | 'stop';
}

interface EventBase {
  readonly id: EventId;
  /** From the start of its bar. */
  readonly at: Ticks;
  /** Real length, tuplet already counted. */
  readonly duration: Ticks;
  readonly value: NoteValue;
  readonly tuplet?: Tuplet;
  readonly chordSymbol?: string;
  readonly annotation?: string;
  readonly source?: Place;
}

export interface Rest extends EventBase {
  readonly kind: 'rest';
  readonly invisible?: boolean;
}

export type BowMark = 'down' | 'up';
export type Dynamic = 'pppp' | 'ppp' | 'pp' | 'p' | 'mp' | 'mf' | 'f' | 'ff' | 'fff' | 'ffff' | 'sfz';

export const ORNAMENTS = ['trill', 'turn', 'mordent', 'inverted-mordent', 'roll', 'slide'] as const;
export const ARTICULATIONS = [
  'staccato',
  'tenuto',
  'accent',
  'marcato',
  'fermata',
  'breath',
  'harmonic',
  'pizzicato',
  'snap-pizzicato',
] as const;
export type Decoration = (typeof ORNAMENTS)[number] | (typeof ARTICULATIONS)[number];

export interface Note extends EventBase {
  readonly kind: 'note';
  /** Low to high; more than one is a chord or double stop. */
  readonly heads: readonly Head[];
  readonly graces?: readonly Grace[];
  readonly bow?: BowMark;
  readonly decorations?: readonly Decoration[];
  readonly dynamic?: Dynamic;
  /** One entry a verse; null where the verse has nothing here. */
  readonly words?: readonly (Syllable | null)[];
  /** First note after this one starts a new line in the source: a hint for phrases. */
  readonly lineEnd?: boolean;
}

export type TuneEvent = Note | Rest;

export type Barline = 'single' | 'double' | 'final' | 'invisible';

export interface Jump {
  readonly back: 'start' | 'segno';
  readonly until: 'end' | 'fine' | 'coda';
}

export interface Bar {
  readonly id: string;
  readonly metre: Metre;
  readonly key: Key;
  readonly events: readonly TuneEvent[];
  /** Real length; shorter than the metre's for pickups and bars split by a repeat. */
  readonly length: Ticks;
  /** A pickup stands at the end of its bar: offset of its first event from the nominal bar line. */
  readonly offset: Ticks;
  readonly repeatStart?: boolean;
  /** Plays of the repeated section that ends here, mostly 2. */
  readonly repeatEnd?: number;
  /** Numbered endings that begin here. */
  readonly endings?: readonly number[];
  /** An ending bracket closes after this bar. */
  readonly endingStop?: boolean;
  readonly barline: Barline;
  /** Part label standing at the start of the bar. */
  readonly label?: string;
  readonly segno?: boolean;
  /** The coda starts here. */
  readonly coda?: boolean;
  readonly toCoda?: boolean;
  readonly fine?: boolean;
  readonly jump?: Jump;
  /** A tempo that begins here, inside the tune. */
  readonly tempo?: Tempo;
}

export interface Slur {
  readonly from: EventId;
  readonly to: EventId;
}

/** A place that survives edits: a note, or, should that note go, its old place in its bar. */
export interface Anchor {
  readonly note: EventId;
  readonly bar: string;
  /** From the start of that bar. */
  readonly at: Ticks;
}

/** A phrase that the teacher set or agreed with: it stays as it is, whatever the analysis would do. */
export interface HeldPhrase {
  readonly from: Anchor;
  /** Where the next phrase begins; null at the end of the tune. */
  readonly to: Anchor | null;
  /** The teacher's own name for it. */
  readonly name?: string;
}

/** Whether a part begins here, as the teacher says. */
export interface PartMark {
  readonly at: Anchor;
  readonly starts: boolean;
  readonly label?: string;
}

/** What was decided about parts and phrases. */
export interface Parting {
  readonly held: readonly HeldPhrase[];
  readonly parts: readonly PartMark[];
  /** First notes of phrases in the order in which they will be taught; empty for the order that is computed. */
  readonly order: readonly EventId[];
}

export const NO_PARTING: Parting = { held: [], parts: [], order: [] };

export interface Tune {
  readonly title: string;
  readonly alsoKnownAs: readonly string[];
  readonly composer: string;
  readonly origin: string;
  /** The kind of dance or song: reel, jig, air. */
  readonly style: string;
  readonly notes: readonly string[];
  readonly tempo: Tempo | null;
  readonly bars: readonly Bar[];
  readonly slurs: readonly Slur[];
  /** Left out where everything is as the analysis has it. */
  readonly parting?: Parting | null;
  /** It was written in a bass clef that sounds as it is written; who reads an octave lower plays it there. */
  readonly clef?: 'bass';
}

/** @example isNote(reel.bars[0].events[0]) // true */
export const isNote = (event: TuneEvent): event is Note => event.kind === 'note';

/**
 * Start of each bar in written ticks, one more than there are bars: the last is the end of the tune.
 * @example barStarts(tuneOf('B8 | c8 |').bars) // [0, 13440, 26880]
 */
export function barStarts(bars: readonly Bar[]): readonly Ticks[] {
  const starts = [0];
  for (const bar of bars) starts.push(starts.at(-1)! + bar.length);
  return starts;
}

/**
 * Index of the bar that holds a moment; the first or the last bar for a moment outside of the tune.
 * @param starts as `barStarts` gives them
 * @example barIndexAt(barStarts(tuneOf('B8 | c8 |').bars), 13440) // 1
 */
export function barIndexAt(starts: readonly Ticks[], at: Ticks): number {
  let low = 0;
  let high = starts.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (starts[middle]! <= at) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * Number of bars as people count them: a pickup at the start is bar 0. Index by bar.
 * @example barNumbers(tuneOf('A2 | B8 | c8 |').bars) // [0, 1, 2]
 */
export function barNumbers(bars: readonly Bar[]): readonly number[] {
  let number = bars[0] && isPickup(bars, 0) ? -1 : 0;
  let missing = 0;
  return bars.map((bar) => {
    // The two halves of a bar that a repeat sign splits share its number.
    const completes = missing > 0 && bar.length <= missing;
    if (!completes) number += 1;
    missing = completes ? missing - bar.length : Math.max(0, barLength(bar.metre) - bar.length);
    if (number === 0) missing = 0;
    return number;
  });
}

/**
 * Short first bars and short bars right after a repeat or a double bar lead into what follows.
 * @example isPickup(tuneOf('A2 | B8 |').bars, 0) // true
 */
export function isPickup(bars: readonly Bar[], index: number): boolean {
  const bar = bars[index]!;
  if (bar.length >= barLength(bar.metre) || index === bars.length - 1) return false;
  const before = bars[index - 1];
  return (
    !before ||
    Boolean(bar.repeatStart ?? false) ||
    Boolean(before.repeatEnd) ||
    before.barline === 'double' ||
    bar.label !== undefined
  );
}

/** A note in written order with its absolute place. */
export interface PlacedNote {
  readonly note: Note;
  readonly barIndex: number;
  /** From the start of the tune, in written order. */
  readonly onset: Ticks;
}

/**
 * All notes in written order.
 * @example placedNotes(reel)[1].onset // 3360
 */
export function placedNotes(tune: Pick<Tune, 'bars'>): readonly PlacedNote[] {
  const starts = barStarts(tune.bars);
  return tune.bars.flatMap((bar, barIndex) =>
    bar.events.filter(isNote).map((note) => ({ note, barIndex, onset: starts[barIndex]! + note.at })),
  );
}

/**
 * The tune with each note replaced by what `change` makes of it.
 * @example mapNotes(reel, (note) => ({ ...note, bow: 'up' })).bars[0].events[0].bow // 'up'
 */
export function mapNotes(tune: Tune, change: (note: Note, bar: Bar) => Note): Tune {
  return {
    ...tune,
    bars: tune.bars.map((bar) => ({
      ...bar,
      events: bar.events.map((event) => (isNote(event) ? change(event, bar) : event)),
    })),
  };
}

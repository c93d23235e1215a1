/**
 * The hardest bars, with reasons: how much each bar asks of both hands in the time that it has. A first,
 * plain model; weights are judgements in one unit, about one crossing between quick notes.
 */
import { barNumbers, beatLength, isPickup, midi, seconds, signatureAlter, type Seconds } from '../music/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import type { FingeredNote } from '../hand/index.ts';

export interface HardSpot {
  readonly bar: number;
  /** "4 string crossings, 1 shift, quick". */
  readonly reasons: readonly string[];
  readonly notes: readonly string[];
}

const WEIGHT = {
  crossing: 1,
  /** Over a string that is left out. */
  skip: 2.5,
  shift: 4,
  extension: 2,
  /** The same finger at another place of the neighbouring string. */
  hop: 2,
  fourth: 0.6,
  outside: 1.2,
  offBeat: 0.8,
  leap: 0.8,
  double: 2.5,
  note: 0.5,
  unreachable: 6,
} as const;
/** Semitones from which an interval is wide: an octave. */
const WIDE = 12;
/** Notes a second from which a bar is called quick. */
const QUICK = 6;
const MOST = 3;
/** A bar has to stand out from the middle one by so much to be called hard. */
const STANDS_OUT = 1.15;
/** Strain a second below which nothing is hard, whatever the rest is like. */
const EASY = 2.2;

/** Things that make a bar hard: singular, plural. */
const NAMES = {
  shift: ['shift', 'shifts'],
  skip: ['jump over a string', 'jumps over a string'],
  hop: ['finger that hops across', 'fingers that hop across'],
  extension: ['extension', 'extensions'],
  crossing: ['string crossing', 'string crossings'],
  outside: ['note outside the key', 'notes outside the key'],
  leap: ['wide leap', 'wide leaps'],
  double: ['double stop', 'double stops'],
  fourth: ['fourth finger', 'fourth fingers'],
  offBeat: ['note held across the beat', 'notes held across the beat'],
  unreachable: ['note out of reach', 'notes out of reach'],
} as const;
type Cause = keyof typeof NAMES;

export function hardSpots({
  tune,
  fingering,
  tempo,
}: Pick<Arrangement, 'tune' | 'fingering' | 'tempo'>): readonly HardSpot[] {
  const numbers = barNumbers(tune.bars);
  const notes = fingering.notes.filter(({ grace }) => !grace);
  const bars = tune.bars.map((bar, index) => {
    const own = notes.filter(({ barIndex }) => barIndex === index);
    const before = notes[notes.indexOf(own[0]!) - 1];
    const counts = causesIn(own, before, tune.bars[index]!.key, beatLength(bar.metre));
    const time: Seconds = seconds(bar.length, tempo) || 1;
    const load = [...counts].reduce((sum, [cause, count]) => sum + WEIGHT[cause] * count, WEIGHT.note * own.length);
    return { index, own, counts, strain: load / time, quick: own.length / time >= QUICK };
  });
  const sounding = bars.filter(({ own, index }) => own.length > 1 && !isPickup(tune.bars, index));
  const middle = sounding.map(({ strain }) => strain).sort((a, b) => a - b)[Math.floor(sounding.length / 2)] ?? 0;
  const told = new Set<string>();
  return sounding
    .filter(({ strain }) => strain > Math.max(EASY, STANDS_OUT * middle))
    .sort((a, b) => b.strain - a.strain || a.index - b.index)
    .filter(({ own }) => {
      // The same bar again is the same spot.
      const same = own.map(({ text, duration }) => `${text} ${duration}`).join();
      return told.has(same) ? false : Boolean(told.add(same));
    })
    .slice(0, MOST)
    .map(({ index, own, counts, quick }) => ({
      bar: numbers[index]!,
      reasons: reasonsOf(counts, quick),
      notes: own.flatMap(({ ids }) => ids),
    }));
}

function reasonsOf(counts: ReadonlyMap<Cause, number>, quick: boolean): readonly string[] {
  const heaviest = [...counts]
    .sort(([a, times], [b, others]) => WEIGHT[b] * others - WEIGHT[a] * times)
    .slice(0, 3)
    .map(([cause, count]) => `${count} ${NAMES[cause][count === 1 ? 0 : 1]}`);
  return quick ? [...heaviest, 'quick notes'] : heaviest.length > 0 ? heaviest : ['many notes for the time'];
}

function causesIn(
  own: readonly FingeredNote[],
  before: FingeredNote | undefined,
  key: Parameters<typeof signatureAlter>[0],
  beat: number,
): ReadonlyMap<Cause, number> {
  const counts = new Map<Cause, number>();
  const add = (cause: Cause, holds: boolean) => holds && counts.set(cause, (counts.get(cause) ?? 0) + 1);
  own.forEach((note, index) => {
    const last = own[index - 1] ?? before;
    const stop = note.stops.at(-1);
    const from = last?.stops.at(-1);
    const strings = stop && from ? Math.abs(stop.string - from.string) : 0;
    add('crossing', strings === 1);
    add('skip', strings > 1);
    add('shift', note.shift !== null);
    add('extension', note.extension);
    add('fourth', stop?.finger === 4);
    add('double', note.stops.length > 1);
    add('unreachable', note.stops.length === 0);
    add(
      'outside',
      note.pitches.some((pitch) => pitch.alter !== signatureAlter(key, pitch.letter)),
    );
    add('hop', note.hop);
    add('leap', last !== undefined && wide(note, last));
    add('offBeat', note.onset % beat !== 0 && (note.onset % beat) + note.duration > beat);
  });
  return counts;
}

function wide(a: FingeredNote, b: FingeredNote): boolean {
  return Math.abs(midi(a.pitches.at(-1)!) - midi(b.pitches.at(-1)!)) >= WIDE;
}

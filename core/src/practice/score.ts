/** What the player plays: sounds, chords and beats in time, from the arrangement. */
import type { Arrangement } from '../arrange/index.ts';
import { slurredInto } from '../bow/index.ts';
import type { Part } from '../form/index.ts';
import {
  barLength,
  barStarts,
  beatLength,
  chordSound,
  diatonicStep,
  heldThrough,
  isCompound,
  midi,
  playedOrder,
  soundingNotes,
  tiedOn,
  TICKS_PER_QUARTER,
  type Bar,
  type Held,
  type Metre,
  type Note,
  type Signature,
  type Midi,
  type Pitch,
  type SoundingNote,
  type PlayedBar,
  type Ticks,
  type Tune,
} from '../music/index.ts';

/** Times in quarters from the start of what is played. */
export interface ScoreNote {
  readonly id: string;
  readonly at: number;
  readonly duration: number;
  readonly pitches: readonly Midi[];
  /** On the stroke of the note before it: it sounds on without a gap. */
  readonly slurred?: boolean;
  readonly accent?: boolean;
  /** With a dot: it sounds for a part of its time only. */
  readonly short?: boolean;
  /** With a line: it sounds to its very end. */
  readonly full?: boolean;
}

/** What sounds: the tune, and its strokes where they are known. */
export type Sounding = Pick<Arrangement, 'tune'> & {
  readonly bowing?: Pick<Arrangement['bowing'], 'strokes' | 'accents'>;
  /** What other times round are like, and the first; none where all are alike. */
  readonly rounds?: Arrangement['rounds'];
};

export interface ScoreChord {
  readonly at: number;
  readonly duration: number;
  readonly pitches: readonly Midi[];
}

export interface ScoreClick {
  readonly at: number;
  /** First beat of a bar. */
  readonly strong: boolean;
  /** What is counted on it: "1", "2", "&". */
  readonly count: string;
}

export interface Score {
  readonly notes: readonly ScoreNote[];
  readonly chords: readonly ScoreChord[];
  readonly clicks: readonly ScoreClick[];
  /** In quarters. */
  readonly length: number;
  /** The metre that it begins in, and in quarters how much sounds before its first bar line. */
  readonly metre: Metre;
  readonly pickup: number;
}

/**
 * A few notes by themselves, one after the other.
 * @example wayScore([{ pitch: pitch('A4'), duration: 3360 }]).length // 1
 */
export function wayScore(pieces: readonly { readonly pitch: Pitch | null; readonly duration: Ticks }[]): Score {
  let at = 0;
  const notes = pieces.flatMap(({ pitch, duration }, index): ScoreNote[] => {
    const own = { id: `way-${index}`, at, duration: duration / TICKS_PER_QUARTER };
    at += own.duration;
    return pitch ? [{ ...own, pitches: [midi(pitch)] }] : [];
  });
  return { notes, chords: [], clicks: [], length: at, metre: { beats: 4, unit: 4 }, pickup: 0 };
}

/** As written, or everything once. */
export type Repeats = 'written' | 'once';
export type CountIn = 'none' | 'beats' | 'eighths';

/** Part of a bar, in written ticks, in the order of playing. */
interface Segment {
  readonly bar: number;
  readonly from: Ticks;
  readonly to: Ticks;
  /** Which time round; left out where what is shown is meant. */
  readonly time?: number;
}

const quarters = (ticks: Ticks) => ticks / TICKS_PER_QUARTER;

/**
 * The tune from the bar that holds a note on; with nothing to begin at, from its start.
 * @example tuneScore(facts, null).length // 32
 */
export function tuneScore(arrangement: Sounding, fromNote: string | null, repeats: Repeats = 'written'): Score {
  const { bars } = arrangement.tune;
  const first = Math.max(
    0,
    bars.findIndex((bar) => bar.events.some(({ id }) => id === fromNote)),
  );
  const order: readonly Turn[] =
    repeats === 'written' ? playedOrder(bars) : onceThrough(bars).map((index) => ({ index }));
  const begin = Math.max(
    0,
    order.findIndex(({ index }) => index === first),
  );
  return scoreOf(arrangement, wholeBars(bars, order.slice(begin)));
}

/**
 * A part as often as it is played, or once; its first time only where it comes again later in the tune.
 * @example partScore(facts, form.parts[0], 'written').length // 32
 */
export function partScore(arrangement: Sounding, part: Part, repeats: Repeats): Score {
  const { bars } = arrangement.tune;
  const from = part.phrases[0]!.from;
  const to = part.phrases.at(-1)!.to;
  if (repeats === 'once' || part.times < 2) return spanScore(arrangement, from, to);
  const starts = barStarts(bars);
  const inside = (bar: number) => starts[bar + 1]! > from && starts[bar]! < to;
  const order = playedOrder(bars);
  const begin = order.findIndex(({ index }) => inside(index));
  const length = order.slice(begin).findIndex(({ index }) => !inside(index));
  const own = wholeBars(bars, order.slice(begin, length < 0 ? undefined : begin + length));
  // Only its very beginning and its very end are cut: in between a bar goes on into the repeat.
  return scoreOf(
    arrangement,
    own.map((segment, index) => ({
      ...segment,
      ...(index === 0 && { from: Math.max(segment.from, from) }),
      ...(index === own.length - 1 && { to: Math.min(segment.to, to) }),
    })),
  );
}

/**
 * A stretch as written, such as a phrase; of several endings the first.
 * @example spanScore(facts, 0, 13440).length // 4
 */
export function spanScore(arrangement: Sounding, from: Ticks, to: Ticks): Score {
  const { bars } = arrangement.tune;
  const starts = barStarts(bars);
  let later = false;
  const segments = bars.flatMap((bar, index): Segment[] => {
    if (bar.endings) later = !bar.endings.includes(1);
    else if (bars[index - 1]?.endingStop) later = false;
    const own = { bar: index, from: Math.max(from, starts[index]!), to: Math.min(to, starts[index + 1]!) };
    // Whoever asks for a later ending alone gets it.
    const alone = bar.endings !== undefined && from >= starts[index]!;
    if (alone) later = false;
    return own.from < own.to && !later ? [own] : [];
  });
  return scoreOf(arrangement, segments);
}

/** A bar on its way round. */
type Turn = Pick<PlayedBar, 'index'> & Partial<PlayedBar>;

function wholeBars(bars: readonly Bar[], order: readonly Turn[]): readonly Segment[] {
  const starts = barStarts(bars);
  return order.map(({ index: bar, time }) => ({
    bar,
    from: starts[bar]!,
    to: starts[bar + 1]!,
    ...(time !== undefined && { time }),
  }));
}

/** Every bar once, with the last ending of each section. */
function onceThrough(bars: readonly Bar[]): readonly number[] {
  const order: number[] = [];
  let ending: number[] = [];
  bars.forEach((bar, index) => {
    if (bar.endings) {
      // An ending that another one follows is not the last.
      ending = [];
      let end = index;
      while (!bars[end]!.endingStop && !bars[end]!.repeatEnd && end + 1 < bars.length && !bars[end + 1]!.endings)
        end += 1;
      if (bars[end + 1]?.endings) ending = Array.from({ length: end - index + 1 }, (_, more) => index + more);
    }
    if (!ending.includes(index)) order.push(index);
  });
  return order;
}

/** The sounds of each bar. */
function soundsByBar(tune: Tune): ReadonlyMap<number, readonly SoundingNote[]> {
  const byBar = new Map<number, SoundingNote[]>();
  for (const sound of soundingNotes(tune)) {
    const known = byBar.get(sound.barIndex);
    if (known) known.push(sound);
    else byBar.set(sound.barIndex, [sound]);
  }
  return byBar;
}

/** What sounds the so-manieth time round: what is shown, unless phrases change when they come again. */
function soundsOfRounds({ tune, rounds = [] }: Sounding): (time: number | undefined) => ReturnType<typeof soundsByBar> {
  const shown = soundsByBar(tune);
  const known = new Map(rounds.map((round) => [round.time, soundsByBar(round.tune)]));
  return (time) => (time === undefined ? shown : (known.get(time) ?? known.get(1) ?? shown));
}

function scoreOf(sounding: Sounding, segments: readonly Segment[]): Score {
  const { tune, bowing } = sounding;
  const { bars } = tune;
  const starts = barStarts(bars);
  const soundsAt = soundsOfRounds(sounding);
  const slurred = bowing ? slurredInto(bowing) : new Set<string>();
  const isAccented = ({ id, decorations }: Note) =>
    bowing?.accents.has(id) || decorations?.some((sign) => sign === 'accent' || sign === 'marcato');
  const struck: Held<ScoreNote>[] = [];
  const symbols: { at: number; pitches: readonly Midi[] | null }[] = [];
  const clicks: ScoreClick[] = [];
  let time: Ticks = 0;
  for (const { bar: index, from, to, time: turn } of segments) {
    const bar = bars[index]!;
    const start = starts[index]!;
    const at = (ticks: Ticks) => quarters(time + ticks - from);
    for (const { note, chain, onset, duration } of soundsAt(turn).get(index) ?? []) {
      if (onset < from || onset >= to) continue;
      const pitches = note.heads.map(({ pitch }) => midi(pitch));
      const tied = tiedOn(chain.at(-1)!);
      struck.push(
        ...ornamented(note, bar.key.signature, {
          id: note.id,
          at: at(onset),
          duration: quarters(duration),
          pitches,
          ...(slurred.has(note.id) && { slurred: true }),
          ...(isAccented(note) && { accent: true }),
          ...(note.decorations?.includes('staccato') && { short: true }),
          ...(note.decorations?.includes('tenuto') && { full: true }),
        }).map((sound, piece, all) => ({ at: sound.at, sound, tied: piece === all.length - 1 ? tied : [] })),
      );
    }
    for (const event of bar.events) {
      const onset = start + event.at;
      if (event.chordSymbol === undefined || onset < from || onset >= to) continue;
      symbols.push({ at: at(onset), pitches: chordSound(event.chordSymbol) });
    }
    const beat = beatLength(bar.metre);
    for (let place = 0; place < barLength(bar.metre); place += beat) {
      const moment = start - bar.offset + place;
      if (moment >= from && moment < to)
        clicks.push({ at: at(moment), strong: place === 0, count: String(place / beat + 1) });
    }
    time += to - from;
  }
  const length = quarters(time);
  const chords = symbols.flatMap(({ at, pitches }, index) =>
    pitches ? [{ at, duration: (symbols[index + 1]?.at ?? length) - at, pitches }] : [],
  );
  const first = bars[segments[0]?.bar ?? 0]!;
  const place = segments[0] ? first.offset + segments[0].from - starts[segments[0].bar]! : 0;
  const pickup = place > 0 ? quarters(barLength(first.metre) - place) : 0;
  return { notes: heldThrough(struck), chords, clicks, length, metre: first.metre, pickup };
}

/** A grace note takes so much of its note, in quarters, and never more than this share. */
const GRACE = 1 / 8;
const GRACE_SHARE = 1 / 4;
/** A roll: the note, above, the note, below, the note; the note itself lasts longest. */
const ROLL = [0.3, 0.1, 0.25, 0.1, 0.25];

/** Grace notes and rolls as they sound, on the beat and out of their note's time. */
function ornamented({ graces = [], decorations, heads }: Note, signature: Signature, plain: ScoreNote): ScoreNote[] {
  if (graces.length > 0) {
    const each = Math.min(GRACE, (GRACE_SHARE * plain.duration) / graces.length);
    const taken = each * graces.length;
    return [
      ...graces.map(({ id, pitch }, index) => ({
        id,
        at: plain.at + index * each,
        duration: each,
        pitches: [midi(pitch)],
      })),
      { ...plain, at: plain.at + taken, duration: plain.duration - taken, slurred: true },
    ];
  }
  const top = heads.at(-1)!.pitch;
  const [above, below] = [diatonicStep(top, 1, signature), diatonicStep(top, -1, signature)];
  if (!decorations?.includes('roll') || !above || !below) return [plain];
  let at = plain.at;
  return [top, above, top, below, top].map((pitch, index) => {
    const duration = ROLL[index]! * plain.duration;
    const note = { ...plain, at, duration, pitches: [midi(pitch)], ...(index > 0 && { slurred: true, accent: false }) };
    at += duration;
    return note;
  });
}

/**
 * The count before the music: a whole bar, and where it begins with a pickup so much of the next as comes before it.
 *
 * @returns clicks from 0, and in quarters when the music begins
 * @example countIn({ metre: { beats: 3, unit: 4 }, pickup: 1 }, 'beats').length // 5
 */
export function countIn(
  { metre, pickup }: Pick<Score, 'metre' | 'pickup'>,
  mode: CountIn,
): {
  readonly clicks: readonly ScoreClick[];
  readonly length: number;
} {
  if (mode === 'none') return { clicks: [], length: 0 };
  const bar = quarters(barLength(metre));
  const length = bar + (pickup > 0 ? bar - pickup : 0);
  const beat = quarters(beatLength(metre));
  const step = mode === 'beats' ? beat : isCompound(metre) ? beat / 3 : Math.min(beat, 0.5);
  const count = Math.ceil(length / step - 1e-9);
  const clicks = Array.from({ length: count }, (_, index) => ({
    at: index * step,
    strong: (index * step) % bar === 0,
    count: countText((index * step) % bar, beat),
  }));
  return { clicks, length };
}

/** A beat by its number; between two of them "and". */
function countText(at: number, beat: number): string {
  const number = at / beat + 1;
  return Number.isInteger(number) ? String(number) : '&';
}

/**
 * The chords under a tune: those that it brings, else found from its notes, half bar by half bar. What is added to a
 * tune must not clash with them.
 */
import {
  barLength,
  barStarts,
  chordSound,
  chroma,
  midi,
  printedName,
  soundingNotes,
  transposePitch,
  type Bar,
  type Key,
  type PitchClass,
  type Ticks,
  type Tune,
} from '../music/index.ts';

export interface Harmony {
  readonly from: Ticks;
  readonly to: Ticks;
  /** Semitones above C, each once. */
  readonly tones: readonly number[];
  readonly name: string;
  /** Found from the notes, not brought by the tune. */
  readonly found: boolean;
}

/**
 * Chords in written order, without gaps.
 * @example harmonyOf(reel)[0].name // 'G'
 */
export function harmonyOf(tune: Tune): readonly Harmony[] {
  return tune.bars.some(({ events }) => events.some(({ chordSymbol }) => chordSymbol !== undefined))
    ? brought(tune)
    : found(tune);
}

function brought({ bars }: Tune): readonly Harmony[] {
  const starts = barStarts(bars);
  const chords: Harmony[] = [];
  bars.forEach((bar, index) => {
    for (const { at, chordSymbol } of bar.events) {
      if (chordSymbol === undefined) continue;
      const sound = chordSound(chordSymbol);
      const tones = sound ? [...new Set(sound.map((pitch) => pitch % 12))] : [];
      chords.push({ from: starts[index]! + at, to: 0, tones, name: chordSymbol, found: false });
    }
  });
  const end = starts.at(-1)!;
  return chords.map((chord, index) => ({ ...chord, to: chords[index + 1]?.from ?? end }));
}

/** Triads of a key that tunes are carried by, the usual first: degrees from the home note, in steps and semitones. */
const MAJOR = [
  { steps: 0, semitones: 0, minor: false, weight: 0.35 },
  { steps: 4, semitones: 7, minor: false, weight: 0.25 },
  { steps: 3, semitones: 5, minor: false, weight: 0.2 },
  { steps: 1, semitones: 2, minor: true, weight: 0.05 },
  { steps: 5, semitones: 9, minor: true, weight: 0.05 },
] as const;
const MINOR = [
  { steps: 0, semitones: 0, minor: true, weight: 0.35 },
  { steps: 6, semitones: 10, minor: false, weight: 0.25 },
  { steps: 4, semitones: 7, minor: false, weight: 0.15 },
  { steps: 3, semitones: 5, minor: true, weight: 0.15 },
  { steps: 2, semitones: 3, minor: false, weight: 0.1 },
] as const;
/** What a note outside the chord takes away, beside what one inside adds. */
const OUTSIDE = 0.8;

function found(tune: Tune): readonly Harmony[] {
  const starts = barStarts(tune.bars);
  const sounds = soundingNotes(tune);
  return tune.bars.flatMap((bar, index) =>
    halves(bar, starts[index]!).map(([from, to]): Harmony => {
      const candidates = triads(bar.key);
      const score = (tones: readonly number[], weight: number) =>
        sounds.reduce((sum, { note, onset, duration }) => {
          const both = Math.min(to, onset + duration) - Math.max(from, onset);
          if (both <= 0) return sum;
          const inside = tones.includes(midi(note.heads.at(-1)!.pitch) % 12);
          return sum + (both / (to - from)) * (inside ? 1 : -OUTSIDE);
        }, weight);
      const best = candidates.reduce((most, one) =>
        score(one.tones, one.weight) > score(most.tones, most.weight) ? one : most,
      );
      return { from, to, tones: best.tones, name: best.name, found: true };
    }),
  );
}

/** A bar, or its halves where it has an even number of beats and something begins with the second: a chord stands over a note. */
function halves({ metre, length, offset, events }: Bar, start: Ticks): readonly (readonly [Ticks, Ticks])[] {
  const middle = start - offset + barLength(metre) / 2;
  const even = metre.beats % 2 === 0 && metre.beats > 2 && events.some(({ at }) => start + at === middle);
  return even && middle > start && middle < start + length
    ? [
        [start, middle],
        [middle, start + length],
      ]
    : [[start, start + length]];
}

function triads(
  key: Key,
): readonly { readonly tones: readonly number[]; readonly name: string; readonly weight: number }[] {
  const isMinor = ['minor', 'dorian', 'phrygian', 'aeolian'].includes(key.mode);
  return (isMinor ? MINOR : MAJOR).map(({ steps, semitones, minor, weight }) => {
    const root: PitchClass = transposePitch({ ...key.tonic, octave: 4 }, steps, semitones);
    const low = chroma(root);
    return {
      tones: [low, (low + (minor ? 3 : 4)) % 12, (low + 7) % 12],
      name: `${printedName(root)}${minor ? 'm' : ''}`,
      weight,
    };
  });
}

/**
 * The tune with its found chords written over its notes, one of them otherwise; where it brought chords, only that one changes.
 * @param at where the chord begins; null writes what was found
 * @param name of the chord, empty to take it away
 * @example withChord(reel, 0, 'G').bars[0].events[0].chordSymbol // 'G'
 */
export function withChord(tune: Tune, at: Ticks | null, name: string): Tune {
  const starts = barStarts(tune.bars);
  const own = harmonyOf(tune);
  // Chords that go on are not written again.
  const written = own[0]?.found ? own.filter((one, index) => one.name !== own[index - 1]?.name) : [];
  const names = new Map(written.map((one) => [one.from, one.name]));
  if (at !== null) {
    names.set(at, name);
    // What was one with it before begins anew after it.
    const next = own.find((one) => one.from > at);
    if (own[0]?.found && next && !names.has(next.from)) names.set(next.from, next.name);
  }
  return {
    ...tune,
    bars: tune.bars.map((bar, index) => ({
      ...bar,
      events: bar.events.map((event) => {
        const chord = names.get(starts[index]! + event.at);
        if (chord === undefined) return event;
        const { chordSymbol: _, ...rest } = event;
        return chord === '' ? rest : { ...rest, chordSymbol: chord };
      }),
    })),
  };
}

/** The chord under a place. @example chordAt(harmonyOf(reel), 0).name // 'G' */
export const chordAt = (harmony: readonly Harmony[], time: Ticks): Harmony | null =>
  harmony.findLast(({ from }) => from <= time) ?? null;

/** When a line that goes with a tune sounds: in the tune's own rhythm, as far as a contract lets it, or on the beats of its role. */
import {
  barLength,
  barStarts,
  beatLength,
  isPickup,
  isStrongBeat,
  soundingNotes,
  writeDuration,
  type Bar,
  type SoundingNote,
  type Ticks,
  type Tune,
  type Written,
} from '../music/index.ts';
import type { Harmony } from '../harmony/index.ts';
import { writtenBreaks, type Limits, type LineRole } from '../grade/index.ts';

/** A stretch of one bar that is one note, or silence. */
export interface Spot {
  /** Of its place in its bar, which stays when other bars come or go. */
  readonly id: string;
  readonly barIndex: number;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly sounds: boolean;
  /** On a strong beat. */
  readonly strong: boolean;
  /** On a beat. */
  readonly onBeat: boolean;
}

/** As the role wishes; a note a beat at most; a note to each strong beat at most. */
export const PACES = ['own', 'beats', 'strong'] as const;
export type Pace = (typeof PACES)[number];

type RhythmLimits = Pick<Limits, 'shortest' | 'triplets' | 'dotted' | 'syncopation'>;

/**
 * When a role sounds, without gaps from the tune's first moment to its last; pickups are silent.
 * @example spotsOf('bass', reel, harmonyOf(reel), contractFor('violin', 1).limits, 'own')[0].strong // true
 */
export function spotsOf(
  role: LineRole,
  tune: Tune,
  harmony: readonly Harmony[],
  limits: RhythmLimits,
  pace: Pace,
): readonly Spot[] {
  const starts = barStarts(tune.bars);
  const sounds = soundingNotes(tune);
  const changes = new Set(harmony.map(({ from }) => from));
  const last = sounds.at(-1);
  return tune.bars.flatMap((bar, index) => {
    const start = starts[index]!;
    const beats = beatsOf(bar, start);
    if (isPickup(tune.bars, index)) return asSpots(bar, index, start, [[start, false]]);
    let strikes: Strikes;
    if (role === 'off-beats') strikes = beats.map(({ at, strong }) => [at, !strong]);
    else if (role === 'bass' || pace === 'strong')
      strikes = beats
        .filter(({ at, strong }, beat) => beat === 0 || strong || changes.has(at))
        .map(({ at }): Strike => [at, isSounding(sounds, at, start + bar.length)]);
    else if (pace === 'beats') strikes = beats.map(({ at, to }): Strike => [at, isSounding(sounds, at, to)]);
    else strikes = tuneStrikes(bar, beats, sounds, limits);
    // All come to rest with the tune.
    if (last && last.onset >= start && beats.some(({ at }) => at === last.onset)) {
      const end = last.onset + last.duration;
      strikes = [...strikes.filter(([at]) => at < last.onset), [last.onset, true]];
      if (end < start + bar.length) strikes = [...strikes, [end, false]];
    }
    return asSpots(bar, index, start, strikes);
  });
}

/** When something begins, and whether it sounds. */
type Strike = readonly [at: Ticks, sounds: boolean];
type Strikes = readonly Strike[];

interface Beat {
  readonly at: Ticks;
  readonly to: Ticks;
  readonly strong: boolean;
}

/** The beats of a bar; one that begins inside a beat has what is left of it first. */
function beatsOf({ metre, offset, length }: Bar, start: Ticks): readonly Beat[] {
  const beat = beatLength(metre);
  const beats: Beat[] = [];
  for (let at = 0; at < length;) {
    const place = (offset + at) % barLength(metre);
    const to = Math.min(length, at + beat - (place % beat));
    beats.push({ at: start + at, to: start + to, strong: place % beat === 0 && isStrongBeat(place, metre) });
    at = to;
  }
  return beats;
}

const isSounding = (sounds: readonly SoundingNote[], from: Ticks, to: Ticks): boolean =>
  sounds.some(({ onset, duration }) => onset < to && onset + duration > from);

/** The tune's own rhythm; beats that the contract forbids are one note each. */
function tuneStrikes(bar: Bar, beats: readonly Beat[], sounds: readonly SoundingNote[], limits: RhythmLimits): Strikes {
  const strikes: Strike[] = [];
  // A note that goes on past its beat from off it would be syncopated: it is struck again.
  let cut = true;
  for (const { at, to } of beats) {
    const here = sounds.filter(({ onset }) => onset >= at && onset < to);
    const held = sounds.find(({ onset, duration }) => onset < at && onset + duration > at);
    const first = here[0]?.onset;
    const within = here.map(({ onset }) => onset).filter((onset) => onset > at);
    const begins: Strike | null =
      first === at || (held && cut) ? [at, true] : held ? null : first === undefined ? [at, false] : [at, false];
    const edges = [at, ...within, to];
    const plain = edges
      .slice(1)
      .every((edge, index) => writtenBreaks({ duration: edge - edges[index]! }, bar, limits).length === 0);
    const over = here.at(-1);
    const runsOn = over !== undefined && over.onset > at && over.onset + over.duration > to;
    if (within.length > 0 && !plain) strikes.push([at, true]);
    else {
      if (begins) strikes.push(begins);
      for (const onset of within) strikes.push([onset, true]);
    }
    cut = runsOn && !limits.syncopation;
  }
  return strikes;
}

/** Strikes as stretches that can each be written as one value; what cannot is struck again. */
function asSpots(bar: Bar, barIndex: number, start: Ticks, strikes: Strikes): readonly Spot[] {
  // Silence goes on until something sounds.
  const own = strikes.filter(([, sounds], index) => sounds || index === 0 || strikes[index - 1]![1]);
  return own.flatMap(([from, sounds], index) => {
    const to = own[index + 1]?.[0] ?? start + bar.length;
    const beat = beatLength(bar.metre);
    return plainParts(bar.offset + from - start, to - from, bar).map(({ at, duration }): Spot => {
      const place = at % barLength(bar.metre);
      const begin = start + at - bar.offset;
      return {
        id: `${bar.id}l${at}`,
        barIndex,
        from: begin,
        to: begin + duration,
        sounds,
        strong: place % beat === 0 && isStrongBeat(place, bar.metre),
        onBeat: place % beat === 0,
      };
    });
  });
}

/** As few values as there can be, each struck: whole beats where one value does not do, as in nine eighths. */
function plainParts(at: Ticks, duration: Ticks, bar: Bar): readonly Pick<Written, 'at' | 'duration'>[] {
  const parts = writeDuration(at, duration, bar.metre);
  const beat = beatLength(bar.metre);
  if (parts.length === 1 || at % beat !== 0) return parts;
  for (let beats = Math.ceil(duration / beat) - 1; beats > 0; beats -= 1) {
    const first = writeDuration(at, beats * beat, bar.metre);
    if (first.length === 1) return [...first, ...plainParts(at + beats * beat, duration - beats * beat, bar)];
  }
  return parts;
}

/** How a phrase relates to an earlier one, and where they differ. */
import { midi, step, type Midi, type Ticks } from '../music/index.ts';
import type { SoundingNote } from '../music/index.ts';

export const RELATIONS = [
  'new',
  'same',
  'same-but-ending',
  'same-start',
  'same-rhythm',
  'transposed',
  'octave',
] as const;
export type RelationKind = (typeof RELATIONS)[number];

/** A sound with its time counted from the phrase's first bar line; pickups are negative. */
export interface Sound {
  readonly at: Ticks;
  readonly duration: Ticks;
  readonly pitches: readonly Midi[];
  /** Staff step of the top note: tells a sequence in the scale from an exact transposition. */
  readonly step: number;
}

export interface Comparison {
  readonly kind: RelationKind;
  /** Plain words; empty for an exact repeat. */
  readonly differs: string;
}

/** Kinds from most to least telling. */
const RANK: readonly RelationKind[] = [
  'same',
  'same-but-ending',
  'octave',
  'transposed',
  'same-start',
  'same-rhythm',
  'new',
];

export function moreTelling(a: Comparison, b: Comparison): boolean {
  return RANK.indexOf(a.kind) < RANK.indexOf(b.kind) || (a.kind === b.kind && a.differs === '' && b.differs !== '');
}

/** @param downbeat written ticks of the phrase's first bar line */
export function soundsOf(notes: readonly SoundingNote[], downbeat: Ticks): readonly Sound[] {
  return notes.map(({ note, onset, duration }) => ({
    at: onset - downbeat,
    duration,
    pitches: note.heads.map(({ pitch }) => midi(pitch)),
    step: step(note.heads.at(-1)!.pitch),
  }));
}

const samePitches = (a: Sound, b: Sound) =>
  a.pitches.length === b.pitches.length && a.pitches.every((pitch, index) => pitch === b.pitches[index]);

/**
 * @param bar length of a bar in ticks
 * @param bars length of the phrase in bars
 */
export function compare(phrase: readonly Sound[], earlier: readonly Sound[], bar: Ticks, bars: number): Comparison {
  const body = phrase.filter(({ at }) => at >= 0);
  const other = earlier.filter(({ at }) => at >= 0);
  const different = differingBars(body, other, bar);
  const pickupDiffers = !sameSounds(
    phrase.filter(({ at }) => at < 0),
    earlier.filter(({ at }) => at < 0),
  );
  const pickup = pickupDiffers ? 'the pickup' : '';
  if (different.length === 0) return { kind: 'same', differs: pickup };
  const first = different[0]!;
  if (first > bars / 2 && first > 1) return { kind: 'same-but-ending', differs: join(barsText(different), pickup) };
  if (sameRhythm(body, other)) {
    const interval = body[0]!.pitches.at(-1)! - other[0]!.pitches.at(-1)!;
    const steps = body[0]!.step - other[0]!.step;
    const exact = body.every((sound, index) =>
      sound.pitches.every((pitch, head) => pitch - (other[index]!.pitches[head] ?? 0) === interval),
    );
    const inScale = body.every((sound, index) => sound.step - other[index]!.step === steps);
    if (exact && interval !== 0 && interval % 12 === 0)
      return { kind: 'octave', differs: interval > 0 ? 'an octave higher' : 'an octave lower' };
    if ((exact || inScale) && steps !== 0)
      return { kind: 'transposed', differs: `${stepsText(Math.abs(steps))} ${steps > 0 ? 'higher' : 'lower'}` };
    if (first === 1) return { kind: 'same-rhythm', differs: 'the notes' };
  }
  if (first > 1) return { kind: 'same-start', differs: `from bar ${first} on` };
  return { kind: 'new', differs: '' };
}

/** A bar's content for finding it again: rhythm and pitches. */
export function fingerprint(sounds: readonly Sound[]): string {
  return sounds.map(({ at, duration, pitches }) => `${at}:${duration}:${pitches.join('+')}`).join(' ');
}

function sameSounds(a: readonly Sound[], b: readonly Sound[]): boolean {
  return a.length === b.length && a.every((sound, index) => sound.at === b[index]!.at && samePitches(sound, b[index]!));
}

function sameRhythm(a: readonly Sound[], b: readonly Sound[]): boolean {
  return (
    a.length === b.length &&
    a.length > 0 &&
    a.every((sound, index) => sound.at === b[index]!.at && sound.pitches.length === b[index]!.pitches.length)
  );
}

/**
 * Bars, from 1, in which an onset or a pitch differs. How long the last note is held does not count:
 * it makes room for the next pickup.
 */
function differingBars(a: readonly Sound[], b: readonly Sound[], bar: Ticks): readonly number[] {
  const inBar = (sounds: readonly Sound[], index: number) => sounds.filter(({ at }) => Math.floor(at / bar) === index);
  const last = Math.max(a.at(-1)?.at ?? 0, b.at(-1)?.at ?? 0);
  return Array.from({ length: Math.floor(last / bar) + 1 }, (_, index) => index)
    .filter((index) => !sameSounds(inBar(a, index), inBar(b, index)))
    .map((index) => index + 1);
}

function barsText(bars: readonly number[]): string {
  return bars.length === 1 ? `bar ${bars[0]}` : `bars ${bars[0]}–${bars.at(-1)}`;
}

const join = (a: string, b: string) => [a, b].filter(Boolean).join(' and ');

function stepsText(steps: number): string {
  return (
    ['', 'a step', 'a third', 'a fourth', 'a fifth', 'a sixth', 'a seventh', 'an octave'][steps] ?? `${steps} steps`
  );
}

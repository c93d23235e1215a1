/**
 * A richer version: long notes filled, repeated ones varied, open strings that sound along, slides and cuts, where the
 * style wants them, the chords bear them, and the hand can play them. Never everywhere: a share of the places, spread, and not the same
 * thing twice in a row. Section 6 of the domain.
 */
import {
  LETTERS,
  barNumbers,
  barStarts,
  beatLength,
  midi,
  spell,
  step,
  valueOf,
  type Midi,
  type Note,
  type Pitch,
  type SoundingNote,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import type { Form } from '../form/index.ts';
import type { GradeChange, GradeChangeKind } from './changes.ts';
import type { Limits } from './contract.ts';
import { chordAt, harmonyOf, type Harmony } from './harmony.ts';
import type { Places } from './simplify.ts';
import { topOf, windowsOf, type TuneWindow } from './windows.ts';

/** What can be added to a note. */
export const DRESSINGS = [
  'filled',
  'varied',
  'drone',
  'double-stop',
  'slide',
  'cut',
] as const satisfies readonly GradeChangeKind[];
export type Dressing = (typeof DRESSINGS)[number];

/** How usual each is in a style; what is not named is as in `other`. Judgements. */
const USUAL: readonly (readonly [style: RegExp, weights: Readonly<Record<Dressing, number>>])[] = [
  [/reel/i, { filled: 0.6, varied: 0.8, drone: 0.9, 'double-stop': 0.7, slide: 0.3, cut: 1 }],
  [/jig/i, { filled: 0.6, varied: 0.6, drone: 0.7, 'double-stop': 0.7, slide: 0.3, cut: 1 }],
  [/hornpipe/i, { filled: 1, varied: 0.7, drone: 0.6, 'double-stop': 0.7, slide: 0.3, cut: 0.7 }],
  [/polka/i, { filled: 0.8, varied: 0.8, drone: 1, 'double-stop': 0.7, slide: 0.2, cut: 0.6 }],
  [/waltz|air|hymn|song/i, { filled: 0.9, varied: 0.5, drone: 0.8, 'double-stop': 0.7, slide: 0.8, cut: 0.4 }],
  [/march/i, { filled: 0.8, varied: 0.6, drone: 1, 'double-stop': 0.7, slide: 0.1, cut: 0.7 }],
  [/swing|blues/i, { filled: 0.9, varied: 0.9, drone: 0.4, 'double-stop': 0.7, slide: 1, cut: 0.3 }],
];
const OTHER: Readonly<Record<Dressing, number>> = {
  filled: 0.8,
  varied: 0.7,
  drone: 0.8,
  'double-stop': 0.7,
  slide: 0.5,
  cut: 0.6,
};

/** Of the beats that could be dressed, at most this share is; the dial goes from nothing to here. */
const CEILING = 0.45;
/** Something like it was added before: worth so much less. */
const AGAIN = 0.6;

export interface DressInput {
  readonly tune: Tune;
  readonly form: Form;
  readonly limits: Limits;
  readonly places: Places;
  /** Sounding pitches of the open strings, low to high. */
  readonly open: readonly Pitch[];
  /** From 0, nothing, to 1, the most. */
  readonly density: number;
  /** Dressings that are not wanted, by their ids. */
  readonly without: ReadonlySet<string>;
}

export interface Dressed {
  readonly tune: Tune;
  readonly changes: readonly GradeChange[];
}

interface Candidate {
  readonly id: string;
  readonly kind: Dressing;
  readonly window: TuneWindow;
  readonly index: number;
  readonly sound: SoundingNote;
  readonly weight: number;
  /** What the note becomes. */
  readonly events: readonly Note[];
  readonly is: readonly Pitch[];
}

/**
 * Dresses a tune. What the contract does not allow is not tried; what the hand cannot do is for the caller to find, and to leave
 * out by its id.
 * @example dressed({ tune: reel, form, limits: contractFor('violin', 6).limits, places: new Map(), open: [], density: 0, without: new Set() }).changes // []
 */
export function dressed(input: DressInput): Dressed {
  const { tune, form, density, without } = input;
  const windows = windowsOf(tune, form);
  const harmony = harmonyOf(tune);
  const weights = USUAL.find(([style]) => style.test(tune.style ?? ''))?.[1] ?? OTHER;
  const candidates = windows
    .flatMap((_, index) => candidatesIn(input, windows, index, harmony, weights))
    .filter(({ id }) => !without.has(id));
  // What comes back is dressed as it was the first time: only the first of phrases that are the same is chosen for.
  const isCopy = ({ window }: Candidate) => window.phrase?.relation.kind === 'same';
  const own = candidates.filter((one) => !isCopy(one));
  const most = Math.round(density * CEILING * new Set(own.map(({ index }) => index)).size);
  const first = spread(own, most);
  const alike = (copy: Candidate) =>
    first.some(
      ({ kind, window }) =>
        kind === copy.kind &&
        window.phrase?.id === copy.window.phrase?.relation.of &&
        window.from - window.phrase!.from === copy.window.from - copy.window.phrase!.from,
    );
  const taken = [...first, ...candidates.filter((one) => isCopy(one) && alike(one))].sort((a, b) => a.index - b.index);
  const numbers = barNumbers(tune.bars);
  const starts = barStarts(tune.bars);
  const byNote = new Map(taken.map((one) => [one.sound.note.id, one.events]));
  const bars = tune.bars.map((bar) => ({
    ...bar,
    events: bar.events.flatMap((event): readonly TuneEvent[] => byNote.get(event.id) ?? [event]),
  }));
  const changes = taken.map(({ id, kind, window, sound, is }): GradeChange => {
    const bar = tune.bars[window.barIndex]!;
    const at = bar.offset + window.from - starts[window.barIndex]!;
    return {
      ...{ id, kind, direction: 'richer', rules: [] },
      bar: numbers[window.barIndex]!,
      beat: Math.floor(at / beatLength(bar.metre)) + 1,
      notes: [sound.note.id],
      was: [sound.note.heads.at(-1)!.pitch],
      is,
    };
  });
  return { tune: { ...tune, bars }, changes };
}

/** The best first, never on neighbouring beats; what was just added counts for less. */
function spread(candidates: readonly Candidate[], most: number): readonly Candidate[] {
  const taken: Candidate[] = [];
  const used = new Map<Dressing, number>();
  while (taken.length < most) {
    let best: Candidate | null = null;
    let value = 0;
    for (const one of candidates) {
      if (taken.some(({ index }) => Math.abs(index - one.index) < 2)) continue;
      const near = taken.some(({ kind, index }) => kind === one.kind && Math.abs(index - one.index) < 5) ? AGAIN : 1;
      const inPhrase = taken.filter(({ window }) => window.phrase?.id === one.window.phrase?.id).length;
      const own = one.weight * near * AGAIN ** ((used.get(one.kind) ?? 0) / 4 + inPhrase);
      if (own > value + 1e-9) [best, value] = [one, own];
    }
    if (!best) break;
    taken.push(best);
    used.set(best.kind, (used.get(best.kind) ?? 0) + 1);
  }
  return taken;
}

function candidatesIn(
  input: DressInput,
  windows: readonly TuneWindow[],
  index: number,
  harmony: readonly Harmony[],
  weights: Readonly<Record<Dressing, number>>,
): readonly Candidate[] {
  const window = windows[index]!;
  const { tune, limits, places, open } = input;
  const [sound] = window.starting;
  const bar = tune.bars[window.barIndex]!;
  // One plain note that begins its beat: the first and the last of a phrase, ties and tuplets stay as they are.
  if (!sound || sound.onset !== window.from || sound.chain.length > 1 || sound.note.tuplet) return [];
  const { note } = sound;
  const phrase = window.phrase;
  if (!phrase || note.id === phrase.notes[0] || note.id === phrase.notes.at(-1) || note.heads.length > 1) return [];
  const beat = beatLength(bar.metre);
  const own = topOf(sound);
  const { pitch } = note.heads[0]!;
  const next = following(windows, index, sound);
  const before = preceding(windows, index);
  const tones = chordAt(harmony, sound.onset)?.tones ?? [];
  const found: Candidate[] = [];
  const offer = (kind: Dressing, weight: number, events: readonly Note[], is: readonly Pitch[]): void => {
    found.push({ id: `${window.id}:${kind}`, kind, window, index, sound, weight: weight * weights[kind], events, is });
  };
  const inKey = (at: number): Pitch | null => diatonic(pitch, at, bar.key.signature);
  const can = (one: Pitch | null): one is Pitch => one !== null && places.has(midi(one));

  // A note of a beat or two, filled: on the way to a third by what lies between, else by its neighbour.
  const half = note.duration / 2;
  const value = valueOf(half);
  const least = (limits.shortest ?? 0) * 3360;
  if (
    value &&
    value.dots === 0 &&
    half >= least &&
    half >= beat / 2 &&
    next &&
    alone(window, sound, note.duration, beat)
  ) {
    const distance = step(next.note.heads.at(-1)!.pitch) - step(pitch);
    const to =
      Math.abs(distance) === 2
        ? inKey(Math.sign(distance))
        : distance === 0
          ? inKey(1)
          : Math.abs(distance) === 1
            ? inKey(-Math.sign(distance))
            : null;
    if (can(to) && Math.abs(midi(to) - own) <= 2) {
      const first = { ...withoutEnd(note), duration: half, value };
      const second: Note = {
        kind: 'note',
        id: `${note.id}f`,
        at: note.at + half,
        duration: half,
        value,
        heads: [{ pitch: to }],
      };
      offer('filled', Math.abs(distance) === 2 ? 1 : 0.8, [first, second], [pitch, to]);
    }
  }
  // The same note again: a tone of the chord near it instead.
  if (before && topOf(before) === own && !window.strong && next) {
    const choice = [2, -2, 4, -4]
      .map(inKey)
      .find((one) => can(one) && tones.includes(midi(one) % 12) && Math.abs(midi(one) - topOf(next)) <= 7);
    if (choice) offer('varied', 1, [{ ...note, heads: [{ pitch: choice }] }], [choice]);
  }
  // An open string next to it that belongs to the chord, under or over the note.
  if (limits.drones && limits.doubleStops !== 'none' && note.duration >= beat && window.strong) {
    const strings = places.get(own) ?? [];
    const drone = open
      .map((one, string) => ({ one, string }))
      .find(({ one, string }) => {
        const interval = Math.abs(midi(one) - own) % 12;
        const consonant = [0, 3, 4, 5, 7, 8, 9].includes(interval) && midi(one) !== own;
        return consonant && tones.includes(midi(one) % 12) && strings.some((at) => Math.abs(at - string) === 1);
      });
    if (drone) {
      const heads = [{ pitch: drone.one }, { pitch }].sort((a, b) => midi(a.pitch) - midi(b.pitch));
      offer(
        'drone',
        1,
        [{ ...note, heads }],
        heads.map((head) => head.pitch),
      );
    }
  }
  // A third or a sixth below it, from the chord: two fingers, where the contract has them.
  if (limits.doubleStops === 'simple' || limits.doubleStops === 'any') {
    const below = [-2, -5]
      .map(inKey)
      .find((one) => can(one) && tones.includes(midi(one) % 12) && neighbours(places, midi(one), own));
    if (below && note.duration >= beat && window.strong) {
      offer('double-stop', 0.7, [{ ...note, heads: [{ pitch: below }, { pitch }] }], [below, pitch]);
    }
  }
  const stopped = !open.some((one) => midi(one) === own);
  if (limits.slides && stopped && note.duration >= beat && before && own - topOf(before) >= 2 && window.strong) {
    offer('slide', 0.9, [{ ...note, decorations: [...(note.decorations ?? []), 'slide'] }], [pitch]);
  }
  const above = inKey(1);
  if (
    limits.graces &&
    !note.graces &&
    can(above) &&
    note.duration >= beat / 2 &&
    (window.strong || (before && topOf(before) === own))
  ) {
    offer(
      'cut',
      before && topOf(before) === own ? 1.1 : 0.8,
      [{ ...note, graces: [{ id: `${note.id}c`, pitch: above, slash: true }] }],
      [above, pitch],
    );
  }
  return found;
}

/** Whether two pitches lie on neighbouring strings. */
const neighbours = (places: Places, one: Midi, other: Midi): boolean =>
  (places.get(one) ?? []).some((string) => (places.get(other) ?? []).some((at) => at - string === 1));

/** It fills whole beats with nothing else in them. */
const alone = (window: TuneWindow, { onset }: SoundingNote, duration: number, beat: number): boolean =>
  onset === window.from && duration % beat === 0 && duration <= 2 * beat && window.starting.length === 1;

/** A phrase ends a line on the last of what it becomes: the first half has none. */
const withoutEnd = (note: Note): Note => {
  const { lineEnd: _, ...rest } = note;
  return rest;
};

const following = (windows: readonly TuneWindow[], index: number, sound: SoundingNote): SoundingNote | null => {
  for (let at = index; at < windows.length && at < index + 4; at += 1) {
    const found = windows[at]!.starting.find(({ onset }) => onset > sound.onset);
    if (found) return found.onset === sound.onset + sound.duration ? found : null;
  }
  return null;
};
const preceding = (windows: readonly TuneWindow[], index: number): SoundingNote | null =>
  windows[index - 1]?.starting.at(-1) ?? null;

/** So many steps up the scale of the signature; null where it has no such spelling. */
function diatonic(from: Pitch, steps: number, signature: Readonly<Partial<Record<string, number>>>): Pitch | null {
  const number = step(from) + steps;
  const letter = LETTERS[((number % 7) + 7) % 7]!;
  const natural: Midi = midi({ letter, alter: 0, octave: Math.floor(number / 7) });
  return spell(number, natural + (signature[letter] ?? 0));
}

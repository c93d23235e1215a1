/**
 * A richer version: long notes filled, repeated ones varied, open strings that sound along, slides and cuts, where the
 * style wants them, the chords bear them, and the hand can play them. Never everywhere: a share of the places, spread, and not the same
 * thing twice in a row. Section 6 of the domain.
 */
import {
  barNumbers,
  barStarts,
  beatLength,
  diatonicStep,
  isCompound,
  midi,
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
import type { Places } from './search.ts';
import { topOf, windowsOf, type TuneWindow } from './windows.ts';

/** What can be added to a note. */
export const DRESSINGS = [
  'filled',
  'varied',
  'drone',
  'double-stop',
  'slide',
  'cut',
  'hammer-on',
  'roll',
  'triplet',
  'arpeggio',
  'shuffle',
] as const satisfies readonly GradeChangeKind[];
export type Dressing = (typeof DRESSINGS)[number];

/** How usual each is in a style, in the order of `DRESSINGS`; what is not named is as in `OTHER`. Judgements. */
const USUAL: readonly (readonly [style: RegExp, weights: readonly number[]])[] = [
  [/reel/i, [0.6, 0.8, 0.9, 0.7, 0.3, 1, 0.7, 1, 0.9, 0.5, 0.9]],
  [/jig/i, [0.6, 0.6, 0.7, 0.7, 0.3, 1, 0.5, 1, 0.3, 0.6, 0]],
  [/hornpipe/i, [1, 0.7, 0.6, 0.7, 0.3, 0.7, 0.3, 0.5, 1, 0.7, 0.5]],
  [/polka/i, [0.8, 0.8, 1, 0.7, 0.2, 0.6, 0.4, 0.4, 0.6, 0.4, 0.8]],
  [/waltz|air|hymn|song/i, [0.9, 0.5, 0.8, 0.7, 0.8, 0.4, 0.3, 0.2, 0.3, 0.8, 0]],
  [/march/i, [0.8, 0.6, 1, 0.7, 0.1, 0.7, 0.2, 0.3, 0.8, 0.6, 0.2]],
  [/swing|blues/i, [0.9, 0.9, 0.4, 0.7, 1, 0.3, 0.8, 0.1, 0.7, 0.6, 0.9]],
];
const OTHER: readonly number[] = [0.8, 0.7, 0.8, 0.7, 0.5, 0.6, 0.4, 0.4, 0.6, 0.6, 0.4];

const weightsFor = (style: string | null | undefined): Readonly<Record<Dressing, number>> => {
  const own = USUAL.find(([usual]) => usual.test(style ?? ''))?.[1] ?? OTHER;
  return Object.fromEntries(DRESSINGS.map((kind, index) => [kind, own[index]!])) as Record<Dressing, number>;
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
  /** Which change a note comes of, also one that is new. */
  readonly owners: ReadonlyMap<string, string>;
}

interface Candidate {
  readonly id: string;
  readonly kind: Dressing;
  readonly window: TuneWindow;
  readonly index: number;
  readonly sound: SoundingNote;
  readonly weight: number;
  /** What notes become; others stay. */
  readonly edits: ReadonlyMap<string, readonly Note[]>;
  readonly slurs: Tune['slurs'];
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
  const weights = weightsFor(tune.style);
  const candidates = windows
    .flatMap((_, index) => [
      ...candidatesIn(input, windows, index, harmony, weights),
      ...shuffles(input, windows, index, weights),
    ])
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
  const byNote = new Map(taken.flatMap(({ edits }) => [...edits]));
  const bars = tune.bars.map((bar) => ({
    ...bar,
    events: bar.events.flatMap((event): readonly TuneEvent[] => byNote.get(event.id) ?? [event]),
  }));
  const changes = taken.map(({ id, kind, window, sound, is, edits }): GradeChange => {
    const bar = tune.bars[window.barIndex]!;
    const at = bar.offset + window.from - starts[window.barIndex]!;
    return {
      id,
      kind,
      direction: 'richer',
      rules: [],
      bar: numbers[window.barIndex]!,
      beat: Math.floor(at / beatLength(bar.metre)) + 1,
      notes: kind === 'shuffle' ? [...edits.keys()] : [sound.note.id],
      was: [sound.note.heads.at(-1)!.pitch],
      is,
    };
  });
  const owners = new Map(
    taken.flatMap(({ id, edits }) =>
      [...edits].flatMap(([note, events]) =>
        [note, ...events.flatMap((event) => [event.id, ...(event.graces ?? []).map((grace) => grace.id)])].map(
          (own) => [own, id] as const,
        ),
      ),
    ),
  );
  const slurs = [...tune.slurs, ...taken.flatMap((one) => one.slurs)];
  return { tune: { ...tune, bars, slurs }, changes, owners };
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
    const edits = new Map([[note.id, events]]);
    const worth = weight * weights[kind];
    found.push({ id: `${window.id}:${kind}`, kind, window, index, sound, weight: worth, edits, slurs: [], is });
  };
  const inKey = (at: number): Pitch | null => diatonicStep(pitch, at, bar.key.signature);
  // What the bar alters is not put beside itself unaltered.
  const clashes = ({ letter, alter }: Pitch) =>
    bar.events.some(
      (event) =>
        event.kind === 'note' && event.heads.some((head) => head.pitch.letter === letter && head.pitch.alter !== alter),
    );
  const can = (one: Pitch | null): one is Pitch => one !== null && places.has(midi(one)) && !clashes(one);

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
  offerRuns();
  // The open string, and at once the finger on it.
  const low = inKey(-1);
  const onOpen = low !== null && open.some((one) => midi(one) === midi(low)) && !clashes(low);
  if (limits.graces && !note.graces && onOpen && note.duration >= beat / 2 && (window.strong || before)) {
    const graces = [{ id: `${note.id}h`, pitch: low, slash: true }];
    offer('hammer-on', 0.8, [{ ...note, graces }], [low, pitch]);
  }
  // Above and below it and back: there must be a finger on either side.
  const canRoll = can(above) && can(low) && stopped && midi(low) >= Math.min(...open.map(midi));
  if (limits.graces && !note.graces && canRoll && note.duration >= (isCompound(bar.metre) ? beat : 1.5 * beat)) {
    if (!note.decorations?.some((sign) => sign !== 'accent'))
      offer('roll', 1, [{ ...note, decorations: [...(note.decorations ?? []), 'roll'] }], [above, pitch, low]);
  }
  return found;

  /** A beat run through in three; two beats, or one of three, broken into the chord. */
  function offerRuns(): void {
    if (!next || !alone(window, sound!, note.duration, beat)) return;
    const distance = step(next.note.heads.at(-1)!.pitch) - step(pitch);
    const compound = isCompound(bar.metre);
    const eighth = beat / 2;
    if (limits.triplets && !compound && note.duration === beat && eighth >= least && valueOf(eighth)) {
      const way = Math.sign(distance);
      const steps = Math.abs(distance) === 3 ? [0, way, 2 * way] : distance === 0 ? [0, 1, 0] : null;
      const pitches = steps?.map(inKey) ?? [];
      if (steps && pitches.every(can)) offer('triplet', 1, partsOf(note, pitches, beat / 3, 't'), pitches);
    }
    const part = compound ? beat / 3 : eighth;
    const count = note.duration / part;
    if (count !== (compound ? 3 : 4) || part < least || !tones.includes(own % 12)) return;
    const up = distance >= 0;
    const scale = Array.from({ length: 7 }, (_, at) => inKey(up ? at + 1 : -at - 1));
    const [third, fifth] = scale.filter((one): one is Pitch => can(one) && tones.includes(midi(one) % 12));
    if (third && fifth && Math.abs(midi(third) - topOf(next)) <= 9) {
      const pitches = [pitch, third, fifth, third].slice(0, count);
      offer('arpeggio', 0.9, partsOf(note, pitches, part, 'a'), pitches);
    }
  }
}

/** A note in equal parts; in threes of a plain beat they are a triplet. */
function partsOf(note: Note, pitches: readonly Pitch[], part: number, sign: string): readonly Note[] {
  const plain = valueOf(part);
  const value = plain ?? valueOf((part * 3) / 2)!;
  const { chordSymbol, words, lineEnd, ...rest } = note;
  return pitches.map((pitch, index) => {
    const edge = index === 0 ? ('start' as const) : index === pitches.length - 1 ? ('stop' as const) : undefined;
    return {
      ...(index === 0 ? rest : { kind: 'note' as const }),
      id: index === 0 ? note.id : `${note.id}${sign}${index}`,
      at: note.at + index * part,
      duration: part,
      value,
      heads: [{ pitch }],
      ...(plain === null && { tuplet: { actual: 3, normal: 2, ...(edge && { edge }) } }),
      ...(index === 0 && chordSymbol !== undefined && { chordSymbol }),
      ...(index === 0 && words && { words }),
      ...(index === pitches.length - 1 && lineEnd && { lineEnd }),
    };
  });
}

/**
 * A phrase in even short notes, bowed two together and two apart with the weight on the last: where at least two such
 * groups follow each other, the tune has no slurs there and no note comes twice under one.
 */
function shuffles(
  { tune, limits }: DressInput,
  windows: readonly TuneWindow[],
  index: number,
  weights: Readonly<Record<Dressing, number>>,
): readonly Candidate[] {
  const window = windows[index]!;
  const { phrase } = window;
  const bar = tune.bars[window.barIndex]!;
  if (!phrase || windows[index - 1]?.phrase === phrase || (limits.maxSlur ?? 2) < 2 || isCompound(bar.metre)) return [];
  const slurred = new Set(tune.slurs.flatMap(({ from, to }) => [from, to]));
  const short = beatLength(bar.metre) / 2;
  const even = ({ note, duration, chain }: SoundingNote) =>
    duration === short && !note.tuplet && chain.length === 1 && note.heads.length === 1 && !slurred.has(note.id);
  const groups: SoundingNote[][] = [];
  for (let at = index; windows[at + 1]?.phrase === phrase; at += 1) {
    const four = [...windows[at]!.starting, ...windows[at + 1]!.starting];
    if (!windows[at]!.strong || four.length !== 4 || !four.every(even)) continue;
    if (topOf(four[0]!) !== topOf(four[1]!)) groups.push(four);
    at += 1;
  }
  if (groups.length < 2) return [];
  const accented = (note: Note): Note => ({ ...note, decorations: [...(note.decorations ?? []), 'accent'] });
  const edits = new Map(
    groups.flatMap((four) => four.map(({ note }, place) => [note.id, [place === 3 ? accented(note) : note]] as const)),
  );
  const [sound] = groups[0]!;
  const at = windows.findIndex(({ starting }) => starting.includes(sound!));
  return [
    {
      id: `${windows[at]!.id}:shuffle`,
      kind: 'shuffle',
      window: windows[at]!,
      index: at,
      sound: sound!,
      weight: 0.9 * weights.shuffle,
      edits,
      is: [],
      slurs: groups.map(([first, second]) => ({ from: first!.note.id, to: second!.note.id })),
    },
  ];
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

/**
 * A richer version: long notes filled, repeated ones varied, open strings that sound along, slides and cuts, where the
 * style wants them, the chords bear them, and the hand can play them. Never everywhere: a share of the places, spread, and not the same
 * thing twice in a row. Section 6 of the domain.
 */
import {
  TICKS_PER_QUARTER,
  barNumbers,
  barStarts,
  beatLength,
  diatonicStep,
  isCompound,
  midi,
  step,
  type Note,
  type Pitch,
  type SoundingNote,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import type { Form } from '../form/index.ts';
import type { GradeChange } from './changes.ts';
import type { Limits } from './contract.ts';
import { NOTE_DRESSINGS, shuffle, shuffled, usualIn, type DressingId, type Spot } from './dressings/index.ts';
import { chordAt, harmonyOf, type Harmony } from '../harmony/index.ts';
import type { Places } from './search.ts';
import { topOf, windowsOf, type TuneWindow } from './windows.ts';

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
  readonly kind: DressingId;
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
  const candidates = windows
    .flatMap((_, index) => candidatesIn(input, windows, index, harmony))
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
  const used = new Map<DressingId, number>();
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

/** The plain note that begins a window, as dressings see it; none where it stays as it is. */
function spotIn(
  { tune, limits, places, open }: DressInput,
  windows: readonly TuneWindow[],
  index: number,
  harmony: readonly Harmony[],
): Spot | null {
  const window = windows[index]!;
  const [sound] = window.starting;
  const bar = tune.bars[window.barIndex]!;
  // One plain note that begins its beat: the first and the last of a phrase, ties and tuplets stay as they are.
  if (!sound || sound.onset !== window.from || sound.chain.length > 1 || sound.note.tuplet) return null;
  const { note } = sound;
  const { phrase } = window;
  if (!phrase || note.id === phrase.notes[0] || note.id === phrase.notes.at(-1) || note.heads.length > 1) return null;
  const { pitch } = note.heads[0]!;
  const next = following(windows, index, sound);
  const clashes = ({ letter, alter }: Pitch) =>
    bar.events.some(
      (event) =>
        event.kind === 'note' && event.heads.some((head) => head.pitch.letter === letter && head.pitch.alter !== alter),
    );
  return {
    tune,
    limits,
    places,
    open,
    window,
    sound,
    note,
    pitch,
    midi: topOf(sound),
    beat: beatLength(bar.metre),
    compound: isCompound(bar.metre),
    tones: chordAt(harmony, sound.onset)?.tones ?? [],
    next,
    before: preceding(windows, index),
    toNext: next && step(next.note.heads.at(-1)!.pitch) - step(pitch),
    least: (limits.shortest ?? 0) * TICKS_PER_QUARTER,
    inKey: (steps) => diatonicStep(pitch, steps, bar.key.signature),
    clashes,
    can: (one): one is Pitch => one !== null && places.has(midi(one)) && !clashes(one),
  };
}

function candidatesIn(
  input: DressInput,
  windows: readonly TuneWindow[],
  index: number,
  harmony: readonly Harmony[],
): readonly Candidate[] {
  const window = windows[index]!;
  const { style } = input.tune;
  const spot = spotIn(input, windows, index, harmony);
  const single = spot
    ? NOTE_DRESSINGS.flatMap(({ id: kind, usual, offer }): Candidate[] => {
        const found = offer(spot);
        if (!found) return [];
        const { worth, events, is } = found;
        const edits = new Map([[spot.note.id, events]]);
        const id = `${window.id}:${kind}`;
        return [
          { id, kind, window, index, sound: spot.sound, weight: worth * usualIn(usual, style), edits, slurs: [], is },
        ];
      })
    : [];
  const whole = shuffled(input, windows, index);
  if (!whole) return single;
  const { worth, ...rest } = whole;
  const at = windows[whole.index]!;
  const weight = worth * usualIn(shuffle.usual, style);
  return [...single, { id: `${at.id}:shuffle`, kind: shuffle.id, window: at, weight, is: [], ...rest }];
}

const following = (windows: readonly TuneWindow[], index: number, sound: SoundingNote): SoundingNote | null => {
  for (let at = index; at < windows.length && at < index + 4; at += 1) {
    const found = windows[at]!.starting.find(({ onset }) => onset > sound.onset);
    if (found) return found.onset === sound.onset + sound.duration ? found : null;
  }
  return null;
};
const preceding = (windows: readonly TuneWindow[], index: number): SoundingNote | null =>
  windows[index - 1]?.starting.at(-1) ?? null;

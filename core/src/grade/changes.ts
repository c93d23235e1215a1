/** What was changed to make a simpler version: one card for each beat that is not the tune's, with what, where and why. */
import {
  barNumbers,
  barStarts,
  beatLength,
  midi,
  type Midi,
  type Pitch,
  type Semitones,
  type SoundingNote,
  type Tune,
} from '../music/index.ts';
import type { Breach } from './breaches.ts';
import type { Rule } from './contract.ts';
import type { Simplified } from './search.ts';
import { midiOf, pitchIn, type Filling, type Piece } from './fillings.ts';
import { foldIdOf, pitchOf, type TuneWindow } from './windows.ts';

export const GRADE_CHANGE_KINDS = [
  'left-out',
  'joined',
  'held',
  'moved-to-beat',
  'octave',
  'folded',
  'replaced',
  'again',
  'rhythm',
  'rested',
  'one-note',
  'grace',
  'sign',
  'transposed',
  'slur',
  'filled',
  'varied',
  'drone',
  'slide',
  'cut',
  'double-stop',
  'hammer-on',
  'roll',
  'triplet',
  'arpeggio',
  'shuffle',
  'even',
] as const;
/**
 * Notes left out; repeated ones joined; a note held over the beat; a note come to its beat; one note at another octave; a whole
 * phrase at another octave; another note of the chord; a held note struck again; other lengths; silence instead; one note of a double
 * stop; without the grace, without the ornament; the whole in another key; slurs cut. And
 * richer: a long note filled, a repeated one varied, a drone, a slide, a cut, a third or sixth with it, an open string before it, a
 * roll, a run of three, a broken chord, a shuffle of the bow. And, for strings rather than the voice, a dotted pair made even.
 */
export type GradeChangeKind = (typeof GRADE_CHANGE_KINDS)[number];

/**
 * A beat that would be allowed and is changed: it is as in a bar before that is the same; a note would sound twice in a row, or the
 * line would leap, now that something beside it is simpler; the beats around are too quick; the line joins better; or a whole phrase
 * lies where the hand can reach all of it.
 */
export type Because =
  | { readonly by: 'alike'; readonly bar: number }
  | { readonly by: 'twice' | 'leap' | 'pace' | 'line' | 'reach' };

export interface GradeChange {
  /** Of the window, or `key` or `octave`: what is dropped, kept or chosen is told by it. */
  readonly id: string;
  readonly kind: GradeChangeKind;
  readonly direction: 'easier' | 'richer';
  readonly bar: number;
  readonly beat: number;
  /** Notes of the tune that it is about. */
  readonly notes: readonly string[];
  /** What the tune has there, and what the version has. */
  readonly was: readonly Pitch[];
  readonly is: readonly Pitch[];
  /** What the tune breaks there; none where it only follows from what stands around it. */
  readonly rules: readonly Rule[];
  /** Why, where nothing is broken just there. */
  readonly because?: Because;
  /** For another key. */
  readonly semitones?: Semitones;
}

/**
 * One card for each beat that is not as in the tune, and one for each grace, sign and double stop.
 * @example changesBetween(reel, { tune: reel, windows: [], fillings: [] }, [], 12).map(({ kind }) => kind) // ['transposed']
 * @param broken what the tune, as it is in this key, breaks of the contract
 * @param slursCut the contract has shorter strokes than the tune
 */
export function changesBetween(
  source: Tune,
  {
    tune,
    windows,
    fillings,
    roots = NO_ROOTS,
  }: Pick<Simplified, 'tune' | 'windows' | 'fillings'> & Partial<Pick<Simplified, 'roots'>>,
  broken: readonly Breach[],
  transpose: Semitones,
  slursCut = false,
): readonly GradeChange[] {
  const numbers = barNumbers(source.bars);
  const starts = barStarts(source.bars);
  const rules = rulesByNote(windows, broken);
  const version = new Map(tune.bars.flatMap(({ events }) => events.map((event) => [event.id, event] as const)));
  const found: GradeChange[] = [];
  if (transpose !== 0) {
    const first = windows.flatMap(({ starting }) => starting)[0];
    found.push({
      id: transpose % 12 === 0 ? 'octave' : 'key',
      kind: 'transposed',
      direction: 'easier',
      bar: 1,
      beat: 1,
      semitones: transpose,
      notes: first ? [first.note.id] : [],
      was: [],
      is: [],
      rules: [],
    });
  }
  if (slursCut) {
    const [note] = source.slurs.map(({ from }) => from);
    found.push({
      id: 'slur',
      kind: 'slur',
      direction: 'easier',
      bar: 1,
      beat: 1,
      was: [],
      is: [],
      rules: ['maxSlur'],
      notes: note === undefined ? [] : [note],
    });
  }
  let fold = 0;
  windows.forEach((window, index) => {
    const filling = fillings[index]!;
    const { starting } = window;
    const bar = source.bars[window.barIndex]!;
    const at = bar.offset + window.from - starts[window.barIndex]!;
    const place = { bar: numbers[window.barIndex]!, beat: Math.floor(at / beatLength(bar.metre)) + 1 };
    if (filling.fold !== null) {
      // A phrase that lies elsewhere is told once, and its notes as if it lay where it was.
      if (filling.fold !== 0 && (filling.fold !== fold || window.joint))
        found.push(foldedPhrase(windows, fillings, index, place));
      fold = filling.fold;
    }
    if (starting.length === 0 && !(window.held && filling.pieces.length > 0)) return;
    const sounds = starting.length > 0 ? starting : [window.held!];
    const broke = [...new Set(sounds.flatMap(({ chain }) => chain.flatMap(({ id }) => rules.get(id) ?? [])))];
    const base = {
      ...place,
      id: window.id,
      direction: 'easier' as const,
      notes: sounds.map(({ note }) => note.id),
      was: sounds.map(pitchOf),
      is: pitchesIn(filling),
      rules: broke,
      ...(broke.length === 0 && { because: becauseOf(windows, fillings, index, roots, numbers) }),
    };
    const kind = kindOf(window, filling);
    if (kind) found.push({ ...base, kind });
    else if (starting.length > 0 && wasLengthened(window, fillings[index + 1], version))
      found.push({ ...base, kind: 'rhythm' });
    for (const sound of starting) found.push(...noteChanges(sound, version.get(sound.note.id), base));
  });
  return found;
}

const NO_ROOTS: ReadonlyMap<number, number> = new Map();

/** What the tune breaks, by note; what is too quick is so from two seconds before it. */
function rulesByNote(windows: readonly TuneWindow[], broken: readonly Breach[]): ReadonlyMap<string, readonly Rule[]> {
  const rules = new Map<string, Rule[]>();
  const add = (note: string, rule: Rule) => {
    const own = rules.get(note) ?? [];
    if (!own.includes(rule)) rules.set(note, [...own, rule]);
  };
  const order = windows.flatMap(({ starting }) => starting.map(({ note }) => note.id));
  const numbers = new Map(order.map((id, index) => [id, index]));
  for (const { rule, note } of broken) {
    add(note, rule);
    if (rule !== 'notesPerSecond' && rule !== 'crossingsPerSecond') continue;
    const at = numbers.get(note) ?? 0;
    for (const before of order.slice(Math.max(0, at - QUICK), at)) add(before, rule);
  }
  return rules;
}
/** So many notes before one that is too quick take part in it. */
const QUICK = 3;

function foldedPhrase(
  windows: readonly TuneWindow[],
  fillings: readonly Filling[],
  index: number,
  place: Pick<GradeChange, 'bar' | 'beat'>,
): GradeChange {
  const { phrase } = windows[index]!;
  const first = windows.findIndex((one) => one.phrase === phrase);
  const own = windows.filter((one) => one.phrase === phrase).flatMap(({ starting }) => starting);
  return {
    ...place,
    id: foldIdOf(windows[phrase === null ? index : first]!.id),
    kind: 'folded',
    direction: 'easier',
    notes: own.map(({ note }) => note.id),
    was: [],
    is: [],
    rules: [],
    because: { by: 'reach' },
    semitones: 12 * fillings[index]!.fold!,
  };
}

function becauseOf(
  windows: readonly TuneWindow[],
  fillings: readonly Filling[],
  index: number,
  roots: ReadonlyMap<number, number>,
  numbers: readonly number[],
): Because {
  const root = roots.get(index);
  if (root !== undefined && fillings[root]!.key === fillings[index]!.key)
    return { by: 'alike', bar: numbers[windows[root]!.barIndex]! };
  const { starting } = windows[index]!;
  const kept = new Set(fillings[index]!.pieces.flatMap(({ sound }) => sound ?? []));
  const gone = starting.filter((sound) => !kept.has(sound)).map((sound) => midi(pitchOf(sound)));
  const near = [nearestPitch(fillings, index, -1), nearestPitch(fillings, index, 1)].flatMap((pitch) => pitch ?? []);
  if (gone.some((pitch) => near.some((other) => (other - pitch) % 12 === 0))) return { by: 'twice' };
  if (gone.some((pitch) => near.some((other) => Math.abs(other - pitch) > FIFTH))) return { by: 'leap' };
  return { by: starting.length > 1 ? 'pace' : 'line' };
}
const FIFTH: Semitones = 7;

/** What sounds last before a window, or first after it. */
function nearestPitch(fillings: readonly Filling[], index: number, direction: 1 | -1): Midi | null {
  for (let at = index + direction; fillings[at]; at += direction) {
    const sounding = fillings[at]!.pieces.filter(({ sound }) => sound);
    const piece = direction < 0 ? sounding.at(-1) : sounding[0];
    if (piece) return midiOf(piece);
  }
  return null;
}

const pitchesIn = ({ pieces }: Filling): readonly Pitch[] => pieces.flatMap((piece) => pitchIn(piece) ?? []);

function kindOf(window: TuneWindow, { pieces, asIs, fold }: Filling): GradeChangeKind | null {
  const { starting, from } = window;
  if (asIs || isOwn(window, pieces, fold)) return null;
  const sounding = pieces.filter(({ sound }) => sound !== null);
  if (pieces.length === 0) return 'held';
  if (sounding.length === 0) return 'rested';
  if (starting.length === 0) return 'again';
  const kept = new Set(sounding.map(({ sound }) => sound));
  const dropped = starting.filter((sound) => !kept.has(sound));
  if (sounding.some(({ instead }) => instead)) return 'replaced';
  if (dropped.length > 0) {
    const same = (one: SoundingNote) => sounding.some(({ sound }) => midi(pitchOf(sound!)) === midi(pitchOf(one)));
    return dropped.every(same) ? 'joined' : 'left-out';
  }
  if (sounding.some(({ octave }) => octave !== fold)) return 'octave';
  return sounding.some(({ sound, from: begin }) => sound!.onset !== begin) && sounding[0]!.from === from
    ? 'moved-to-beat'
    : 'rhythm';
}

/** As in the tune, but for the octave of its phrase. */
function isOwn({ starting }: TuneWindow, pieces: readonly Piece[], fold: number | null): boolean {
  const sounding = pieces.filter(({ sound }) => sound);
  return (
    starting.length > 0 &&
    sounding.length === starting.length &&
    sounding.every(
      ({ sound, from, octave, instead }, index) =>
        sound === starting[index] && from === sound!.onset && octave === fold && !instead,
    )
  );
}

/** As in the tune, but its last note goes on into what follows. */
function wasLengthened(
  { starting }: TuneWindow,
  next: Filling | undefined,
  version: ReadonlyMap<string, Tune['bars'][number]['events'][number]>,
): boolean {
  const last = starting.at(-1)!;
  const event = version.get(last.note.id);
  return event !== undefined && event.duration !== last.note.duration && next !== undefined;
}

function noteChanges(
  { note }: SoundingNote,
  event: Tune['bars'][number]['events'][number] | undefined,
  base: Omit<GradeChange, 'kind'>,
): readonly GradeChange[] {
  if (event?.kind !== 'note') return [];
  const own = { ...base, id: `${base.id} ${note.id}`, notes: [note.id] };
  const found: GradeChange[] = [];
  if (event.heads.length < note.heads.length) found.push({ ...own, kind: 'one-note' });
  if (note.graces && !event.graces) found.push({ ...own, kind: 'grace' });
  if ((event.decorations?.length ?? 0) < (note.decorations?.length ?? 0)) found.push({ ...own, kind: 'sign' });
  return found;
}

/** What was changed to make a simpler version: one card for each beat that is not the tune's, with what, where and why. */
import {
  barNumbers,
  barStarts,
  beatLength,
  midi,
  type Pitch,
  type Semitones,
  type SoundingNote,
  type Tune,
} from '../music/index.ts';
import type { Breach } from './breaches.ts';
import type { Rule } from './contract.ts';
import type { Simplified } from './search.ts';
import { pitchIn, pitchOf, type Filling, type TuneWindow } from './windows.ts';

export const GRADE_CHANGE_KINDS = [
  'left-out',
  'joined',
  'held',
  'moved-to-beat',
  'octave',
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
 * Notes left out; repeated ones joined; a note held over the beat; a note come to its beat; at another octave; other lengths;
 * silence instead; one note of a double stop; without the grace, without the ornament; the whole in another key; slurs cut. And
 * richer: a long note filled, a repeated one varied, a drone, a slide, a cut, a third or sixth with it, an open string before it, a
 * roll, a run of three, a broken chord, a shuffle of the bow. And, for strings rather than the voice, a dotted pair made even.
 */
export type GradeChangeKind = (typeof GRADE_CHANGE_KINDS)[number];

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
  { tune, windows, fillings }: Pick<Simplified, 'tune' | 'windows' | 'fillings'>,
  broken: readonly Breach[],
  transpose: Semitones,
  slursCut = false,
): readonly GradeChange[] {
  const numbers = barNumbers(source.bars);
  const starts = barStarts(source.bars);
  const rules = new Map<string, Rule[]>();
  for (const { rule, note } of broken) rules.set(note, [...(rules.get(note) ?? []), rule]);
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
  windows.forEach((window, index) => {
    const filling = fillings[index]!;
    const { starting } = window;
    if (starting.length === 0) return;
    const bar = source.bars[window.barIndex]!;
    const at = bar.offset + window.from - starts[window.barIndex]!;
    const place = { bar: numbers[window.barIndex]!, beat: Math.floor(at / beatLength(bar.metre)) + 1 };
    const notes = starting.map(({ note }) => note.id);
    const base = {
      ...place,
      id: window.id,
      direction: 'easier' as const,
      notes,
      was: starting.map(pitchOf),
      is: pitchesIn(filling),
      rules: [...new Set(starting.flatMap(({ chain }) => chain.flatMap(({ id }) => rules.get(id) ?? [])))],
    };
    const kind = kindOf(window, filling);
    if (kind) found.push({ ...base, kind });
    else if (wasLengthened(window, fillings[index + 1], version)) found.push({ ...base, kind: 'rhythm' });
    for (const sound of starting) found.push(...noteChanges(sound, version.get(sound.note.id), base));
  });
  return found;
}

const pitchesIn = ({ pieces }: Filling): readonly Pitch[] => pieces.flatMap((piece) => pitchIn(piece) ?? []);

function kindOf({ starting, from }: TuneWindow, { pieces, asIs }: Filling): GradeChangeKind | null {
  if (asIs) return null;
  const sounding = pieces.filter(({ sound }) => sound !== null);
  if (pieces.length === 0) return 'held';
  if (sounding.length === 0) return 'rested';
  const kept = new Set(sounding.map(({ sound }) => sound));
  const dropped = starting.filter((sound) => !kept.has(sound));
  if (dropped.length > 0) {
    const same = (one: SoundingNote) => sounding.some(({ sound }) => midi(pitchOf(sound!)) === midi(pitchOf(one)));
    return dropped.every(same) ? 'joined' : 'left-out';
  }
  if (sounding.some(({ octave }) => octave !== 0)) return 'octave';
  return sounding.some(({ sound, from: begin }) => sound!.onset !== begin) && sounding[0]!.from === from
    ? 'moved-to-beat'
    : 'rhythm';
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

/** What was chosen, written into the tune's bars: notes as they were where nothing changed, else in plain values. */
import {
  barIndexAt,
  barStarts,
  transposePitch,
  writeDuration,
  type Bar,
  type Note,
  type NoteValue,
  type Pitch,
  type SoundingNote,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { joinWords } from './bare.ts';
import type { Limits } from './contract.ts';
import type { Raised, SimplifyInput } from './search.ts';
import type { Filling, Piece } from './fillings.ts';
import type { TuneWindow } from './windows.ts';

export const isExact = ({ onset, duration }: SoundingNote, from: Ticks, to: Ticks) =>
  onset === from && onset + duration === to;

/** A stretch of time as it is written: bar by bar, in plain values. */
export function stretchesOf(tune: Tune, starts: readonly Ticks[], from: Ticks, to: Ticks) {
  const stretches: { bar: Bar; index: number; duration: Ticks; value: NoteValue; at: Ticks }[] = [];
  for (let index = barIndexAt(starts, from); index < tune.bars.length && starts[index]! < to; index += 1) {
    const bar = tune.bars[index]!;
    const start = starts[index]!;
    const [begin, end] = [Math.max(from, start), Math.min(to, start + bar.length)];
    if (begin >= end) continue;
    for (const { at, duration, value } of writeDuration(bar.offset + begin - start, end - begin, bar.metre)) {
      stretches.push({ bar, index, duration, value, at: at - bar.offset });
    }
  }
  return stretches;
}

/** A piece with its end. */
interface Placed extends Piece {
  readonly to: Ticks;
}

/** What was chosen, written into the tune's bars. */
export function written(
  { tune, limits, wishes }: Pick<SimplifyInput, 'tune' | 'limits' | 'wishes'>,
  { windows, fillings }: { readonly windows: readonly TuneWindow[]; readonly fillings: readonly Filling[] },
  raised: Raised,
): Tune {
  const starts = barStarts(tune.bars);
  const placed = placedPieces(windows, fillings);
  const sounds = windows.flatMap(({ starting }) => starting);
  const bars: TuneEvent[][] = tune.bars.map(() => []);
  // Where the tune is kept, its ornaments are too.
  const keptNotes = new Set(
    windows.flatMap(({ id, starting }) => (wishes?.kept.has(id) ? starting.map(({ note }) => note.id) : [])),
  );
  // The words of what is silent now go to the next note that sounds: the text stays whole.
  let unsung: readonly SoundingNote[] = [];
  let sounded = 0;
  const sung = new Set<SoundingNote>();
  const used = new Set<string>();
  const bringing = new Set(placed.flatMap(({ sound }) => sound ?? []));
  for (const piece of placed) {
    const first = sounded;
    while (sounded < sounds.length && sounds[sounded]!.onset < piece.to) sounded += 1;
    // Words that a note brings along go with it, also where it comes sooner or later than in the tune.
    const brought = piece.sound !== null && bringing.delete(piece.sound) ? piece.sound : null;
    const own = sounds
      .slice(first, sounded)
      .filter((sound) => sound !== brought && !bringing.has(sound) && !sung.has(sound));
    if (brought) own.splice(own.filter(({ onset }) => onset < brought.onset).length, 0, brought);
    for (const sound of own) sung.add(sound);
    const covered = [...unsung, ...own];
    unsung = piece.sound ? [] : covered.filter(({ note }) => note.words);
    for (const { index, event } of eventsOf(tune, starts, piece, covered, used)) {
      used.add(event.id);
      bars[index]!.push(event.kind === 'note' && !keptNotes.has(event.id) ? plainer(event, limits, raised) : event);
    }
  }
  const next: Tune = { ...tune, bars: tune.bars.map((bar, index) => ({ ...bar, events: bars[index]! })) };
  return { ...next, slurs: slursLeft(tune, next, limits.maxSlur ?? Infinity) };
}

function placedPieces(windows: readonly TuneWindow[], fillings: readonly Filling[]): readonly Placed[] {
  const pieces: Piece[] = [];
  fillings.forEach(({ pieces: own }) => {
    for (const piece of own) {
      const last = pieces.at(-1);
      if (!(last && !last.sound && !piece.sound)) pieces.push(piece);
    }
  });
  const end = windows.at(-1)?.to ?? 0;
  return pieces.map((piece, index) => ({ ...piece, to: pieces[index + 1]?.from ?? end }));
}

function eventsOf(
  tune: Tune,
  starts: readonly Ticks[],
  piece: Placed,
  covered: readonly SoundingNote[],
  used: ReadonlySet<string>,
): readonly { readonly index: number; readonly event: TuneEvent }[] {
  const { sound, from, to, octave, instead } = piece;
  if (!sound) return restsOf(tune, starts, from, to);
  const up = (note: Note): Note => {
    if (instead) return { ...note, heads: [{ ...note.heads.at(-1)!, pitch: instead }] };
    if (octave === 0) return note;
    return { ...note, heads: note.heads.map((head) => ({ ...head, pitch: octaveUp(head.pitch, octave) })) };
  };
  if (isExact(sound, from, to)) {
    // The later notes of a tie that stays keep what they have.
    const words = joinWords(covered.flatMap((one) => (one === sound ? [one.note] : one.chain)));
    const sings = covered.some((one) => one !== sound && one.onset < from) && words.length > 0;
    return sound.chain.map((note, index) => ({
      index: tune.bars.findIndex(({ events }) => events.includes(note)),
      event: up(index === 0 && sings ? { ...note, words } : note),
    }));
  }
  const parts = stretchesOf(tune, starts, from, to);
  return parts.map(({ index, at, duration, value }, part) => {
    const goesOn = part < parts.length - 1;
    const heads = sound.note.heads.map(({ pitch }) => ({ pitch, ...(goesOn && { tied: true }) }));
    const place = { at, duration, value };
    if (part > 0) {
      const id = `${sound.note.id}t${starts[index]! + at}`;
      return { index, event: up({ kind: 'note', id, ...place, heads }) };
    }
    const { tuplet: _, words: __, chordSymbol: ___, lineEnd: ____, ...note } = sound.note;
    const words = joinWords(covered.flatMap((one) => one.chain));
    // What is struck again is another note.
    const again = used.has(note.id);
    const symbol = covered.find((one) => one.note.chordSymbol !== undefined)?.note.chordSymbol;
    return {
      index,
      event: up({
        ...note,
        ...(again && { id: `${note.id}t${starts[index]! + at}` }),
        ...place,
        heads,
        ...(symbol !== undefined && { chordSymbol: symbol }),
        ...(words.length > 0 && { words }),
        ...(covered.some((one) => one.note.lineEnd) && { lineEnd: true }),
      }),
    };
  });
}

/** Silence: the tune's own rests where they fill it, else new ones. */
function restsOf(tune: Tune, starts: readonly Ticks[], from: Ticks, to: Ticks) {
  const own: { index: number; event: TuneEvent }[] = [];
  for (let index = barIndexAt(starts, from); index < tune.bars.length && starts[index]! < to; index += 1) {
    for (const event of tune.bars[index]!.events) {
      const onset = starts[index]! + event.at;
      if (event.kind === 'rest' && onset >= from && onset + event.duration <= to) own.push({ index, event });
    }
  }
  if (own.reduce((sum, { event }) => sum + event.duration, 0) === to - from) return own;
  return stretchesOf(tune, starts, from, to).map(({ bar, index, at, duration, value }) => ({
    index,
    event: { kind: 'rest' as const, id: `${bar.id}r${bar.offset + at}`, at, duration, value },
  }));
}

const octaveUp = (pitch: Pitch, octaves: number): Pitch => transposePitch(pitch, 7 * octaves, 12 * octaves);

/** Signs that are no ornament. */
const ORNAMENTED: ReadonlySet<string> = new Set(['trill', 'turn', 'mordent', 'inverted-mordent', 'roll']);

/** A note without what the contract does not allow on it. */
function plainer(note: Note, limits: Limits, { single }: Raised): Note {
  const one = note.heads.length > 1 && (limits.doubleStops === 'none' || single.has(note.id));
  const { graces, decorations, ...rest } = note;
  const signs = decorations?.filter(
    (sign) => (limits.slides || sign !== 'slide') && (limits.graces || !ORNAMENTED.has(sign)),
  );
  return {
    ...rest,
    ...(one && { heads: [rest.heads.at(-1)!] }),
    ...(graces && limits.graces && { graces }),
    ...(signs && signs.length > 0 && { decorations: signs }),
  };
}

/** Slurs over notes that are still there; those that lost an end are drawn in. What is longer than a stroke may be is no slur. */
function slursLeft(tune: Tune, version: Tune, most: number): Tune['slurs'] {
  if (tune.slurs.length === 0 || most <= 1) return [];
  const order = tune.bars.flatMap(({ events }) => events.map(({ id }) => id));
  const number = new Map(order.map((id, index) => [id, index]));
  const left = version.bars.flatMap(({ events }) => events.filter(({ kind }) => kind === 'note').map(({ id }) => id));
  return tune.slurs.flatMap(({ from, to, ...more }) => {
    const [first, last] = [number.get(from), number.get(to)];
    if (first === undefined || last === undefined) return [];
    const inside = left.filter((id) => (number.get(id) ?? -1) >= first && (number.get(id) ?? Infinity) <= last);
    return inside.length > 1 && inside.length <= most ? [{ ...more, from: inside[0]!, to: inside.at(-1)! }] : [];
  });
}

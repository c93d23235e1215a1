/**
 * From played times to written ones: each beat is divided in four or in three, whichever its notes
 * fit better, and every note begins on the nearest division.
 */
import { TICKS_PER_QUARTER, type Midi, type Ticks } from '../../music/index.ts';

/** A note as it was played, in our ticks. */
export interface PlayedNote {
  readonly midi: Midi;
  readonly onset: Ticks;
  readonly duration: Ticks;
}

/** Notes that begin together, with written times. */
export interface QuantisedSound {
  readonly onset: Ticks;
  readonly duration: Ticks;
  /** Low to high. */
  readonly midis: readonly Midi[];
}

export interface Quantised {
  readonly sounds: readonly QuantisedSound[];
  /** Quarter beats, from time 0, that are divided in three. */
  readonly tripletBeats: ReadonlySet<number>;
  /** How far notes were moved on average, in quarters. */
  readonly moved: number;
}

export interface Grid {
  /** Shortest value of beats divided in halves, in ticks. */
  readonly unit: Ticks;
  readonly triplets: boolean;
}

/** Divisions that a file can be read with; the plain ones first. */
export const GRIDS = {
  eighth: { unit: TICKS_PER_QUARTER / 2, triplets: false },
  'eighth-triplets': { unit: TICKS_PER_QUARTER / 2, triplets: true },
  sixteenth: { unit: TICKS_PER_QUARTER / 4, triplets: false },
  'sixteenth-triplets': { unit: TICKS_PER_QUARTER / 4, triplets: true },
  'thirty-second': { unit: TICKS_PER_QUARTER / 8, triplets: false },
} as const satisfies Record<string, Grid>;
export type GridId = keyof typeof GRIDS;

/** A beat is read as a triplet only if that is clearly nearer: thirds fit by chance more easily. */
const TRIPLET_MARGIN: Ticks = TICKS_PER_QUARTER / 40;
/** A note held for more than this share of the time to the next one is meant to last until there. */
const HELD_SHARE = 0.6;
/** Short notes are often played shorter still; no rests are written between them. */
const ALWAYS_JOINED: Ticks = TICKS_PER_QUARTER / 2;

const distance = (at: Ticks, unit: Ticks) => Math.abs(at - Math.round(at / unit) * unit);

export function quantise(notes: readonly PlayedNote[], grid: Grid): Quantised {
  const third = TICKS_PER_QUARTER / 3;
  const tripletBeats = grid.triplets ? findTripletBeats(notes, grid.unit, third) : new Set<number>();
  const place = (at: Ticks): Ticks => {
    const beat = Math.floor((at + grid.unit / 4) / TICKS_PER_QUARTER);
    const unit = tripletBeats.has(beat) ? third : grid.unit;
    return Math.round(at / unit) * unit;
  };
  const starts = new Map<Ticks, PlayedNote[]>();
  let moved = 0;
  for (const note of notes) {
    const onset = place(note.onset);
    moved += Math.abs(onset - note.onset);
    const chord = starts.get(onset);
    if (chord) chord.push(note);
    else starts.set(onset, [note]);
  }
  const onsets = [...starts.keys()].sort((a, b) => a - b);
  const gate = gateOf(notes);
  /** What a note may be a multiple of that ends in a beat. */
  const shortest = (beat: number): Ticks => (tripletBeats.has(beat) ? third / 2 : Math.min(grid.unit, SHORTEST_REST));
  const sounds = onsets.map((onset, index): QuantisedSound => {
    const chord = starts.get(onset)!;
    const next = onsets[index + 1] ?? Infinity;
    const end = chord.reduce((latest, note) => Math.max(latest, note.onset + note.duration), 0);
    const inThirds = tripletBeats.has(Math.floor(onset / TICKS_PER_QUARTER));
    return {
      onset,
      duration:
        gate === null
          ? lengthOf(onset, end, next, place, inThirds ? third : grid.unit)
          : writtenLength(onset, (end - onset) / gate, next - onset, shortest),
      midis: [...new Set(chord.map(({ midi }) => midi))].sort((a, b) => a - b),
    };
  });
  return { sounds, tripletBeats, moved: notes.length > 0 ? moved / notes.length / TICKS_PER_QUARTER : 0 };
}

/** Times that a program has written lie so near to its divisions. */
const EXACT: Ticks = TICKS_PER_QUARTER / 96;
const EXACT_SHARE = 0.95;
/** Programs let notes sound for a share of their length, the same for most of them. */
const GATES = { least: 0.7, alike: 0.02, share: 0.6, fewest: 6 } as const;
const SHORTEST_REST: Ticks = TICKS_PER_QUARTER / 4;

/**
 * Where the notes were written and not played: the share of its length that each sounds, by what most do until the
 * next one. Null where they were played: then gaps are how somebody played, and no rests.
 */
function gateOf(notes: readonly PlayedNote[]): number | null {
  if (notes.length < GATES.fewest) return null;
  const exact = ({ onset }: PlayedNote) =>
    Math.min(distance(onset, TICKS_PER_QUARTER / 8), distance(onset, TICKS_PER_QUARTER / 6)) <= EXACT;
  if (notes.filter(exact).length < EXACT_SHARE * notes.length) return null;
  const onsets = [...new Set(notes.map(({ onset }) => onset))].sort((a, b) => a - b);
  const after = new Map(onsets.map((onset, index) => [onset, onsets[index + 1]]));
  const shares = notes.flatMap(({ onset, duration }) => {
    const next = after.get(onset);
    return next === undefined ? [] : [Math.min(1, duration / (next - onset))];
  });
  const best = commonest(shares);
  if (best.share >= GATES.least && best.count >= GATES.share * shares.length) return best.share;
  // Or each sounds exactly as long as it is written.
  const whole = ({ duration }: PlayedNote) =>
    duration >= SHORTEST_REST / 2 &&
    Math.min(distance(duration, TICKS_PER_QUARTER / 4), distance(duration, TICKS_PER_QUARTER / 3)) <= EXACT;
  return notes.filter(whole).length >= EXACT_SHARE * notes.length ? 1 : null;
}

/** The share that most others are like; the first of several. */
function commonest(shares: readonly number[]): { readonly share: number; readonly count: number } {
  const counts = new Map<number, number>();
  const sorted = shares.toSorted((a, b) => a - b);
  let [from, to] = [0, 0];
  for (const share of sorted) {
    while (share - sorted[from]! > GATES.alike) from += 1;
    while (to < sorted.length && sorted[to]! - share <= GATES.alike) to += 1;
    counts.set(share, to - from);
  }
  return shares
    .map((share) => ({ share, count: counts.get(share)! }))
    .reduce((one, other) => (other.count > one.count ? other : one), { share: 0, count: 0 });
}

/**
 * As long as it was written, and the rest of the way a rest. It ends on a division of the beat that it ends in, which
 * need not be divided as the one that it begins in.
 */
function writtenLength(onset: Ticks, held: Ticks, room: Ticks, shortest: (beat: number) => Ticks): Ticks {
  const beatOf = (at: Ticks) => Math.floor(at / TICKS_PER_QUARTER);
  const first = shortest(beatOf(onset));
  const own = Math.max(first, Math.round(held / first) * first);
  const last = shortest(beatOf(onset + own - 1));
  const end = Math.round((onset + own) / last) * last;
  const length = beatOf(onset) === beatOf(onset + own - 1) || end <= onset ? own : end - onset;
  return room - length < last ? room : Math.min(length, room);
}

/** Until the next note where the gap is short against the note; else to the nearest division. */
function lengthOf(onset: Ticks, end: Ticks, next: Ticks, place: (at: Ticks) => Ticks, unit: Ticks): Ticks {
  const room = next - onset;
  const held = end - onset;
  if (room <= ALWAYS_JOINED || (held > room * HELD_SHARE && room <= 4 * TICKS_PER_QUARTER)) return room;
  const rounded = place(end) - onset;
  const length = rounded > 0 ? rounded : unit;
  return next - (onset + length) < unit ? room : Math.min(length, room);
}

function findTripletBeats(notes: readonly PlayedNote[], unit: Ticks, third: Ticks): ReadonlySet<number> {
  const byBeat = new Map<number, Ticks[]>();
  for (const { onset } of notes) {
    const beat = Math.floor((onset + unit / 4) / TICKS_PER_QUARTER);
    const own = byBeat.get(beat);
    if (own) own.push(onset);
    else byBeat.set(beat, [onset]);
  }
  const found = new Set<number>();
  for (const [beat, onsets] of byBeat) {
    const inside = onsets.filter((onset) => Math.abs(onset - beat * TICKS_PER_QUARTER) > unit / 4);
    if (inside.length === 0) continue;
    const halves = onsets.reduce((sum, onset) => sum + distance(onset, unit), 0);
    const thirds = onsets.reduce((sum, onset) => sum + distance(onset, third), 0);
    if (thirds + TRIPLET_MARGIN * inside.length < halves) found.add(beat);
  }
  return found;
}

/** The coarsest division that moves notes hardly more than the finest one does. */
export function suggestGrid(notes: readonly PlayedNote[]): GridId {
  const ids = Object.keys(GRIDS) as GridId[];
  const results = ids.map((id) => {
    const { moved, sounds } = quantise(notes, GRIDS[id]);
    // Notes that fall together were one after the other in the file.
    const lost = notes.length - new Set(notes.map(({ onset }) => onset)).size;
    return { id, moved, merged: Math.max(0, notes.length - lost - sounds.length) };
  });
  const best = Math.min(...results.map(({ moved }) => moved));
  const fits = results.find(({ moved, merged }) => moved <= best + 0.02 && merged <= notes.length / 50);
  return fits?.id ?? 'sixteenth-triplets';
}

/**
 * Finding a tune by a few of its notes, in any key, anywhere in it.
 *
 * A melody is its chain of intervals. A query is matched by the bit-parallel form of the edit distance
 * (G. Myers, "A fast bit-vector algorithm for approximate string matching based on dynamic
 * programming", 1999), so a wrong, a missing and an extra note are forgiven and a library of thousands
 * of tunes is searched note by note without an index.
 */
import {
  LETTERS,
  midi,
  soundingNotes,
  type Alter,
  type Letter,
  type Midi,
  type Pitch,
  type Semitones,
  type Tune,
} from '../music/index.ts';

/** Semitones from each sound to the next, chords by their top note. */
export type Intervals = Int8Array;

/** What was asked for: intervals, or only their directions. */
export interface MelodyQuery {
  readonly kind: 'notes' | 'contour';
  readonly steps: readonly Semitones[];
}

export interface MelodyHit {
  readonly id: string;
  /** 1 is exact. */
  readonly score: number;
  /** Number of the sound, from 0, with which the place begins. */
  readonly from: number;
  /** Number of sounds. */
  readonly length: number;
}

/** Larger leaps are told apart no further. */
const WIDEST: Semitones = 36;
/** Bits of a machine word; longer queries are cut. */
export const MOST_STEPS = 31;
export const FEWEST_STEPS = { notes: 2, contour: 4 } as const;

/** @example melodyOf(tuneOf('A2 B2 A2')).length // 2 */
export function melodyOf(tune: Tune): Intervals {
  const pitches = soundingNotes(tune).map(({ note }) => midi(note.heads.at(-1)!.pitch));
  return intervalsOf(pitches);
}

function intervalsOf(pitches: readonly Midi[]): Intervals {
  const steps = new Int8Array(Math.max(0, pitches.length - 1));
  for (let index = 0; index < steps.length; index += 1) {
    const step = pitches[index + 1]! - pitches[index]!;
    steps[index] = Math.max(-WIDEST, Math.min(WIDEST, step));
  }
  return steps;
}

/**
 * For a text column: one letter an interval.
 * @example typeof packMelody(melodyOf(reel)) // 'string'
 */
export function packMelody(steps: Intervals): string {
  return String.fromCharCode(...Array.from(steps, (step) => step + WIDEST + 40));
}

/** @example unpackMelody(packMelody(melodyOf(reel))).length === melodyOf(reel).length // true */
export function unpackMelody(text: string): Intervals {
  return Int8Array.from(text, (sign) => sign.charCodeAt(0) - WIDEST - 40);
}

/**
 * Notes that were played.
 * @example queryOfPitches([69, 71, 69]).kind // 'notes'
 */
export function queryOfPitches(pitches: readonly Midi[]): MelodyQuery {
  return { kind: 'notes', steps: [...intervalsOf(pitches)].slice(0, MOST_STEPS) };
}

/**
 * Reads what was typed: letters with sharps and flats (`g a b d`, `Bb`, `F#`), each taken in the octave
 * nearest to the note before it; where capitals and small letters are mixed they are octaves, as in ABC.
 * `'` and `,` move by an octave. Or only ups, downs and repeats (`+ + - =`).
 *
 * @returns null where nothing can be searched for yet
 * @example readMelodyQuery('G B d') // { kind: 'notes', steps: [4, 3] }
 */
export function readMelodyQuery(text: string): MelodyQuery | null {
  const directions = [...text.replace(/[\s,;]/g, '')];
  if (directions.length > 0 && directions.every((sign) => DIRECTION[sign] !== undefined)) {
    const steps = directions.map((sign) => DIRECTION[sign]!).slice(0, MOST_STEPS);
    return steps.length >= FEWEST_STEPS.contour ? { kind: 'contour', steps } : null;
  }
  const pitches = readNotes(text);
  if (!pitches || pitches.length <= FEWEST_STEPS.notes) return null;
  return queryOfPitches(pitches);
}

const DIRECTION: Readonly<Record<string, number>> = { '+': 1, '↑': 1, '-': -1, '−': -1, '↓': -1, '=': 0, '→': 0 };
const SIGNS: Readonly<Record<string, Alter>> = { '#': 1, '♯': 1, b: -1, '♭': -1 };

const NOTE = /([A-Ga-g])([#b♯♭]?)([',]*)\s*/g;

function readNotes(text: string): readonly Midi[] | null {
  const found: Midi[] = [];
  let before: Pitch | null = null;
  const letters = [...text.matchAll(NOTE)].map(([, letter]) => letter!);
  const octaves = new Set(letters.map((letter) => letter === letter.toUpperCase())).size === 2;
  const rest = text.replace(NOTE, (_, letter: string, sign: string, marks: string) => {
    const name = letter.toUpperCase() as Letter;
    const alter = SIGNS[sign] ?? 0;
    const pitch: Pitch = octaves
      ? { letter: name, alter, octave: letter === name ? 4 : 5 }
      : nearest(name, alter, before);
    const moved = [...marks].reduce((sum, mark) => sum + (mark === "'" ? 1 : -1), 0);
    before = { ...pitch, octave: pitch.octave + moved };
    found.push(midi(before));
    return '';
  });
  return rest.trim() === '' ? found : null;
}

function nearest(letter: Letter, alter: Alter, before: Pitch | null): Pitch {
  if (!before) return { letter, alter, octave: 4 };
  const place = LETTERS.indexOf(letter) - LETTERS.indexOf(before.letter);
  const octave = before.octave + (place > 3 ? -1 : place < -3 ? 1 : 0);
  return { letter, alter, octave };
}

/** How alike two intervals must be to count as the same. */
type Sameness = (asked: Semitones, found: Semitones) => boolean;

const exactly: Sameness = (asked, found) => asked === found;
/** A sharp left out, a third sung a little wide: the direction right, the size within a semitone. */
const nearly: Sameness = (asked, found) => Math.sign(asked) === Math.sign(found) && Math.abs(asked - found) <= 1;
const sameWay: Sameness = (asked, found) => Math.sign(asked) === Math.sign(found);

/** For each interval a word with a bit for each place of the query that it fits. */
function masks(steps: readonly Semitones[], same: Sameness): Int32Array {
  const table = new Int32Array(2 * WIDEST + 1);
  for (let step = -WIDEST; step <= WIDEST; step += 1) {
    steps.forEach((asked, place) => {
      if (same(asked, step)) table[step + WIDEST]! |= 1 << place;
    });
  }
  return table;
}

interface Found {
  readonly distance: number;
  /** Last interval of the place. */
  readonly end: number;
}

/** Best place of a query in a melody by edit distance; the first of equals. */
function scan(melody: Uint8Array, table: Int32Array, size: number): Found {
  const top = 1 << (size - 1);
  let plus = -1;
  let minus = 0;
  let distance = size;
  let best = size;
  let end = -1;
  for (let at = 0; at < melody.length; at += 1) {
    const equal = table[melody[at]!]!;
    const either = equal | minus;
    const carried = (((equal & plus) + plus) ^ plus) | equal;
    let up = minus | ~(carried | plus);
    let down = plus & carried;
    if (up & top) distance += 1;
    else if (down & top) distance -= 1;
    up <<= 1;
    down <<= 1;
    plus = down | ~(either | up);
    minus = up & either;
    if (distance < best) {
      best = distance;
      end = at;
      if (best === 0) break;
    }
  }
  return { distance: best, end };
}

/** Mistakes that are forgiven: one in three intervals, since a wrong note spoils two. */
const FORGIVEN = 1 / 3;
/** A match that needs bent intervals never stands above an exact one. */
const BENT = 0.9;

/**
 * A library's melodies, searched in memory.
 * @example new MelodyIndex().search(readMelodyQuery('G B d'), 5) // []
 */
export class MelodyIndex {
  /** Intervals moved up so that they are places in a table of masks: nothing is added in the inner loop. */
  private readonly melodies = new Map<string, Uint8Array>();

  get size(): number {
    return this.melodies.size;
  }

  put(id: string, melody: Intervals): void {
    this.melodies.set(
      id,
      Uint8Array.from(melody, (step) => step + WIDEST),
    );
  }

  remove(id: string): void {
    this.melodies.delete(id);
  }

  /** @returns the best place in each tune that has one, best first */
  search(query: MelodyQuery, limit = 50): readonly MelodyHit[] {
    const { kind, steps } = query;
    const size = Math.min(steps.length, MOST_STEPS);
    if (size === 0) return [];
    const strict = masks(steps, kind === 'contour' ? sameWay : exactly);
    const loose = kind === 'contour' ? null : masks(steps, nearly);
    const most = kind === 'contour' ? 0 : Math.floor(size * FORGIVEN);
    const first = this.byDistance(loose ?? strict, size, most);
    const hits: MelodyHit[] = [];
    for (const [distance, found] of first.entries()) {
      // Whatever fits exactly fits with bent intervals too: no tune of this group can score more than that.
      const enough = hits.filter(({ score }) => score >= 1 - distance / size).length >= limit;
      if (enough) break;
      for (const { id, melody, end: bentEnd } of found) {
        const exact = loose ? scan(melody, strict, size) : { distance, end: bentEnd };
        const exactScore = exact.distance <= most ? 1 - exact.distance / size : 0;
        const bentScore = loose ? BENT - distance / size : 0;
        const end = bentScore > exactScore ? bentEnd : exact.end;
        const score = Math.max(exactScore, bentScore);
        if (score > 0) hits.push({ id, score, from: Math.max(0, end - size + 1), length: size + 1 });
      }
    }
    return hits.sort((a, b) => b.score - a.score || a.from - b.from).slice(0, limit);
  }

  /** Tunes in groups by their distance from the query, those too far left out. */
  private byDistance(table: Int32Array, size: number, most: number) {
    const groups = Array.from({ length: most + 1 }, (): { id: string; melody: Uint8Array; end: number }[] => []);
    for (const [id, melody] of this.melodies) {
      const { distance, end } = scan(melody, table, size);
      groups[distance]?.push({ id, melody, end });
    }
    return groups;
  }
}

/**
 * Noticing that a melody is there already under another title or in another key. Each melody leaves
 * a few least hashes of its figures (A. Broder, "On the resemblance and containment of documents",
 * 1997); melodies that share some are compared figure by figure. Cost per tune does not grow with the
 * library.
 */
import type { Intervals } from './melody.ts';

export interface Alike {
  readonly id: string;
  /** Share of the shorter melody's figures that the other one has too, 0 to 1. */
  readonly likeness: number;
}

/** Intervals in a figure: long enough not to be in every reel. */
const FIGURE = 5;
const BANDS = 10;
const ROWS = 2;
/** From here on two melodies are called the same. */
export const SAME_MELODY = 0.7;
/** Shorter melodies are too easily alike. */
const FEWEST_FIGURES = 8;

/** Figures of a melody as numbers, each once, in order: compact, since there is one for every note. */
type Figures = Int32Array;

/** Each figure of a melody as a number. */
function figuresOf(melody: Intervals): Figures {
  const figures = new Set<number>();
  for (let at = 0; at + FIGURE <= melody.length; at += 1) {
    let hash = 17;
    for (let place = 0; place < FIGURE; place += 1) hash = (Math.imul(hash, 73) + melody[at + place]! + 40) | 0;
    figures.add(hash);
  }
  return Int32Array.from(figures).sort();
}

/** Mixes a figure with the number of a hash function. */
function mix(figure: number, round: number): number {
  let hash = Math.imul(figure ^ Math.imul(round + 1, 0x9e3779b1), 0x85ebca6b);
  hash ^= hash >>> 13;
  hash = Math.imul(hash, 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

function bandsOf(figures: Figures): readonly string[] {
  return Array.from({ length: BANDS }, (_, band) => {
    const least = Array.from({ length: ROWS }, (__, row) => {
      let smallest = Infinity;
      for (const figure of figures) smallest = Math.min(smallest, mix(figure, band * ROWS + row));
      return smallest;
    });
    return `${band}:${least.join('.')}`;
  });
}

/**
 * Melodies by their figures.
 * @example new LikenessIndex().alike(melodyOf(reel)) // []
 */
export class LikenessIndex {
  private readonly buckets = new Map<string, string[]>();
  private readonly figures = new Map<string, Figures>();

  put(id: string, melody: Intervals): void {
    this.remove(id);
    const figures = figuresOf(melody);
    if (figures.length < FEWEST_FIGURES) return;
    this.figures.set(id, figures);
    for (const band of bandsOf(figures)) {
      const bucket = this.buckets.get(band);
      if (bucket) bucket.push(id);
      else this.buckets.set(band, [id]);
    }
  }

  remove(id: string): void {
    const figures = this.figures.get(id);
    if (!figures) return;
    this.figures.delete(id);
    for (const band of bandsOf(figures)) {
      const left = (this.buckets.get(band) ?? []).filter((other) => other !== id);
      if (left.length > 0) this.buckets.set(band, left);
      else this.buckets.delete(band);
    }
  }

  /** Melodies that are the same one, most alike first. */
  alike(melody: Intervals): readonly Alike[] {
    const figures = figuresOf(melody);
    if (figures.length < FEWEST_FIGURES) return [];
    const candidates = new Set(bandsOf(figures).flatMap((band) => this.buckets.get(band) ?? []));
    return [...candidates]
      .map((id) => ({ id, likeness: shared(figures, this.figures.get(id)!) }))
      .filter(({ likeness }) => likeness >= SAME_MELODY)
      .sort((a, b) => b.likeness - a.likeness);
  }
}

/** Share of the smaller set that both have; both are sorted. */
function shared(a: Figures, b: Figures): number {
  let common = 0;
  for (let left = 0, right = 0; left < a.length && right < b.length;) {
    const difference = a[left]! - b[right]!;
    if (difference === 0) common += 1;
    if (difference <= 0) left += 1;
    if (difference >= 0) right += 1;
  }
  return common / Math.min(a.length, b.length);
}

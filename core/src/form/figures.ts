/** What a phrase is made of inside: a figure that comes again at once, moved or as it was, or that runs across the beats. */
import { barLength, beatLength, type Ticks } from '../music/index.ts';
import { samePitches } from './align.ts';
import { barAt, type Reading, type Sound } from './reading.ts';
import type { Figure } from './model.ts';

const FEWEST_NOTES = 3;
/** A figure across the beats has to come so often before it is one. */
const ACROSS_TIMES = 2.5;
const LONGEST_ACROSS = 7;

export function figuresOf(reading: Reading, sounds: readonly Sound[], downbeat: Ticks): readonly Figure[] {
  const body = sounds.filter(({ onset }) => onset >= downbeat);
  return [...movedCells(reading, body, downbeat), ...across(reading, body)];
}

/** Cells of two bars, one bar and half a bar that come again at once. */
function movedCells(reading: Reading, body: readonly Sound[], downbeat: Ticks): readonly Figure[] {
  const first = body[0];
  const last = body.at(-1);
  if (!first || !last) return [];
  const { metre } = reading.bars[barAt(reading, downbeat)]!;
  const bar = barLength(metre);
  const beats = bar / beatLength(metre);
  const units = [
    { length: 2 * bar, times: 2, bars: 2 },
    { length: bar, times: 2, bars: 1 },
    ...(beats % 2 === 0 ? [{ length: bar / 2, times: 3, bars: 0.5 }] : []),
  ];
  const figures: Figure[] = [];
  const told = new Set<string>();
  for (const { length, times, bars } of units) {
    const cells: Sound[][] = [];
    for (const sound of body) (cells[Math.floor((sound.onset - downbeat) / length)] ??= []).push(sound);
    let from = 0;
    while (from < cells.length - 1) {
      const shift = shiftBetween(cells[from], cells[from + 1], length);
      let to = from + 1;
      while (shift !== null && to + 1 < cells.length && shiftBetween(cells[to], cells[to + 1], length) === shift)
        to += 1;
      if (shift !== null && to - from + 1 >= times) {
        const notes = cells.slice(from, to + 1).flatMap((cell) => (cell ?? []).flatMap(({ ids }) => ids));
        const known = notes.every((id) => told.has(id));
        for (const id of notes) told.add(id);
        if (!known) figures.push(cellFigure(shift, to - from, bars, notes, cells[from]!, cells[from + 1]!));
      }
      from = shift === null ? from + 1 : to;
    }
  }
  return figures;
}

/** Steps from one cell to the next where all its notes move alike; null where they do not. */
function shiftBetween(a: readonly Sound[] | undefined, b: readonly Sound[] | undefined, length: Ticks): number | null {
  if (!a || !b || a.length !== b.length || a.length < FEWEST_NOTES) return null;
  const steps = b[0]!.step - a[0]!.step;
  const alike = a.every((sound, index) => {
    const other = b[index]!;
    const sameLength = index === a.length - 1 || sound.duration === other.duration;
    return other.onset - sound.onset === length && sameLength && other.step - sound.step === steps;
  });
  if (!alike) return null;
  // Standing still means the very same notes, accidentals too.
  return steps === 0 && !a.every((sound, index) => samePitches(sound, b[index]!)) ? null : steps;
}

function cellFigure(
  steps: number,
  times: number,
  bars: number,
  notes: readonly string[],
  cell: readonly Sound[],
  next: readonly Sound[],
): Figure {
  const octave = Math.abs(steps) === 7 && cell.every((sound, index) => Math.abs(next[index]!.top - sound.top) === 12);
  return { kind: steps === 0 ? 'again' : octave ? 'echo' : 'sequence', notes, bars, steps, times, pitches: [] };
}

/** Notes of one length whose figure is longer or shorter than the beat, so that it starts elsewhere each time. */
function across(reading: Reading, body: readonly Sound[]): readonly Figure[] {
  const figures: Figure[] = [];
  let from = 0;
  while (from < body.length) {
    const unit = body[from]!.duration;
    let to = from + 1;
    while (
      to < body.length &&
      body[to]!.duration === unit &&
      body[to]!.onset === body[to - 1]!.onset + unit &&
      body[to]!.pitches.length === 1
    )
      to += 1;
    figures.push(...acrossIn(reading, body.slice(from, to), unit));
    from = to;
  }
  return figures;
}

function acrossIn(reading: Reading, run: readonly Sound[], unit: Ticks): readonly Figure[] {
  const first = run[0];
  if (!first) return [];
  const beat = beatLength(reading.bars[first.barIndex]!.metre);
  let best: { from: number; length: number; period: number } | null = null;
  for (let period = 3; period <= LONGEST_ACROSS; period += 1) {
    if ((period * unit) % beat === 0 || beat % (period * unit) === 0) continue;
    let from = 0;
    for (let index = period; index <= run.length; index += 1) {
      if (index < run.length && run[index]!.top === run[index - period]!.top) continue;
      const length = index - from;
      const longer = length >= ACROSS_TIMES * period && length > (best?.length ?? 0);
      // One note over and over is no figure.
      if (longer && run.slice(from, from + period).some(({ top }) => top !== run[from]!.top)) {
        best = { from, length, period };
      }
      from = index - period + 1;
    }
  }
  if (!best) return [];
  const notes = run.slice(best.from, best.from + best.length);
  const { period } = best;
  return [
    {
      kind: 'across',
      notes: notes.flatMap(({ ids }) => ids),
      bars: null,
      steps: 0,
      times: Math.floor(best.length / period) - 1,
      pitches: notes.slice(0, period).map(({ note }) => note.heads.at(-1)!.pitch),
    },
  ];
}

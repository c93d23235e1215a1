/**
 * Several arrangements of one tune side by side: what each plays when, beat under beat, and where two of them clash when they
 * play together.
 */
import { chordAt, harmonyOf } from '../harmony/index.ts';
import {
  barNumbers,
  barStarts,
  beatLength,
  isStrongBeat,
  keyName,
  midi,
  soundingNotes,
  type Midi,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { arrange } from '../arrange/index.ts';
import type { Decisions } from '../arrange/index.ts';

/** One sound of an arrangement. */
export interface SideNote {
  readonly id: string;
  readonly at: Ticks;
  readonly duration: Ticks;
  readonly pitches: readonly Midi[];
  /** Fingers, low to high. */
  readonly fingers: readonly number[];
  /** It is not in the tune as it stands there. */
  readonly changed: boolean;
}

export interface SideRow {
  readonly notes: readonly SideNote[];
  readonly key: string;
  /** What it sounds like: for hearing it. */
  readonly tune: Tune;
  readonly breaches: number;
}

export interface Clash {
  /** Rows that clash. */
  readonly rows: readonly [number, number];
  readonly bar: number;
  readonly beat: number;
  readonly at: Ticks;
  readonly pitches: readonly [Midi, Midi];
}

export interface Together {
  readonly rows: readonly SideRow[];
  readonly clashes: readonly Clash[];
}

/** Semitones, octaves aside, that nobody wants to hold on a strong beat: a semitone either way, and the tritone where the chord has it not. */
const SHARP_CLASH: ReadonlySet<number> = new Set([1, 11]);
const TRITONE = 6;

/**
 * Arranges the tune in each way, in steps, as each takes a while.
 * @example togetherSteps(reel, []).next().done // true
 */
export function* togetherSteps(source: Tune, all: readonly Decisions[]): Generator<number, Together> {
  const rows: SideRow[] = [];
  for (const [index, decisions] of all.entries()) {
    yield index / all.length;
    rows.push(rowOf(source, decisions));
  }
  return { rows, clashes: clashesIn(rows) };
}

function rowOf(source: Tune, decisions: Decisions): SideRow {
  const { plain, inKey, fingering, breaches, graded } = arrange(source, decisions);
  const fingers = new Map(fingering.notes.map(({ id, stops }) => [id, stops.map(({ finger }) => finger)]));
  const shift = graded?.transpose ?? 0;
  const own = new Set(
    soundingNotes(inKey).map(
      (sound) =>
        `${sound.onset} ${sound.duration} ${pitchesOf(sound)
          .map((one) => one + shift)
          .join()}`,
    ),
  );
  const notes = soundingNotes(plain).map((sound): SideNote => {
    const { note, onset: at, duration } = sound;
    const pitches = pitchesOf(sound);
    return {
      id: note.id,
      at,
      duration,
      pitches,
      fingers: fingers.get(note.id) ?? [],
      changed: !own.has(`${at} ${duration} ${pitches.join()}`),
    };
  });
  return { notes, key: keyName(plain.bars[0]!.key), tune: plain, breaches: breaches.length };
}

const pitchesOf = ({ note }: ReturnType<typeof soundingNotes>[number]): readonly Midi[] =>
  note.heads.map(({ pitch }) => midi(pitch));

/**
 * Where two rows sound a semitone or a tritone together on a strong beat, and the chord does not have it so.
 * @example clashesIn([]) // []
 */
export function clashesIn(rows: readonly SideRow[]): readonly Clash[] {
  const [first] = rows;
  if (!first) return [];
  const { bars } = first.tune;
  const starts = barStarts(bars);
  const numbers = barNumbers(bars);
  const harmony = harmonyOf(first.tune);
  const clashes: Clash[] = [];
  bars.forEach((bar, index) => {
    const beat = beatLength(bar.metre);
    for (let place = 0; place < bar.length + bar.offset; place += beat) {
      if (place < bar.offset || !isStrongBeat(place, bar.metre)) continue;
      const at = starts[index]! + place - bar.offset;
      const tones = chordAt(harmony, at)?.tones ?? [];
      const sounding = rows.map(
        ({ notes }) => notes.find((one) => one.at <= at && one.at + one.duration > at)?.pitches ?? [],
      );
      sounding.forEach((mine, row) =>
        sounding.slice(row + 1).forEach((others, more) => {
          for (const one of mine) {
            for (const other of others) {
              const apart = Math.abs(one - other) % 12;
              const inChord = tones.includes(one % 12) && tones.includes(other % 12);
              if (inChord || !(SHARP_CLASH.has(apart) || apart === TRITONE)) continue;
              clashes.push({
                rows: [row, row + 1 + more],
                bar: numbers[index]!,
                beat: place / beat + 1,
                at,
                pitches: [one, other],
              });
            }
          }
        }),
      );
    }
  });
  return clashes;
}

/** What a melody does from note to note, as a teacher sees it: runs, arpeggios, repeated notes, neighbours, leaps. */
import type { Key, Pitch, Ticks } from '../music/index.ts';
import { chordOf, isChord } from './chordNames.ts';
import type { Motion, MotionKind } from './model.ts';
import { soundFrom, type Reading, type Sound } from './reading.ts';

const FEWEST: Readonly<Record<MotionKind, number>> = {
  scale: 4,
  chromatic: 4,
  arpeggio: 3,
  repeated: 3,
  pedal: 5,
  turn: 5,
  neighbour: 3,
  leap: 2,
};
/** Staff steps from which an interval is called a leap: a sixth. */
const LEAP = 5;

/** Each is given the sounds from a place on and tells how many of them it is true of. */
type Reach = (sounds: readonly Sound[], from: number) => number;

const step = (sounds: readonly Sound[], index: number) => sounds[index + 1]!.step - sounds[index]!.step;

function reachWhile(sounds: readonly Sound[], from: number, goesOn: (index: number) => boolean): number {
  let index = from;
  while (index + 1 < sounds.length && goesOn(index)) index += 1;
  return index - from + 1;
}

/** In the order in which they are preferred where they reach equally far. */
const REACH: readonly (readonly [MotionKind, Reach])[] = [
  [
    'scale',
    (sounds, from) => {
      const direction = from + 1 < sounds.length ? step(sounds, from) : 0;
      return Math.abs(direction) === 1 ? reachWhile(sounds, from, (index) => step(sounds, index) === direction) : 1;
    },
  ],
  [
    'chromatic',
    (sounds, from) => {
      const semitone = (index: number) => sounds[index + 1]!.top - sounds[index]!.top;
      const direction = from + 1 < sounds.length ? semitone(from) : 0;
      return Math.abs(direction) === 1 ? reachWhile(sounds, from, (index) => semitone(index) === direction) : 1;
    },
  ],
  ['arpeggio', arpeggioReach],
  ['repeated', (sounds, from) => reachWhile(sounds, from, (index) => sounds[index]!.top === sounds[index + 1]!.top)],
  [
    'turn',
    (sounds, from) => {
      const steps = [0, 1, 2, 3].map((more) => (from + more + 1 < sounds.length ? step(sounds, from + more) : 0));
      const side = steps[0]!;
      return Math.abs(side) === 1 && steps[1] === -side && steps[2] === -side && steps[3] === side ? 5 : 1;
    },
  ],
  ['neighbour', (sounds, from) => returns(sounds, from, (steps) => Math.abs(steps) === 1)],
  ['pedal', (sounds, from) => returns(sounds, from, (steps) => steps !== 0)],
  ['leap', (sounds, from) => (from + 1 < sounds.length && Math.abs(step(sounds, from)) >= LEAP ? 2 : 1)],
];

/** How far one note comes again at every other place, with such steps between; it begins and ends with that note. */
function returns(sounds: readonly Sound[], from: number, goes: (steps: number) => boolean): number {
  const { top } = sounds[from]!;
  let index = from;
  while (sounds[index + 2]?.top === top && goes(step(sounds, index))) index += 2;
  return index - from + 1;
}

function arpeggioReach(sounds: readonly Sound[], from: number): number {
  let reach = 1;
  for (let to = from; to + 1 < sounds.length && isChordal(step(sounds, to)); to += 1) {
    const count = to + 2 - from;
    if (count >= 3 && isChord(sounds.slice(from, to + 2).map(({ top }) => top % 12))) reach = count;
    else if (reach > 1) break;
    if (count >= LONGEST_UNHEARD && reach === 1) break;
  }
  return reach;
}
/** From one note of a chord to the next: a third to a sixth, or an octave. */
const isChordal = (steps: number) => [2, 3, 4, 5, 7].includes(Math.abs(steps));
/** A chord is heard within so many notes, or not at all. */
const LONGEST_UNHEARD = 5;

const pitchOf = ({ note }: Sound): Pitch => note.heads.at(-1)!.pitch;

export interface Harmony {
  /** The chord symbol that holds at a moment. */
  readonly symbolAt: (at: Ticks) => string | null;
  readonly homeAt: (at: Ticks) => Key;
}

/** What sounds under the tune, as far as symbols and keys say. */
export function harmonyOf(reading: Reading, homeAt: Harmony['homeAt']): Harmony {
  return { homeAt, symbolAt: (at) => reading.symbols[soundFrom(reading, at)] ?? null };
}

/** The motions of a phrase one after the other; plain steps to and fro between them are left untold. */
export function motionsOf(sounds: readonly Sound[], harmony: Harmony): readonly Motion[] {
  const motions: Motion[] = [];
  let from = 0;
  while (from < sounds.length - 1) {
    let best: { kind: MotionKind; reach: number } | null = null;
    for (const [kind, reachOf] of REACH) {
      const reach = reachOf(sounds, from);
      if (reach >= FEWEST[kind] && reach > (best?.reach ?? 1)) best = { kind, reach };
    }
    if (!best) {
      from += 1;
      continue;
    }
    motions.push(motion(best.kind, sounds.slice(from, from + best.reach), harmony));
    // One motion may begin with the note that ended another.
    from += best.reach - 1;
  }
  return motions;
}

function motion(kind: MotionKind, sounds: readonly Sound[], harmony: Harmony): Motion {
  const first = sounds[0]!;
  const last = sounds.at(-1)!;
  const direction = last.top > first.top ? 'up' : last.top < first.top ? 'down' : 'level';
  return {
    kind,
    direction,
    notes: sounds.flatMap(({ ids }) => ids),
    pitches: sounds.map(pitchOf),
    chord: kind === 'arpeggio' ? chordIn(sounds, harmony) : null,
  };
}

function chordIn(sounds: readonly Sound[], { symbolAt, homeAt }: Harmony): Motion['chord'] {
  const symbols = new Set(sounds.map(({ onset }) => symbolAt(onset)));
  const symbol = symbols.size === 1 ? [...symbols][0]! : null;
  return chordOf(sounds.map(pitchOf), symbol, homeAt(sounds[0]!.onset));
}

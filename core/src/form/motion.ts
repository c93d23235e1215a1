/** What a melody does from note to note, as a teacher sees it: runs, arpeggios, repeated notes, neighbours, leaps. */
import { chroma, type Pitch } from '../music/index.ts';
import type { Sound } from './reading.ts';
import type { Motion, MotionKind } from './model.ts';

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

const TRIADS = [
  { quality: 'major', tones: [0, 4, 7] },
  { quality: 'minor', tones: [0, 3, 7] },
  { quality: 'diminished', tones: [0, 3, 6] },
] as const;

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
  [
    'pedal',
    (sounds, from) => {
      const pedal = sounds[from + 1]?.top;
      if (pedal === undefined || sounds[from]!.top === pedal) return 1;
      let index = from;
      while (index + 2 < sounds.length && sounds[index + 1]!.top === pedal && sounds[index + 2]!.top !== pedal)
        index += 2;
      // The last return counts too.
      if (sounds[index + 1]?.top === pedal && index > from) index += 1;
      return index - from + 1;
    },
  ],
  [
    'neighbour',
    (sounds, from) =>
      from + 2 < sounds.length && Math.abs(step(sounds, from)) === 1 && sounds[from]!.top === sounds[from + 2]!.top
        ? 3
        : 1,
  ],
  ['leap', (sounds, from) => (from + 1 < sounds.length && Math.abs(step(sounds, from)) >= LEAP ? 2 : 1)],
];

function arpeggioReach(sounds: readonly Sound[], from: number): number {
  let reach = 1;
  for (let count = 3; from + count <= sounds.length; count += 1) {
    const own = sounds.slice(from, from + count);
    const leaps = own.slice(1).every((sound, index) => Math.abs(sound.step - own[index]!.step) >= 2);
    if (!leaps || new Set(own.map(({ top }) => top % 12)).size > 3) break;
    if (triadOf(own)) reach = count;
  }
  return reach;
}

const pitchOf = ({ note }: Sound): Pitch => note.heads.at(-1)!.pitch;

/** The chord whose three tones these are, each at least once; null for anything else. */
function triadOf(sounds: readonly Sound[]): Motion['chord'] {
  const chromas = new Set(sounds.map((sound) => chroma(pitchOf(sound))));
  if (chromas.size !== 3) return null;
  for (const sound of sounds) {
    const root = chroma(pitchOf(sound));
    const found = TRIADS.find(({ tones }) => tones.every((tone) => chromas.has((root + tone) % 12)));
    if (found) return { root: pitchOf(sound), quality: found.quality };
  }
  return null;
}

/** The motions of a phrase one after the other; plain steps to and fro between them are left untold. */
export function motionsOf(sounds: readonly Sound[]): readonly Motion[] {
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
    motions.push(motion(best.kind, sounds.slice(from, from + best.reach)));
    // One motion may begin with the note that ended another.
    from += best.reach - 1;
  }
  return motions;
}

function motion(kind: MotionKind, sounds: readonly Sound[]): Motion {
  const first = sounds[0]!;
  const last = sounds.at(-1)!;
  const direction = last.top > first.top ? 'up' : last.top < first.top ? 'down' : 'level';
  return {
    kind,
    direction,
    notes: sounds.flatMap(({ ids }) => ids),
    pitches: sounds.map(pitchOf),
    chord: kind === 'arpeggio' ? triadOf(sounds) : null,
  };
}

/** A drill: a few bars made for one purpose, fingered and bowed by the solvers that did the tune. */
import { arrange, decided, FIRST_DECISIONS, type Arrangement } from '../arrange/index.ts';
import { handLimitsOf } from '../version/index.ts';
import { limitsOf } from '../grade/index.ts';
import { lockOf, type FingeredNote, type Locks, type Stop } from '../hand/index.ts';
import {
  C_MAJOR,
  barLength,
  isNote,
  layBars,
  midi,
  type Attack,
  type Bar,
  type Bpm,
  type Key,
  type Metre,
  type Pitch,
  type Slur,
  type Ticks,
  type Tune,
} from '../music/index.ts';

/** One sound of a drill. */
export interface Piece {
  /** Low to high; none is a rest. */
  readonly pitches: readonly Pitch[];
  readonly ticks: Ticks;
  /** Fingered as in the tune; else as the solver finds best. */
  readonly stops?: readonly Stop[];
  /** On the bow of the piece before. */
  readonly slurred?: boolean;
}

/** Notes with their places, before anything is fingered. */
export interface Drill {
  readonly bars: readonly Bar[];
  readonly slurs: readonly Slur[];
  readonly locks: Locks;
  /** Share of the tune's tempo. */
  readonly pace: number;
}

const COMMON: Metre = { beats: 4, unit: 4 };

/** The metre and the key of the bar that a note stands in, or of the first. */
export function settingOf({ tune }: Arrangement, note: FingeredNote | null): { metre: Metre; key: Key } {
  const bar = tune.bars[note?.barIndex ?? 0];
  return { metre: bar?.metre ?? COMMON, key: bar?.key ?? C_MAJOR };
}

/** A note of the tune as it is fingered there. */
export const asPlayed = ({ pitches, stops }: FingeredNote, ticks: Ticks): Piece => ({ pitches, ticks, stops });

/**
 * Pieces one after the other, in bars; the last is held to the end of its bar.
 * @example laid(arrangement, null, [{ pitches: [pitch('G4')], ticks: 3360 }], 0.8).bars.length // 1
 */
export function laid(
  arrangement: Arrangement,
  note: FingeredNote | null,
  pieces: readonly Piece[],
  pace: number,
): Drill {
  const { metre, key } = settingOf(arrangement, note);
  const full = barLength(metre);
  const attacks: (Attack & Pick<Piece, 'stops' | 'slurred'>)[] = [];
  let onset = 0;
  pieces.forEach(({ pitches, ticks, ...more }, index) => {
    const open = (full - ((onset + ticks) % full)) % full;
    const duration = index === pieces.length - 1 ? ticks + open : ticks;
    if (pitches.length > 0) attacks.push({ onset, duration, pitches, ...more });
    onset += duration;
  });
  const bars = layBars(attacks, { metre, key, pickup: 0 });
  const groups = soundingIds(bars);
  const locks: Record<string, Locks[string]> = {};
  const slurs: Slur[] = [];
  attacks.forEach(({ stops, slurred }, index) => {
    const ids = groups[index]!;
    if (stops && stops.length > 0) locks[ids[0]!] = lockOf({ stops }, arrangement.instrument.id);
    if (!slurred || index === 0) return;
    const before = slurs.at(-1);
    const last = groups[index - 1]!;
    if (before && before.to === last.at(-1)) slurs[slurs.length - 1] = { from: before.from, to: ids.at(-1)! };
    else slurs.push({ from: last[0]!, to: ids.at(-1)! });
  });
  return { bars, slurs, locks, pace };
}

/** Ids of written notes, sound by sound: ties make one of several. */
function soundingIds(bars: readonly Bar[]): readonly (readonly string[])[] {
  const groups: string[][] = [];
  let tied = false;
  for (const event of bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) continue;
    if (tied) groups.at(-1)!.push(event.id);
    else groups.push([event.id]);
    tied = event.heads.some((head) => head.tied);
  }
  return groups;
}

/** Nobody warms up slower than this, in quarters a minute. */
const SLOWEST: Bpm = 40;
/** Metronomes have such steps. */
const STEP: Bpm = 4;

/**
 * The drill with its fingers and bows: under the limits of the arrangement, of its grade and of its hand.
 * @example arranged(arrangement, 'Scale', laid(arrangement, null, [{ pitches: [pitch('G4')], ticks: 3360 }], 0.8)).fingering.notes.length // 1
 */
export function arranged(arrangement: Arrangement, title: string, { bars, slurs, locks, pace }: Drill): Arrangement {
  const { decisions, instrument, tempo } = arrangement;
  const limits = limitsOf(decisions.version, instrument.hand);
  const tune: Tune = {
    title,
    alsoKnownAs: [],
    composer: '',
    origin: '',
    style: '',
    notes: [],
    tempo: null,
    bars,
    slurs,
  };
  const slow = Math.max(SLOWEST, Math.min(tempo, Math.round((tempo * pace) / STEP) * STEP));
  const made = arrange(
    tune,
    decided(FIRST_DECISIONS, {
      // The tune's phrases are none of the drill's.
      key: { ...decisions.key, transpose: 0, phrases: {} },
      staff: decisions.staff,
      pace: { tempo: slow },
      bow: { counting: decisions.bow.counting, start: 'down' },
      hand: {
        wishes: decisions.hand.wishes,
        learner: decisions.hand.learner,
        limits: { ...(limits && handLimitsOf(limits)), ...decisions.hand.limits },
        locks,
      },
    }),
  );
  // Nobody set these fingers for the drill: they are the tune's.
  const notes = made.fingering.notes.map((note) => ({ ...note, locked: false }));
  return { ...made, fingering: { ...made.fingering, notes } };
}

/** @example sameSound({ pitches: [pitch('G4')] }, { pitches: [pitch('A4')] }) // false */
export const sameSound = (one: Pick<Piece, 'pitches'>, other: Pick<Piece, 'pitches'>): boolean =>
  one.pitches.map(midi).join() === other.pitches.map(midi).join();

/**
 * The version stage: the tune, its bare version or a grade's; for strings rather than the voice, where that is wished; and
 * what phrases are the second and later times round.
 */
import {
  bareVersion,
  hasWords,
  isGraded,
  limitsOf,
  loosened,
  type Change,
  type GradeChange,
  type SlotFill,
  type VersionDecisions,
} from '../grade/index.ts';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { octaveAway, transposeTune, type Tune } from '../music/index.ts';
import { bowSlice } from '../bow/index.ts';
import { handSlice } from '../hand/index.ts';
import { phraseReplaced } from './rounds.ts';
import { type VersionContext } from './underContract.ts';
import { undoneWishes, type UndoneWish } from './undone.ts';
import { type GradedVersion } from './graded.ts';
import { gradedVersion, versionSteps } from './versions.ts';
import { type VersionWishes } from './versionFit.ts';

/** What a version is beside its tune. */
export interface GradedFacts extends Omit<GradedVersion, 'tune'> {
  /** Wishes that no longer find their place in the tune. */
  readonly undone: readonly UndoneWish[];
  /** It has words, so it may be loosened. */
  readonly sung: boolean;
}

/** The tune as it is a certain time round. */
export interface Round {
  /** From 1. */
  readonly time: number;
  readonly tune: Tune;
}

export interface VersionFacts {
  readonly plain: Tune;
  readonly changes: readonly Change[];
  readonly graded: GradedFacts | null;
  /** Each time round that is not as the first, and the first; none where all are alike. */
  readonly rounds: readonly Round[];
}

type Context = Pick<VersionContext, 'tune' | 'instrument' | 'tuning' | 'tempo'>;

const NO_CHANGES: readonly Change[] = [];
const NO_ROUNDS: readonly Round[] = [];

/**
 * A version by what was decided about it.
 * @param time which time round, from 1
 * @example versionOf({ ...FIRST_DECISIONS.version }, { ...facts, tune: reel }).plain === reel // true
 */
export function versionOf(version: VersionDecisions, context: Context, time = 1): VersionFacts {
  const first = oneVersion(version, context);
  const rounds = roundsOf(version, context, first);
  const now = rounds.find((round) => round.time === time);
  const told = rounds.length === 0 ? NO_ROUNDS : rounds.map((round) => ({ time: round.time, tune: round.tune }));
  if (!now || time === 1) return { ...first, rounds: told };
  return {
    ...first,
    plain: now.tune,
    graded: first.graded && { ...first.graded, changes: now.changes },
    rounds: told,
  };
}

/**
 * The long part of a version's making, in steps: what it finds is remembered, so that the stage then has it at once. Gives the
 * share that is done.
 * @example versionAhead({ ...FIRST_DECISIONS.version }, { ...facts, tune: reel }).next().done // true
 */
export function* versionAhead(version: VersionDecisions, context: Context): Generator<number, void> {
  if (!isGraded(version.grade)) return;
  const { own, wishes } = askedOf(version, context);
  yield* versionSteps(own, version.grade, wishes);
}

/** What a version is made from, and what is wished of it. */
function askedOf({ contract, kept, locked, chosen, oneKey, density, ...more }: VersionDecisions, context: Context) {
  const { tune } = context;
  const sung = hasWords(tune);
  const loose = sung ? loosenedOnce(tune, { kept, ...more }) : { tune, changes: [] };
  // What the learner's hand and the bow decide is not asked: a lock or a slur does not make another version.
  const own: VersionContext = { ...context, tune: loose.tune, hand: handSlice.first, bow: bowSlice.first };
  const wishes: VersionWishes = {
    kept: new Set(kept),
    locked: new Set(locked),
    chosen: new Map(Object.entries(chosen)),
    otherKey: !kept.includes('key'),
    otherOctave: !kept.includes('octave'),
    oneKey,
    limits: contract?.limits ?? null,
    density,
  };
  return { own, wishes, sung, loose };
}

function oneVersion(version: VersionDecisions, context: Context): Omit<VersionFacts, 'rounds'> {
  const { tune, instrument } = context;
  const { grade } = version;
  if (grade === 'bare') {
    const bare = bareVersion(tune, analyseForm(tune));
    return { plain: bare.tune, changes: bare.changes, graded: null };
  }
  if (!isGraded(grade)) return { plain: tune, changes: NO_CHANGES, graded: null };
  const { own, wishes, sung, loose } = askedOf(version, context);
  const { tune: plain, ...found } = gradedVersion(own, grade, wishes);
  const limits = limitsOf(version, instrument.hand)!;
  const undone = undoneWishes(own, limits, version, found.transpose);
  return {
    plain,
    changes: NO_CHANGES,
    graded: { ...found, changes: [...loose.changes, ...found.changes], undone, sung },
  };
}

/** The same object for the same wishes, so that what is remembered about a tune is found again. */
const loose = new WeakMap<Tune, Map<string, ReturnType<typeof loosened>>>();
const MOST_LOOSENED = 16;

type Singing = Pick<VersionDecisions, 'rhythm' | 'repeated' | 'kept'>;

function loosenedOnce(tune: Tune, { rhythm, repeated, kept }: Singing): ReturnType<typeof loosened> {
  const key = JSON.stringify([rhythm, repeated, kept.filter((id) => id.includes(':'))]);
  const known = loose.get(tune) ?? new Map<string, ReturnType<typeof loosened>>();
  loose.set(tune, known);
  const found = known.get(key) ?? loosened(tune, analyseForm(tune), { rhythm, repeated, kept });
  if (known.size >= MOST_LOOSENED) known.clear();
  known.set(key, found);
  return found;
}

interface RoundChanges extends Round {
  readonly changes: readonly GradeChange[];
}

/** The tune as it is each time round for which something was chosen. */
function roundsOf(
  version: VersionDecisions,
  context: Context,
  first: Omit<VersionFacts, 'rounds'>,
): readonly RoundChanges[] {
  if (Object.keys(version.slots).length === 0) return [];
  const phrases = phrasesOf(analyseForm(context.tune));
  const slots = phrases.flatMap((phrase) =>
    Object.entries(version.slots[phrase.notes[0] ?? ''] ?? {}).map(([time, fill]) => ({
      phrase,
      time: Number(time),
      fill,
    })),
  );
  if (slots.length === 0) return [];
  const transpose = first.graded?.transpose ?? 0;
  const source = transposeTune(context.tune, transpose);
  const versions = new Map<SlotFill, Omit<VersionFacts, 'rounds'>>();
  const filled = (fill: SlotFill): Omit<VersionFacts, 'rounds'> => {
    const known = versions.get(fill);
    if (known) return known;
    const made =
      fill === 'octave-up' || fill === 'octave-down'
        ? first
        : // In the key of the first time: nobody changes it on the way.
          oneVersion(
            {
              ...version,
              grade: fill,
              contract: null,
              locked: [],
              chosen: {},
              kept: [...version.kept, 'key', 'octave'],
            },
            { ...context, tune: source },
          );
    versions.set(fill, made);
    return made;
  };
  const changes = first.graded?.changes ?? [];
  const times = [...new Set(slots.map(({ time }) => time))].sort((a, b) => a - b);
  return [
    { time: 1, tune: first.plain, changes },
    ...times.map((time): RoundChanges => {
      let round: RoundChanges = { time, tune: first.plain, changes };
      for (const { phrase, fill } of slots.filter((one) => one.time === time)) {
        const other = filled(fill);
        const inside = ({ notes }: GradeChange) => notes.some((note) => phrase.notes.includes(note));
        round = {
          time,
          tune: fill.toString().startsWith('octave')
            ? octaveAway(round.tune, phrase, fill === 'octave-up' ? 1 : -1)
            : phraseReplaced(round.tune, other.plain, phrase),
          changes: fill.toString().startsWith('octave')
            ? round.changes
            : [...round.changes.filter((one) => !inside(one)), ...(other.graded?.changes ?? []).filter(inside)],
        };
      }
      return round;
    }),
  ];
}

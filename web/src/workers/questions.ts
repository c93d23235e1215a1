/** What can be asked about the arrangement that was worked out last. A question is one entry here. */
import {
  bowRepairSteps,
  bowTune,
  travelOf,
  type BowDecisions,
  type TravelFlag,
  type Travelling,
} from '@nokta/core/bow';
import { arrange, decided, planBowFor, settleHands, type Arrangement, type Decisions } from '@nokta/core/arrange';
import {
  gradeFits,
  groupKeys,
  keyChoices,
  ladderStep,
  newSince,
  notesToPlay,
  phrasePlaces,
  togetherSteps,
  tuningChoices,
  versionOffers,
  type GroupMember,
  type KeyChoice,
} from '@nokta/core/compare';
import { versionWays } from '@nokta/core/version';
import { difficultyOf, limitsOf, type GradeNumber } from '@nokta/core/grade';
import type { Names, WarmUpChoice } from '@nokta/core/paper';
import { tuneScore, type Score } from '@nokta/core/practice';
import { possibleWarmUps, warmUpId, warmUpsOf, type WarmUpWords } from '@nokta/core/warmup';
import { phrasesOf } from '@nokta/core/form';
import type { KeyDecisions, Tuning } from '@nokta/core/instrument';
import type { Bpm, Tune } from '@nokta/core/music';
import {
  compareFingerings,
  effectOf,
  FIRST_WISHES,
  hardPlaces,
  secondFingering,
  takeBrought,
  waysOfShift,
  waysWith,
  type Comparison,
  type Fingering,
  type RuleDifference,
} from '@nokta/core/hand';
import { lookOver } from '@nokta/core/look';
import { digestOf, talkFacts, talkThrough, type TalkOptions } from '@nokta/core/talk';

/** Another fingering of the same notes beside the one that is shown. */
export interface Beside {
  readonly fingering: Fingering;
  readonly comparison: Comparison;
}

/** A warm-up as it is heard. */
export interface PlayableWarmUp extends WarmUpChoice, WarmUpWords {
  readonly id: string;
  readonly score: Score;
  /** In quarters a minute. */
  readonly tempo: Bpm;
  /** It stands on the page. */
  readonly chosen: boolean;
}

/** Those on the page first, as they are played; then what else the tune has a reason for. */
function playableWarmUps(arrangement: Arrangement, names: Names): readonly PlayableWarmUp[] {
  const chosen = warmUpsOf(arrangement, names);
  const ids = new Set(chosen.map(({ id }) => id));
  const others = possibleWarmUps(arrangement).filter((choice) => !ids.has(warmUpId(choice)));
  const all = [...chosen, ...warmUpsOf(withWarmUps(arrangement, others), names)];
  return all.map(({ arrangement: drill, ...own }) => {
    const score = tuneScore(drill, null);
    // Notes of a drill are none of the tune's: nothing on the strips lights up for them.
    const notes = score.notes.map((note) => ({ ...note, id: `${own.id}:${note.id}` }));
    return { ...own, score: { ...score, notes }, tempo: drill.tempo, chosen: ids.has(own.id) };
  });
}

const withWarmUps = (arrangement: Arrangement, warmUps: readonly WarmUpChoice[]): Arrangement => ({
  ...arrangement,
  decisions: decided(arrangement.decisions, { sheet: { warmUps } }),
});

/** Keys that were compared before, by everything but the key itself that they depend on. */
const compared = new WeakMap<Tune, Map<string, readonly KeyChoice[]>>();

function* knownKeys(source: Tune, decisions: Decisions): Generator<number, readonly KeyChoice[]> {
  const { key, version, hand, bow, pace } = decisions;
  const asked = JSON.stringify([{ ...key, transpose: 0 }, version, hand, bow, pace]);
  const known = compared.get(source) ?? new Map<string, readonly KeyChoice[]>();
  compared.set(source, known);
  const found = known.get(asked) ?? (yield* keyChoices(source, decisions));
  known.set(asked, found);
  return found;
}

export const QUESTIONS = {
  /** What each kind of file cannot hold of the tune as it is set. */
  async losses(arrangement: Arrangement) {
    // Without the server there is no program to look with, and the desk goes on without it.
    const here = await import('./losses.ts').catch(() => null);
    return here?.fileLosses(arrangement) ?? null;
  },
  /** Every warm-up that the tune has a reason for, ready to be heard. */
  warmUps: playableWarmUps,
  lookOver,
  /** Where the bow is on its hair, stroke by stroke. */
  travel: ({ travel }: Arrangement): Travelling => travel(),
  /** The same strokes at another tempo, while a finger is on the slider. */
  travelAt: ({ bowing, tune, form, instrument, decisions }: Arrangement, tempo: Bpm): Travelling =>
    travelOf(bowing, tune, form, tempo, instrument, decisions.bow),
  /** What brings the bow back at a warning, each proved to work. */
  bowRepairs: ({ tune, form, tempo, instrument, decisions }: Arrangement, flag: TravelFlag) =>
    bowRepairSteps({ tune, form, tempo, instrument }, decisions.bow, flag),
  /** What else could be done at a note, with what it costs the tune. */
  bowWays: ({ planner }: Arrangement, noteId: string) => planner.alternatives(noteId),
  /** The strokes under other decisions, to be heard before they are taken. */
  bowUnder: ({ tune, form, tempo, decisions }: Arrangement, change: Partial<BowDecisions>) =>
    bowTune(tune, form, { ...decisions.bow, ...change }, tempo),
  /** Strokes planned for a phrase, a part or the tune. */
  planBowFor,
  /** Every key and octave, the easiest first. */
  keys: ({ source, decisions }: Arrangement) => knownKeys(source, decisions),
  /** Every tuning, the one that lies best first. @param own tunings that the teacher keeps */
  tunings: ({ source, decisions }: Arrangement, own: readonly Pick<Tuning, 'id' | 'name'>[]) =>
    tuningChoices(source, decisions, own),
  /** Keys for a group. */
  groupKeys: ({ source }: Arrangement, members: readonly GroupMember[]) => groupKeys(source, members),
  /** Each phrase in its octaves, and whether it echoes on the other pair of strings. */
  phrasePlaces,
  /** What the strips draw, in another key or tuning. */
  underKey({ source, decisions, timeRound }: Arrangement, key: Partial<KeyDecisions>) {
    const facts = arrange(source, decided(decisions, { key }), timeRound);
    const { tune, staff, form, fingering, bowing, instrument, tuning, counts } = facts;
    return { tune, staff, form, fingering, bowing, instrument, tuning, counts };
  },
  /** The tune held against each grade's contract. */
  gradeFits,
  /** What a version for a grade would be, before it is made; and at a slower tempo. */
  versionOffers: (arrangement: Arrangement, grade: GradeNumber) => versionOffers(arrangement, grade),
  /** What this version asks that the grade below does not. */
  newSince,
  /** What the next richer version does not keep of this one. */
  ladderStep,
  /** The chords of a phrase, with the notes for each that lie under the hand. */
  notesToPlay(arrangement: Arrangement, phraseId: string) {
    const phrase = phrasesOf(arrangement.form).find(({ id }) => id === phraseId);
    return phrase ? notesToPlay(arrangement, phrase) : [];
  },
  /** What to say of each phrase, and what it was made from. */
  talk(arrangement: Arrangement, options: TalkOptions) {
    const facts = talkFacts(arrangement);
    return talkThrough(arrangement, options).map((talk, index) => ({ ...talk, digest: digestOf(facts[index]!) }));
  },
  /** Arrangements of the tune under each other, and where two clash. */
  together: ({ source }: Arrangement, all: readonly Decisions[]) => togetherSteps(source, all),
  /** How difficult it is, phrase by phrase. */
  difficulty: (arrangement: Arrangement) => difficultyOf(arrangement),
  /** Other ways to fill a beat of a version. */
  versionWays({ inKey: tune, instrument, tuning, tempo, decisions, graded }: Arrangement, windowId: string) {
    const limits = limitsOf(decisions.version, instrument.hand);
    const context = { tune, instrument, tuning, tempo, hand: decisions.hand, bow: decisions.bow };
    return limits ? versionWays(context, limits, windowId, graded?.transpose) : [];
  },
  /** Both hands to and fro until nothing changes. */
  settleHands,
  /** A note with the reasons for its finger and every other way with its price. */
  explain: ({ hand }: Arrangement, noteId: string) => hand.explained(noteId),
  waysWith: ({ hand }: Arrangement, noteIds: readonly string[]) => waysWith(hand, noteIds),
  waysOfShift: ({ hand }: Arrangement, noteId: string) => waysOfShift(hand, noteId),
  hardPlaces: ({ hand }: Arrangement) => hardPlaces(hand),
  takeBrought: ({ hand }: Arrangement) => takeBrought(hand),
  /** What the hand's wishes avoid, and what they take instead, beside all-round ones. */
  effectOfWishes({ source, hand, decisions, timeRound }: Arrangement): readonly RuleDifference[] {
    const plain = decided(decisions, { hand: { wishes: FIRST_WISHES, partWishes: {} } });
    return effectOf(hand, arrange(source, plain, timeRound).hand);
  },
  secondBest: ({ hand }: Arrangement): Beside | null => secondFingering(hand),
  /** The same tune fingered by other decisions, and what it costs by these. */
  beside({ source, hand, timeRound }: Arrangement, decisions: Decisions): Beside {
    const { fingering } = arrange(source, decisions, timeRound);
    return { fingering, comparison: compareFingerings(hand, fingering) };
  },
} as const;
export type Questions = typeof QUESTIONS;

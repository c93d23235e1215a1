/**
 * One key for a mixed group: in each of the twelve, which octave each player takes, what it asks of them, and who needs
 * a simpler version of the tune there.
 */
import type { GradeNumber } from '../grade/index.ts';
import { keyStage } from '../instrument/index.ts';
import { placedNotes, workingTempo, type Key, type Semitones, type Tune } from '../music/index.ts';
import { decided, openingOctave, type Decisions } from '../arrange/index.ts';
import { fitOf } from './grades.ts';
import { KEYS, keyChoices, withinOctave, type KeyChoice } from './keys.ts';

/** Somebody who plays along: on what, with which hand, and how far on; null plays the tune, whatever it asks. */
export interface GroupMember {
  readonly decisions: Decisions;
  readonly grade: GradeNumber | null;
}

/** What a member has in a key. */
export interface MemberPlace {
  /** The octave in which the tune opens for it; the easiest where that lets more of it be played. */
  readonly choice: KeyChoice;
  /** What in the tune, as it is there, is more than the member's grade asks for, place by place. */
  readonly beyond: number;
  /** Share of the tune's notes that its grade allows there as they are, and its instrument has, 0 to 1. */
  readonly keeps: number;
  /** Notes fall off, or its grade does not go so far: it plays a version of the tune. */
  readonly simpler: boolean;
}

export interface GroupKey {
  readonly key: Key;
  /** Semitones from where the tune was brought in, octaves left aside. */
  readonly within: Semitones;
  /** In the order of the members. */
  readonly places: readonly MemberPlace[];
  readonly simpler: number;
  /** The mean over the members of what it asks beside the easiest key of each: 0 where it is everybody's easiest. */
  readonly dearer: number;
}

/**
 * All keys that the group can play, the best for the group as a whole first: those in which the fewest need a simpler
 * version, then in which whoever is served worst keeps most of the tune, then by what they ask beside everybody's easiest. A member without a grade plays every note; one with a grade
 * can be given a version. Gives the share that is done.
 * @example finished(groupKeys(reel, [{ decisions: FIRST_DECISIONS, grade: null }])).length // 12
 */
export function* groupKeys(source: Tune, members: readonly GroupMember[]): Generator<number, readonly GroupKey[]> {
  const all: (readonly MemberPlace[])[] = [];
  for (const { decisions: given, grade } of members) {
    const decisions = decided(given, { version: { grade: 'tune' } });
    const steps = keyChoices(source, decisions);
    let step = steps.next();
    while (!step.done) {
      yield (all.length + step.value / 2) / members.length;
      step = steps.next();
    }
    const choices = step.value;
    const places: MemberPlace[] = [];
    for (const within of KEYS) {
      places.push(placeFor(source, decisions, choices, within, grade));
      yield (all.length + 0.5 + places.length / (2 * KEYS.length)) / members.length;
    }
    all.push(places);
  }
  const least = all.map((places) =>
    Math.min(...places.flatMap(({ choice: { fits, effort } }) => (fits ? [effort] : []))),
  );
  return KEYS.flatMap((within, index): GroupKey[] => {
    const places = all.map((own) => own[index]!);
    const impossible = places.some(({ choice }, member) => !choice.fits && members[member]!.grade === null);
    if (impossible || places.length === 0) return [];
    const more = places.flatMap(({ choice: { fits, effort } }, member) =>
      fits ? [effort / Math.max(1, least[member]!) - 1] : [],
    );
    return [
      {
        key: places[0]!.choice.key,
        within,
        places,
        simpler: places.filter((place) => place.simpler).length,
        dearer: more.reduce((sum, one) => sum + one, 0) / Math.max(1, more.length),
      },
    ];
  }).sort((a, b) => a.simpler - b.simpler || worst(b) - worst(a) || a.dearer - b.dearer);
}

/** What the member keeps who is served worst, in whole percent: less is no difference to anybody. */
const worst = ({ places }: GroupKey): number => Math.min(...places.map(({ keeps }) => Math.round(100 * keeps)));

/** Where the tune opens in that key; in the easiest octave only where that lets more of it be played. */
function placeFor(
  source: Tune,
  decisions: Decisions,
  choices: readonly KeyChoice[],
  within: Semitones,
  grade: GradeNumber | null,
): MemberPlace {
  // They come with the easiest first, and each key is there.
  const here = choices.filter(({ transpose }) => withinOctave(transpose) === within);
  const easiest = here[0]!;
  const opening = openingOctave(source, decided(decisions, { key: { transpose: within } }));
  const asItIs = here.find(({ transpose, fits }) => transpose === opening && fits) ?? easiest;
  const place = placeIn(source, decisions, asItIs, grade);
  if (!place.simpler || asItIs === easiest) return place;
  const other = placeIn(source, decisions, easiest, grade);
  return other.keeps > place.keeps ? other : place;
}

function placeIn(source: Tune, decisions: Decisions, choice: KeyChoice, grade: GradeNumber | null): MemberPlace {
  const share = (lost: number) => 1 - lost / Math.max(1, placedNotes(source).length);
  if (!choice.fits) return { choice, beyond: 0, keeps: share(choice.outOfRange.length), simpler: true };
  if (grade === null) return { choice, beyond: 0, keeps: 1, simpler: false };
  const own = decided(decisions, { key: { transpose: choice.transpose } });
  // No more of the arrangement than a contract asks for.
  const { inKey, instrument, tuning } = keyStage(own.key, source);
  const tempo = workingTempo(source, own.pace.tempo);
  const { breaches } = fitOf({ inKey, instrument, tuning, tempo, decisions: own }, grade);
  const lost = new Set(breaches.map(({ note }) => note));
  return { choice, beyond: breaches.length, keeps: share(lost.size), simpler: breaches.length > 0 };
}

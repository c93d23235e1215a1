/** How a phrase relates to an earlier one, and exactly where they differ. */
import type { Ticks } from '../music/index.ts';
import { align, samePitches, type Pair, type Timed } from './align.ts';
import type { Difference, Differs, Relation, RelationKind, Where } from './model.ts';

export interface PhraseSounds {
  readonly pickup: readonly Timed[];
  readonly body: readonly Timed[];
  /** For each bar of the body a text that is the same where its notes are. */
  readonly barTexts: readonly string[];
  /** Length of a bar and of a beat in ticks, and bars of the phrase. */
  readonly bar: Ticks;
  readonly beat: Ticks;
  readonly bars: number;
}

/** How two phrases relate, and how much of them is the same. */
export interface PhraseComparison extends Omit<Relation, 'of'> {
  /** Share of the notes that are the same, 0 to 1. */
  readonly share: number;
}

/** Kinds from most to least telling. */
const RANK: readonly RelationKind[] = [
  'same',
  'same-but-ending',
  'same-but-start',
  'octave',
  'transposed',
  'same-start',
  'same-rhythm',
  'new',
];
/** A phrase moved to other steps may differ in so much and still be called that. */
const MOVED_SHARE = 0.8;
/** Notes that have to agree before two phrases are called of one rhythm. */
const FEWEST_NOTES = 3;

export const EXACT: Differs = { where: null, pickup: false };
export const NOTHING: PhraseComparison = { kind: 'new', differs: EXACT, differences: [], share: 0 };

export function moreTelling(a: PhraseComparison, b: PhraseComparison): boolean {
  const rank = RANK.indexOf(a.kind) - RANK.indexOf(b.kind);
  return rank < 0 || (rank === 0 && a.share > b.share);
}

export function comparePhrases(phrase: PhraseSounds, earlier: PhraseSounds): PhraseComparison {
  const { body, bar, beat, bars } = phrase;
  const other = earlier.body;
  if (body.length === 0 || other.length === 0) return NOTHING;
  // Where no bar is shared nothing can be called the same, and the alignment is spared.
  if (!phrase.barTexts.some((text, index) => text === earlier.barTexts[index])) {
    return movedFrom(phrase, earlier) ?? inRhythm(phrase, earlier);
  }
  const pickup = !align(phrase.pickup, earlier.pickup, bar).every(({ same }) => same);
  const steps = align(body, other, bar);
  const matched = steps.filter(({ same }) => same).length;
  const share = matched / Math.max(body.length, other.length);
  const apart = steps.filter(({ same }) => !same);
  const differences = differencesOf(steps, phrase, earlier);
  if (apart.length === 0)
    return { kind: 'same', differs: { where: null, pickup }, differences: pickupDifference(phrase, earlier), share };
  const places = apart.map((step) => placeOf(step, steps, body, other));
  const first = Math.min(...places);
  const length = bars * bar;
  // An ending may have a beat that leads to it.
  const ending = first >= length / 2 - (bars > 2 ? beat : 0) && first >= Math.min(bar, length / 2);
  if (ending && matched > 0) {
    const where = whereOf(places, phrase, earlier);
    return { kind: 'same-but-ending', differs: { where, pickup }, differences, share };
  }
  const beginning = Math.max(...places) < length / 2 || share >= MOVED_SHARE;
  if (first < bar && beginning && matched > 0 && bars === earlier.bars) {
    return { kind: 'same-but-start', differs: { where: inBars(places, bar), pickup }, differences, share };
  }
  const moved = movedFrom(phrase, earlier);
  if (moved) return moved;
  if (first >= bar) {
    const from = Math.floor(first / bar) + 1;
    const scattered = share >= MOVED_SHARE;
    const where: Where = scattered ? inBars(places, bar) : { kind: 'from-bar', bar: from };
    return { kind: 'same-start', differs: { where, pickup: false }, differences, share };
  }
  return inRhythm(phrase, earlier);
}

function inRhythm({ body }: PhraseSounds, earlier: PhraseSounds): PhraseComparison {
  if (!sameRhythm(body, earlier.body)) return NOTHING;
  const same = body.filter(({ sound }, index) => samePitches(sound, earlier.body[index]!.sound)).length;
  return {
    kind: 'same-rhythm',
    differs: { where: { kind: 'all-notes' }, pickup: false },
    differences: [],
    share: same / body.length,
  };
}

/** A phrase in texts, one a bar. */
export function barTextsOf(body: readonly Timed[], bar: Ticks): readonly string[] {
  const texts: string[] = [];
  for (const { at, sound, last } of body) {
    const index = Math.floor(at / bar);
    texts[index] = `${texts[index] ?? ''} ${at % bar}:${last ? '' : sound.duration}:${sound.pitches.join('+')}`;
  }
  return Array.from(texts, (text) => text ?? '');
}

/** The same an octave, or some steps, higher or lower; single notes may differ. */
function movedFrom(phrase: PhraseSounds, earlier: PhraseSounds): PhraseComparison | null {
  const { body, bar } = phrase;
  const other = earlier.body;
  if (Math.abs(body.length - other.length) > 0.2 * other.length) return null;
  const pairs = samePlaces(body, other);
  const most = Math.max(body.length, other.length);
  if (pairs.length < MOVED_SHARE * most) return null;
  const steps = majorityStep(pairs);
  if (steps === 0) return null;
  const agrees = ({ own, theirs }: (typeof pairs)[number]) => own.sound.step - theirs.sound.step === steps;
  const share = pairs.filter(agrees).length / most;
  // What only shares a contour for a note or two is no sequence.
  if (share < MOVED_SHARE || body.length < 2) return null;
  const octaves = steps % 7 === 0;
  const exact = pairs.filter(({ own, theirs }) => samePitches(own.sound, theirs.sound, (steps / 7) * 12)).length / most;
  const apart = pairs.filter((pair) => !agrees(pair));
  const but =
    apart.length > 0 || share < 1 ? barsOf([...missing(body, other), ...apart.map(({ own }) => own.at)], bar) : [];
  return {
    kind: octaves && exact >= MOVED_SHARE ? 'octave' : 'transposed',
    differs: { where: { kind: 'moved', steps, but }, pickup: false },
    differences: apart.map(({ own, theirs }) => ({
      bars: barsOf([own.at], bar),
      how: 'not-moved' as const,
      ...notesOf([own], [theirs]),
    })),
    share,
  };
}

/** Sounds of both that stand at the same place with as many notes. */
function samePlaces(own: readonly Timed[], other: readonly Timed[]): readonly { own: Timed; theirs: Timed }[] {
  const pairs: { own: Timed; theirs: Timed }[] = [];
  let next = 0;
  for (const sound of own) {
    while (next < other.length && other[next]!.at < sound.at) next += 1;
    const theirs = other[next];
    if (theirs?.at === sound.at && theirs.sound.pitches.length === sound.sound.pitches.length) {
      pairs.push({ own: sound, theirs });
    }
  }
  return pairs;
}

/** Places that only one of the two has. */
function missing(own: readonly Timed[], other: readonly Timed[]): readonly Ticks[] {
  const places = (list: readonly Timed[]) => new Set(list.map(({ at }) => at));
  const [a, b] = [places(own), places(other)];
  return [...[...a].filter((at) => !b.has(at)), ...[...b].filter((at) => !a.has(at))];
}

/**
 * The step by which most pairs are apart; any other where there is no majority, which the caller counts
 * (R. Boyer and J. Moore, "MJRTY: A Fast Majority Vote Algorithm", 1981).
 */
function majorityStep(pairs: readonly { readonly own: Timed; readonly theirs: Timed }[]): number {
  let candidate = 0;
  let votes = 0;
  for (const { own, theirs } of pairs) {
    const steps = own.sound.step - theirs.sound.step;
    if (votes === 0) candidate = steps;
    votes += steps === candidate ? 1 : -1;
  }
  return candidate;
}

/** Even notes are no rhythm to know again. */
function sameRhythm(a: readonly Timed[], b: readonly Timed[]): boolean {
  return (
    a.some(({ sound, last }) => !last && sound.duration !== a[0]!.sound.duration) &&
    a.length === b.length &&
    a.length >= FEWEST_NOTES &&
    a.every(({ at, sound }, index) => at === b[index]!.at && sound.pitches.length === b[index]!.sound.pitches.length)
  );
}

/** Where a step stands, from the phrase's first bar line; what is only left out stands where it would be. */
function placeOf(step: Pair, steps: readonly Pair[], own: readonly Timed[], other: readonly Timed[]): Ticks {
  if (step.own !== null) return own[step.own]!.at;
  const before = steps.slice(0, steps.indexOf(step)).findLast((one) => one.own !== null && one.other !== null);
  const shift = before ? own[before.own!]!.at - other[before.other!]!.at : 0;
  return other[step.other!]!.at + shift;
}

/** As short as it is true. */
function whereOf(places: readonly Ticks[], phrase: PhraseSounds, earlier: PhraseSounds): Where {
  const { bar, beat, bars } = phrase;
  if (bars !== earlier.bars) return { kind: 'length', more: bars - earlier.bars };
  const first = Math.min(...places);
  const intoHalf = first < (bars * bar) / 2;
  if (intoHalf) return { kind: 'from-last-beat', bar: bars / 2 };
  const inLastBar = first >= (bars - 1) * bar;
  const beats = Math.ceil((bars * bar - first) / beat);
  if (inLastBar && beats * beat < bar) return { kind: 'last-beats', beats };
  return inBars(places, bar);
}

/** Bars that hold these places, as numbers within the phrase. */
const barsOf = (places: readonly Ticks[], bar: Ticks): readonly number[] =>
  [...new Set(places.map((at) => Math.floor(at / bar) + 1))].sort((a, b) => a - b);
const inBars = (places: readonly Ticks[], bar: Ticks): Where => ({ kind: 'bars', bars: barsOf(places, bar) });

/** Runs of steps that are not the same, each told with its notes. */
function differencesOf(steps: readonly Pair[], phrase: PhraseSounds, earlier: PhraseSounds): readonly Difference[] {
  const runs: Pair[][] = [];
  let open: Pair[] | null = null;
  for (const step of steps) {
    if (step.same) open = null;
    else if (open) open.push(step);
    else runs.push((open = [step]));
  }
  return runs.map((run) => {
    const own = run.flatMap(({ own: index }) => (index === null ? [] : [phrase.body[index]!]));
    const other = run.flatMap(({ other: index }) => (index === null ? [] : [earlier.body[index]!]));
    const places = run.map((step) => placeOf(step, steps, phrase.body, earlier.body));
    return difference(barsOf(places, phrase.bar), own, other);
  });
}

function pickupDifference(phrase: PhraseSounds, earlier: PhraseSounds): readonly Difference[] {
  const same = align(phrase.pickup, earlier.pickup, phrase.bar).every((step) => step.same);
  return same ? [] : [difference(null, phrase.pickup, earlier.pickup)];
}

function difference(bars: readonly number[] | null, own: readonly Timed[], other: readonly Timed[]): Difference {
  const rhythmOnly =
    own.length === other.length && own.every(({ sound }, index) => samePitches(sound, other[index]!.sound));
  return { bars, how: rhythmOnly ? 'rhythm' : 'notes', ...notesOf(own, other) };
}

function notesOf(own: readonly Timed[], other: readonly Timed[]) {
  const ids = (list: readonly Timed[]) => list.flatMap(({ sound }) => sound.ids);
  const pitches = (list: readonly Timed[]) => list.map(({ sound }) => sound.note.heads.map(({ pitch }) => pitch));
  return { own: ids(own), other: ids(other), ownPitches: pitches(own), otherPitches: pitches(other) };
}

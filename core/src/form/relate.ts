/** How a phrase relates to an earlier one, and exactly where they differ. */
import type { Ticks } from '../music/index.ts';
import { align, samePitches, type Pair, type Timed } from './align.ts';
import type { Difference, Differs, Phrase, Relation, RelationKind, Where } from './model.ts';

export interface PhraseSounds {
  readonly pickup: readonly Timed[];
  readonly body: readonly Timed[];
  /** For each bar of the body a text that is the same where its notes are; empty where none begins. */
  readonly barTexts: readonly string[];
  /** The same for how its notes move from the bar's first, and for its rhythm as a whole; null for one to forget. */
  readonly barContours: readonly string[];
  readonly rhythm: string | null;
  /** Length of a beat in ticks and in bars. */
  readonly beat: Ticks;
  readonly beatShare: number;
  /** Bars of the phrase, by bar lines. */
  readonly bars: number;
  /** Those that are longer or shorter than the first. */
  readonly otherBars: Phrase['otherBars'];
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
  'same-but-ends',
  'transposed',
  'same-start',
  'same-rhythm',
  'new',
];
/** A phrase moved to other steps may differ in so much and still be called that. */
const MOVED_SHARE = 0.8;
/** Notes that have to agree before two phrases are called of one rhythm, … */
const FEWEST_NOTES = 3;
/** … and before they have a middle in common, which has to be so much of them. */
const MIDDLE = { notes: 4, share: 0.4 } as const;

export const EXACT: Differs = { where: null, pickup: false };
export const NOTHING: PhraseComparison = { kind: 'new', differs: EXACT, differences: [], share: 0 };

export function moreTelling(a: PhraseComparison, b: PhraseComparison): boolean {
  const rank = RANK.indexOf(a.kind) - RANK.indexOf(b.kind);
  return rank < 0 || (rank === 0 && a.share > b.share);
}

export function comparePhrases(phrase: PhraseSounds, earlier: PhraseSounds): PhraseComparison {
  const { body, bars } = phrase;
  const other = earlier.body;
  if (body.length === 0 || other.length === 0) return NOTHING;
  // Where no bar is shared nothing can be called the same, and the alignment is spared.
  if (!shareABar(phrase, earlier)) return movedFrom(phrase, earlier) ?? inRhythm(phrase, earlier);
  const pickup = !align(phrase.pickup, earlier.pickup).every(({ same }) => same);
  const steps = align(body, other);
  const matched = steps.filter(({ same }) => same).length;
  const share = matched / Math.max(body.length, other.length);
  const apart = steps.filter(({ same }) => !same);
  const differences = differencesOf(steps, phrase, earlier);
  if (apart.length === 0)
    return { kind: 'same', differs: { where: null, pickup }, differences: pickupDifference(phrase, earlier), share };
  const spots = apart.map((step) => spotOf(step, steps, body, other));
  const first = Math.min(...spots);
  // An ending may have a beat that leads to it. A note that is only held for another time differs from its end on.
  const parts = Math.min(...apart.map((step) => partsAt(step, steps, phrase, earlier)));
  const half = Math.max(bars, earlier.bars) / 2;
  const ending = parts >= half - (half > 1 ? phrase.beatShare : 0) && parts >= Math.min(1, half);
  if (ending && matched > 0) {
    const where = whereOf(spots, phrase, earlier);
    return { kind: 'same-but-ending', differs: { where, pickup }, differences, share };
  }
  const beginning = Math.max(...spots) < bars / 2 || share >= MOVED_SHARE;
  if (first < 1 && beginning && matched > 1 && bars === earlier.bars) {
    return { kind: 'same-but-start', differs: { where: inBars(spots), pickup }, differences, share };
  }
  const moved = movedFrom(phrase, earlier);
  if (moved?.kind === 'octave') return moved;
  const middle = bars === earlier.bars ? middleOf(steps, phrase) : null;
  if (middle && first < 1) {
    return { kind: 'same-but-ends', differs: { where: middle, pickup: false }, differences, share };
  }
  if (moved) return moved;
  if (first >= 1) {
    const scattered = share >= MOVED_SHARE;
    const where: Where = scattered ? inBars(spots) : { kind: 'from-bar', bar: Math.floor(first) + 1 };
    return { kind: 'same-start', differs: { where, pickup: false }, differences, share };
  }
  return inRhythm(phrase, earlier);
}

/** Where only the last note is held, a bar in common is no likeness. */
function shareABar({ barTexts }: PhraseSounds, earlier: PhraseSounds): boolean {
  return barTexts.some((text, bar) => text !== '' && text === earlier.barTexts[bar] && !isLastNote(text));
}

const isLastNote = (text: string) => text.split(' ').length === 2 && text.includes('::');

/**
 * What stays where the beginning and the ending are others: one stretch in the same bars, long enough to be called
 * the same.
 */
function middleOf(steps: readonly Pair[], { body, bars, beat }: PhraseSounds): Where | null {
  let best: { from: number; to: number } | null = null;
  let from: number | null = null;
  steps.forEach((step, index) => {
    from = step.same ? (from ?? index) : null;
    if (from !== null && index - from >= (best ? best.to - best.from : 0)) best = { from, to: index + 1 };
  });
  const run = best as { from: number; to: number } | null;
  if (!run || run.to - run.from < MIDDLE.notes || run.from === 0 || run.to === steps.length) return null;
  const first = body[steps[run.from]!.own!]!;
  const last = body[steps[run.to - 1]!.own!]!;
  const next = body[steps[run.to - 1]!.own! + 1];
  const beats = ((next?.at ?? last.at + last.sound.duration) - first.at) / beat;
  const stretch = (next?.spot ?? bars) - first.spot;
  if (stretch < MIDDLE.share * bars) return null;
  return { kind: 'middle', beats: Math.round(2 * beats) / 2, bars: [first.bar + 1, last.bar + 1] };
}

function inRhythm({ body, rhythm }: PhraseSounds, earlier: PhraseSounds): PhraseComparison {
  if (rhythm === null || rhythm !== earlier.rhythm) return NOTHING;
  const same = body.filter(({ sound }, index) => samePitches(sound, earlier.body[index]!.sound)).length;
  return {
    kind: 'same-rhythm',
    differs: { where: { kind: 'all-notes' }, pickup: false },
    differences: [],
    share: same / body.length,
  };
}

/** A phrase in texts, one a bar. */
export function barTextsOf(body: readonly Timed[], bars: number): readonly string[] {
  const texts = Array.from({ length: bars }, () => '');
  for (const { bar, place, sound, last } of body)
    texts[bar] = `${texts[bar] ?? ''} ${place}:${last ? '' : sound.duration}:${sound.pitches.join('+')}`;
  return texts;
}

/** How the notes of each bar move from its first on the staff: the same where the bar is only moved. */
export function barContoursOf(body: readonly Timed[], bars: number): readonly string[] {
  const texts = Array.from({ length: bars }, () => '');
  const firsts: number[] = [];
  for (const { bar, place, sound } of body) {
    firsts[bar] ??= sound.step;
    texts[bar] = `${texts[bar] ?? ''} ${place}:${sound.step - firsts[bar]}`;
  }
  return texts;
}

/** Null for too few notes and for even ones, which are no rhythm to know again. */
export const rhythmOf = (body: readonly Timed[]): string | null =>
  body.length < FEWEST_NOTES || isEven(body)
    ? null
    : body.map(({ bar, place, sound }) => `${bar}:${place}:${sound.pitches.length}`).join(' ');

/** The same an octave, or some steps, higher or lower; single notes may differ. */
function movedFrom(phrase: PhraseSounds, earlier: PhraseSounds): PhraseComparison | null {
  const { body } = phrase;
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
    apart.length > 0 || share < 1 ? barsOf([...missing(body, other), ...apart.map(({ own }) => own.spot)]) : [];
  return {
    kind: octaves && exact >= MOVED_SHARE ? 'octave' : 'transposed',
    differs: { where: { kind: 'moved', steps, but }, pickup: false },
    differences: apart.map(({ own, theirs }) => ({
      bars: barsOf([own.spot]),
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
    while (next < other.length && other[next]!.spot < sound.spot) next += 1;
    const theirs = other[next];
    if (theirs?.spot === sound.spot && theirs.sound.pitches.length === sound.sound.pitches.length) {
      pairs.push({ own: sound, theirs });
    }
  }
  return pairs;
}

/** Places that only one of the two has. */
function missing(own: readonly Timed[], other: readonly Timed[]): readonly number[] {
  const places = (list: readonly Timed[]) => new Set(list.map(({ spot }) => spot));
  const [a, b] = [places(own), places(other)];
  return [...[...a].filter((spot) => !b.has(spot)), ...[...b].filter((spot) => !a.has(spot))];
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

/** Even notes on their beats are no rhythm to know again; off the beat they are. */
function isEven(body: readonly Timed[]): boolean {
  const [first] = body;
  return body.every(
    ({ sound, place, last }) => last || (sound.duration === first!.sound.duration && place % sound.duration === 0),
  );
}

/** Where a step stands, in bars; what is only left out stands where it would be. */
function spotOf(step: Pair, steps: readonly Pair[], own: readonly Timed[], other: readonly Timed[]): number {
  if (step.own !== null) return own[step.own]!.spot;
  const before = steps.slice(0, steps.indexOf(step)).findLast((one) => one.own !== null && one.other !== null);
  const shift = before ? own[before.own!]!.spot - other[before.other!]!.spot : 0;
  return other[step.other!]!.spot + shift;
}

/** Where two phrases part company by this step: at the note, or where the shorter of two of its lengths ends. */
function partsAt(
  step: Pair,
  steps: readonly Pair[],
  { body, beat, beatShare }: PhraseSounds,
  earlier: PhraseSounds,
): number {
  const spot = spotOf(step, steps, body, earlier.body);
  if (step.own === null || step.other === null) return spot;
  const [a, b] = [body[step.own]!, earlier.body[step.other]!];
  if (a.spot !== b.spot || !samePitches(a.sound, b.sound)) return spot;
  return spot + (Math.min(a.sound.duration, b.sound.duration) / beat) * beatShare;
}

/** As short as it is true. */
function whereOf(spots: readonly number[], { bars, beatShare }: PhraseSounds, earlier: PhraseSounds): Where {
  if (bars !== earlier.bars) return { kind: 'length', more: bars - earlier.bars };
  const first = Math.min(...spots);
  if (first < bars / 2) return { kind: 'from-last-beat', bar: bars / 2 };
  const beats = Math.ceil(round((bars - first) / beatShare));
  if (first >= bars - 1 && round(beats * beatShare) < 1) return { kind: 'last-beats', beats };
  return inBars(spots);
}

/** Fractions of bars do not add up to the last digit. */
const round = (value: number) => Math.round(value * 1e6) / 1e6;

/** Bars that hold these spots, as numbers within the phrase. */
const barsOf = (spots: readonly number[]): readonly number[] =>
  [...new Set(spots.map((spot) => Math.floor(spot) + 1))].sort((a, b) => a - b);
const inBars = (spots: readonly number[]): Where => ({ kind: 'bars', bars: barsOf(spots) });

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
    const spots = run.map((step) => spotOf(step, steps, phrase.body, earlier.body));
    return difference(barsOf(spots), own, other);
  });
}

function pickupDifference(phrase: PhraseSounds, earlier: PhraseSounds): readonly Difference[] {
  const same = align(phrase.pickup, earlier.pickup).every((step) => step.same);
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

/** How a phrase relates to an earlier one, and exactly where they differ. */
import { printedName, type Ticks } from '../music/index.ts';
import { align, samePitches, type Step, type Timed } from './align.ts';
import type { Difference, Relation, RelationKind } from './model.ts';

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

export interface Comparison extends Omit<Relation, 'of'> {
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

export const NOTHING: Comparison = { kind: 'new', differs: '', differences: [], share: 0 };

export function moreTelling(a: Comparison, b: Comparison): boolean {
  const rank = RANK.indexOf(a.kind) - RANK.indexOf(b.kind);
  return rank < 0 || (rank === 0 && a.share > b.share);
}

export function compare(phrase: PhraseSounds, earlier: PhraseSounds): Comparison {
  const { body, bar, beat, bars } = phrase;
  const other = earlier.body;
  if (body.length === 0 || other.length === 0) return NOTHING;
  // Where no bar is shared nothing can be called the same, and the alignment is spared.
  if (!phrase.barTexts.some((text, index) => text === earlier.barTexts[index])) {
    return movedFrom(phrase, earlier) ?? inRhythm(phrase, earlier);
  }
  const pickup = align(phrase.pickup, earlier.pickup, bar).every(({ same }) => same) ? '' : 'the pickup';
  const steps = align(body, other, bar);
  const matched = steps.filter(({ same }) => same).length;
  const share = matched / Math.max(body.length, other.length);
  const apart = steps.filter(({ same }) => !same);
  const differences = differencesOf(steps, phrase, earlier);
  if (apart.length === 0)
    return { kind: 'same', differs: pickup, differences: pickupDifference(phrase, earlier), share };
  const places = apart.map((step) => placeOf(step, steps, body, other));
  const first = Math.min(...places);
  const length = bars * bar;
  // An ending may have a beat that leads to it.
  const ending = first >= length / 2 - (bars > 2 ? beat : 0) && first >= Math.min(bar, length / 2);
  if (ending && matched > 0) {
    const where = whereText(places, phrase, earlier);
    return { kind: 'same-but-ending', differs: join(where, pickup), differences, share };
  }
  const beginning = Math.max(...places) < length / 2 || share >= MOVED_SHARE;
  if (first < bar && beginning && matched > 0 && bars === earlier.bars) {
    return { kind: 'same-but-start', differs: join(barsText(places, bar), pickup), differences, share };
  }
  const moved = movedFrom(phrase, earlier);
  if (moved) return moved;
  if (first >= bar) {
    const from = Math.floor(first / bar) + 1;
    const scattered = share >= MOVED_SHARE;
    const differs = scattered ? barsText(places, bar) : `from bar ${from} on`;
    return { kind: 'same-start', differs, differences, share };
  }
  return inRhythm(phrase, earlier);
}

function inRhythm({ body }: PhraseSounds, earlier: PhraseSounds): Comparison {
  if (!sameRhythm(body, earlier.body)) return NOTHING;
  const same = body.filter(({ sound }, index) => samePitches(sound, earlier.body[index]!.sound)).length;
  return { kind: 'same-rhythm', differs: 'the notes', differences: [], share: same / body.length };
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
function movedFrom(phrase: PhraseSounds, earlier: PhraseSounds): Comparison | null {
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
    apart.length > 0 || share < 1 ? barsText([...missing(body, other), ...apart.map(({ own }) => own.at)], bar) : '';
  const amount = `${stepsText(Math.abs(steps))} ${steps > 0 ? 'higher' : 'lower'}`;
  return {
    kind: octaves && exact >= MOVED_SHARE ? 'octave' : 'transposed',
    differs: but ? `${amount}, but for ${but}` : amount,
    differences: apart.map(({ own, theirs }) => ({
      text: `${barsText([own.at], bar)}: ${names([own])} instead of ${names([theirs])} moved`,
      own: own.sound.ids,
      other: theirs.sound.ids,
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
function placeOf(step: Step, steps: readonly Step[], own: readonly Timed[], other: readonly Timed[]): Ticks {
  if (step.own !== null) return own[step.own]!.at;
  const before = steps.slice(0, steps.indexOf(step)).findLast((one) => one.own !== null && one.other !== null);
  const shift = before ? own[before.own!]!.at - other[before.other!]!.at : 0;
  return other[step.other!]!.at + shift;
}

/** "bar 4", "bars 2 and 4", "the last 2 beats": as short as it is true. */
function whereText(places: readonly Ticks[], phrase: PhraseSounds, earlier: PhraseSounds): string {
  const { bar, beat, bars } = phrase;
  if (bars > earlier.bars) return bars - earlier.bars === 1 ? 'a bar more at the end' : 'more at the end';
  if (bars < earlier.bars) return bars - earlier.bars === -1 ? 'a bar less at the end' : 'less at the end';
  const first = Math.min(...places);
  const intoHalf = first < (bars * bar) / 2;
  if (intoHalf) return `from the last beat of bar ${bars / 2} on`;
  const inLastBar = first >= (bars - 1) * bar;
  const beats = Math.ceil((bars * bar - first) / beat);
  if (inLastBar && beats * beat < bar) return beats === 1 ? 'the last beat' : `the last ${beats} beats`;
  return barsText(places, bar);
}

/** Bars that hold these places, as numbers within the phrase. */
function barsText(places: readonly Ticks[], bar: Ticks): string {
  const list = [...new Set(places.map((at) => Math.floor(at / bar) + 1))].sort((a, b) => a - b);
  if (list.length === 1) return `bar ${list[0]}`;
  if (list.at(-1)! - list[0]! === list.length - 1) return `bars ${list[0]}–${list.at(-1)}`;
  return `bars ${list.slice(0, -1).join(', ')} and ${list.at(-1)}`;
}

/** Runs of steps that are not the same, each told with its notes. */
function differencesOf(steps: readonly Step[], phrase: PhraseSounds, earlier: PhraseSounds): readonly Difference[] {
  const runs: Step[][] = [];
  let open: Step[] | null = null;
  for (const step of steps) {
    if (step.same) open = null;
    else if (open) open.push(step);
    else runs.push((open = [step]));
  }
  return runs.map((run) => {
    const own = run.flatMap(({ own: index }) => (index === null ? [] : [phrase.body[index]!]));
    const other = run.flatMap(({ other: index }) => (index === null ? [] : [earlier.body[index]!]));
    const places = run.map((step) => placeOf(step, steps, phrase.body, earlier.body));
    return difference(barsText(places, phrase.bar), own, other);
  });
}

function pickupDifference(phrase: PhraseSounds, earlier: PhraseSounds): readonly Difference[] {
  const same = align(phrase.pickup, earlier.pickup, phrase.bar).every((step) => step.same);
  return same ? [] : [difference('the pickup', phrase.pickup, earlier.pickup)];
}

function difference(where: string, own: readonly Timed[], other: readonly Timed[]): Difference {
  const rhythmOnly =
    own.length === other.length && own.every(({ sound }, index) => samePitches(sound, other[index]!.sound));
  const what = rhythmOnly
    ? `${names(own)} in another rhythm`
    : own.length === 0
      ? `without ${names(other)}`
      : other.length === 0
        ? `${names(own)} added`
        : `${names(own)} instead of ${names(other)}`;
  return {
    text: `${where}: ${what}`,
    own: own.flatMap(({ sound }) => sound.ids),
    other: other.flatMap(({ sound }) => sound.ids),
  };
}

const names = (list: readonly Timed[]) =>
  list.map(({ sound }) => sound.note.heads.map(({ pitch }) => printedName(pitch)).join('+')).join(' ');

const join = (a: string, b: string) => [a, b].filter(Boolean).join(' and ');

const STEPS = ['', 'a step', 'a third', 'a fourth', 'a fifth', 'a sixth', 'a seventh', 'an octave'];

/** @example stepsText(2) // 'a third' */
export function stepsText(steps: number): string {
  return STEPS[steps] ?? `${steps} steps`;
}

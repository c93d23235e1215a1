/**
 * A lesson from a tune: its phrases in the order in which they are learned, the join of two as soon as both are there, the
 * part when its joins are, and the tune at the end. Section 9 of the domain.
 */
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import { TICKS_PER_QUARTER, barStarts, type Bpm, type Ticks, type Tune } from '../music/index.ts';

export type StepKind = 'phrase' | 'join' | 'part' | 'tune';

export interface LessonStep {
  /** Of its kind and the first notes of its phrases: the same for as long as these are. */
  readonly id: string;
  readonly kind: StepKind;
  /** As teachers call it: "A1", "A1 into A2", "part A", "the tune". */
  readonly label: string;
  /** Ids of what is played, in its order. */
  readonly phrases: readonly string[];
  /** What is played, in written ticks. */
  readonly from: Ticks;
  readonly to: Ticks;
  /** A guess, in half minutes: so many times through at a slow tempo, and what is said before. */
  readonly minutes: number;
}

/** Times through and seconds of talk: guesses from lessons, to be held against a log one day. */
const TAKES: Readonly<Record<StepKind, { readonly times: number; readonly talk: number }>> = {
  phrase: { times: 8, talk: 40 },
  join: { times: 4, talk: 10 },
  part: { times: 3, talk: 10 },
  tune: { times: 2, talk: 10 },
};
/** As a share of the tempo that is wanted. */
const SLOW = 0.7;

/**
 * @param tempo quarters a minute
 * @example lessonSteps(reel, analyseForm(reel), 120).map(({ kind }) => kind) // ['phrase', 'phrase', 'join', 'part']
 */
export function lessonSteps(tune: Tune, form: Form, tempo: Bpm): readonly LessonStep[] {
  const phrases = phrasesOf(form);
  const byId = new Map(phrases.map((phrase) => [phrase.id, phrase]));
  /** A phrase that is another one again is learned with it. */
  const learnedAs = (phrase: Phrase): string => {
    const like = phrase.relation.kind === 'same' ? byId.get(phrase.relation.of ?? '') : undefined;
    return like ? learnedAs(like) : phrase.id;
  };
  const step = (kind: StepKind, label: string, own: readonly Phrase[], from: Ticks, to: Ticks): LessonStep => {
    const { times, talk } = TAKES[kind];
    const seconds = talk + (times * ((to - from) / TICKS_PER_QUARTER) * 60) / (SLOW * tempo);
    const ids = own.map(({ id }) => id);
    return {
      id: `${kind} ${ids.join(' ')}`,
      kind,
      label,
      phrases: ids,
      from,
      to,
      minutes: Math.ceil(seconds / 30) / 2,
    };
  };
  const joins = phrases.slice(1).map((second, index) => [phrases[index]!, second] as const);
  const steps: LessonStep[] = [];
  const known = new Set<string>();
  const joined = new Set<string>();
  const parts = new Set<number>();
  const joinName = ([first, second]: readonly [Phrase, Phrase]) => `${learnedAs(first)} ${learnedAs(second)}`;

  /** What can be put together now that another phrase is known. */
  function putTogether(): void {
    for (const join of joins) {
      const [first, second] = join;
      if (joined.has(joinName(join)) || !known.has(learnedAs(first)) || !known.has(learnedAs(second))) continue;
      joined.add(joinName(join));
      const [from, to] = joinSpan(tune, first, second);
      steps.push(step('join', `${first.label} into ${second.label}`, [first, second], from, to));
    }
    form.parts.forEach(({ label, phrases: own, like }, index) => {
      const ready = own.every((phrase) => known.has(learnedAs(phrase)));
      if (parts.has(index) || !ready) return;
      parts.add(index);
      // One phrase by itself, or what is written out again, was played whole already.
      if (own.length > 1 && like === null) steps.push(step('part', `part ${label}`, own, own[0]!.from, own.at(-1)!.to));
    });
  }

  for (const { phrase: id } of form.learn.steps) {
    const phrase = byId.get(id);
    if (!phrase || known.has(learnedAs(phrase))) continue;
    known.add(learnedAs(phrase));
    steps.push(step('phrase', phrase.label, [phrase], phrase.from, phrase.to));
    putTogether();
  }
  if (form.parts.length > 1) steps.push(step('tune', 'the tune', phrases, 0, barStarts(tune.bars).at(-1)!));
  return steps;
}

/**
 * The last bar of a phrase and the first of the next: where one leads into the other.
 * @example joinSpan(tuneOf('G8 | A8 | B8 |]'), { from: 0, to: 26880 }, { from: 26880, to: 40320, downbeat: 26880 }) // [13440, 40320]
 */
export function joinSpan(
  { bars }: Pick<Tune, 'bars'>,
  first: Pick<Phrase, 'from' | 'to'>,
  second: Pick<Phrase, 'from' | 'to' | 'downbeat'>,
): readonly [Ticks, Ticks] {
  const starts = barStarts(bars);
  // Where a pickup takes the end of its bar, the bar line before the last whole stretch.
  const lines = starts.slice(0, -1).filter((at, index) => first.to - at >= bars[index]!.length / 2 && at < first.to);
  const after = starts.find((at) => at > second.downbeat) ?? starts.at(-1)!;
  return [Math.max(first.from, lines.at(-1) ?? first.from), Math.min(second.to, after)];
}

/** A step where it stands in a lesson; one that is repeated stands there more than once. */
export interface PlannedStep extends LessonStep {
  /** Its own in the lesson. */
  readonly key: string;
  /** The teacher left it out: it is shown, and not taught. */
  readonly out: boolean;
}

/**
 * The steps as the teacher wants them. What the teacher never saw, because the tune was parted anew, stands behind what it
 * comes after in the tune; what is gone is left out.
 * @param wished null and nothing for the lesson that comes from the tune
 * @example lessonPlan([], { order: ['gone'], out: {} }) // []
 */
export function lessonPlan(
  steps: readonly LessonStep[],
  { order, out }: { readonly order: readonly string[] | null; readonly out: Readonly<Record<string, true>> },
): readonly PlannedStep[] {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const ids = (order ?? []).filter((id) => byId.has(id));
  const placed = new Set(ids);
  steps.forEach(({ id }, index) => {
    if (placed.has(id)) return;
    placed.add(id);
    const before = steps[index - 1]?.id;
    ids.splice(before === undefined ? 0 : ids.lastIndexOf(before) + 1, 0, id);
  });
  const times = new Map<string, number>();
  return ids.map((id): PlannedStep => {
    const time = (times.get(id) ?? 0) + 1;
    times.set(id, time);
    return { ...byId.get(id)!, key: time === 1 ? id : `${id} ${time}`, out: out[id] === true };
  });
}

/** Of what is taught. @example minutesOf([{ minutes: 2.5, out: false }, { minutes: 1, out: true }]) // 2.5 */
export const minutesOf = (plan: readonly Pick<PlannedStep, 'minutes' | 'out'>[]): number =>
  plan.reduce((sum, { minutes, out }) => sum + (out ? 0 : minutes), 0);

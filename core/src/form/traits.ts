/** What a tune can be found and filtered by: how it is made, in a few words. */
import { barNumbers, isPickup, playedOrder, type Tune } from '../music/index.ts';
import { LEAD_IN, TAG, formText, phrasesOf, type Form, type Phrase, type Trait } from './model.ts';

export function traitsOf(tune: Tune, form: Omit<Form, 'traits'>): readonly Trait[] {
  const phrases = phrasesOf(form);
  const parts = form.parts.filter(({ label }) => label !== LEAD_IN && label !== TAG);
  const figures = phrases.flatMap((phrase) => phrase.figures.map(({ kind }) => kind));
  const found: readonly (readonly [Trait, boolean])[] = [
    ['question and answer', phrases.some((phrase, index) => index > 0 && answers(phrases[index - 1]!, phrase))],
    ['same ending in every part', endTheSame(form, parts)],
    ['octave echo', figures.includes('echo') || phrases.some(({ relation }) => relation.kind === 'octave')],
    ['sequences', figures.includes('sequence') || phrases.some(({ relation }) => relation.kind === 'transposed')],
    ['across the beat', figures.includes('across')],
    ['crooked', parts.some(({ length }) => length % 4 !== 0)],
    ['through-composed', isThroughComposed(form, phrases)],
    ['lead-in', form.parts.some(({ label }) => label === LEAD_IN)],
    ['different endings', tune.bars.some(({ endings }) => endings)],
  ];
  return found.flatMap(([trait, holds]) => (holds ? [trait] : []));
}

/**
 * A phrase that begins as the one before it, but comes home.
 * @example answers(phrase, phrase) // false
 */
export function answers(question: Phrase, answer: Phrase): boolean {
  const like = answer.relation.of === question.id;
  const begins = ['same-but-ending', 'same-start', 'same-rhythm', 'transposed'].includes(answer.relation.kind);
  return question.closing === 'open' && answer.closing === 'closed' && like && begins;
}

function endTheSame(form: Omit<Form, 'traits'>, parts: Form['parts']): boolean {
  const own = parts.filter(({ like }) => like === null);
  if (own.length < 2) return false;
  const endings = own.map(({ phrases }) => {
    const last = phrases.at(-1)!.id;
    return form.bars
      .filter(({ phrase, counts }) => phrase === last && counts)
      .slice(-2)
      .map(({ material }) => material)
      .join();
  });
  return endings[0]!.includes(',') && new Set(endings).size === 1;
}

function isThroughComposed({ parts }: Omit<Form, 'traits'>, phrases: readonly Phrase[]): boolean {
  const back = ['same', 'same-but-ending', 'same-start', 'octave'];
  return (
    phrases.length >= 3 &&
    parts.every(({ times, like }) => times === 1 && like === null) &&
    phrases.every(({ relation }) => !back.includes(relation.kind))
  );
}

/**
 * "AABB, 32 bars, question and answer".
 * @example formSummary(reel, form) // 'AA, 8 bars'
 */
export function formSummary(tune: Tune, form: Form): string {
  return [formText(form), `${playedBars(tune)} bars`, ...form.traits].filter(Boolean).join(', ');
}

/**
 * Bars as they are played, repeats counted, pickups not.
 * @example playedBars(reel) // 8
 */
export function playedBars({ bars }: Pick<Tune, 'bars'>): number {
  const numbers = barNumbers(bars);
  return playedOrder(bars).filter(({ index }, place, order) => {
    const before = order[place - 1]?.index;
    // The two sides of a split bar are one.
    const secondHalf = before === index - 1 && numbers[before] === numbers[index];
    return !isPickup(bars, index) && !secondHalf;
  }).length;
}

/** What lists, filters and searches need to know of a tune, worked out when it is kept. */
import { analyseForm, formText, playedBars } from '@nokta/core/form';
import { barNumbers, keyName, type Tune } from '@nokta/core/music';
import { foldText, melodyOf, packMelody } from '@nokta/core/search';

/** Goes up when any of the facts is worked out differently: all tunes are then looked at again. */
export const FACTS = 3;
/** The same for what is worked out in the background. */
export const FORM_RULES = 1;

export interface Facts {
  readonly facts: number;
  readonly title: string;
  readonly sortTitle: string;
  readonly alsoKnownAs: string[];
  readonly style: string;
  readonly composer: string;
  readonly key: string;
  readonly metre: string;
  readonly bars: number;
  readonly search: string;
  readonly melody: string;
  /** By which rules the form was worked out; 0 leaves it for afterwards. */
  readonly formRules: number;
}

export interface FormFacts {
  readonly formRules: number;
  readonly form: string;
  readonly traits: string[];
  readonly played: number;
  readonly search: string;
}

export function factsOf(tune: Tune, tags: readonly string[]): Facts {
  const first = tune.bars[0]!;
  return {
    facts: FACTS,
    title: tune.title,
    sortTitle: foldText(tune.title),
    alsoKnownAs: [...tune.alsoKnownAs],
    style: tune.style,
    composer: tune.composer,
    key: keyName(first.key),
    metre: `${first.metre.beats}/${first.metre.unit}`,
    bars: barNumbers(tune.bars).at(-1) ?? 0,
    search: searchText(tune, tags, []),
    melody: packMelody(melodyOf(tune)),
    formRules: 0,
  };
}

/** How the tune is made: "AABB", 32 bars, question and answer. Found by these words too. */
export function formFactsOf(tune: Tune, tags: readonly string[]): FormFacts {
  const form = analyseForm(tune);
  const text = formText(form);
  const played = playedBars(tune);
  return {
    formRules: FORM_RULES,
    form: text,
    traits: [...form.traits],
    played,
    search: searchText(tune, tags, [text, `${played} bars`, ...form.traits]),
  };
}

function searchText(tune: Tune, tags: readonly string[], made: readonly string[]): string {
  const words = [tune.title, ...tune.alsoKnownAs, tune.composer, tune.style, tune.origin, ...tags, ...tune.notes];
  return [...words, ...made].map(foldText).filter(Boolean).join(' | ');
}

/** Which stretch of the tune stands on each line of a sheet. */
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import { barStarts, type Ticks, type Tune } from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';

export interface SheetLine {
  /** Of the phrase, and of its piece where it is cut. */
  readonly id: string;
  readonly phrase: Phrase;
  /** What stands before it: the phrase's name; nothing before its further lines. */
  readonly label: string;
  readonly from: Ticks;
  readonly to: Ticks;
}

/** Bars on a line of a card. */
const FEW_BARS = 2;

/** In how many lines a phrase is printed, by its id; those that are not named in one. */
export type Cuts = ReadonlyMap<string, number>;
const UNCUT: Cuts = new Map();

/**
 * @example sheetLines(reel, form, { layout: 'phrases', phrase: null }).length // 2
 */
export function sheetLines(
  tune: Tune,
  form: Form,
  { layout, phrase: wanted }: Pick<SheetStyle, 'layout' | 'phrase'>,
  cuts: Cuts = UNCUT,
): readonly SheetLine[] {
  const phrases = phrasesOf(form);
  const whole = ({ from, to, ...phrase }: Phrase): SheetLine => ({
    id: phrase.id,
    phrase: { ...phrase, from, to },
    label: phrase.label,
    from,
    to,
  });
  const starts = barStarts(tune.bars);
  const own = layout === 'cue' ? [phrases.find(({ id }) => id === wanted) ?? phrases[0]!].filter(Boolean) : phrases;
  return own.flatMap((phrase) => {
    const inside = starts.filter((at) => at > phrase.from && at < phrase.to);
    // The pickup stays with the bar that it leads into.
    const first = phrase.downbeat > phrase.from ? inside.indexOf(phrase.downbeat) + 1 : 0;
    const places = inside.slice(first);
    const lines = layout === 'cue' ? Math.ceil((places.length + 1) / FEW_BARS) : (cuts.get(phrase.id) ?? 1);
    if (lines <= 1 || places.length === 0) return [whole(phrase)];
    // As many bars on each as can be, the longer lines first.
    const each = layout === 'cue' ? FEW_BARS : Math.ceil((places.length + 1) / lines);
    const edges = [phrase.from, ...places.filter((_, index) => (index + 1) % each === 0), phrase.to];
    return edges.slice(0, -1).map((from, index): SheetLine => ({
      id: index === 0 ? phrase.id : `${phrase.id}+${index}`,
      phrase,
      from,
      to: edges[index + 1]!,
      label: index === 0 ? phrase.label : '',
    }));
  });
}

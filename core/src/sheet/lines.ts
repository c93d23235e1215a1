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

/** Bars on a line where it is set large. */
const FEW_BARS = 2;

/**
 * @example sheetLines(reel, form, { layout: 'phrases', phrase: null }).length // 2
 */
export function sheetLines(
  tune: Tune,
  form: Form,
  { layout, phrase: wanted }: Pick<SheetStyle, 'layout' | 'phrase'>,
): readonly SheetLine[] {
  const phrases = phrasesOf(form);
  const whole = ({ from, to, ...phrase }: Phrase): SheetLine => ({
    id: phrase.id,
    phrase: { ...phrase, from, to },
    label: phrase.label,
    from,
    to,
  });
  if (layout === 'phrases' || layout === 'width') return phrases.map(whole);
  const starts = barStarts(tune.bars);
  const own = layout === 'cue' ? [phrases.find(({ id }) => id === wanted) ?? phrases[0]!].filter(Boolean) : phrases;
  return own.flatMap((phrase) => {
    const inside = starts.filter((at) => at > phrase.from && at < phrase.to);
    // The pickup stays with the bar that it leads into.
    const first = phrase.downbeat > phrase.from ? inside.indexOf(phrase.downbeat) + 1 : 0;
    const cuts = inside.slice(first).filter((_, index) => (index + 1) % FEW_BARS === 0);
    const edges = [phrase.from, ...cuts, phrase.to];
    return edges.slice(0, -1).map((from, index): SheetLine => ({
      id: index === 0 ? phrase.id : `${phrase.id}+${index}`,
      phrase,
      from,
      to: edges[index + 1]!,
      label: index === 0 ? phrase.label : '',
    }));
  });
}

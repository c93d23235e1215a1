/** A relation counts bars within its phrase; on paper and at the stand bars are those of the tune. */
import { barNumbers, barStarts, type Tune } from '../music/index.ts';
import type { Phrase, Relation, Where } from './model.ts';

/**
 * What a phrase is to an earlier one, with the bars as the tune counts them.
 * @example relationInTune(reel, phrase).kind // 'new'
 */
export function relationInTune({ bars }: Pick<Tune, 'bars'>, { relation, downbeat }: Phrase): Relation {
  const { where } = relation.differs;
  if (!where) return relation;
  const first = barStarts(bars)
    .slice(0, bars.length)
    .findLastIndex((start) => start <= downbeat);
  const more = barNumbers(bars)[Math.max(0, first)]! - 1;
  return { ...relation, differs: { ...relation.differs, where: moved(where, more) } };
}

function moved(where: Where, more: number): Where {
  switch (where.kind) {
    case 'bars':
      return { ...where, bars: where.bars.map((bar) => bar + more) };
    case 'from-bar':
    case 'from-last-beat':
      return { ...where, bar: where.bar + more };
    case 'middle':
      return { ...where, bars: [where.bars[0] + more, where.bars[1] + more] };
    case 'moved':
      return { ...where, but: where.but.map((bar) => bar + more) };
    default:
      return where;
  }
}

/** The legend at the foot of a sheet: exactly the signs that stand on it. */
import { shownLanes, type SheetStyle } from '../paper/index.ts';
import { signsOf, type SheetFacts } from './lanes/index.ts';
import { legendOf } from './legend.ts';
import { MARGIN, SOFT, pageSize, type Block, type Points } from './paperPage.ts';
import { legendSvg, textSvg } from './svg.ts';

const ROW: Points = 17;

export function legendBlock(facts: SheetFacts, style: SheetStyle): Block {
  const { width } = pageSize(style);
  const entries = legendOf(signsOf(facts, shownLanes(style)));
  const columns = style.landscape ? 6 : 4;
  const column = (width - 2 * MARGIN) / columns;
  return {
    height: Math.ceil(entries.length / columns) * ROW + 8,
    draw: (top) =>
      [
        `<line x1="${MARGIN}" y1="${top}" x2="${width - MARGIN}" y2="${top}" stroke="${SOFT}" stroke-width="0.5"/>`,
        ...entries.map(({ sign, text }, index) => {
          const x = MARGIN + (index % columns) * column;
          const y = top + 16 + Math.floor(index / columns) * ROW;
          return legendSvg(sign, x + 8, y, style.tab.signs) + textSvg(x + 22, y + 3, text, { size: 9 });
        }),
      ].join('\n'),
  };
}

/** The legend at the foot of a sheet: exactly the signs that stand on it, in as many columns as have room. */
import { printedLanes, type FingerSigns, type SheetStyle } from '../paper/index.ts';
import { signsOf, type SheetFacts } from './lanes/index.ts';
import { legendOf, type LegendEntry } from './legend.ts';
import { MARGIN, SOFT, group, pageSize, scaleOf, type Block, type Points } from './paperPage.ts';
import { legendSvg, textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

/** At the usual size. */
const SIZE: Points = 9;
const LINE: Points = 11;
const ROW: Points = 17;
/** The sign before its text, and what is free behind it. */
const SIGN: Points = 22;
const BEHIND: Points = 10;
const MOST_COLUMNS = 6;
/** No larger than this beside large print: a page is for its music. */
const MOST_SCALE = 1.4;

export function legendBlock(facts: SheetFacts, style: SheetStyle): Block {
  const entries = legendOf(signsOf(facts, printedLanes(style)));
  const room = pageSize(style).width - 2 * MARGIN;
  return legendLines(entries, room, style.tab.signs, Math.min(MOST_SCALE, scaleOf(style)));
}

/** @param width that it has, from the left margin on */
export function legendLines(entries: readonly LegendEntry[], width: Points, signs: FingerSigns, scale: number): Block {
  const room = width / scale;
  const widest = Math.max(1, ...entries.map(({ text }) => SIGN + textWidth(text, SIZE) + BEHIND));
  const columns = Math.max(1, Math.min(MOST_COLUMNS, Math.floor(room / widest)));
  const column = room / columns;
  const cells = entries.map(({ sign, text }) => ({ sign, lines: wrappedTo(text, column - SIGN - BEHIND, SIZE) }));
  const rows = Array.from({ length: Math.ceil(cells.length / columns) }, (_, row) =>
    cells.slice(row * columns, (row + 1) * columns),
  );
  const heights = rows.map((row) => ROW + LINE * (Math.max(...row.map(({ lines }) => lines.length)) - 1));
  const total = heights.reduce((sum, height) => sum + height, 0);
  return {
    height: scale * (total + 8),
    draw: (top) => {
      let y = 16;
      const drawn = rows.flatMap((row, at) => {
        const here = row.map(({ sign, lines }, index) => {
          const x = index * column;
          return (
            legendSvg(sign, x + 8, y, signs) +
            lines.map((line, further) => textSvg(x + SIGN, y + 3 + LINE * further, line, { size: SIZE })).join('')
          );
        });
        y += heights[at]!;
        return here;
      });
      const line = `<line x1="0" y1="0" x2="${room}" y2="0" stroke="${SOFT}" stroke-width="0.5"/>`;
      return entries.length > 0 ? group(MARGIN, top, scale, [line, ...drawn].join('\n')) : '';
    },
  };
}

/** Empty finger tab: the strings, line under line, to write on by hand. */
import type { Arrangement } from '../arrange/index.ts';
import { tuningText } from '../instrument/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { calledString, stringLine } from './lanes/tab.ts';
import { pageHead } from './pageHead.ts';
import { FOOTER, LABEL, MARGIN, pageSize, type Block, type Contents, type Points } from './paperPage.ts';
import { INK, textSvg } from './svg.ts';

/** Lines stand so far apart that a hand can write a number on them, and its rhythm below. */
const ROW: Points = 15;
const BELOW: Points = 34;
/** What `paginated` leaves between blocks. */
const BETWEEN: Points = 13;

export function blankContents({ instrument, tuning }: Arrangement, style: SheetStyle): Contents {
  const { width, height } = pageSize(style);
  const facts = { instrument, sounds: tuning.pitches, tab: style.tab, names: style.names };
  const count = instrument.strings.length;
  const system: Block = {
    height: (count - 1) * ROW + BELOW,
    draw: (top) =>
      instrument.strings
        .map(({ name }, index) => {
          const y = top + 8 + ROW * (style.tab.turned ? index : count - 1 - index);
          const { width: thick, dash } = stringLine(index);
          const dashed = dash ? ` stroke-dasharray="${dash}"` : '';
          return (
            textSvg(MARGIN + LABEL - 8, y + 3.5, calledString(facts, index), {
              size: 10,
              weight: 'bold',
              anchor: 'end',
            }) +
            `<line x1="${MARGIN + LABEL}" y1="${y}" x2="${width - MARGIN}" y2="${y}" stroke="${style.tab.strings[name] ?? INK}" stroke-width="${thick * 0.8}"${dashed}/>`
          );
        })
        .join('\n'),
  };
  const head = pageHead({ title: '', facts: `${instrument.name}  ·  strings ${tuningText(tuning.pitches)}` }, width);
  const room = height - 2 * MARGIN - head.height - FOOTER + BETWEEN;
  const rows = Math.max(1, Math.floor(room / (system.height + BETWEEN)));
  return {
    head: {
      ...head,
      markup: `${head.markup}<line x1="${MARGIN}" y1="${MARGIN + 24}" x2="${width - MARGIN - 20}" y2="${MARGIN + 24}" stroke="${INK}" stroke-width="0.6"/>`,
    },
    blocks: Array.from({ length: rows }, () => system),
  };
}

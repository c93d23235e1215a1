/** The warm-up page: each drill on a line, with its name, what to mind, and its tempo. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { barStarts, beatTempoText } from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import type { WarmUp } from '../warmup/index.ts';
import { lineBlock, type EngravedLineOfSheet } from './lineBlocks.ts';
import { pageHead } from './pageHead.ts';
import {
  FOOTER,
  GAP,
  LABEL,
  LEAST_SQUEEZE,
  MARGIN,
  SOFT,
  group,
  pageSize,
  type Block,
  type Contents,
  type Points,
} from './paperPage.ts';
import { textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

/** Room above a drill for its name, and for each line of what to mind. */
const NAME: Points = 16;
const LINE: Points = 11;
const SPACE: Points = 5.6;
const SUBTITLE = 8.5;
/** Between two drills that stand beside each other. */
const BESIDE: Points = 26;

interface Column {
  readonly x: Points;
  readonly width: Points;
  /** A staff space at the most. */
  readonly size: Points;
}

type Drill = { readonly warmUp: WarmUp; readonly staff: EngravedLineOfSheet };

export function warmUpContents(
  { tune, instrument }: Arrangement,
  drills: readonly Drill[],
  style: SheetStyle,
): Contents {
  const { width, height } = pageSize(style);
  const room = width - 2 * MARGIN;
  const half = (room - BESIDE) / 2;
  const narrow = ({ staff, warmUp }: Drill) =>
    LABEL + Math.max(staff.width * SPACE, textWidth(subtitle(warmUp), SUBTITLE)) <= half;
  const head = pageHead(
    { title: `Warm-ups for ${tune.title}`, facts: `Play these first  ·  ${instrument.name}` },
    width,
  );
  const bottom = height - 2 * MARGIN - head.height - FOOTER;
  const rows: Drill[][] = [];
  for (const drill of drills) {
    const last = rows.at(-1);
    if (last?.length === 1 && narrow(last[0]!) && narrow(drill)) last.push(drill);
    else rows.push([drill]);
  }
  const blocksAt = (size: number) => {
    let number = 0;
    return rows.map((row): Block => {
      const own = row.map((drill, at) => {
        number += 1;
        const column =
          row.length === 1 ? { x: MARGIN, width: room } : { x: MARGIN + at * (half + BESIDE), width: half };
        return drillBlock(drill, style, number, { ...column, size });
      });
      return {
        height: Math.max(...own.map(({ height }) => height)),
        draw: (y) => own.map((block) => block.draw(y)).join('\n'),
      };
    });
  };
  const full = blocksAt(SPACE);
  const squeeze = (bottom - GAP * full.length) / full.reduce((sum, block) => sum + block.height, 0);
  // A few points too long for one page, and it is set smaller.
  const blocks = squeeze < 1 && squeeze >= LEAST_SQUEEZE ? blocksAt(SPACE * squeeze * 0.96) : full;
  const none: Block = {
    height: 20,
    draw: (y) => textSvg(MARGIN, y + 12, 'This tune asks for no warm-ups.', { size: 11 }),
  };
  return {
    head,
    blocks: blocks.length > 0 ? blocks : [none],
  };
}

/** A drill across the page, by itself. */
export function drillAlone(drill: Drill, style: SheetStyle): Block {
  return drillBlock(drill, style, null, { x: MARGIN, width: pageSize(style).width - 2 * MARGIN, size: SPACE });
}

/** What to mind, and how fast. */
const subtitle = ({ says, arrangement: { tune, tempo } }: WarmUp): string =>
  `${says}  ·  ${beatTempoText(tune.bars[0]!.metre, tempo)}`;

/** @param number before its name; null where it has none */
function drillBlock(
  { warmUp, staff }: Drill,
  style: SheetStyle,
  number: number | null,
  { x, width, size }: Column,
): Block {
  const { title, arrangement: drill } = warmUp;
  const [first] = phrasesOf(drill.form);
  const space = Math.min(size, (width - LABEL) / staff.width);
  const lines = wrappedTo(subtitle(warmUp), width - LABEL, SUBTITLE);
  const head = NAME + LINE * lines.length;
  const music = lineBlock(
    drill,
    { id: staff.lineId, phrase: first!, label: '', from: 0, to: barStarts(drill.tune.bars).at(-1)! },
    staff,
    { ...style, layout: 'width', fingerboard: false, barNumbers: 'none' },
    { space, x, head: 0 },
  );
  return {
    height: head + music.height,
    draw: (y) =>
      [
        group(
          x,
          y,
          1,
          textSvg(0, 10, String(number ?? ''), { size: 11, weight: 'bold', colour: '#9a4a1c' }) +
            textSvg(LABEL, 10, title, { size: 11, weight: 'bold' }) +
            lines.map((line, row) => textSvg(LABEL, 23 + LINE * row, line, { size: SUBTITLE, colour: SOFT })).join(''),
        ),
        music.draw(y + head),
      ].join('\n'),
  };
}

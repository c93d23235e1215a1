/** The lesson on one page: a row for each step, its tempos from slow to the one that is wanted, a box for each to tick. */
import type { Arrangement } from '../arrange/index.ts';
import { barLength, barNumbers, barStarts, beatTempoText, type Metre, type Tune } from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { climbTo, lessonPlan, lessonSteps, minutesOf, type PlannedStep } from '../practice/index.ts';
import { barsText } from '../words/index.ts';
import { pageHead } from './pageHead.ts';
import { LABEL, MARGIN, SOFT, pageSize, scaleOf, type Block, type Contents, type Points } from './paperPage.ts';
import { INK, textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

const ROW: Points = 30;
const SIZE: Points = 12;
const SMALL: Points = 9.5;
const BOX: Points = 9;
/** A step's name and its bars have this share of the width, the tempos what is left of it. */
const NAMES = 0.36;
const COMMON: Metre = { beats: 4, unit: 4 };

export function planContents(arrangement: Arrangement, style: SheetStyle): Contents {
  const { tune, form, tempo, decisions } = arrangement;
  const { width } = pageSize(style);
  const steps = lessonPlan(lessonSteps(tune, form, tempo), decisions.lesson).filter(({ out }) => !out);
  const { minutes } = decisions.lesson;
  const about = Math.ceil(minutesOf(steps));
  const facts = [
    'The lesson',
    arrangement.instrument.name,
    `about ${about} minutes${minutes === null ? '' : ` of ${minutes}`}`,
    `to ${beatTempoText(tune.bars[0]?.metre ?? COMMON, tempo)}`,
  ];
  const scale = Math.min(1.4, scaleOf(style));
  const none: Block = {
    height: 20,
    draw: (y) => textSvg(MARGIN, y + 12, 'Every step is left out.', { size: 11 }),
  };
  return {
    head: pageHead({ title: tune.title, facts: facts.join('  ·  ') }, width, scale),
    blocks: steps.length > 0 ? steps.map((step, index) => stepBlock(step, index + 1, arrangement, width)) : [none],
  };
}

function stepBlock(step: PlannedStep, number: number, { tune, tempo }: Arrangement, width: Points): Block {
  const left = MARGIN + LABEL;
  const from = left + NAMES * (width - MARGIN - left);
  const names = wrappedTo(step.label, from - left - 10, SIZE, 'bold');
  const about = `${barsOf(tune, step)}  ·  about ${step.minutes} min`;
  const metre = tune.bars[0]?.metre ?? COMMON;
  const tempos = climbTo(tempo).tempos.map((one) => beatTempoText(metre, one).replace(/^.*= /, ''));
  const cell = (width - MARGIN - from) / tempos.length;
  const height = ROW + (names.length - 1) * SIZE * 1.2;
  return {
    height,
    gap: 3,
    draw: (y) =>
      [
        textSvg(MARGIN, y + SIZE, String(number), { size: SIZE, weight: 'bold', colour: '#9a4a1c' }),
        ...names.map((line, row) => textSvg(left, y + SIZE + row * SIZE * 1.2, line, { size: SIZE, weight: 'bold' })),
        textSvg(left, y + height - 6, about, { size: SMALL, colour: SOFT }),
        ...tempos.map((text, index) => {
          const x = from + index * cell;
          return (
            `<rect x="${x.toFixed(1)}" y="${(y + SIZE - BOX + 1).toFixed(1)}" width="${BOX}" height="${BOX}" rx="2" fill="none" stroke="${INK}" stroke-width="0.8"/>` +
            textSvg(x + BOX + 4, y + SIZE, text, {
              size: Math.min(SMALL, (SMALL * (cell - BOX - 8)) / textWidth(text, SMALL)),
            })
          );
        }),
        `<line x1="${MARGIN}" y1="${y + height}" x2="${width - MARGIN}" y2="${y + height}" stroke="${SOFT}" stroke-width="0.4"/>`,
      ].join('\n'),
  };
}

/** Bars as they are counted, of which something is played. */
function barsOf({ bars }: Tune, { from, to }: Pick<PlannedStep, 'from' | 'to'>): string {
  const [starts, numbers] = [barStarts(bars), barNumbers(bars)];
  const own = bars.flatMap(({ length, metre }, index) =>
    // What leads in to a part has the number of the bar that it fills up.
    length >= barLength(metre) / 2 &&
    starts[index]! + length / 2 >= from &&
    starts[index]! + length / 2 < to &&
    numbers[index]! > 0
      ? [numbers[index]!]
      : [],
  );
  return barsText([...new Set(own)]);
}

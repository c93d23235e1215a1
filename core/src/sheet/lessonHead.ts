/** The lines at the top of a sheet that goes home from a lesson: whose it is, when, what for, and boxes to tick. */
import type { Arrangement } from '../arrange/index.ts';
import { beatTempoText, type Metre } from '../music/index.ts';
import { MARGIN, SOFT, type PageHead, type Points } from './paperPage.ts';
import { INK, textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

const SIZE: Points = 10;
const ROW: Points = 17;
/** Room at the right for the day. */
const DAY: Points = 190;
/** Where nothing is said for the next time, there are so many lines to write on. */
const WRITTEN_LINES = 2;
const MOST_LINES = 4;
const BOX: Points = 9;
const COMMON: Metre = { beats: 4, unit: 4 };

/** Shares of the tempo at which it is ticked: from slow to as it goes. */
const STEPS = [0.6, 0.7, 0.8, 0.9, 1] as const;

type Lesson = Pick<Arrangement, 'decisions' | 'tune' | 'tempo'>;

export function withLesson(head: PageHead, { decisions, tune, tempo }: Lesson, width: Points): PageHead {
  const { learner } = decisions.hand;
  const { date, next } = decisions.sheet.lesson;
  const right = width - MARGIN;
  const drawn: string[] = [];
  let y = MARGIN + head.height;
  const rule = (from: Points, to: Points) =>
    drawn.push(`<line x1="${from}" y1="${y + 3}" x2="${to}" y2="${y + 3}" stroke="${SOFT}" stroke-width="0.5"/>`);
  const said = (label: string, x: Points): Points => {
    drawn.push(textSvg(x, y, label, { size: SIZE, colour: SOFT }));
    return x + textWidth(label, SIZE) + 5;
  };
  const filled = (label: string, text: string, x: Points, to: Points): void => {
    const from = said(label, x);
    const [line = ''] = wrappedTo(text, to - from, SIZE, 'bold');
    drawn.push(textSvg(from, y, line, { size: SIZE, weight: 'bold' }));
    rule(from, to);
  };
  filled('For', learner?.name ?? '', MARGIN, right - DAY - 14);
  filled('on', date ? dayText(date) : '', right - DAY, right);
  y += ROW;
  const from = said('For next time', MARGIN);
  const lines = next
    ? wrappedTo(next, right - from, SIZE).slice(0, MOST_LINES)
    : Array.from({ length: WRITTEN_LINES }, () => '');
  for (const line of lines) {
    drawn.push(textSvg(from, y, line, { size: SIZE }));
    rule(from, right);
    y += ROW;
  }
  let x = said('Clean at', MARGIN);
  for (const text of practiceTempos(tune.bars[0]?.metre ?? COMMON, tempo)) {
    drawn.push(
      `<rect x="${x}" y="${y - BOX + 1}" width="${BOX}" height="${BOX}" rx="2" fill="none" stroke="${INK}" stroke-width="0.8"/>`,
      textSvg(x + BOX + 5, y, text, { size: SIZE }),
    );
    x += BOX + textWidth(text, SIZE) + 20;
  }
  return { height: y - MARGIN + 20, markup: [head.markup, ...drawn].join('\n') };
}

/**
 * Five tempos from slow to as it goes, as players of the metre say them; the unit is said once.
 * @example practiceTempos({ beats: 4, unit: 4 }, 100) // ['quarter = 60', '70', '80', '90', '100']
 */
export const practiceTempos = (metre: Metre, tempo: number): readonly string[] =>
  STEPS.map((share, index) => {
    const text = beatTempoText(metre, share * tempo);
    return index === 0 ? text : text.replace(/^.*= /, '');
  });

/** @example dayText('2026-03-14') // '14 March 2026' */
export const dayText = (date: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${date}T00:00:00Z`),
  );

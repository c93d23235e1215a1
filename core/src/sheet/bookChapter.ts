/** One tune of a book, laid out and drawn: plain values, so that chapters can be made in several threads and put together in one. */
import { difficultyOf, type GradeNumber } from '../grade/index.ts';
import { keyName } from '../music/index.ts';
import { printedLanes, type SheetStyle } from '../paper/index.ts';
import { signsOf } from './lanes/index.ts';
import type { LegendSign } from './legend.ts';
import { howContents } from './howPage.ts';
import { tuneContents, type Printed } from './pages.ts';
import { group, type Block, type Contents, type PageHead } from './paperPage.ts';
import { shownFacts } from './sheetFacts.ts';
import { drillAlone } from './warmUpPage.ts';

/** Something that is drawn, to be put at any height. */
export interface DrawnBlock extends Omit<Block, 'draw'> {
  readonly markup: string;
}

export interface DrawnContents {
  readonly head: PageHead;
  readonly blocks: readonly DrawnBlock[];
}

/** A drill, by what it is: two tunes of a book in one key have one scale. */
export interface ChapterWarmUp {
  readonly id: string;
  readonly block: DrawnBlock;
}

export interface Chapter {
  readonly title: string;
  readonly key: string;
  /** The grade that it was made for; null for the tune itself. */
  readonly grade: GradeNumber | null;
  /** 0 to 10. */
  readonly difficulty: number;
  readonly tune: DrawnContents;
  /** How its first phrase is read, for the page that tells it once. */
  readonly how: DrawnContents;
  readonly warmUps: readonly ChapterWarmUp[];
  readonly signs: readonly LegendSign[];
}

/** @example chapterOf({ arrangement, engraved: { lines: [] } }, USUAL_STYLE).key // 'G major' */
export function chapterOf({ arrangement, engraved }: Printed, style: SheetStyle): Chapter {
  const { decisions, tune } = arrangement;
  const { grade } = decisions.version;
  return {
    title: tune.title,
    key: tune.bars[0] ? keyName(tune.bars[0].key) : '',
    grade: typeof grade === 'number' ? grade : null,
    difficulty: Math.round(10 * difficultyOf(arrangement).total) / 10,
    tune: drawn(tuneContents(arrangement, engraved, style, false)),
    how: drawn(howContents(arrangement, engraved.first ?? null, style, false)),
    warmUps: (engraved.warmUps ?? []).map((drill) => {
      const { tune: own, fingering } = drill.warmUp.arrangement;
      // What it is called can be the bar that it prepares: the same notes are another drill there.
      const id = JSON.stringify([
        drill.warmUp.title,
        own.bars.map(({ events }) => events.map(({ duration }) => duration)),
        fingering.notes.map(({ pitches, stops }) => [pitches, stops.map(({ finger, string }) => [finger, string])]),
      ]);
      return { id, block: drawnBlock(drillAlone(drill, style)) };
    }),
    signs: signsOf(shownFacts(arrangement, style), printedLanes(style)),
  };
}

const drawnBlock = ({ draw, ...block }: Block): DrawnBlock => ({ ...block, markup: draw(0) });
const drawn = ({ head, blocks }: Contents): DrawnContents => ({ head, blocks: blocks.map(drawnBlock) });

/** A drawn block as one that is put somewhere. */
export const placeable = ({ markup, ...block }: DrawnBlock): Block => ({
  ...block,
  draw: (y) => group(0, y, 1, markup),
});

/** A tune of a book, as contents and index name it. */
export interface BookEntry {
  readonly title: string;
  /** From 1, the cover. */
  readonly page: number;
  readonly key: string;
  readonly difficulty: number;
}

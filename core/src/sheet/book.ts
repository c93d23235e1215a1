/**
 * A book of tunes: cover, contents, how to read it, the tunes one after the other, warm-ups and an index. Two short
 * tunes share a page; a tune of two pages opens on the left, so that nobody turns inside it.
 */
import type { SheetStyle } from '../paper/index.ts';
import { contentsPage, coverPage, indexPages, notesPage, signsBlock } from './bookFront.ts';
import { placeable, type BookEntry, type Chapter, type DrawnContents } from './bookChapter.ts';
import { pageHead } from './pageHead.ts';
import {
  FOOTER,
  GAP,
  MARGIN,
  SOFT,
  group,
  pageSize,
  pageDocument,
  paginated,
  type Block,
  type Contents,
  type PageHead,
  type Points,
} from './paperPage.ts';
import { textSvg } from './svg.ts';

export interface BookInput {
  readonly title: string;
  /** Whose edition it is: "Cello, grade 2". */
  readonly edition: string;
  /** A line under the title: who made it, when. */
  readonly line: string;
  readonly chapters: readonly Chapter[];
}

export interface Book {
  /** SVG documents, the cover first. */
  readonly pages: readonly string[];
  readonly contents: readonly BookEntry[];
}

/** Free between two tunes on a page. */
const BETWEEN: Points = 30;
type Paper = Pick<SheetStyle, 'paper' | 'landscape'>;

/** Pages of the tunes as they are put, with the page on which each begins, from 0. */
interface Laid {
  readonly pages: string[];
  readonly begins: number[];
}

/** @example bookPages({ title: 'Spring', edition: '', line: '', chapters: [] }, USUAL_STYLE).pages.length // 2 */
export function bookPages({ title, edition, line, chapters }: BookInput, style: Paper): Book {
  const [first] = chapters;
  const signs = signsBlock(
    chapters.flatMap((chapter) => chapter.signs),
    style,
  );
  const how = first ? paginated(contentsOf(first.how, signs), style) : [];
  // Cover, contents, how to read it: what stands before the tunes is as many pages, whatever numbers the contents tell.
  const contentsPages = (entries: readonly BookEntry[]) => contentsPage(entries, style);
  const guess = contentsPages(
    chapters.map(({ title: name, key, difficulty }) => ({ title: name, key, difficulty, page: 0 })),
  );
  const before = 1 + guess.length + how.length;
  const laid = laidOut(chapters, before, style);
  const entries = chapters.map(({ title: name, key, difficulty }, index): BookEntry => ({
    title: name,
    key,
    difficulty,
    page: before + laid.begins[index]! + 1,
  }));
  const warmUps = warmUpPages(chapters, style);
  const contents = [
    coverPage({ title, edition, line, count: chapters.length }, style),
    ...contentsPages(entries),
    ...how,
    ...laid.pages,
    ...warmUps,
    ...indexPages(entries, style),
  ];
  return { pages: numbered(contents, title, style), contents: entries };
}

const contentsOf = ({ head, blocks }: DrawnContents, more: Block): Contents => ({
  head,
  // The signs are told once for the book, not only those of this phrase.
  blocks: [...blocks.map(placeable), more],
});

/** @param before how many pages stand before them */
function laidOut(chapters: readonly Chapter[], before: number, style: Paper): Laid {
  const bottom = pageSize(style).height - MARGIN - FOOTER;
  const laid: Laid = { pages: [], begins: [] };
  /** Where the last page is free from. */
  let free = Infinity;
  for (const { tune } of chapters) {
    const height =
      tune.head.height + tune.blocks.reduce((sum, block) => sum + block.height + (block.gap ?? GAP), 0) - GAP;
    if (free + BETWEEN + height <= bottom) {
      laid.begins.push(laid.pages.length - 1);
      const top = free + BETWEEN;
      laid.pages.push([laid.pages.pop()!, onPage(tune, top)].join('\n'));
      free = top + height;
      continue;
    }
    const contents: Contents = { head: tune.head, blocks: tune.blocks.map(placeable) };
    const pages = paginated(contents, style);
    // Pages from 1: the odd ones lie on the right, where a tune of two pages would have to be turned.
    if (pages.length === 2 && (before + laid.pages.length + 1) % 2 === 1) laid.pages.push(notesPage(style));
    laid.begins.push(laid.pages.length);
    laid.pages.push(...pages);
    free = pages.length === 1 ? MARGIN + height : Infinity;
  }
  return laid;
}

/** A tune whole, from some height on. */
function onPage({ head, blocks }: DrawnContents, top: Points): string {
  const markup = [group(0, top - MARGIN, 1, head.markup)];
  let y = top + head.height;
  for (const block of blocks) {
    markup.push(group(0, y, 1, block.markup));
    y += block.height + (block.gap ?? GAP);
  }
  return markup.join('\n');
}

/** Every drill once, with the tunes that it is for. */
function warmUpPages(chapters: readonly Chapter[], style: Paper): readonly string[] {
  const drills = new Map<string, { readonly block: Block; readonly tunes: string[] }>();
  for (const { warmUps, title } of chapters)
    for (const { id, block } of warmUps) {
      const known = drills.get(id);
      if (known) known.tunes.push(title);
      else drills.set(id, { block: placeable(block), tunes: [title] });
    }
  if (drills.size === 0) return [];
  const head: PageHead = pageHead(
    { title: 'Warm-ups', facts: 'Each with the tunes that it is for.' },
    pageSize(style).width,
  );
  const blocks = [...drills.values()].map(({ block, tunes }): Block => ({
    height: block.height + FOR,
    draw: (y) =>
      textSvg(MARGIN + 24, y + 8, `For ${tunes.join(', ')}`, { size: 8.5, colour: SOFT }) + block.draw(y + FOR),
  }));
  return paginated({ head, blocks }, style);
}
/** Room for what a drill is for. */
const FOR: Points = 12;

/** Pages as documents; the cover has no number. */
function numbered(contents: readonly string[], title: string, style: Paper): readonly string[] {
  const { width, height } = pageSize(style);
  return contents.map((content, index) => {
    const right = index % 2 === 0;
    const foot =
      index === 0
        ? ''
        : textSvg(
            right ? width - MARGIN : MARGIN,
            height - MARGIN + 8,
            right ? `${title}  ·  ${index + 1}` : `${index + 1}  ·  ${title}`,
            {
              size: 8.5,
              anchor: right ? 'end' : 'start',
              colour: SOFT,
            },
          );
    return pageDocument(content, foot, style);
  });
}

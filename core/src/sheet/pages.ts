/**
 * The printed sheet: title, one phrase a line with staff and lanes, and a legend of the signs it uses.
 * The staff comes engraved; what is laid out here is everything around it.
 */
import { beatTempoText, keyName, type Metre } from '../music/index.ts';
import { tuningText } from '../instrument/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import type { WarmUp } from '../warmup/index.ts';
import { PAGE_KINDS, USUAL_STYLE, type PageKind, type SheetStyle } from '../paper/index.ts';
import { versionText } from '../words/index.ts';
import { shownFacts } from './sheetFacts.ts';
import { lineBlocks, type EngravedLineOfSheet } from './lineBlocks.ts';
import { legendBlock } from './legendBlock.ts';
import { blankContents } from './blankPage.ts';
import { chartContents } from './chartPage.ts';
import { chordContents } from './chordPage.ts';
import { howContents } from './howPage.ts';
import { withLesson } from './lessonHead.ts';
import { linkBlock } from './linkBlock.ts';
import { pageHead } from './pageHead.ts';
import { planContents } from './planPage.ts';
import { songContents } from './songPage.ts';
import { warmUpContents } from './warmUpPage.ts';
import { weaveContents } from './weavePage.ts';
import {
  LABEL,
  LEAST_SQUEEZE,
  MARGIN,
  bound,
  fitted,
  pageSize,
  paginated,
  type Block,
  scaleOf,
  type Contents,
  type PageHead,
  type Points,
} from './paperPage.ts';
import { textSvg } from './svg.ts';
import { wrappedTo } from './textWidth.ts';
import type { Cuts } from './lines.ts';

/** A drill of the warm-up page, with its staff. */
export interface EngravedWarmUp {
  readonly warmUp: WarmUp;
  readonly staff: EngravedLineOfSheet;
}

/** What the engraver has to give for a sheet; nothing for pages that have no music on them. */
export interface EngravedSheet {
  readonly lines: readonly EngravedLineOfSheet[];
  /** In how many lines phrases were engraved. */
  readonly cuts?: Cuts;
  /** The first phrase, for the page that tells how to read. */
  readonly first?: EngravedLineOfSheet | null;
  readonly warmUps?: readonly EngravedWarmUp[];
  /** What to say of a phrase, by its id, where that is wished. */
  readonly said?: ReadonlyMap<string, string>;
}

/** An arrangement with what was engraved of it. */
export interface Printed {
  readonly arrangement: Arrangement;
  readonly engraved: EngravedSheet;
}

/**
 * Pages of one arrangement or of several, one after the other in one layout: a group's parts go home together.
 * @returns one SVG document for each page; none where there is nothing to print
 * @example sheetPages([{ arrangement, engraved: { lines: [] } }]).length // 1
 */
export function sheetPages(printed: readonly Printed[], style: SheetStyle = USUAL_STYLE): readonly string[] {
  const [first] = printed;
  if (!first) return [];
  const kinds = PAGE_KINDS.filter((kind) => style.pages.includes(kind));
  const contents = printed.flatMap(({ arrangement, engraved }) =>
    kinds.flatMap((kind) => {
      const own = contentsOf(kind, arrangement, engraved, style);
      return own ? paginated(own, style) : [];
    }),
  );
  return bound(contents, first.arrangement.tune.title, style);
}

function contentsOf(
  kind: PageKind,
  arrangement: Arrangement,
  engraved: EngravedSheet,
  style: SheetStyle,
): Contents | null {
  switch (kind) {
    case 'tune':
      return tuneContents(arrangement, engraved, style);
    case 'how':
      return howContents(arrangement, engraved.first ?? null, style);
    case 'warmups':
      return warmUpContents(arrangement, engraved.warmUps ?? [], style);
    case 'plan':
      return planContents(arrangement, style);
    case 'weave':
      return weaveContents(arrangement, style);
    case 'chart':
      return chartContents(arrangement, style);
    case 'words':
      return songContents(arrangement, style);
    case 'chords':
      return chordContents(arrangement, style);
    case 'blank':
      return blankContents(arrangement, style);
  }
}

/** @param told with the legend of its signs */
export function tuneContents(
  arrangement: Arrangement,
  { lines: staves, cuts, said }: EngravedSheet,
  style: SheetStyle,
  told = true,
): Contents {
  const { width } = pageSize(style);
  const head = header(arrangement, style, width);
  const legend = told ? [legendBlock(shownFacts(arrangement, style), style)] : [];
  const { link } = arrangement.decisions.sheet;
  const foot = [...legend, ...(link ? [linkBlock(link, style)] : [])];
  const least = style.layout === 'big' ? LEAST_BIG_SQUEEZE : LEAST_SQUEEZE;
  const sizes = Array.from({ length: SIZES_TRIED + 1 }, (_, step) => 1 - (step * (1 - least)) / SIZES_TRIED);
  return fitted(sizes, style, (squeeze) => {
    const lines = lineBlocks(arrangement, { staves, cuts }, style, squeeze);
    return { head, blocks: [...withTalk(lines, said ?? new Map(), style, width), ...foot] };
  });
}

const SIZES_TRIED = 6;
/** Big print stays big. */
const LEAST_BIG_SQUEEZE = 0.72;

/** What is said stands under the last line of its phrase. */
function withTalk(
  blocks: readonly Block[],
  said: ReadonlyMap<string, string>,
  style: SheetStyle,
  width: Points,
): readonly Block[] {
  if (!style.talk) return blocks;
  const size = style.layout === 'cue' ? 15 : Math.min(MOST_TALK, 10.5 * scaleOf(style));
  return blocks.flatMap((block, index): Block[] => {
    const text = block.phrase !== undefined && !blocks[index + 1]?.goesOn ? said.get(block.phrase) : undefined;
    if (!text) return [block];
    const lines = wrappedTo(text, width - 2 * MARGIN - LABEL, size);
    const leading = size * 1.4;
    return [
      block,
      {
        height: lines.length * leading,
        goesOn: true,
        draw: (y) =>
          lines.map((line, row) => textSvg(MARGIN + LABEL, y + size + row * leading, line, { size })).join('\n'),
      },
    ];
  });
}

/** What is said beside large music is large enough. */
const MOST_TALK: Points = 16;

const COMMON: Metre = { beats: 4, unit: 4 };
const metreText = ({ beats, unit }: Metre) => `${beats}/${unit}`;

function header(
  { tune, decisions, instrument: { name }, tuning, tempo }: Arrangement,
  style: SheetStyle,
  width: Points,
): PageHead {
  const key = tune.bars[0] ? keyName(tune.bars[0].key) : '';
  const version = versionText(decisions.version);
  const facts = [
    name,
    version,
    key,
    // The staff says it itself.
    style.staff ? '' : metreText(tune.bars[0]?.metre ?? COMMON),
    `strings ${tuningText(tuning.pitches)}`,
    beatTempoText(tune.bars[0]?.metre ?? COMMON, tempo),
  ]
    .filter(Boolean)
    .join('  ·  ');
  const by = [tune.composer, tune.origin].filter(Boolean).join(', ');
  const more = [tune.style, by].filter(Boolean).join('  ·  ');
  const head = pageHead({ title: tune.title, facts, more }, width, scaleOf(style));
  return style.lesson ? withLesson(head, { decisions, tune, tempo }, width) : head;
}

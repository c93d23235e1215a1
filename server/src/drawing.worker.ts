/** Works arrangements out and draws them, in a thread of its own: engraver and PDF writer are large and slow to load. */
import { parentPort } from 'node:worker_threads';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { arrange, type Arrangement, type Decisions } from '@nokta/core/arrange';
import { saveArrangement, type Ending, type NoktaContents } from '@nokta/core/files';
import type { Tune } from '@nokta/core/music';
import { bookPages, type Binding, type BookInput, type Chapter, type SheetStyle } from '@nokta/core/sheet';
import { engraveLine, type EngravedLine } from '@nokta/engrave';
import { engraveChapter, engraveSheet } from '@nokta/engrave/sheet';

/** The arrangements that were drawn last: page, file and picture of one follow each other. */
const drawn = new Map<string, Arrangement>();
const KEPT = 8;

/** What is drawn. */
export interface Drawn {
  readonly tune: Tune;
  readonly decisions: Decisions;
  /** Which time round, from 1. */
  readonly round?: number;
}

function arranged({ tune, decisions, round = 1 }: Drawn): Arrangement {
  const key = JSON.stringify([tune, decisions, round]);
  const arrangement = drawn.get(key) ?? arrange(tune, decisions, round);
  drawn.delete(key);
  drawn.set(key, arrangement);
  if (drawn.size > KEPT) drawn.delete(drawn.keys().next().value!);
  return arrangement;
}

const service = {
  /** A few bars on one line. */
  line: (musicXml: string): Promise<EngravedLine> => engraveLine(musicXml, 'paper'),
  sheet: (piece: Drawn, style: SheetStyle): Promise<readonly string[]> => engraveSheet(arranged(piece), style),
  async pdf(piece: Drawn, style: SheetStyle): Promise<Uint8Array> {
    const pages = await engraveSheet(arranged(piece), style);
    return service.pages(pages, style, piece.tune.title);
  },
  /** Pages that are drawn already, as a PDF. */
  async pages(
    pages: readonly string[],
    style: Pick<SheetStyle, 'paper' | 'landscape'>,
    title: string,
  ): Promise<Uint8Array> {
    const { sheetPdf } = await import('@nokta/engrave/pdf');
    return sheetPdf(pages, style, title);
  },
  /** A tune of a book, drawn. */
  chapter: (piece: Drawn, style: SheetStyle, more: { readonly warmUps: boolean }): Promise<Chapter> =>
    engraveChapter(arranged(piece), style, more),
  /** Its chapters put together. */
  async book(input: BookInput, style: SheetStyle, binding: Binding): Promise<Uint8Array> {
    const { bookPdf } = await import('@nokta/engrave/pdf');
    return bookPdf(bookPages(input, style).pages, style, binding, input.title);
  },
  /** The tune in an open format. @param contents all that a Nokta file holds */
  file(
    piece: Drawn,
    { ending, contents, tab }: { readonly ending: Ending; readonly contents: NoktaContents; readonly tab: boolean },
  ): Uint8Array {
    const content = saveArrangement(arranged(piece), ending, contents, { tab });
    return typeof content === 'string' ? new TextEncoder().encode(content) : content;
  },
  /** One page as a picture; the last where there are not so many. @param page from 1 */
  async png(piece: Drawn, style: SheetStyle, page: number): Promise<Uint8Array> {
    const pages = await engraveSheet(arranged(piece), style);
    const { sheetPng } = await import('@nokta/engrave/png');
    return sheetPng(pages[Math.min(page, pages.length) - 1]!);
  },
};

export type DrawingService = typeof service;
expose(service, nodeEndpoint(parentPort!));

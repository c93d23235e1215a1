/** Works arrangements out and draws them, in a thread of its own: engraver and PDF writer are large and slow to load. */
import { parentPort } from 'node:worker_threads';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { arrange, type Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';
import type { SheetStyle } from '@nokta/core/sheet';
import { engraveLine, type EngravedLine } from '@nokta/engrave';
import { engraveSheet } from '@nokta/engrave/sheet';

const service = {
  /** A few bars on one line. */
  line: (musicXml: string): Promise<EngravedLine> => engraveLine(musicXml, 'paper'),
  sheet: (tune: Tune, decisions: Decisions, style: SheetStyle): Promise<readonly string[]> =>
    engraveSheet(arrange(tune, decisions), style),
  async pdf(tune: Tune, decisions: Decisions, style: SheetStyle): Promise<Uint8Array> {
    const pages = await engraveSheet(arrange(tune, decisions), style);
    const { sheetPdf } = await import('@nokta/engrave/pdf');
    return sheetPdf(pages, style, tune.title);
  },
  /** One page as a picture; the last where there are not so many. @param page from 1 */
  async png(tune: Tune, decisions: Decisions, style: SheetStyle, page: number): Promise<Uint8Array> {
    const pages = await engraveSheet(arrange(tune, decisions), style);
    const { sheetPng } = await import('@nokta/engrave/png');
    return sheetPng(pages[Math.min(page, pages.length) - 1]!);
  },
};

export type DrawingService = typeof service;
expose(service, nodeEndpoint(parentPort!));

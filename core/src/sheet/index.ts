/** Lanes, tab signs, legend and printed pages. */
export * from './shapes.ts';
export { SIZES, drawnOf, lanesOf, tabLane, type DrawnNote, type LaneInput } from './lanes.ts';
export { legendOf, type LegendEntry, type LegendSign } from './legend.ts';
export { PAPERS, PAPER_SIZE, sheetPages, type EngravedPhrase, type Paper } from './pages.ts';
export { FALLBACK_FONT, TEXT_FONT, TITLE_FONT } from './svg.ts';

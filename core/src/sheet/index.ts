/** Lanes, tab signs, legend and printed pages. */
export * from './shapes.ts';
export * from './lanes/index.ts';
export { LEGEND_ORDER, legendOf, type LegendEntry, type LegendSign } from './legend.ts';
export { PAPERS, PAPER_SIZE, sheetFacts, sheetPages, type EngravedPhrase, type Paper } from './pages.ts';
export { styleOf, type Ink, type LineStyle, type RoleStyle, type TextStyle } from './styles.ts';
export { FALLBACK_FONT, TEXT_FONT, TITLE_FONT } from './svg.ts';

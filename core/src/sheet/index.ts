/** Lanes, tab signs, legend and printed pages. */
export * from './shapes.ts';
export * from './lanes/index.ts';
export { barMarksIn, writtenIn, type BarMark, type WrittenEvent } from './written.ts';
export * from './style.ts';
export { sheetLines, type SheetLine } from './lines.ts';
export { LEGEND_ORDER, legendOf, type LegendEntry, type LegendSign } from './legend.ts';
export { PAPER_SIZE, pageSize, sheetFacts, sheetPages, type EngravedLineOfSheet } from './pages.ts';
export { styleOf, type Ink, type LineStyle, type RoleStyle, type TextStyle } from './styles.ts';
export { FALLBACK_FONT, TEXT_FONT, TITLE_FONT } from './svg.ts';

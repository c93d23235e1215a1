/** Lanes, tab signs, legend and printed pages. */
export * from './shapes.ts';
export * from './lanes/index.ts';
export { barMarksIn, writtenIn, type BarMark, type WrittenEvent } from './written.ts';
export * from '../paper/index.ts';
export { sheetLines, type SheetLine } from './lines.ts';
export { LEGEND_ORDER, legendOf, type LegendEntry, type LegendSign } from './legend.ts';
export { sheetPages, type EngravedSheet, type EngravedWarmUp, type Printed } from './pages.ts';
export * from './tapeStrip.ts';
export { sheetFacts } from './sheetFacts.ts';
export { PAPER_SIZE, pageSize } from './paperPage.ts';
export type { EngravedLineOfSheet } from './lineBlocks.ts';
export { tapesOf } from './fingerboard.ts';
export { styleOf, type Ink, type LineStyle, type RoleStyle, type TextStyle } from './styles.ts';
export { FALLBACK_FONT, TEXT_FONT, TITLE_FONT } from './svg.ts';

/** Records of one history, and changes of them that merge. */
export { recordKind, type AnyKind, type RecordKind } from './kind.ts';
export { slicedRecord, type Piece, type SlicedRecord } from './pieces.ts';

/** Requests and responses: the one place where both sides of the API meet. A file for each resource. */
export * from './arrangements.ts';
export * from './backup.ts';
export * from './errors.ts';
export * from './kept.ts';
export * from './library.ts';
export {
  tapeQuery,
  printRequest,
  sheetQuery,
  pictureQuery,
  fileQuery,
  bookRequest,
  type BookProgress,
  type BookRequest,
  type PrintRequest,
  type SheetPages,
} from './print.ts';
export {
  changeRequest,
  recordRequest,
  logRequest,
  stepRequest,
  type Steps,
  type AnyRecord,
  type StoredRecord,
  type LogEntry,
  type Notice,
  type Answer,
} from './records.ts';
export * from './tunes.ts';

/** Reading and writing open formats. */
export * from './problem.ts';
export {
  listAbc,
  readAbc,
  MAX_ABC_CHARACTERS,
  type AbcReading,
  type AbcOptions,
  type AbcTuneEntry,
} from './abc/read.ts';
export { writeAbc } from './abc/write.ts';
export { headId, writeMusicXml, type MusicXmlOptions } from './musicxml/write.ts';

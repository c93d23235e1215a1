/** Reading and writing open formats. */
export * from './problem.ts';
export { openAbcBook, readAbc, type AbcBook, type AbcReading, type AbcOptions, type AbcTuneEntry } from './abc/read.ts';
export { writeAbc } from './abc/write.ts';
export { readMusicXml, type MusicXmlReading } from './musicxml/read.ts';
export { writeMusicXml, writeScore, type MusicXmlOptions, type ScoreVoice } from './musicxml/write.ts';
export { headId } from './musicxml/writeNote.ts';
export { readMidi, type MidiOptions, type MidiReading } from './midi/read.ts';
export { MAX_MIDI_BYTES } from './midi/parse.ts';
export { GRIDS, type GridId } from './midi/quantise.ts';
export { writeMidi, type MidiWriteOptions } from './midi/write.ts';
export { decodeText, kindOf, type FileKind } from './bytes.ts';
export { CONTAINER, openZip, packMxl, packZip, scoreIn, type Budget, type ZipArchive } from './zip.ts';
export * from './losses.ts';

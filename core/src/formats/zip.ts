/** Zip archives with limits: nothing is unpacked that says it is larger than music can be. */
import crc32 from 'crc-32';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { decodeText } from './bytes.ts';
import type { ReadResult } from './problem.ts';
import { child, children, parseXml } from './musicxml/tree.ts';

/** Unpacked size of one entry, in bytes. */
const MAX_ENTRY = 60_000_000;
/** Unpacked size of everything taken from one archive, in bytes. */
const MAX_TOTAL = 600_000_000;
const MAX_ENTRIES = 100_000;

const fail = (message: string, remedy: string): ReadResult<never> => ({
  ok: false,
  problems: [{ severity: 'error', message, remedy }],
});

/** An archive whose entries are unpacked when they are asked for. */
export interface ZipArchive {
  readonly names: readonly string[];
  entry(name: string): ReadResult<Uint8Array>;
}

/** Entries unpacked together: looking one up costs a walk through the whole list of contents. */
const AT_ONCE = 64;
/** Unpacked bytes held at a time, unless one entry alone is larger. */
const HELD = 16_000_000;

/** Unpacked bytes that may still be taken from an archive, and from the archives in it. */
export interface Budget {
  left: number;
}

/**
 * @param budget shared by an archive and those inside it
 * @example openZip(new Uint8Array([1, 2, 3])).ok // false
 */
export function openZip(bytes: Uint8Array, budget: Budget = { left: MAX_TOTAL }): ReadResult<ZipArchive> {
  const listed = namesIn(bytes);
  if (!listed.ok) return listed;
  const sizes = listed.value;
  const names = [...sizes.keys()];
  const sums = checksumsIn(bytes);
  const taken = new Set<string>();
  const places = new Map(names.map((name, index) => [name, index]));
  let unpacked: Readonly<Record<string, Uint8Array>> = {};
  return {
    ok: true,
    value: {
      names,
      entry(name) {
        const at = places.get(name);
        if (at === undefined) return fail(`The archive has no “${name}”.`, 'Export it again.');
        // What cannot be had is not unpacked first.
        if (!taken.has(name) && sizes.get(name)! > budget.left) return tooLarge();
        if (!unpacked[name]) {
          // Whoever reads a book asks for one tune after the other; a damaged entry is looked at alone.
          let held = 0;
          const ahead = names.slice(at + 1, at + AT_ONCE).filter((next) => (held += sizes.get(next)!) <= HELD);
          unpacked = unpack(bytes, [name, ...ahead]) ?? unpack(bytes, [name]) ?? {};
        }
        const found = unpacked[name];
        if (!found || !isWhole(found, sums.get(name))) return damagedEntry(name);
        if (!taken.has(name)) budget.left -= found.length;
        taken.add(name);
        return budget.left < 0 ? tooLarge() : { ok: true, value: found, notices: [] };
      },
    },
    notices: [],
  };
}

/** Entries by name; null where one of them cannot be unpacked. */
function unpack(bytes: Uint8Array, names: readonly string[]): Readonly<Record<string, Uint8Array>> | null {
  const wanted = new Set(names);
  try {
    return unzipSync(bytes, { filter: ({ name }) => wanted.has(name) });
  } catch {
    return null;
  }
}

const isWhole = (bytes: Uint8Array, sum: number | undefined) => sum === undefined || crc32.buf(bytes) >>> 0 === sum;

const END_OF_LIST = 0x06054b50;
const LISTED = 0x02014b50;
/** Bytes of the end of the list, and with the longest remark that can follow it. */
const END_LENGTH = 22;
const END_AT_MOST = END_LENGTH + 65_535;

/** Where the end of the list of contents stands; -1 in what is no archive. */
function endOfList(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const least = Math.max(0, bytes.length - END_AT_MOST);
  for (let at = bytes.length - END_LENGTH; at >= least; at -= 1)
    if (view.getUint32(at, true) === END_OF_LIST) return at;
  return -1;
}

/**
 * What each entry's bytes must add up to, from the archive's list of contents: the unpacker does not compare them,
 * and one turned bit would come back as another note.
 */
function checksumsIn(bytes: Uint8Array): ReadonlyMap<string, number> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const sums = new Map<string, number>();
  const end = endOfList(bytes);
  if (end < 0) return sums;
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  for (let entry = 0; entry < count && at + 46 <= bytes.length; entry += 1) {
    if (view.getUint32(at, true) !== LISTED) break;
    const nameLength = view.getUint16(at + 28, true);
    const name = new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + nameLength));
    sums.set(name, view.getUint32(at + 16, true));
    at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  return sums;
}

/** Names in the archive with their unpacked sizes, without unpacking anything. */
function namesIn(bytes: Uint8Array): ReadResult<ReadonlyMap<string, number>> {
  // The unpacker looks for it beyond the beginning of a short file, which takes it longer than to read a tune.
  if (endOfList(bytes) < 0) return damaged();
  const names = new Map<string, number>();
  let total = 0;
  let largest = 0;
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        names.set(name, originalSize);
        total += originalSize;
        largest = Math.max(largest, originalSize);
        return false;
      },
    });
  } catch {
    return damaged();
  }
  if (names.size > MAX_ENTRIES || total > MAX_TOTAL || largest > MAX_ENTRY) {
    return tooLarge();
  }
  return { ok: true, value: names, notices: [] };
}

const tooLarge = () =>
  fail(
    'Unpacked, this archive would be larger than any library of tunes; it was not opened.',
    'Check where it comes from.',
  );

const damagedEntry = (name: string) =>
  fail(`“${name}” in this archive is damaged.`, 'Copy or download the archive again, or take the rest of it.');

const damaged = () =>
  fail('The archive is damaged and cannot be unpacked.', 'Copy or download it again; it may have been cut short.');

/** Whether an archive is a packed score, and not a book. */
export const CONTAINER = 'META-INF/container.xml';

/**
 * The score inside an `.mxl`: the container says which file it is.
 * @example scoreIn(openZip(packMxl(writeMusicXml(reel))).value).ok // true
 */
export function scoreIn({ names, entry }: ZipArchive): ReadResult<string> {
  const container = names.includes(CONTAINER) ? entry(CONTAINER) : null;
  const named = container?.ok ? rootFile(decodeText(container.value)) : null;
  const score = named ?? names.find((name) => !name.startsWith('META-INF/') && /\.(musicxml|xml)$/i.test(name));
  if (!score) return fail('There is no score in this archive.', 'Export the tune as MusicXML (.musicxml or .mxl).');
  const unpacked = entry(score);
  return unpacked.ok ? { ok: true, value: decodeText(unpacked.value), notices: [] } : unpacked;
}

function rootFile(container: string): string | null {
  const parsed = parseXml(container);
  const files = parsed.ok ? child(parsed.value, 'rootfiles') : undefined;
  const all = files ? children(files, 'rootfile') : [];
  const music = all.find(({ attributes }) => (attributes['media-type'] ?? '').includes('musicxml')) ?? all[0];
  return music?.attributes['full-path'] ?? null;
}

/**
 * MusicXML in its usual archive. @param musicXml a complete document
 * @example packMxl(arrangementXml(arrangement))[0] // 80
 */
export function packMxl(musicXml: string): Uint8Array {
  const container =
    '<?xml version="1.0" encoding="UTF-8"?>\n<container><rootfiles>' +
    '<rootfile full-path="score.musicxml" media-type="application/vnd.recordare.musicxml+xml"/></rootfiles></container>\n';
  return zipSync({
    // Readers know the format by this entry, first and not compressed.
    mimetype: [strToU8('application/vnd.recordare.musicxml'), { level: 0 }],
    [CONTAINER]: strToU8(container),
    'score.musicxml': strToU8(musicXml),
  });
}

/**
 * Files in one zip, by their names.
 * @example packZip({ 'a.txt': new Uint8Array([65]) })[0] // 80
 */
export const packZip = (files: Readonly<Record<string, Uint8Array>>): Uint8Array<ArrayBuffer> =>
  new Uint8Array(zipSync({ ...files }));

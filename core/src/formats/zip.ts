/** Zip archives with limits: nothing is unpacked that says it is larger than music can be. */
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

/** @example openZip(new Uint8Array([1, 2, 3])).ok // false */
export function openZip(bytes: Uint8Array): ReadResult<ZipArchive> {
  const listed = namesIn(bytes);
  if (!listed.ok) return listed;
  const names = listed.value;
  const places = new Map(names.map((name, index) => [name, index]));
  let unpacked: Readonly<Record<string, Uint8Array>> = {};
  return {
    ok: true,
    value: {
      names,
      entry(name) {
        const at = places.get(name);
        if (at === undefined) return fail(`The archive has no “${name}”.`, 'Export it again.');
        if (!unpacked[name]) {
          // Whoever reads a book asks for one tune after the other.
          const ahead = new Set(names.slice(at, at + AT_ONCE));
          try {
            unpacked = unzipSync(bytes, { filter: ({ name: other }) => ahead.has(other) });
          } catch {
            return damaged();
          }
        }
        const found = unpacked[name];
        return found ? { ok: true, value: found, notices: [] } : damaged();
      },
    },
    notices: [],
  };
}

/** Names in the archive, without unpacking anything. */
function namesIn(bytes: Uint8Array): ReadResult<readonly string[]> {
  const names: string[] = [];
  let total = 0;
  let largest = 0;
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        names.push(name);
        total += originalSize;
        largest = Math.max(largest, originalSize);
        return false;
      },
    });
  } catch {
    return damaged();
  }
  if (names.length > MAX_ENTRIES || total > MAX_TOTAL || largest > MAX_ENTRY) {
    return fail(
      'Unpacked, this archive would be larger than any library of tunes; it was not opened.',
      'Check where it comes from.',
    );
  }
  return { ok: true, value: names, notices: [] };
}

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

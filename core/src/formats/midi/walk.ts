/**
 * A walk through the bytes of a MIDI file before the parser sees them. The parser believes every length: one that
 * is forged or spoiled sends it back and forth without end.
 */

/** Bytes of a number of variable length, as the standard has it. */
const LONGEST_NUMBER = 4;

/**
 * Whether a file's tracks can be walked event by event without leaving them.
 * @example isWalkable(new Uint8Array([77, 84, 104, 100])) // false
 */
export function isWalkable(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 14 || tag(bytes, 0) !== 'MThd') return false;
  let at = 8 + view.getUint32(4);
  let tracks = 0;
  while (at + 8 <= bytes.length) {
    const end = at + 8 + view.getUint32(at + 4);
    if (end > bytes.length) return false;
    if (tag(bytes, at) === 'MTrk') {
      if (!isTrackWalkable(bytes, at + 8, end)) return false;
      tracks += 1;
    }
    at = end;
  }
  return tracks > 0;
}

const tag = (bytes: Uint8Array, at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));

/** Bytes of data after a channel's status: program and pressure have one, the rest two. */
const dataBytes = (status: number) => (status >> 4 === 0xc || status >> 4 === 0xd ? 1 : 2);

function isTrackWalkable(bytes: Uint8Array, from: number, end: number): boolean {
  let at = from;
  let status = 0;
  /** @returns null where the number is too long, or runs out of the track */
  const number = (): number | null => {
    let value = 0;
    for (let count = 0; count < LONGEST_NUMBER && at < end; count += 1) {
      const byte = bytes[at]!;
      at += 1;
      value = value * 128 + (byte & 0x7f);
      if (byte < 0x80) return value;
    }
    return null;
  };
  while (at < end) {
    if (number() === null || at >= end) return false;
    const first = bytes[at]!;
    if (first >= 0xf0) {
      at += first === 0xff ? 2 : 1;
      const length = at < end ? number() : null;
      if (length === null || at + length > end) return false;
      at += length;
    } else {
      if (first >= 0x80) {
        status = first;
        at += 1;
      }
      if (status === 0) return false;
      at += dataBytes(status);
      if (at > end) return false;
    }
  }
  return true;
}

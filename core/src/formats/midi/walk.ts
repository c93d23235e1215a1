/**
 * A walk through the bytes of a MIDI file before the parser sees them. The parser believes every length: one that
 * is forged or spoiled sends it back and forth without end.
 */

/** Bytes of a number of variable length, as the standard has it. */
const LONGEST_NUMBER = 4;

/** What a walk through a file found. */
export interface Walked {
  /** The header and the tracks alone, without chunks of other kinds. */
  readonly bytes: Uint8Array;
  /** Tracks that the header promises, and that are there. */
  readonly declared: number;
  readonly tracks: number;
  /** Tracks that do not end as tracks do. */
  readonly endless: number;
  /** Notes that begin and never end. */
  readonly hanging: number;
  /** Notes that begin, and everything that happens. */
  readonly notes: number;
  readonly events: number;
}

/**
 * A file's tracks walked event by event; null where that leads out of them.
 * @param visit is told the type of each meta event, and where its data begin
 * @example walkMidi(new Uint8Array([77, 84, 104, 100])) // null
 */
export function walkMidi(
  bytes: Uint8Array,
  visit: (type: number, at: number) => void = () => undefined,
): Walked | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 14 || tag(bytes, 0) !== 'MThd') return null;
  let at = 8 + view.getUint32(4);
  if (at > bytes.length) return null;
  const chunks = [bytes.subarray(0, at)];
  let [endless, hanging, notes, events] = [0, 0, 0, 0];
  while (at + 8 <= bytes.length) {
    const end = at + 8 + view.getUint32(at + 4);
    if (end > bytes.length) return null;
    if (tag(bytes, at) === 'MTrk') {
      const track = walkTrack(bytes, at + 8, end, visit);
      if (!track) return null;
      endless += Number(!track.ended);
      hanging += track.hanging;
      notes += track.notes;
      events += track.events;
      chunks.push(bytes.subarray(at, end));
    }
    at = end;
  }
  const tracks = chunks.length - 1;
  if (tracks === 0) return null;
  const all = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, 0));
  let to = 0;
  for (const chunk of chunks) {
    all.set(chunk, to);
    to += chunk.length;
  }
  return { bytes: all, declared: view.getUint16(10), tracks, endless, hanging, notes, events };
}

const tag = (bytes: Uint8Array, at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));

/** Bytes of data after a channel's status: program and pressure have one, the rest two. */
const dataBytes = (status: number) => (status >> 4 === 0xc || status >> 4 === 0xd ? 1 : 2);

const END_OF_TRACK = 0x2f;

function walkTrack(
  bytes: Uint8Array,
  from: number,
  end: number,
  visit: (type: number, at: number) => void,
): (Pick<Walked, 'hanging' | 'notes' | 'events'> & { readonly ended: boolean }) | null {
  let at = from;
  let status = 0;
  let ended = false;
  let [notes, events] = [0, 0];
  /** Notes that sound, by channel and pitch. */
  const sounding = new Map<number, number>();
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
    if (number() === null || at >= end) return null;
    const first = bytes[at]!;
    events += 1;
    if (first >= 0xf0) {
      const meta = first === 0xff ? bytes[at + 1] : undefined;
      if (meta === END_OF_TRACK) ended = true;
      at += first === 0xff ? 2 : 1;
      const length = at < end ? number() : null;
      if (length === null || at + length > end) return null;
      if (meta !== undefined) visit(meta, at);
      at += length;
    } else {
      if (first >= 0x80) {
        status = first;
        at += 1;
      }
      if (status === 0) return null;
      const kind = status >> 4;
      if (kind === 0x8 || kind === 0x9) {
        const note = (status & 0xf) * 128 + (bytes[at] ?? 0);
        const begins = kind === 0x9 && (bytes[at + 1] ?? 0) > 0;
        notes += Number(begins);
        sounding.set(note, Math.max(0, (sounding.get(note) ?? 0) + (begins ? 1 : -1)));
      }
      at += dataBytes(status);
      if (at > end) return null;
    }
  }
  return { ended, notes, events, hanging: [...sounding.values()].reduce((sum, count) => sum + count, 0) };
}

/** From bytes to text, whatever encoding a file has; and what kind of file it is, by its contents. */

export type FileKind = 'abc' | 'musicxml' | 'mxl' | 'midi' | 'nokta' | 'zip';

const startsWith = (bytes: Uint8Array, text: string, at = 0) =>
  [...text].every((sign, index) => bytes[at + index] === sign.charCodeAt(0));

/**
 * The kind by what is inside; names of files are often wrong.
 * @example kindOf(new TextEncoder().encode('X:1\nK:G\n'), 'tar.abc') // 'abc'
 */
export function kindOf(bytes: Uint8Array, name = ''): FileKind {
  if (startsWith(bytes, 'PK')) return /\.mxl$/i.test(name) ? 'mxl' : 'zip';
  if (startsWith(bytes, 'MThd') || (startsWith(bytes, 'RIFF') && startsWith(bytes, 'RMID', 8))) return 'midi';
  const beginning = decodeText(bytes.subarray(0, 400)).trimStart();
  if (beginning.startsWith('<')) return 'musicxml';
  return beginning.startsWith('{') ? 'nokta' : 'abc';
}

/**
 * UTF-8, UTF-16 with or without a mark, the encoding that an XML declaration names, and else the
 * Western encoding of older systems. Never throws: a wrong letter in a title can be mended, a refusal not.
 * @example decodeText(new Uint8Array([71, 66])) // 'GB'
 */
export function decodeText(bytes: Uint8Array): string {
  const encoding = markedEncoding(bytes) ?? unmarkedUtf16(bytes) ?? declaredEncoding(bytes);
  if (encoding) {
    try {
      return new TextDecoder(encoding).decode(bytes);
    } catch {
      // A declaration may name what no decoder knows; then the text is judged by itself.
    }
  }
  try {
    // A few bytes may be cut off where only the beginning of a file is looked at.
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

function markedEncoding(bytes: Uint8Array): string | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  return bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : null;
}

/** Every second byte of Western text in UTF-16 is zero. */
function unmarkedUtf16(bytes: Uint8Array): string | null {
  const looked = Math.min(bytes.length & ~1, 256);
  if (looked < 8) return null;
  let even = 0;
  let odd = 0;
  for (let at = 0; at < looked; at += 2) {
    if (bytes[at] === 0) even += 1;
    if (bytes[at + 1] === 0) odd += 1;
  }
  if (odd > looked * 0.3 && even < looked * 0.1) return 'utf-16le';
  return even > looked * 0.3 && odd < looked * 0.1 ? 'utf-16be' : null;
}

function declaredEncoding(bytes: Uint8Array): string | null {
  const beginning = String.fromCharCode(...bytes.subarray(0, 120));
  return /^\s*<\?xml[^>]*encoding=["']([\w.-]+)["']/.exec(beginning)?.[1] ?? null;
}

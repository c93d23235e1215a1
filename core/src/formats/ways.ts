/** Jumps in words, as people write them over a bar. */
import type { Bar } from '../music/index.ts';

/** How far a jump goes on, by the words beside it. @example untilInWords('D.S. al Coda') // 'coda' */
export function untilInWords(words: string): 'fine' | 'coda' | 'end' {
  const text = plain(words);
  return /al fine/.test(text) ? 'fine' : /al coda|e poi la coda/.test(text) ? 'coda' : 'end';
}

/**
 * What words say of the bar that they stand over; nothing where they say something else.
 * @example wayInWords('D.C. al Fine').jump.until // 'fine'
 */
export function wayInWords(words: string): Partial<Bar> {
  const text = plain(words);
  if (/^(d ?s|dal segno)\b( al (fine|coda)| e poi la coda)?$/.test(text))
    return { jump: { back: 'segno', until: untilInWords(words) } };
  if (/^(d ?c|da capo)\b( al (fine|coda)| e poi la coda)?$/.test(text))
    return { jump: { back: 'start', until: untilInWords(words) } };
  if (text === 'fine') return { fine: true };
  if (text === 'to coda') return { toCoda: true };
  return text === 'coda' ? { coda: true } : {};
}

const plain = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[.\s]+/g, ' ')
    .trim();

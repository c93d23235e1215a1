/**
 * Words under the notes: `w:` lines belong to the music before them, one for each verse. Aligned here
 * because the parser lets rests take syllables, which they do not (ABC 2.1, section 5.1).
 */
import type { Bar, Syllable } from '../../music/index.ts';
import { decodeText } from './book.ts';
import type { Below, NoteOfLine } from './below.ts';

type Token = { readonly syllable: Syllable } | 'skip' | 'hold' | 'bar';

/** Splits a `w:` line at its signs. */
export function wordTokens(line: string): readonly Token[] {
  const tokens: Token[] = [];
  let text = '';
  const close = (hyphen: boolean) => {
    if (text === '') return false;
    tokens.push({ syllable: { text: decodeText(text), ...(hyphen && { hyphen }) } });
    text = '';
    return true;
  };
  for (let at = 0; at < line.length; at += 1) {
    const sign = line[at]!;
    if (sign === '\\' && /[-_*|~\\]/.test(line[at + 1] ?? '')) {
      text += line[at + 1] === '\\' ? '\\\\' : line[at + 1];
      at += 1;
    } else if (sign === ' ' || sign === '\t') close(false);
    else if (sign === '-') {
      // A hyphen that follows none of its own syllable stands for one more note.
      if (!close(true)) tokens.push('skip');
    } else if (sign === '_') {
      close(false);
      tokens.push('hold');
    } else if (sign === '*') {
      close(false);
      tokens.push('skip');
    } else if (sign === '|') {
      close(false);
      tokens.push('bar');
    } else text += sign === '~' ? ' ' : sign;
  }
  close(false);
  return tokens;
}

/** The bars with every verse under its notes. */
export function withWords(bars: readonly Bar[], below: readonly Below[]): readonly Bar[] {
  const words = new Map<string, (Syllable | null)[]>();
  for (const { notes, verses } of below)
    verses.forEach((verse, number) => align(wordTokens(verse), notes, number, words));
  if (words.size === 0) return bars;
  return bars.map((bar) => ({
    ...bar,
    events: bar.events.map((event) => {
      const own = words.get(event.id);
      return event.kind === 'note' && own ? { ...event, words: own } : event;
    }),
  }));
}

function align(
  tokens: readonly Token[],
  notes: readonly NoteOfLine[],
  verse: number,
  words: Map<string, (Syllable | null)[]>,
): void {
  let at = 0;
  let last: { readonly id: string; readonly syllable: Syllable } | null = null;
  const put = (id: string, syllable: Syllable) => {
    const own = words.get(id) ?? [];
    while (own.length < verse) own.push(null);
    own[verse] = syllable;
    words.set(id, own);
  };
  for (const token of tokens) {
    if (token === 'bar') {
      const bar = notes[at - 1]?.barIndex;
      while (at < notes.length && at > 0 && notes[at]!.barIndex === bar) at += 1;
      continue;
    }
    const note = notes[at];
    at += 1;
    if (token === 'hold' && last) put(last.id, { ...last.syllable, extend: true });
    if (!note || typeof token === 'string') continue;
    last = { id: note.event.id, syllable: token.syllable };
    put(note.event.id, token.syllable);
  }
}

/**
 * Words under the notes: `w:` lines belong to the music before them, one for each verse. Aligned here
 * because the parser lets rests take syllables, which they do not (ABC 2.1, section 5.1).
 */
import type { Bar, Note, Place, Syllable } from '../../music/index.ts';
import { decodeText } from './book.ts';

/** Lines of music and the verses below them. */
interface WordBlock {
  readonly lines: Set<number>;
  readonly verses: string[];
}

type Token = { readonly syllable: Syllable } | 'skip' | 'hold' | 'bar';

const FIELD = /^([A-Za-z]):/;
const VOICE = /^\s*\[V:\s*([^\]\s]+)[^\]]*\]/;

/** @param lines line numbers of the file for each line of the text */
function blocksOf(text: string, lines: readonly number[]): readonly WordBlock[] {
  const open = new Map<string, WordBlock>();
  const blocks: WordBlock[] = [];
  let voice = '';
  text.split('\n').forEach((line, index) => {
    const field = FIELD.exec(line)?.[1];
    if (field === 'V') voice = line.slice(2).trim().split(/\s/)[0]!;
    if (field === 'w') {
      const block = open.get(voice);
      const words = line
        .slice(2)
        .replace(/(^|[^\\])%.*$/, '$1')
        .trim();
      block?.verses.push(words);
      return;
    }
    if (field || line.trim() === '' || line.startsWith('%')) return;
    voice = VOICE.exec(line)?.[1] ?? voice;
    let block = open.get(voice);
    if (!block || block.verses.length > 0) {
      block = { lines: new Set(), verses: [] };
      open.set(voice, block);
      blocks.push(block);
    }
    block.lines.add(lines[index] ?? index + 1);
  });
  return blocks.filter(({ verses }) => verses.length > 0);
}

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
export function withWords(bars: readonly Bar[], text: string, lines: readonly number[]): readonly Bar[] {
  const words = new Map<string, (Syllable | null)[]>();
  const blocks = blocksOf(text, lines);
  if (blocks.length === 0) return bars;
  const byLine = notesByLine(bars);
  for (const block of blocks) {
    const notes = [...block.lines].flatMap((line) => byLine.get(line) ?? []).sort((a, b) => a.place - b.place);
    block.verses.forEach((verse, number) => align(wordTokens(verse), notes, number, words));
  }
  if (words.size === 0) return bars;
  return bars.map((bar) => ({
    ...bar,
    events: bar.events.map((event) => {
      const own = words.get(event.id);
      return event.kind === 'note' && own ? { ...event, words: own } : event;
    }),
  }));
}

/** A note that words can stand under. */
interface Singable {
  readonly event: Note;
  readonly barIndex: number;
  /** Where it comes among all events of the tune. */
  readonly place: number;
}

/** Notes by the line that they are written in; what a note is tied to itself in is no new one. */
function notesByLine(bars: readonly Bar[]): ReadonlyMap<number, readonly Singable[]> {
  const byLine = new Map<number, Singable[]>();
  let before: Place | undefined;
  let place = 0;
  bars.forEach(({ events }, barIndex) => {
    for (const event of events) {
      const { source } = event;
      const again = before && source && before.line === source.line && before.column === source.column;
      before = source;
      place += 1;
      if (event.kind !== 'note' || again) continue;
      const own = byLine.get(source?.line ?? 0);
      if (own) own.push({ event, barIndex, place });
      else byLine.set(source?.line ?? 0, [{ event, barIndex, place }]);
    }
  });
  return byLine;
}

function align(
  tokens: readonly Token[],
  notes: readonly Singable[],
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

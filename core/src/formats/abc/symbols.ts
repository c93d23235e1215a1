/** Symbols above the notes: `s:` lines, laid over them as words are laid under (ABC 2.1, section 4.15). */
import type { Bar, Note } from '../../music/index.ts';
import { decodeText } from './book.ts';
import type { Below } from './below.ts';
import { isChord } from './elements.ts';
import { LETTERS_FOR, readSign } from './signs.ts';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

export interface Symbolled {
  readonly bars: readonly Bar[];
  /** What was not understood, each once. */
  readonly unknown: readonly string[];
}

/** A sign by its name, a text in quotes, one note left out, or a bar line. */
const TOKEN = /!([^!]*)!|"([^"]*)"|([*|])|([~.A-Za-z])/g;

/** The bars with every symbol at its note. */
export function withSymbols(bars: readonly Bar[], below: readonly Below[]): Symbolled {
  const changed = new Map<string, Mutable<Note>>();
  const ways = new Map<number, Partial<Bar>>();
  const unknown = new Set<string>();
  for (const { notes, symbols } of below)
    for (const line of symbols) {
      let at = 0;
      for (const [whole, named, quoted, step, letter] of line.matchAll(TOKEN)) {
        if (step === '|') {
          const bar = notes[at - 1]?.barIndex;
          while (at > 0 && at < notes.length && notes[at]!.barIndex === bar) at += 1;
          continue;
        }
        const note = notes[at];
        at += 1;
        if (!note || step) continue;
        const own = changed.get(note.event.id) ?? { ...note.event };
        changed.set(note.event.id, own);
        if (quoted !== undefined) say(own, decodeText(quoted));
        else {
          const way = mark(own, named ?? LETTERS_FOR[letter!] ?? whole);
          if (way === 'unknown') unknown.add(whole);
          else if (way) ways.set(note.barIndex, { ...ways.get(note.barIndex), ...way });
        }
      }
    }
  if (changed.size === 0) return { bars, unknown: [] };
  return {
    bars: bars.map((bar, index) => ({
      ...bar,
      ...ways.get(index),
      events: bar.events.map((event) => changed.get(event.id) ?? event),
    })),
    unknown: [...unknown],
  };
}

/** A chord, or words to the player; the place that a text asks for (`^_<>@`) is the page's own matter. */
function say(note: Mutable<Note>, text: string): void {
  const plain = text.replace(/^[\^_<>@]/, '');
  if (plain === text && isChord(text) && !note.chordSymbol) note.chordSymbol = text;
  else note.annotation = [note.annotation, plain].filter(Boolean).join(' ');
}

/** @returns what it says of the bar */
function mark(note: Mutable<Note>, name: string): Partial<Bar> | 'unknown' | null {
  const sign = readSign(name);
  switch (sign.kind) {
    case 'decoration':
      note.decorations = [...new Set([...(note.decorations ?? []), sign.sign])];
      return null;
    case 'bow':
      note.bow = sign.bow;
      return null;
    case 'dynamic':
      note.dynamic = sign.dynamic;
      return null;
    case 'finger':
      note.heads = note.heads.map((head, index) => (index === 0 ? { ...head, finger: sign.finger } : head));
      return null;
    case 'navigation':
      return sign.bar;
    default:
      return 'unknown';
  }
}

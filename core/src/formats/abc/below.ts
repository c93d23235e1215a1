/**
 * What stands below lines of music and is laid under their notes: words (`w:`) and symbols (`s:`). Each such line
 * belongs to the music of its voice before it.
 */
import type { Bar, Note, Place } from '../../music/index.ts';
import type { Prepared } from './prepare.ts';

/** A note of a line. */
export interface NoteOfLine {
  readonly event: Note;
  readonly barIndex: number;
  /** Where it comes among all events of the tune. */
  readonly place: number;
}

/** Lines of music, by their notes, and what stands below them. */
export interface Below {
  readonly notes: readonly NoteOfLine[];
  readonly verses: readonly string[];
  readonly symbols: readonly string[];
}

interface Block {
  readonly lines: Set<number>;
  readonly verses: string[];
  readonly symbols: string[];
}

const FIELD = /^([A-Za-z]):/;
const VOICE = /^\s*\[V:\s*([^\]\s]+)[^\]]*\]/;

/** All that stands below the lines of a tune. */
export function belowLines(bars: readonly Bar[], entry: Prepared): readonly Below[] {
  const blocks = blocksOf(entry);
  if (blocks.length === 0) return [];
  const byLine = notesByLine(bars);
  return blocks.map(({ lines, verses, symbols }) => ({
    notes: [...lines].flatMap((line) => byLine.get(line) ?? []).sort((a, b) => a.place - b.place),
    verses,
    symbols,
  }));
}

function blocksOf({ text, lines, symbols }: Prepared): readonly Block[] {
  const open = new Map<string, Block>();
  const blocks: Block[] = [];
  let voice = '';
  const isBelow = ({ verses, symbols: own }: Block) => verses.length + own.length > 0;
  text.split('\n').forEach((line, index) => {
    const field = FIELD.exec(line)?.[1];
    if (field === 'V') voice = line.slice(2).trim().split(/\s/)[0]!;
    const signs = symbols.get(index);
    if (signs !== undefined) open.get(voice)?.symbols.push(withoutComment(signs));
    else if (field === 'w') open.get(voice)?.verses.push(withoutComment(line.slice(2)));
    else if (!field && line.trim() !== '' && !line.startsWith('%')) {
      voice = VOICE.exec(line)?.[1] ?? voice;
      let block = open.get(voice);
      if (!block || isBelow(block)) {
        block = { lines: new Set(), verses: [], symbols: [] };
        open.set(voice, block);
        blocks.push(block);
      }
      block.lines.add(lines[index] ?? index + 1);
    }
  });
  return blocks.filter(isBelow);
}

const withoutComment = (text: string): string => text.replace(/(^|[^\\])%.*$/, '$1').trim();

/** Notes by the line that they are written in; what a note is tied to itself in is no new one. */
function notesByLine(bars: readonly Bar[]): ReadonlyMap<number, readonly NoteOfLine[]> {
  const byLine = new Map<number, NoteOfLine[]>();
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

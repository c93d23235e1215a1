/**
 * A tune's text as the parser understands it best. Lines stay lines, and signs keep their length, so that places are
 * what they were.
 */
import type { Problem } from '../problem.ts';
import type { AbcTune } from './book.ts';

/** A tune made ready, with what was left out of it. */
export interface Prepared extends AbcTune {
  readonly notices: readonly Problem[];
  /** Times that the section which ends at a repeat sign is played, by the place of its bar line; none for twice. */
  readonly times: ReadonlyMap<number, number>;
  /** Lines of symbols (`s:`), by their place among the lines; the parser does not know them. */
  readonly symbols: ReadonlyMap<number, string>;
}

const FIELD = /^([A-Za-z+]):/;
/** Fields that hold from their line on, which the parser reads only in brackets. */
const CARRIED = /^([MQ]):\s*(.*?)\s*(%.*)?$/;
const VOICE = /^(V:|\s*\[V:)/;
/** Where "da coda" stood: as long as the sign, and read as a text over its note. */
export const TO_CODA = '⟶coda';

/** Most that a section is played by its colons. */
const MOST_TIMES = 10;

/**
 * Continued fields are joined; metre and tempo on lines of their own go into brackets; repeat signs with more colons
 * than one become plain ones.
 * @example prepare({ text: 'X:1\nK:C\nCD|\nM:3/4\nCDE|', lines: [1, 2, 3, 4, 5], title: '' }).text.split('\n')[3] // '[M:3/4]'
 */
export function prepare(entry: AbcTune): Prepared {
  const notices: Problem[] = [];
  const symbols = new Map<number, string>();
  const lines = entry.text.split('\n');
  const at = (index: number) => ({ line: entry.lines[index] ?? index + 1, column: 1 });
  let inBody = false;
  /** The field that a line +: goes on, and what it goes on with. */
  let open: number | null = null;
  const more = new Map<number, string[]>();
  lines.forEach((line, index) => {
    const name = FIELD.exec(line)?.[1];
    if (name === '+') {
      if (open === null) {
        const message = `This line goes on with a field, and there is none before it; it was left out.`;
        notices.push({ severity: 'notice', message, remedy: 'Set +: right below a field.', ...at(index) });
      } else {
        const pieces = more.get(open);
        if (pieces) pieces.push(line.slice(2).trim());
        else more.set(open, [line.slice(2).trim()]);
      }
      lines[index] = '%';
      return;
    }
    open = name === undefined ? null : index;
    if (name === 's') {
      symbols.set(index, line.slice(2));
      lines[index] = '%';
      return;
    }
    if (inBody) {
      const carried = CARRIED.exec(line);
      // Before the next voices it is for all of them, and the parser tells each.
      const forAll = carried?.[1] === 'M' && VOICE.test(lineAfter(lines, index));
      if (carried && !forAll) lines[index] = `[${carried[1]}:${carried[2]}]`;
    }
    if (name === 'K') inBody = true;
  });
  for (const [index, pieces] of more) lines[index] = [lines[index]!.trimEnd(), ...pieces].join(' ');
  const text = lines.join('\n');
  const times = new Map<number, number>();
  const music = text.replaceAll(':|:', ':: ');
  const plain = music
    .replace(/(?<![|:])(:{2,})\|/g, (_, colons: string, place: number) => {
      times.set(place + colons.length, Math.min(colons.length + 1, MOST_TIMES));
      return `${' '.repeat(colons.length - 1)}:|`;
    })
    .replace(/\|:(:+)(?!\|)/g, (_, more: string) => `|:${' '.repeat(more.length)}`)
    .replaceAll('!dacoda!', `"^${TO_CODA}"`)
    .replaceAll('!dacapo!', '!D.C.!  ');
  return { ...entry, text: plain, notices, times, symbols };
}

/** The next line that is neither empty nor a comment. */
function lineAfter(lines: readonly string[], index: number): string {
  let next = index + 1;
  while (next < lines.length && /^(%|\s*$)/.test(lines[next]!)) next += 1;
  return lines[next] ?? '';
}

/** Unit lengths a minute, as `Q:C=100`, `Q:C3=40` and `Q:120` have it; the length by `L:`, or as the metre has it. */
export function unitTempo(
  tempo: string | undefined,
  unit: string | undefined,
  metre: { readonly beats: number; readonly unit: number },
): { readonly beat: number; readonly bpm: number } | null {
  const match = /^\s*(?:C\s*(\d*)\s*=\s*)?(\d+(?:\.\d+)?)\s*$/.exec(tempo ?? '');
  if (!match) return null;
  const given = /^\s*(\d+)\s*\/\s*(\d+)/.exec(unit ?? '');
  const length = given ? Number(given[1]) / Number(given[2]) : metre.beats / metre.unit < SHORT_METRE ? 1 / 16 : 1 / 8;
  return { beat: length * Number(match[1] || 1), bpm: Number(match[2]) };
}
/** Shorter metres count in sixteenths where nothing is said (ABC 2.1, section 4.7). */
const SHORT_METRE = 0.75;

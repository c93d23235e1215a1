/** Windows of a tune that are the same, so that a version changes them alike. */
import type { Form } from '../form/index.ts';
import { topOf, type TuneWindow } from './windows.ts';

/**
 * By number of a window: the first one that is the same, in a phrase that is told to be like an earlier one, or in a bar that
 * came before note for note.
 */
export function rootsOf(windows: readonly TuneWindow[], form: Form): ReadonlyMap<number, number> {
  const phrases = form.parts.flatMap(({ phrases: own }) => own);
  const byId = new Map(phrases.map((phrase) => [phrase.id, phrase]));
  const at = new Map(windows.map((window, index) => [window.from, index]));
  const contents = windows.map(contentOf);
  const found = new Map<number, number>();
  windows.forEach(({ phrase, from }, index) => {
    const root = phrase && ALIKE.has(phrase.relation.kind) ? byId.get(phrase.relation.of ?? '') : undefined;
    const there = root && phrase ? at.get(root.from + from - phrase.from) : undefined;
    if (there !== undefined && there < index && contents[there] === contents[index])
      found.set(index, found.get(there) ?? there);
  });
  const bars = new Map<string, number>();
  let first = 0;
  while (first < windows.length) {
    let end = first + 1;
    while (windows[end]?.barIndex === windows[first]!.barIndex) end += 1;
    const content = contents.slice(first, end).join(' | ');
    const known = bars.get(content);
    if (known === undefined) bars.set(content, first);
    else
      for (let index = first; index < end; index += 1) if (!found.has(index)) found.set(index, known + index - first);
    first = end;
  }
  return found;
}
const ALIKE: ReadonlySet<string> = new Set(['same', 'same-but-ending', 'same-start']);

/** What a window holds, told by places and pitches. */
const contentOf = ({ from, to, starting, held, last, pickup }: TuneWindow): string =>
  [
    to - from,
    last,
    pickup,
    ...(held ? [`h${topOf(held)} ${Math.min(to, held.onset + held.duration) - from}`] : []),
    ...starting.map((sound) => `${sound.onset - from} ${topOf(sound)} ${sound.duration}`),
  ].join(',');

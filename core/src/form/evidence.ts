/**
 * How plainly the tune says, at each sound, that a phrase begins there.
 *
 * Weights are judgements in one unit: 1 is about what a long note before the place says. The kinds of
 * evidence are those of the literature on grouping (rests and long notes before the place, parallel
 * beginnings, symmetry: F. Lerdahl and R. Jackendoff, "A Generative Theory of Tonal Music", 1983), and
 * what a page tells besides: breaths, lines of words, lines of the source.
 */
import type { Note, Ticks } from '../music/index.ts';
import type { Reading } from './reading.ts';

const WEIGHT = {
  /** For each doubling of the time since the last attack over the tune's usual. */
  longBefore: 1.6,
  /** A long note that only goes on to another one says less. */
  longerStill: 0.5,
  /** Silence just before. */
  rest: 2,
  breath: 5,
  fermata: 5,
  /** The source starts a new line of notes. */
  line: 1,
  /** The words before end a clause; the word after begins with a capital. */
  punctuation: 2.4,
  capital: 1.2,
  /** Never inside a word. */
  insideWord: -6,
  /** A leap, by octaves. */
  leap: 0.3,
} as const;
const MOST_DOUBLINGS = 2.5;

/** Sounds before which no phrase may begin: held over, or under a slur. */
export function joinedSounds({ tune, sounds }: Reading): ReadonlySet<number> {
  if (tune.slurs.length === 0) return new Set();
  const indexOf = new Map(sounds.flatMap(({ ids }, index) => ids.map((id) => [id, index] as const)));
  const joined = new Set<number>();
  for (const { from, to } of tune.slurs) {
    const last = indexOf.get(to) ?? -1;
    for (let index = (indexOf.get(from) ?? last) + 1; index <= last; index += 1) joined.add(index);
  }
  return joined;
}

/** @returns for each sound how much speaks for a phrase beginning with it; the first is 0 */
export function cutEvidence(reading: Reading): readonly number[] {
  const { sounds } = reading;
  const usual = medianGap(reading);
  return sounds.map((sound, index) => {
    const before = sounds[index - 1];
    if (!before) return 0;
    const gap = sound.onset - before.onset;
    const silence = gap - before.duration;
    const doublings = Math.min(MOST_DOUBLINGS, Math.max(0, Math.log2(gap / usual)));
    const next = sounds[index + 1];
    const goesOnLonger = next !== undefined && next.onset - sound.onset >= gap;
    const { last } = before;
    return (
      WEIGHT.longBefore * doublings * (goesOnLonger ? WEIGHT.longerStill : 1) +
      (silence > 0 ? WEIGHT.rest : 0) +
      (last.decorations?.includes('breath') ? WEIGHT.breath : 0) +
      (last.decorations?.includes('fermata') ? WEIGHT.fermata : 0) +
      (last.lineEnd ? WEIGHT.line : 0) +
      wordEvidence(before.note, sound.note) +
      WEIGHT.leap * Math.min(1, Math.abs(sound.top - before.top) / 12)
    );
  });
}

/** A breath or a fermata: the page says that a line ends with this note. */
export const marksEnd = ({ decorations }: Note): boolean =>
  Boolean(decorations?.includes('breath') || decorations?.includes('fermata'));

/** The time between attacks that is most usual in the tune. */
export function medianGap({ sounds }: Reading): Ticks {
  const gaps = sounds.slice(1).map(({ onset }, index) => onset - sounds[index]!.onset);
  const sorted = gaps.sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] || 1;
}

const CLAUSE_END = /[.,;:!?…—–]["'”’)]*$/u;
const CAPITAL = /^["'“‘(]*\p{Lu}/u;

/** In one of its verses a clause ends with this note. */
export const endsClause = ({ words }: Note): boolean =>
  words?.some((syllable) => syllable && !syllable.hyphen && CLAUSE_END.test(syllable.text)) ?? false;

/** The verse that says most counts. */
function wordEvidence(before: Note, after: Note): number {
  const verses = Math.max(before.words?.length ?? 0, after.words?.length ?? 0);
  let best = 0;
  for (let verse = 0; verse < verses; verse += 1) {
    const last = before.words?.[verse];
    const next = after.words?.[verse];
    if (last?.hyphen) return WEIGHT.insideWord;
    if (!next) continue;
    // "I" says nothing.
    const capital = CAPITAL.test(next.text) && next.text !== 'I' ? WEIGHT.capital : 0;
    best = Math.max(best, (last && CLAUSE_END.test(last.text) ? WEIGHT.punctuation : 0) + capital);
  }
  // A syllable that is still being sung is not cut.
  if (after.words === undefined && before.words?.some((syllable) => syllable?.extend)) return WEIGHT.insideWord;
  return best;
}

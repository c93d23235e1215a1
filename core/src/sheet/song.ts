/**
 * The words of a tune as they are sung, line by line, with the chords that stand over them: each repeat and ending in
 * its order, verse after verse, what every verse shares as a refrain.
 */
import { phrasesOf, type Form } from '../form/index.ts';
import { chordsWithin, harmonyOf } from '../harmony/index.ts';
import { barStarts, playedOrder, type Syllable, type Tune } from '../music/index.ts';

/** Some text with the chord that begins with it. */
export interface SungPiece {
  readonly chord: string | null;
  /** Empty where a chord comes while a syllable is held, or where nobody sings. */
  readonly text: string;
  /** Its word goes on in the next piece. */
  readonly joins: boolean;
}

export type SungLine = readonly SungPiece[];

export interface Stanza {
  /** Number of the verse; null where there are no several, and for what goes on in a verse. */
  readonly verse: number | null;
  /** The same words in every verse. */
  readonly refrain: boolean;
  /** Sung so many times in a row. */
  readonly times: number;
  readonly lines: readonly SungLine[];
}

/** A syllable where it is sung, or a chord where nobody begins one. */
interface Sung {
  readonly phrase: string;
  readonly syllable: Syllable | null;
  readonly chord: string | null;
}

interface Stretch {
  readonly pass: number;
  readonly time: number;
  readonly refrain: boolean;
  readonly sung: readonly Sung[];
}

/**
 * The stanzas in the order in which they are sung; none where nothing is.
 * @example songOf(reel, analyseForm(reel)) // []
 */
export function songOf(tune: Tune, form: Form): readonly Stanza[] {
  const stretches = stretchesOf(tune, form);
  const verses = versesNumbered(stretches);
  const stanzas: Stanza[] = [];
  let numbered: number | null = null;
  for (const { refrain, sung, pass, time } of stretches) {
    const verse = verses === 'passes' ? pass + 1 : verses === 'times' ? time : null;
    const lines = linesOf(sung);
    if (lines.every((line) => line.every(({ text }) => text === ''))) continue;
    const last = stanzas.at(-1);
    if (last && last.refrain === refrain && textOf(last.lines) === textOf(lines)) {
      stanzas[stanzas.length - 1] = { ...last, times: last.times + 1 };
      continue;
    }
    stanzas.push({ verse: refrain || verse === numbered ? null : verse, refrain, times: 1, lines });
    if (!refrain) numbered = verse;
  }
  const several = stanzas.filter(({ verse }) => verse !== null).length > 1;
  return several ? stanzas : stanzas.map((stanza) => ({ ...stanza, verse: null }));
}

const textOf = (lines: readonly SungLine[]): string =>
  lines.map((line) => line.map(({ text, chord }) => `${chord ?? ''} ${text}`).join(' ')).join('\n');

/** What is counted as a verse: each time through the tune, each time round of what is repeated, or nothing. */
function versesNumbered(stretches: readonly Stretch[]): 'passes' | 'times' | null {
  if (stretches.some(({ pass }) => pass > 0)) return 'passes';
  const repeated = stretches.filter(({ refrain }) => !refrain);
  return repeated.length > 1 && repeated.every(({ time }, index) => time === index + 1) ? 'times' : null;
}

function stretchesOf(tune: Tune, form: Form): readonly Stretch[] {
  const { bars } = tune;
  const order = playedOrder(bars);
  const rounds = bars.map(() => 0);
  for (const { index } of order) rounds[index]! += 1;
  const phrases = phrasesOf(form);
  const phraseOf = new Map(phrases.flatMap(({ id, notes }) => notes.map((note) => [note, id] as const)));
  const verses = versesOf(tune, phraseOf);
  // Once through the tune takes so many verses of a phrase as it is played.
  const passes = Math.max(
    0,
    ...bars.flatMap(({ events }, index) =>
      events.map(({ id }) => Math.ceil((verses.get(phraseOf.get(id) ?? '') ?? 0) / Math.max(1, rounds[index]!))),
    ),
  );
  const chords = harmonyOf(tune);
  const starts = barStarts(bars);
  const found: { pass: number; time: number; refrain: boolean; sung: Sung[] }[] = [];
  for (let pass = 0; pass < passes; pass += 1) {
    let before = -1;
    let phrase = '';
    for (const { index, time } of order) {
      const round = rounds[index]!;
      let goesBack = index <= before || before < 0;
      before = index;
      for (const event of bars[index]!.events) {
        const own = (event.kind === 'note' && phraseOf.get(event.id)) || phrase;
        const count = verses.get(own) ?? 0;
        const last = found.at(-1);
        // What is sung by nobody goes on with what is sung around it.
        const refrain = count === 0 ? (last?.refrain ?? false) : passes > 1 && count <= round;
        // Behind what was repeated something else begins; an ending goes on with its phrase.
        const goesOn = !goesBack && last?.refrain === refrain && (time >= last.time || own === phrase);
        if (!goesOn) found.push({ pass, time, refrain, sung: [] });
        [phrase, goesBack] = [own, false];
        const wished = pass * round + time - 1;
        const verse = wished >= count && count <= round ? Math.min(time, count) - 1 : wished;
        const syllable = (event.kind === 'note' && event.words?.[verse]) || null;
        const from = starts[index]! + event.at;
        const within = chordsWithin(chords, from, from + event.duration);
        const begins = within[0]?.from === from ? within[0] : null;
        const { sung } = found.at(-1)!;
        if (syllable || begins) sung.push({ phrase, syllable, chord: begins?.name ?? null });
        for (const one of within) if (one !== begins) sung.push({ phrase, syllable: null, chord: one.name });
      }
    }
  }
  return found;
}

/** How many verses each phrase has. */
function versesOf({ bars }: Tune, phraseOf: ReadonlyMap<string, string>): ReadonlyMap<string, number> {
  const verses = new Map<string, number>();
  for (const event of bars.flatMap(({ events }) => events)) {
    const phrase = phraseOf.get(event.id);
    if (event.kind !== 'note' || phrase === undefined) continue;
    const own = (event.words ?? []).findLastIndex((syllable) => syllable !== null) + 1;
    verses.set(phrase, Math.max(own, verses.get(phrase) ?? 0));
  }
  return verses;
}

/** A line for each phrase: the chord that it begins under, and each that is another than the one before. */
function linesOf(sung: readonly Sung[]): readonly SungLine[] {
  const lines: { phrase: string; pieces: SungPiece[]; opens: string | null; last: string | null }[] = [];
  let under: string | null = null;
  for (const { phrase, syllable, chord } of sung) {
    let line = lines.at(-1);
    if (line?.phrase !== phrase) {
      line = { phrase, pieces: [], opens: chord === null ? under : null, last: null };
      lines.push(line);
    }
    const text = { text: syllable?.text ?? '', joins: Boolean(syllable?.hyphen) };
    const fresh = chord === line.last ? null : chord;
    if (syllable || fresh !== null) line.pieces.push({ chord: fresh, ...text });
    line.last = chord ?? line.last;
    under = chord ?? under;
  }
  return lines.map(({ pieces, opens }) => {
    const next = pieces.find(({ chord }) => chord !== null);
    // A pickup under the chord that is written again where its bar begins.
    if (opens === null || next?.chord === opens || pieces.length === 0) return pieces;
    return [{ ...pieces[0]!, chord: opens }, ...pieces.slice(1)];
  });
}

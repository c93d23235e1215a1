/**
 * The bare version: of each beat the one note that carries the tune. What was left out is listed with
 * its place and reason; first and last notes, phrase ends, rests and the lengths of phrases stay.
 */
import {
  barNumbers,
  barStarts,
  beatLength,
  metricWeight,
  printedName,
  soundingNotes,
  writeDuration,
  type Bar,
  type Note,
  type SoundingNote,
  type Syllable,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';

export type ChangeKind = 'left-out' | 'moved-to-beat' | 'one-note' | 'grace' | 'sign' | 'slur';

export interface Change {
  readonly kind: ChangeKind;
  readonly bar: number;
  readonly beat: number;
  readonly reason: string;
  /** The note that stays. */
  readonly noteId: string;
}

export interface Version {
  readonly tune: Tune;
  readonly changes: readonly Change[];
}

/** Weight of a beat's length beside its place in the bar, when choosing the note that carries it. */
const LENGTH_WEIGHT = 2;
/** The last note of a phrase is what the ear goes home to. */
const PHRASE_END_WEIGHT = 100;

/** A stretch of the tune that one note, or silence, fills in the bare version. */
interface Kept {
  readonly sound: SoundingNote | null;
  readonly from: Ticks;
  to: Ticks;
  readonly words: SoundingNote[];
}

interface Window {
  readonly from: Ticks;
  readonly to: Ticks;
  readonly barIndex: number;
}

/** @example bareVersion(reel, analyseForm(reel)).tune // four quarters a bar */
export function bareVersion(tune: Tune, form: Form): Version {
  const sounds = soundingNotes(tune);
  const phraseEdges = new Set(phrasesOf(form).flatMap(({ from, to }) => [from, to]));
  const lastOfPhrase = new Set(phrasesOf(form).flatMap(({ notes }) => notes.slice(-1)));
  const changes: Change[] = [];
  const kept: Kept[] = [];
  for (const window of windowsOf(tune, phraseEdges)) keepOne(tune, window, sounds, lastOfPhrase, kept, changes);
  const bars = rebuild(tune, kept);
  if (tune.slurs.length > 0) {
    changes.push({ kind: 'slur', bar: 1, beat: 1, noteId: sounds[0]!.note.id, reason: 'Every note has its own bow.' });
  }
  return { tune: { ...tune, bars, slurs: [] }, changes };
}

/** Beats of every bar, cut where a phrase begins inside a beat. */
function windowsOf(tune: Tune, edges: ReadonlySet<Ticks>): readonly Window[] {
  const starts = barStarts(tune.bars);
  return tune.bars.flatMap((bar, barIndex) => {
    const start = starts[barIndex]!;
    const end = starts[barIndex + 1]!;
    const beat = beatLength(bar.metre);
    const cuts = new Set([start, end]);
    for (let at = start - bar.offset; at < end; at += beat) if (at > start) cuts.add(at);
    for (const edge of edges) if (edge > start && edge < end) cuts.add(edge);
    const sorted = [...cuts].sort((a, b) => a - b);
    return sorted.slice(0, -1).map((from, index) => ({ from, to: sorted[index + 1]!, barIndex }));
  });
}

function keepOne(
  tune: Tune,
  window: Window,
  sounds: readonly SoundingNote[],
  lastOfPhrase: ReadonlySet<string>,
  kept: Kept[],
  changes: Change[],
): void {
  const { from, to, barIndex } = window;
  const bar = tune.bars[barIndex]!;
  const heard = sounds.filter(({ onset, duration }) => onset < to && onset + duration > from);
  const last = kept.at(-1);
  const starting = heard.filter(({ onset }) => onset >= from);
  const held = heard.find(({ onset }) => onset < from);
  if (heard.length === 0) {
    kept.push({ sound: null, from, to, words: [] });
    return;
  }
  const weightOf = (sound: SoundingNote) => weigh(sound, window, bar, tune, lastOfPhrase);
  const best = heard.reduce((a, b) => (weightOf(b) > weightOf(a) ? b : a));
  if (held && last?.sound === held && (best === held || starting.length === 0)) {
    last.to = to;
    last.words.push(...starting);
    if (starting.length > 0) changes.push(leftOut(tune, window, held, starting));
    return;
  }
  kept.push({ sound: best, from, to, words: starting });
  const dropped = starting.filter((sound) => sound !== best);
  if (dropped.length > 0) changes.push(leftOut(tune, window, best, dropped));
  if (best.onset !== from)
    changes.push(change('moved-to-beat', tune, window, best, `${name(best)} comes on the beat.`));
  const { note } = best;
  if (note.heads.length > 1)
    changes.push(change('one-note', tune, window, best, 'The top note alone, not the double stop.'));
  if (note.graces) changes.push(change('grace', tune, window, best, 'Without the grace note.'));
  if (note.decorations?.some((sign) => !KEPT_SIGNS.has(sign)))
    changes.push(change('sign', tune, window, best, 'Without the ornament.'));
}

const KEPT_SIGNS: ReadonlySet<string> = new Set(['breath', 'fermata']);

function weigh(sound: SoundingNote, window: Window, bar: Bar, tune: Tune, lastOfPhrase: ReadonlySet<string>): number {
  const barStart = barStarts(tune.bars)[window.barIndex]!;
  const at = Math.max(sound.onset, window.from) - barStart + bar.offset;
  const share =
    (Math.min(sound.onset + sound.duration, window.to) - Math.max(sound.onset, window.from)) / beatLength(bar.metre);
  // A quick note that only fills up the last beat is no ending.
  const rests = at % beatLength(bar.metre) === 0 || sound.duration >= beatLength(bar.metre);
  const end = rests && sound.chain.some(({ id }) => lastOfPhrase.has(id)) ? PHRASE_END_WEIGHT : 0;
  return metricWeight(at, bar.metre) + LENGTH_WEIGHT * share + end;
}

const name = ({ note }: SoundingNote) => printedName(note.heads.at(-1)!.pitch);

function change(kind: ChangeKind, tune: Tune, window: Window, sound: SoundingNote, reason: string): Change {
  const bar = tune.bars[window.barIndex]!;
  const at = bar.offset + window.from - barStarts(tune.bars)[window.barIndex]!;
  return {
    kind,
    bar: barNumbers(tune.bars)[window.barIndex]!,
    beat: Math.floor(at / beatLength(bar.metre)) + 1,
    reason,
    noteId: sound.note.id,
  };
}

function leftOut(tune: Tune, window: Window, kept: SoundingNote, dropped: readonly SoundingNote[]): Change {
  return change(
    'left-out',
    tune,
    window,
    kept,
    `${name(kept)} carries the beat; ${dropped.map(name).join(' ')} left out.`,
  );
}

/** Writes what was kept into the tune's bars, tied over bar lines; metre, keys and repeats stay. */
function rebuild(tune: Tune, kept: readonly Kept[]): readonly Bar[] {
  const starts = barStarts(tune.bars);
  return tune.bars.map((bar, index): Bar => {
    const start = starts[index]!;
    const end = start + bar.length;
    const events = kept
      .filter(({ from, to }) => from < end && to > start)
      .flatMap((piece) => writePiece(piece, bar, start, end));
    return { ...bar, events };
  });
}

function writePiece(piece: Kept, bar: Bar, start: Ticks, end: Ticks): readonly TuneEvent[] {
  const from = Math.max(piece.from, start);
  const to = Math.min(piece.to, end);
  const written = writeDuration(bar.offset + from - start, to - from, bar.metre);
  return written.map(({ at, duration, value }, index): TuneEvent => {
    const place = { at: at - bar.offset, duration, value };
    if (!piece.sound) return { kind: 'rest', id: `${bar.id}r${at}`, ...place };
    const first = from === piece.from && index === 0;
    const goesOn = index < written.length - 1 || piece.to > end;
    return {
      kind: 'note',
      id: first ? piece.sound.note.id : `${piece.sound.note.id}t${start + at}`,
      ...place,
      ...noteParts(piece, first, goesOn),
    };
  });
}

function noteParts(
  piece: Kept,
  first: boolean,
  goesOn: boolean,
): Omit<Note, 'kind' | 'id' | 'at' | 'duration' | 'value'> {
  const { note } = piece.sound!;
  const { pitch } = note.heads.at(-1)!;
  const heads = [{ pitch, ...(goesOn && { tied: true }) }];
  if (!first) return { heads };
  const decorations = note.decorations?.filter((sign) => KEPT_SIGNS.has(sign)) ?? [];
  const words = joinWords(piece.words.map((sound) => sound.note));
  return {
    heads,
    ...(note.chordSymbol && { chordSymbol: note.chordSymbol }),
    ...(note.source && { source: note.source }),
    ...(decorations.length > 0 && { decorations }),
    ...(words.length > 0 && { words }),
    ...(piece.words.some((sound) => sound.note.lineEnd) && { lineEnd: true }),
  };
}

/** Syllables of notes that were left out move to the note that stays, so that the text stays whole. */
function joinWords(notes: readonly Note[]): readonly (Syllable | null)[] {
  const verses = Math.max(0, ...notes.map(({ words }) => words?.length ?? 0));
  return Array.from({ length: verses }, (_, verse) => {
    const syllables = notes.flatMap(({ words }) => words?.[verse] ?? []);
    const last = syllables.at(-1);
    if (!last) return null;
    const text = syllables
      .map((syllable, index) => syllable.text + (index < syllables.length - 1 && !syllable.hyphen ? ' ' : ''))
      .join('');
    return { ...last, text };
  });
}

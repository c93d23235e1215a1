/**
 * The bare version: of each beat the one note that carries the tune. What was left out is listed with
 * its place and reason; first and last notes, phrase ends, rests and the lengths of phrases stay.
 */
import {
  barNumbers,
  barStarts,
  beatLength,
  metricWeight,
  soundingNotes,
  writeDuration,
  type Bar,
  type Note,
  type Pitch,
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
  /** The note that stays. */
  readonly noteId: string;
  readonly kept: Pitch;
  /** Notes of the tune that are left out for it. */
  readonly dropped: readonly Pitch[];
}

/** A tune made easier, with everything that was changed. */
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

/** @example bareVersion(reel, form).tune.bars[0].events.length // 4 */
export function bareVersion(tune: Tune, form: Form): Version {
  const sounds = soundingNotes(tune);
  const starts = barStarts(tune.bars);
  const phraseEdges = new Set(phrasesOf(form).flatMap(({ from, to }) => [from, to]));
  const lastOfPhrase = new Set(phrasesOf(form).flatMap(({ notes }) => notes.slice(-1)));
  const changes: Change[] = [];
  const kept: Kept[] = [];
  const context: BareContext = { tune, sounds, lastOfPhrase, starts, numbers: barNumbers(tune.bars) };
  for (const window of windowsOf(tune, starts, phraseEdges)) keepOne(context, window, kept, changes);
  const bars = rebuild(tune, starts, kept);
  if (tune.slurs.length > 0) {
    const [first] = sounds;
    changes.push({ kind: 'slur', bar: 1, beat: 1, noteId: first!.note.id, kept: pitchOf(first!), dropped: [] });
  }
  return { tune: { ...tune, bars, slurs: [] }, changes };
}

/** What is known of the tune as a whole, worked out once. */
interface BareContext {
  readonly tune: Tune;
  readonly sounds: readonly SoundingNote[];
  readonly lastOfPhrase: ReadonlySet<string>;
  readonly starts: readonly Ticks[];
  readonly numbers: readonly number[];
}

/** Beats of every bar, cut where a phrase begins inside a beat. */
function windowsOf(tune: Tune, starts: readonly Ticks[], edges: ReadonlySet<Ticks>): readonly Window[] {
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

function keepOne(context: BareContext, window: Window, kept: Kept[], changes: Change[]): void {
  const { from, to } = window;
  const { sounds } = context;
  const heard = sounds.filter(({ onset, duration }) => onset < to && onset + duration > from);
  const last = kept.at(-1);
  const starting = heard.filter(({ onset }) => onset >= from);
  const held = heard.find(({ onset }) => onset < from);
  if (heard.length === 0) {
    kept.push({ sound: null, from, to, words: [] });
    return;
  }
  const weightOf = (sound: SoundingNote) => weigh(sound, window, context);
  const best = heard.reduce((a, b) => (weightOf(b) > weightOf(a) ? b : a));
  if (held && last?.sound === held && (best === held || starting.length === 0)) {
    last.to = to;
    last.words.push(...starting);
    if (starting.length > 0) changes.push(change('left-out', context, window, held, starting));
    return;
  }
  kept.push({ sound: best, from, to, words: starting });
  const dropped = starting.filter((sound) => sound !== best);
  if (dropped.length > 0) changes.push(change('left-out', context, window, best, dropped));
  if (best.onset !== from) changes.push(change('moved-to-beat', context, window, best));
  const { note } = best;
  if (note.heads.length > 1) changes.push(change('one-note', context, window, best));
  if (note.graces) changes.push(change('grace', context, window, best));
  if (note.decorations?.some((sign) => !KEPT_SIGNS.has(sign))) changes.push(change('sign', context, window, best));
}

const KEPT_SIGNS: ReadonlySet<string> = new Set(['breath', 'fermata']);

function weigh(sound: SoundingNote, window: Window, { tune, starts, lastOfPhrase }: BareContext): number {
  const bar = tune.bars[window.barIndex]!;
  const at = Math.max(sound.onset, window.from) - starts[window.barIndex]! + bar.offset;
  const share =
    (Math.min(sound.onset + sound.duration, window.to) - Math.max(sound.onset, window.from)) / beatLength(bar.metre);
  // A quick note that only fills up the last beat is no ending.
  const rests = at % beatLength(bar.metre) === 0 || sound.duration >= beatLength(bar.metre);
  const end = rests && sound.chain.some(({ id }) => lastOfPhrase.has(id)) ? PHRASE_END_WEIGHT : 0;
  return metricWeight(at, bar.metre) + LENGTH_WEIGHT * share + end;
}

const pitchOf = ({ note }: SoundingNote): Pitch => note.heads.at(-1)!.pitch;

function change(
  kind: ChangeKind,
  { tune, starts, numbers }: BareContext,
  { barIndex, from }: Window,
  kept: SoundingNote,
  dropped: readonly SoundingNote[] = [],
): Change {
  const bar = tune.bars[barIndex]!;
  const at = bar.offset + from - starts[barIndex]!;
  return {
    kind,
    bar: numbers[barIndex]!,
    beat: Math.floor(at / beatLength(bar.metre)) + 1,
    noteId: kept.note.id,
    kept: pitchOf(kept),
    dropped: dropped.map(pitchOf),
  };
}

/** Writes what was kept into the tune's bars, tied over bar lines; metre, keys and repeats stay. */
function rebuild(tune: Tune, starts: readonly Ticks[], kept: readonly Kept[]): readonly Bar[] {
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
export function joinWords(notes: readonly Note[]): readonly (Syllable | null)[] {
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

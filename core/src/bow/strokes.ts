/**
 * The strokes stage: which notes share a bow, and which way it goes. Strokes from the tune's slurs, directions as they come, in played order.
 * A bow mark that the tune brings along is kept; where it breaks the alternation the bow is retaken.
 */
import { playedOrder, soundingNotes, type BowMark, type SoundingNote, type Tune } from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';

export interface Stroke {
  /** Written notes on this stroke, ties included. */
  readonly notes: readonly string[];
  readonly direction: BowMark;
  /** The bow is lifted and starts again in the direction it had just used. */
  readonly retake: boolean;
  /** Which time its bar is being played, from 1. */
  readonly time: number;
}

/** What to know of a phrase's bow; its sentence is made in `words`. */
export interface BowFlag {
  /** Comes round on the other bow when repeated, or starts on another bow than the same phrase before. */
  readonly kind: 'turns-on-repeat' | 'turns-from-before';
  /** First note of the phrase. */
  readonly note: string;
  readonly label: string;
  readonly starts: BowMark;
  /** Label of the phrase before that is the same, or of the phrase itself when it comes round. */
  readonly other: string;
  readonly otherStarts: BowMark;
}

export interface Bowing {
  /** In played order. */
  readonly strokes: readonly Stroke[];
  /** Direction at the first time through, by the note that begins the stroke. */
  readonly starts: ReadonlyMap<string, Stroke>;
  readonly phrases: readonly { readonly id: string; readonly startsWith: BowMark; readonly endsWith: BowMark }[];
  readonly flags: readonly BowFlag[];
}

const other = (direction: BowMark): BowMark => (direction === 'down' ? 'up' : 'down');

/** @example bowTune(tune, form).strokes[0].direction // 'down' */
export function bowTune(tune: Tune, form: Form): Bowing {
  const strokes = strokesInPlayedOrder(tune);
  const starts = new Map<string, Stroke>();
  const ofNote = new Map<string, Stroke>();
  for (const stroke of strokes) {
    if (!starts.has(stroke.notes[0]!)) starts.set(stroke.notes[0]!, stroke);
    for (const note of stroke.notes) if (!ofNote.has(note)) ofNote.set(note, stroke);
  }
  const phrases = phrasesOf(form).flatMap(({ id, notes }) => {
    const first = ofNote.get(notes[0] ?? '');
    const last = ofNote.get(notes.at(-1) ?? '');
    return first && last ? [{ id, startsWith: first.direction, endsWith: last.direction }] : [];
  });
  return { strokes, starts, phrases, flags: [...repeatFlags(form, strokes), ...sameFlags(form, phrases)] };
}

interface OpenStroke {
  notes: string[];
  /** Note that ends the stroke. */
  until: string;
  time: number;
  direction: BowMark;
  retake: boolean;
}

function strokesInPlayedOrder(tune: Tune): readonly Stroke[] {
  const byBar = new Map<number, SoundingNote[]>();
  for (const sound of soundingNotes(tune)) byBar.set(sound.barIndex, [...(byBar.get(sound.barIndex) ?? []), sound]);
  const slurEnd = longestSlurs(tune);
  const strokes: Stroke[] = [];
  let last: BowMark = 'up';
  let open = null as OpenStroke | null;
  const close = (stroke: OpenStroke) => {
    strokes.push({ notes: stroke.notes, direction: stroke.direction, retake: stroke.retake, time: stroke.time });
    last = stroke.direction;
    open = null;
  };
  let barBefore = -1;
  for (const { index, time } of playedOrder(tune.bars)) {
    // A repeat that jumps away from under a slur ends the stroke.
    if (open && index !== barBefore + 1) close(open);
    barBefore = index;
    for (const { note, chain } of byBar.get(index) ?? []) {
      const ids = chain.map(({ id }) => id);
      if (open) {
        open.notes.push(...ids);
      } else {
        const direction: BowMark = note.bow ?? other(last);
        open = { notes: [...ids], until: note.id, time, direction, retake: strokes.length > 0 && direction === last };
      }
      // A slur may begin where another ends; the stroke goes on to the furthest end.
      const begins = ids.map((id) => slurEnd.get(id)).findLast((id) => id !== undefined);
      if (begins) open.until = begins;
      if (ids.includes(open.until)) {
        close(open);
      }
    }
  }
  if (open) close(open);
  return strokes;
}

/** For each note that begins a slur: the note where the longest one ends. */
function longestSlurs(tune: Tune): ReadonlyMap<string, string> {
  const at = new Map(tune.bars.flatMap((bar) => bar.events).map(({ id }, index) => [id, index]));
  const ends = new Map<string, string>();
  for (const { from, to } of tune.slurs) {
    const known = ends.get(from);
    if (!known || at.get(to)! > at.get(known)!) ends.set(from, to);
  }
  return ends;
}

/**
 * Written notes that are on the stroke of the note before them, the first time round: the left hand reads them.
 * @example [...slurredInto({ strokes: [{ notes: ['n1', 'n2'], direction: 'down', retake: false, time: 1 }] })] // ['n2']
 */
export function slurredInto({ strokes }: Pick<Bowing, 'strokes'>): ReadonlySet<string> {
  return new Set(strokes.filter(({ time }) => time === 1).flatMap(({ notes }) => notes.slice(1)));
}

/** Phrases that come round on the other bow when they are repeated. */
function repeatFlags(form: Form, strokes: readonly Stroke[]): readonly BowFlag[] {
  const phrases = phrasesOf(form);
  const times = new Map(phrases.map(({ notes }) => [notes[0], [] as Stroke[]]));
  for (const stroke of strokes) for (const note of stroke.notes) times.get(note)?.push(stroke);
  return phrases.flatMap(({ label, notes }) => {
    const [first, ...again] = times.get(notes[0])!;
    const turned = again.find(({ direction }) => direction !== first?.direction);
    if (!first || !turned) return [];
    return [
      {
        kind: 'turns-on-repeat' as const,
        note: notes[0]!,
        label,
        starts: first.direction,
        other: label,
        otherStarts: turned.direction,
      },
    ];
  });
}

/** Phrases that are the same but start on different bows. */
function sameFlags(form: Form, bows: Bowing['phrases']): readonly BowFlag[] {
  const phrases = phrasesOf(form);
  return phrases.flatMap((phrase) => {
    const earlier = phrase.relation.kind === 'same' ? phrases.find(({ id }) => id === phrase.relation.of) : undefined;
    const own = bows.find(({ id }) => id === phrase.id);
    const theirs = bows.find(({ id }) => id === earlier?.id);
    if (!earlier || !own || !theirs || own.startsWith === theirs.startsWith) return [];
    return [
      {
        kind: 'turns-from-before' as const,
        note: phrase.notes[0]!,
        label: phrase.label,
        starts: own.startsWith,
        other: earlier.label,
        otherStarts: theirs.startsWith,
      },
    ];
  });
}

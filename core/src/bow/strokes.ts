/** The strokes stage: which notes share a bow, and which way it goes. */
import type { BowMark, Bpm, Ticks, Tune } from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { directionsOf } from './directions.ts';
import { bowSlice, type BowDecisions, type BowSchool } from './slice.ts';

export interface Stroke {
  /** Written notes on this stroke, ties included. */
  readonly notes: readonly string[];
  readonly direction: BowMark;
  /** The bow is lifted and starts again in the direction it had just used. */
  readonly retake: boolean;
  /** The bow stops and goes on in the same direction. */
  readonly hook: boolean;
  /** Which time its bar is being played, from 1. */
  readonly time: number;
  /** From the beginning, as it is played. */
  readonly onset: Ticks;
  readonly duration: Ticks;
}

/** A phrase that does not come on the bow of before. */
export interface TurnFlag {
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

/** A beat that should be down, and that nothing turned. */
export interface NotDownFlag {
  readonly kind: 'not-down';
  readonly note: string;
  readonly time: number;
}

/** What to know of the bow; its sentence is made in `words`. */
export type BowFlag = TurnFlag | NotDownFlag;

export interface Bowing {
  readonly school: BowSchool;
  /** In played order. */
  readonly strokes: readonly Stroke[];
  /** Direction at the first time through, by the note that begins the stroke. */
  readonly starts: ReadonlyMap<string, Stroke>;
  /** Notes that were slurred to the one before, so that a beat comes down. */
  readonly joined: ReadonlySet<string>;
  readonly phrases: readonly { readonly id: string; readonly startsWith: BowMark; readonly endsWith: BowMark }[];
  readonly flags: readonly BowFlag[];
}

/** Notes to a stroke that a plan makes at most; the tune's own slurs may be longer. */
const MAX_SLUR = 4;

/** @example bowTune(tune, form, bowSlice.first, 96).strokes[0].direction // 'down' */
export function bowTune(tune: Tune, form: Form, decided: BowDecisions = bowSlice.first, tempo: Bpm = 96): Bowing {
  const all = phrasesOf(form);
  const { strokes, notDown, joined } = directionsOf(tune, decided, {
    tempo,
    phraseStarts: new Set(all.flatMap(({ notes }) => notes.slice(0, 1))),
    maxSlur: MAX_SLUR,
  });
  const starts = new Map<string, Stroke>();
  const ofNote = new Map<string, Stroke>();
  for (const { notes, direction, retake, hook, time, onset, duration } of strokes) {
    const stroke: Stroke = { notes, direction, retake, hook, time, onset, duration };
    if (!starts.has(notes[0]!)) starts.set(notes[0]!, stroke);
    for (const note of notes) if (!ofNote.has(note)) ofNote.set(note, stroke);
  }
  const phrases = all.flatMap(({ id, notes }) => {
    const first = ofNote.get(notes[0] ?? '');
    const last = ofNote.get(notes.at(-1) ?? '');
    return first && last ? [{ id, startsWith: first.direction, endsWith: last.direction }] : [];
  });
  const flags: readonly BowFlag[] = [
    ...repeatFlags(form, strokes),
    ...sameFlags(form, phrases),
    ...notDown.map((one): NotDownFlag => ({ kind: 'not-down', ...one })),
  ];
  const plain = strokes.map(({ notes, direction, retake, hook, time, onset, duration }): Stroke => ({
    ...{ notes, direction, retake, hook, time },
    onset,
    duration,
  }));
  return { school: decided.school, strokes: plain, starts, joined, phrases, flags };
}

/**
 * Written notes that are on the stroke of the note before them, the first time round: the left hand reads them.
 * @example [...slurredInto({ strokes: [{ notes: ['n1', 'n2'], direction: 'down', retake: false, hook: false, time: 1, onset: 0, duration: 6720 }] })] // ['n2']
 */
export function slurredInto({ strokes }: Pick<Bowing, 'strokes'>): ReadonlySet<string> {
  return new Set(strokes.filter(({ time }) => time === 1).flatMap(({ notes }) => notes.slice(1)));
}

/** Phrases that come round on the other bow when they are repeated. */
function repeatFlags(form: Form, strokes: readonly Pick<Stroke, 'notes' | 'direction'>[]): readonly TurnFlag[] {
  const phrases = phrasesOf(form);
  const times = new Map(phrases.map(({ notes }) => [notes[0], [] as Pick<Stroke, 'notes' | 'direction'>[]]));
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
function sameFlags(form: Form, bows: Bowing['phrases']): readonly TurnFlag[] {
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

/** The strokes stage: which notes share a bow, and which way it goes. */
import { dequal } from 'dequal';
import type { BowMark, Bpm, Ticks, Tune } from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { groupSounds, playedSounds, type BowException, type GroupDecisions, type Grouping } from './grouping.ts';
import { BowPlanner, hasTimeToLift, type PlanContext, type Planned } from './plan.ts';
import { bowSlice, type BowDecisions, type BowSchool, type Region } from './slice.ts';

export interface Stroke {
  /** Written notes on this stroke, ties included. */
  readonly notes: readonly string[];
  readonly direction: BowMark;
  /** The bow is lifted and starts again: in the direction it had just used, unless another was asked for. */
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

/** A beat that should be down and that nothing turned; or a lift that was asked for where there is no time for it. */
export interface PlaceFlag {
  readonly kind: 'not-down' | 'no-time';
  readonly note: string;
  readonly time: number;
}

/** What to know of the bow; its sentence is made in `words`. */
export type BowFlag = TurnFlag | PlaceFlag;

export interface Bowing {
  readonly school: BowSchool;
  /** Pattern of the whole tune. */
  readonly pattern: string | null;
  /** In played order. */
  readonly strokes: readonly Stroke[];
  /** Direction at the first time through, by the note that begins the stroke. */
  readonly starts: ReadonlyMap<string, Stroke>;
  /** By the note that begins a stroke: it goes otherwise when it is played again. */
  readonly later: ReadonlyMap<string, { readonly time: number; readonly direction: BowMark }>;
  /** Notes whose stroke has a sign that a player needs. */
  readonly marked: ReadonlySet<string>;
  /** Notes that were slurred to the one before, so that a beat comes down. */
  readonly joined: ReadonlySet<string>;
  /** Notes on which a pattern sets an accent. */
  readonly accents: ReadonlySet<string>;
  /** From a note on: in which part of the hair, as the teacher wishes. */
  readonly regions: Readonly<Record<string, Region>>;
  readonly phrases: readonly { readonly id: string; readonly startsWith: BowMark; readonly endsWith: BowMark }[];
  readonly flags: readonly BowFlag[];
  /** Where a slur or a pattern is not played as it was asked for. */
  readonly exceptions: readonly BowException[];
}

/** A bowing, and who can be asked what else could be done. */
export interface BowingWithWays {
  readonly bowing: Bowing;
  readonly planner: BowPlanner;
}

/** @example bowTune(tune, form, bowSlice.first, 96).strokes[0].direction // 'down' */
export function bowTune(
  tune: Tune,
  form: Form,
  decided: BowDecisions = bowSlice.first,
  tempo: Bpm = 96,
  crosses?: PlanContext['crosses'],
): Bowing {
  return bowTuneWithWays(tune, form, decided, tempo, crosses).bowing;
}

/**
 * The same, with the planner that weighs other choices.
 * @example bowTuneWithWays(tune, form).planner.alternatives('n2').length > 0 // true
 */
export function bowTuneWithWays(
  tune: Tune,
  form: Form,
  decided: BowDecisions = bowSlice.first,
  tempo: Bpm = 96,
  crosses?: PlanContext['crosses'],
): BowingWithWays {
  const all = phrasesOf(form);
  const grouped = groupedFor(tune, form, decided);
  const { grouping, phraseStarts, partStarts } = grouped;
  const context = { tempo, phraseStarts, schoolAt: schoolsOf(form, decided), partStarts, ...(crosses && { crosses }) };
  const planner = new BowPlanner(tune, grouping, decided, context, grouped.planner);
  grouped.planner = planner;
  const { plan } = planner;
  const strokes = plan.strokes.map(({ notes, direction, retake, hook, time, onset, duration }): Stroke => ({
    notes,
    direction,
    retake,
    hook,
    time,
    onset,
    duration,
  }));
  const starts = startsOf(strokes);
  const later = new Map<string, { time: number; direction: BowMark }>();
  const ofNote = new Map<string, Stroke>();
  for (const stroke of strokes) {
    const [first] = stroke.notes as [string];
    if (starts.get(first)!.direction !== stroke.direction && !later.has(first)) {
      later.set(first, { time: stroke.time, direction: stroke.direction });
    }
    for (const note of stroke.notes) if (!ofNote.has(note)) ofNote.set(note, stroke);
  }
  const phrases = all.flatMap(({ id, notes }) => {
    const first = ofNote.get(notes[0] ?? '');
    const last = ofNote.get(notes.at(-1) ?? '');
    return first && last ? [{ id, startsWith: first.direction, endsWith: last.direction }] : [];
  });
  const flags: readonly BowFlag[] = [
    ...repeatFlags(form, strokes),
    ...sameFlags(form, phrases),
    ...plan.notDown.map((one): PlaceFlag => ({ kind: 'not-down', ...one })),
    ...withoutTime(plan.strokes, { tempo, phraseStarts }),
  ];
  const bowing: Bowing = {
    school: decided.school,
    pattern: decided.pattern,
    strokes,
    starts,
    later,
    phrases,
    flags,
    marked: markedStarts(plan.strokes, decided, phraseStarts),
    joined: plan.joined,
    accents: grouping.accents,
    regions: decided.regions,
    exceptions: grouping.exceptions,
  };
  return { bowing, planner };
}

/** The notes of a tune on their strokes, and who last weighed which way these go. */
interface Grouped {
  readonly form: Form;
  readonly decided: GroupDecisions;
  readonly phraseStarts: ReadonlySet<string>;
  readonly partStarts: ReadonlySet<string>;
  readonly grouping: Grouping;
  planner: BowPlanner | null;
}
const lastGrouped = new WeakMap<Tune, Grouped>();

/** Most decisions about the bow leave every note on its stroke: then it is the grouping of before. */
function groupedFor(tune: Tune, form: Form, decided: BowDecisions): Grouped {
  const reads = groupDecisions(decided);
  const last = lastGrouped.get(tune);
  if (last?.form === form && dequal(last.decided, reads)) return last;
  const phraseStarts = new Set(phrasesOf(form).flatMap(({ notes }) => notes.slice(0, 1)));
  const partStarts = new Set(form.parts.flatMap(({ phrases }) => phrases[0]?.notes.slice(0, 1) ?? []));
  const grouping = groupSounds(tune, playedSounds(tune), reads, phraseStarts);
  const grouped: Grouped = { form, decided: reads, phraseStarts, partStarts, grouping, planner: null };
  lastGrouped.set(tune, grouped);
  return grouped;
}

const groupDecisions = ({ slurs, tuneSlurs, maxSlur, pattern, laid, own, verse }: BowDecisions): GroupDecisions => ({
  slurs,
  tuneSlurs,
  maxSlur,
  pattern,
  laid,
  own,
  verse,
});

/**
 * Each stroke as it is the first time round, by the note that begins it.
 * @example startsOf(facts.bowing.strokes).size // 22
 */
export function startsOf(strokes: readonly Stroke[]): ReadonlyMap<string, Stroke> {
  const starts = new Map<string, Stroke>();
  for (const stroke of strokes) if (!starts.has(stroke.notes[0]!)) starts.set(stroke.notes[0]!, stroke);
  return starts;
}

/**
 * The school at each note: a part may have its own.
 * @example schoolsOf(form, facts.decisions.bow)('n1') // 'as-it-comes'
 */
export function schoolsOf(form: Form, { school, schools }: BowDecisions): (note: string) => BowSchool {
  if (Object.keys(schools).length === 0) return () => school;
  const own = new Map(
    form.parts.flatMap(({ label, phrases }) =>
      phrases.flatMap(({ notes }) => notes.map((note) => [note, schools[label] ?? school] as const)),
    ),
  );
  return (note) => own.get(note) ?? school;
}

/** Lifts that were asked for, and have no time. */
function withoutTime(
  strokes: readonly Planned[],
  context: Pick<PlanContext, 'tempo' | 'phraseStarts'>,
): readonly PlaceFlag[] {
  return strokes.flatMap((stroke, index) => {
    const before = strokes[index - 1];
    if (!stroke.retake || !before || hasTimeToLift(before, stroke, context)) return [];
    return [{ kind: 'no-time' as const, note: stroke.notes[0]!, time: stroke.time }];
  });
}

/** Where a player needs to be told: at the start, at phrases, after rests, where the bow does not simply turn, where it is set. */
function markedStarts(
  strokes: readonly Planned[],
  { turns, everyMark }: BowDecisions,
  phraseStarts: ReadonlySet<string>,
): ReadonlySet<string> {
  const marked = new Set<string>();
  strokes.forEach((stroke, index) => {
    const first = stroke.notes[0]!;
    const before = strokes[index - 1];
    const rests = before !== undefined && before.onset + before.duration < stroke.onset;
    const set = turns[first] !== undefined || stroke.sounds[0]!.note.bow !== undefined;
    if (everyMark || !before || rests || stroke.retake || stroke.hook || set || phraseStarts.has(first)) {
      marked.add(first);
    }
  });
  return marked;
}

/**
 * Written notes that are on the stroke of the note before them, the first time round: the left hand reads them.
 * @example [...slurredInto({ strokes: [{ notes: ['n1', 'n2'], direction: 'down', retake: false, hook: false, time: 1, onset: 0, duration: 6720 }] })] // ['n2']
 */
export function slurredInto({ strokes }: Pick<Bowing, 'strokes'>): ReadonlySet<string> {
  return new Set(strokes.filter(({ time }) => time === 1).flatMap(({ notes }) => notes.slice(1)));
}

/**
 * Written notes after which the stroke goes on, the first time round.
 * @example [...slurredOn({ strokes: [{ notes: ['n1', 'n2'], direction: 'down', retake: false, hook: false, time: 1, onset: 0, duration: 6720 }] })] // ['n1']
 */
export function slurredOn({ strokes }: Pick<Bowing, 'strokes'>): ReadonlySet<string> {
  return new Set(strokes.filter(({ time }) => time === 1).flatMap(({ notes }) => notes.slice(0, -1)));
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

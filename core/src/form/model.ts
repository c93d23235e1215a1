/** What the analysis of form says. Section "Form" of the domain; everything here is derived, nothing is stored. */
import type { Key, Pitch, PitchClass, Ticks } from '../music/index.ts';

/** A place as people count it. Beats count from 1 and may be fractions. */
export interface BarBeat {
  readonly bar: number;
  readonly beat: number;
}

/** Written ticks, `to` exclusive. */
export interface Span {
  readonly from: Ticks;
  readonly to: Ticks;
}

export const RELATIONS = [
  'new',
  'same',
  'same-but-ending',
  'same-but-start',
  'same-but-ends',
  'same-start',
  'same-rhythm',
  'transposed',
  'octave',
] as const;
export type RelationKind = (typeof RELATIONS)[number];

/** One place where two phrases part company. */
export interface Difference {
  /** Bars within the phrase, from 1; null for its pickup. */
  readonly bars: readonly number[] | null;
  /** Other notes, the same in another rhythm, or, in a phrase that is moved, not moved along. */
  readonly how: 'notes' | 'rhythm' | 'not-moved';
  /** Notes here and notes there, with the pitches of each head; one of them may be empty. */
  readonly own: readonly string[];
  readonly other: readonly string[];
  readonly ownPitches: readonly (readonly Pitch[])[];
  readonly otherPitches: readonly (readonly Pitch[])[];
}

/** Where two phrases differ, as short as it is true; bars are counted within the phrase. */
export type Where =
  | { readonly kind: 'bars'; readonly bars: readonly number[] }
  /** From there to the end: from a bar on, or from the last beat of a bar. */
  | { readonly kind: 'from-bar' | 'from-last-beat'; readonly bar: number }
  | { readonly kind: 'last-beats'; readonly beats: number }
  /** So many bars more at the end, or fewer. */
  | { readonly kind: 'length'; readonly more: number }
  | { readonly kind: 'all-notes' }
  /** Only the middle stays: so many beats, from one bar to another. */
  | { readonly kind: 'middle'; readonly beats: number; readonly bars: readonly [number, number] }
  /** On the staff, so many steps higher or lower, but for some bars. */
  | { readonly kind: 'moved'; readonly steps: number; readonly but: readonly number[] };

export interface Differs {
  readonly where: Where | null;
  readonly pickup: boolean;
}

export interface Relation {
  readonly kind: RelationKind;
  /** Id of the earlier phrase; null for new material. */
  readonly of: string | null;
  readonly differs: Differs;
  /** The same in full, with the notes of both places. */
  readonly differences: readonly Difference[];
}

/** A bar of this phrase that is a bar of an earlier one, where the phrase as a whole is new. */
export interface SharedBar {
  /** As people count. */
  readonly bar: number;
  readonly ofPhrase: string;
  readonly ofBar: number;
}

export const MOTIONS = ['scale', 'chromatic', 'arpeggio', 'repeated', 'neighbour', 'leap', 'pedal', 'turn'] as const;
export type MotionKind = (typeof MOTIONS)[number];

export interface ChordName {
  readonly root: PitchClass;
  readonly quality:
    | 'major'
    | 'minor'
    | 'diminished'
    | 'augmented'
    | 'seventh'
    | 'minor-seventh'
    | 'major-seventh'
    | 'half-diminished'
    | 'diminished-seventh';
}

/** What a stretch of a phrase does, for talking it through. */
export interface Motion {
  readonly kind: MotionKind;
  readonly notes: readonly string[];
  readonly direction: 'up' | 'down' | 'level';
  /** The top note of each sound. */
  readonly pitches: readonly Pitch[];
  /** The chord of an arpeggio. */
  readonly chord: ChordName | null;
}

/** A figure that a phrase is made of. */
export interface Figure {
  /** Comes again at once on other steps; at the octave; as it was; or running across the beats. */
  readonly kind: 'sequence' | 'echo' | 'again' | 'across';
  readonly notes: readonly string[];
  /** Length of what comes again in bars; null for a figure across the beat. */
  readonly bars: number | null;
  /** Staff steps from one time to the next, and how many times it comes again. */
  readonly steps: number;
  readonly times: number;
  /** The figure's notes, where it runs across the beat. */
  readonly pitches: readonly Pitch[];
}

export interface Phrase extends Span {
  readonly id: string;
  /** Letter of the part and number, or the teacher's name. */
  readonly label: string;
  readonly start: BarBeat;
  /** Place of its last note. */
  readonly end: BarBeat;
  /** First bar line inside; what sounds before it is the phrase's pickup. */
  readonly downbeat: Ticks;
  /** Bars as it is played once, counted by bar lines, the pickup not counted. */
  readonly bars: number;
  /** Those of them, counted from 1, that are longer or shorter than its first, with their beats. */
  readonly otherBars: readonly { readonly bar: number; readonly beats: number }[];
  readonly closing: 'open' | 'closed';
  /** The note that it comes to rest on. */
  readonly restsOn: string | null;
  readonly relation: Relation;
  readonly shares: readonly SharedBar[];
  readonly motions: readonly Motion[];
  readonly figures: readonly Figure[];
  /** The teacher set it, or agreed with it. */
  readonly held: boolean;
  /** The teacher gave it a name. */
  readonly named: boolean;
  /** Ids of the written notes, in order. */
  readonly notes: readonly string[];
}

export interface Part {
  readonly label: string;
  /** As people count bars. */
  readonly bars: readonly [number, number];
  /** How often it comes in a row when it comes first. */
  readonly times: number;
  /** Number of the earlier part, from 0, that this one is written out from again; null for a part of its own. */
  readonly like: number | null;
  /** It is only the beginning of that part. */
  readonly beginning: boolean;
  /** Bars that are counted once through, without the pickup and without later endings. */
  readonly length: number;
  readonly phrases: readonly Phrase[];
}

/** One time that a part is played. */
export interface PlayedPart {
  /** Number of the part, from 0. */
  readonly part: number;
  /** False where only its beginning is played. */
  readonly whole: boolean;
}

export interface LickPlace extends BarBeat {
  readonly notes: readonly string[];
}

/** A short figure that comes back note for note. */
export interface Lick {
  readonly id: string;
  readonly beats: number;
  /** Its notes, the top one of each sound. */
  readonly pitches: readonly Pitch[];
  readonly places: readonly LickPlace[];
}

/** What a bar holds beside the other bars. */
export interface BarMaterial {
  /** As people count; the two sides of a split bar share it. */
  readonly number: number;
  /** Index of the first bar that holds the same; its own where it is new. */
  readonly material: number;
  readonly phrase: string;
  /** Full enough to be learned as a bar: no pickup, no rest. */
  readonly counts: boolean;
  /** An earlier bar that it resembles though it is not the same. */
  readonly like: { readonly bar: number; readonly how: 'octave' | 'transposed' | 'same-rhythm' } | null;
}

export interface PlanItem {
  readonly phrase: string;
  /** Bars that are new when it is learned in this order … */
  readonly newBars: number;
  /** … and bars of the tune, as played, that sound once it is known. */
  readonly covers: number;
}

export interface LearningPlan {
  /** Bars that have to be learned … */
  readonly newBars: number;
  /** … of so many that are played. */
  readonly totalBars: number;
  readonly share: number;
  readonly inOrder: readonly string[];
  readonly mostTuneFirst: readonly string[];
  /** The teacher's own order; null where none was made. */
  readonly own: readonly string[] | null;
  /** The order that holds, step by step: the teacher's own, else as it comes. */
  readonly steps: readonly PlanItem[];
}

export const TRAITS = [
  'question and answer',
  'same ending in every part',
  'octave echo',
  'sequences',
  'across the beat',
  'crooked',
  'through-composed',
  'lead-in',
  'different endings',
] as const;
export type Trait = (typeof TRAITS)[number];

export interface Form {
  readonly parts: readonly Part[];
  /** The parts as they come when the tune is played, repeats and jumps unfolded. */
  readonly played: readonly PlayedPart[];
  readonly bars: readonly BarMaterial[];
  readonly licks: readonly Lick[];
  readonly learn: LearningPlan;
  /** The tune’s key, as it sounds; a part in another key has its questions and answers told apart in that. */
  readonly key: Key;
  readonly traits: readonly Trait[];
  /** The tune has more bars than are compared; its phrases are four bars each. */
  readonly tooLong?: true;
}

/**
 * Whether a phrase is another one note for note.
 * @example isExactCopy(phrase.relation) // false
 */
export const isExactCopy = ({ kind, differs }: Relation): boolean =>
  kind === 'same' && differs.where === null && !differs.pickup;

/**
 * All phrases in written order.
 * @example phrasesOf(form).map(({ label }) => label) // ['A1', 'A2']
 */
export function phrasesOf(form: Pick<Form, 'parts'>): readonly Phrase[] {
  return form.parts.flatMap(({ phrases }) => phrases);
}

export const LEAD_IN = 'Lead-in';
export const TAG = 'Tag';

/**
 * The parts as they are played: "AABBA".
 * @example formText(form) // 'AA'
 */
export function formText({ parts, played }: Pick<Form, 'parts' | 'played'>): string {
  const told = played.filter(({ part }) => ![LEAD_IN, TAG].includes(parts[part]!.label));
  const last = told.at(-1);
  // A beginning on the way is told by its letter; at the end it is worth saying.
  const begun = last && !last.whole && told.length > 1;
  const letters = (begun ? told.slice(0, -1) : told).map(({ part }) => parts[part]!.label).join('');
  return begun ? `${letters} and the beginning of ${parts[last.part]!.label}` : letters;
}

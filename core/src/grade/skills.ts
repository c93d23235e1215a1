/**
 * Techniques by name: what a player who plays an arrangement has to be able to do, each with its places. What somebody
 * has not done before is new to them. Section 6 of the domain.
 */
import type { Stroke } from '../bow/index.ts';
import type { Finger } from '../hand/index.ts';
import { isRetuned } from '../instrument/index.ts';
import { beatLength, isNote, pitchName, soundingNotes, type Bar, type TuneEvent } from '../music/index.ts';
import { demandsOf, patternsIn, type Weighed } from './demands.ts';

export const SKILL_KINDS = [
  'place',
  'position',
  'signature',
  'pattern',
  'rhythm',
  'stroke',
  'slur',
  'double-stop',
  'tuning',
] as const;
export type SkillKind = (typeof SKILL_KINDS)[number];

/**
 * A technique. Its id says all of it: `place:A4:2-low` a finger on an open string, `position:III`, `signature:2#`,
 * `pattern:1=0,2=1` fingers in semitones above the first one's place, `rhythm:dotted-quarter+eighth`, `stroke:hook`,
 * `slur:4` sounds to a stroke, `double-stop:open`, `tuning:F3-C4-G4-D5`.
 */
export interface Skill {
  readonly kind: SkillKind;
  readonly id: string;
  /** Where it is asked, in the order of the notes. */
  readonly notes: readonly string[];
}

type Found = (kind: SkillKind, name: string, note: string) => void;

/**
 * Every technique that is asked, in the order of the kinds, and of the notes in which they come in.
 * @example skillsOf(facts).some(({ id }) => id === 'signature:1#') // true
 */
export function skillsOf(weighed: Weighed): readonly Skill[] {
  const skills = new Map<string, { readonly kind: SkillKind; readonly id: string; readonly notes: string[] }>();
  const found: Found = (kind, name, note) => {
    const id = `${kind}:${name}`;
    const known = skills.get(id);
    if (!known) skills.set(id, { kind, id, notes: [note] });
    else if (known.notes.at(-1) !== note) known.notes.push(note);
  };
  handSkills(weighed, found);
  bowSkills(weighed, found);
  for (const bar of weighed.tune.bars)
    for (const figure of figuresIn(bar)) found('rhythm', figureName(figure), figure.find(isNote)?.id ?? figure[0]!.id);
  keySkills(weighed, found);
  return SKILL_KINDS.flatMap((kind) => [...skills.values()].filter((one) => one.kind === kind));
}

/**
 * What of it somebody cannot do yet.
 * @param known ids of what they can
 * @example newTo(skillsOf(facts), new Set(skillsOf(facts).map(({ id }) => id))) // []
 */
export const newTo = (skills: readonly Skill[], known: ReadonlySet<string>): readonly Skill[] =>
  skills.filter(({ id }) => !known.has(id));

function handSkills({ fingering, tuning, tune }: Weighed, found: Found): void {
  const chords = new Set(
    tune.bars.flatMap(({ events }) => events.filter(isNote)).flatMap(({ id, heads }) => (heads.length > 1 ? [id] : [])),
  );
  for (const { id, stops, position, extension } of fingering.notes) {
    for (const { string, finger, sign } of stops)
      found('place', `${pitchName(tuning.pitches[string]!)}:${finger}${sign === 'home' ? '' : `-${sign}`}`, id);
    // An open string needs no position.
    if (position && stops.some(({ finger }) => finger !== 0)) found('position', position, id);
    if (!chords.has(id)) continue;
    const open = stops.some(({ finger }) => finger === 0);
    found('double-stop', stops.length > 2 ? 'chord' : open ? 'open' : extension ? 'stretched' : 'fingered', id);
  }
  for (const { places, notes } of patternsIn(fingering.notes)) {
    const name = [...places].sort(([a]: [Finger, number], [b]: [Finger, number]) => a - b);
    for (const note of notes) found('pattern', name.map(([finger, place]) => `${finger}=${place}`).join(), note);
  }
}

function bowSkills({ bowing, tune }: Weighed, found: Found): void {
  const firsts = new Set(soundingNotes(tune).map(({ note }) => note.id));
  const strokes = bowing.strokes.filter(({ time }: Stroke) => time === 1);
  for (const { notes, hook, retake } of strokes) {
    const note = notes[0]!;
    if (hook) found('stroke', 'hook', note);
    if (retake) found('stroke', 'retake', note);
    const sounds = notes.filter((id) => firsts.has(id)).length;
    if (sounds > 1) found('slur', String(sounds), note);
  }
  const first = strokes[0]?.notes[0];
  if (bowing.pattern !== null && first) found('stroke', bowing.pattern, first);
}

function keySkills({ fingering, tuning, ...weighed }: Weighed, found: Found): void {
  for (const demand of demandsOf({ fingering, tuning, ...weighed }, (rule) => rule === 'signature')) {
    if (demand.rule !== 'signature') continue;
    const { sharps, flats } = demand.value;
    found('signature', sharps > 0 ? `${sharps}#` : flats > 0 ? `${flats}b` : '0', demand.note);
  }
  const [first] = fingering.notes;
  if (first && isRetuned(fingering.instrument, tuning))
    found('tuning', tuning.pitches.map(pitchName).join('-'), first.id);
}

/** What fills a beat, or the beats that it ties together: a figure goes on until a beat begins with a note of its own. */
function figuresIn({ events, metre, offset }: Bar): readonly (readonly TuneEvent[])[] {
  const beat = beatLength(metre);
  const figures: TuneEvent[][] = [];
  let open = false;
  for (const event of events) {
    if (open) figures.at(-1)!.push(event);
    else figures.push([event]);
    open = (offset + event.at + event.duration) % beat !== 0;
  }
  return figures;
}

const DOTS = ['', 'dotted-', 'double-dotted-', 'triple-dotted-'] as const;

/** @returns such as "dotted-quarter+eighth", "3:eighth+3:eighth+3:eighth", "rest-eighth+eighth" */
const figureName = (figure: readonly TuneEvent[]): string =>
  figure
    .map((event) => {
      const { type, dots } = event.value;
      const tuplet = isNote(event) && event.tuplet ? `${event.tuplet.actual}:` : '';
      return `${tuplet}${isNote(event) ? '' : 'rest-'}${DOTS[dots]}${type}`;
    })
    .join('+');

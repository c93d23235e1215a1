/** Notes out: pitches, values, and every sign on them. */
import {
  midi,
  signatureAlter,
  type Alter,
  type Bar,
  type Head,
  type Note,
  type Pitch,
  type Tune,
  type TuneEvent,
} from '../../music/index.ts';
import type { Beam } from './beams.ts';
import { SIGNS } from './signs.ts';
import { el, type XmlNode } from './xml.ts';

/**
 * The id that a head has in the document; the first head of a note keeps the note's own.
 * @example headId('n3', 1) // 'n3-2'
 */
export function headId(noteId: string, head: number): string {
  return head === 0 ? noteId : `${noteId}-${head + 1}`;
}

/** What a note needs to know about its neighbours. */
export interface NoteContext {
  /** Octaves that the written note lies above the sounding one. */
  readonly writtenOctave: number;
  readonly slurs: SlurMarks;
  /** Head ids that a tie leads into. */
  readonly tiedInto: ReadonlySet<string>;
  /** `note/verse` whose syllable goes on with a word begun before. */
  readonly innerSyllables: ReadonlySet<string>;
}

export function joins(tune: Tune): Pick<NoteContext, 'tiedInto' | 'innerSyllables'> {
  const tiedInto = new Set<string>();
  const innerSyllables = new Set<string>();
  const hyphens = new Map<number, boolean>();
  let before: Note | null = null;
  for (const event of tune.bars.flatMap((bar) => bar.events)) {
    if (event.kind === 'rest') {
      before = null;
      continue;
    }
    event.heads.forEach((head, index) => {
      if (before?.heads.some((held) => held.tied && midi(held.pitch) === midi(head.pitch)))
        tiedInto.add(headId(event.id, index));
    });
    event.words?.forEach((word, verse) => {
      if (!word) return;
      if (hyphens.get(verse)) innerSyllables.add(`${event.id}/${verse}`);
      hyphens.set(verse, Boolean(word.hyphen));
    });
    before = event;
  }
  return { tiedInto, innerSyllables };
}

type SlurMarks = ReadonlyMap<string, readonly { readonly type: 'start' | 'stop'; readonly number: number }[]>;

/** Slurs that overlap get different numbers, 1 to 6 as the format asks. */
export function numberSlurs(tune: Tune): SlurMarks {
  const order = tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
  const index = new Map(order.map((id, position) => [id, position]));
  const marks = new Map<string, { type: 'start' | 'stop'; number: number }[]>();
  const busyUntil: number[] = [];
  const add = (id: string, type: 'start' | 'stop', number: number) =>
    marks.set(id, [...(marks.get(id) ?? []), { type, number }]);
  for (const slur of [...tune.slurs].sort((a, b) => (index.get(a.from) ?? 0) - (index.get(b.from) ?? 0))) {
    const from = index.get(slur.from) ?? 0;
    let number = busyUntil.findIndex((until) => until <= from);
    if (number < 0) number = busyUntil.length;
    busyUntil[number] = index.get(slur.to) ?? from;
    add(slur.from, 'start', number + 1);
    // A slur that nobody closed goes out as it came in.
    if (slur.to !== slur.from) add(slur.to, 'stop', number + 1);
  }
  // A slur that ends on a note is closed before the next one opens there.
  for (const list of marks.values()) list.sort((a, b) => (a.type === b.type ? 0 : a.type === 'stop' ? -1 : 1));
  return marks;
}

export type AccidentalPrinter = (pitch: Pitch, tied: boolean) => XmlNode | null;

/** A sign where the bar so far, or another octave of it, would make the reader expect something else. */
export function accidentalPrinter(bar: Bar): AccidentalPrinter {
  const seen = new Map<string, Map<number, Alter>>();
  const names: Readonly<Record<string, string>> = {
    '-2': 'flat-flat',
    '-1': 'flat',
    '0': 'natural',
    '1': 'sharp',
    '2': 'double-sharp',
  };
  return (pitch, tied) => {
    const octaves = seen.get(pitch.letter) ?? new Map<number, Alter>();
    seen.set(pitch.letter, octaves);
    const signature = signatureAlter(bar.key, pitch.letter);
    const expected = octaves.get(pitch.octave) ?? signature;
    const elsewhere = !octaves.has(pitch.octave) && [...octaves.values()].some((alter) => alter !== pitch.alter);
    const needed = !tied && (expected !== pitch.alter || elsewhere);
    if (needed) octaves.set(pitch.octave, pitch.alter);
    return needed ? el('accidental', {}, names[pitch.alter]!) : null;
  };
}

export function noteNodes(
  event: TuneEvent,
  beams: readonly Beam[],
  printed: AccidentalPrinter,
  context: NoteContext,
): readonly XmlNode[] {
  const { writtenOctave } = context;
  if (event.kind === 'rest') {
    return [
      el(
        'note',
        { id: event.id, ...(event.invisible && { 'print-object': 'no' }) },
        el('rest'),
        el('duration', {}, event.duration),
        ...valueNodes(event),
        ...tupletNotation(event),
      ),
    ];
  }
  const graces = (event.graces ?? []).map((grace) =>
    el(
      'note',
      { id: grace.id },
      el('grace', grace.slash ? { slash: 'yes' } : {}),
      pitchNode(grace.pitch, writtenOctave),
      el('voice', {}, 1),
      el('type', {}, 'eighth'),
      printed(grace.pitch, false),
      fingered(grace).length > 0 ? el('notations', {}, el('technical', {}, fingered(grace))) : null,
    ),
  );
  const heads = event.heads.map((head, index) => {
    const id = headId(event.id, index);
    const held = context.tiedInto.has(id);
    return el(
      'note',
      { id },
      index > 0 ? el('chord') : null,
      pitchNode(head.pitch, writtenOctave),
      el('duration', {}, event.duration),
      held ? el('tie', { type: 'stop' }) : null,
      head.tied ? el('tie', { type: 'start' }) : null,
      el('voice', {}, 1),
      el('type', {}, event.value.type),
      dots(event),
      printed(head.pitch, held),
      timeModification(event),
      index === 0 ? beams.map((beam, level) => el('beam', { number: level + 1 }, beam)) : null,
      notations(event, head, index, context),
      index === 0 ? lyrics(event, context) : null,
    );
  });
  return [...graces, ...heads];
}

const dots = (event: TuneEvent) => Array.from({ length: event.value.dots }, () => el('dot'));

function valueNodes(event: TuneEvent): readonly (XmlNode | null)[] {
  return [el('voice', {}, 1), el('type', {}, event.value.type), ...dots(event), timeModification(event)];
}

function timeModification({ tuplet }: TuneEvent): XmlNode | null {
  return tuplet
    ? el('time-modification', {}, el('actual-notes', {}, tuplet.actual), el('normal-notes', {}, tuplet.normal))
    : null;
}

function tupletNotation(event: TuneEvent): readonly XmlNode[] {
  return event.tuplet?.edge ? [el('notations', {}, el('tuplet', { type: event.tuplet.edge, bracket: 'no' }))] : [];
}

function pitchNode(pitch: Pitch, writtenOctave: number): XmlNode {
  return el(
    'pitch',
    {},
    el('step', {}, pitch.letter),
    pitch.alter ? el('alter', {}, pitch.alter) : null,
    el('octave', {}, pitch.octave + writtenOctave),
  );
}

function notations(note: Note, head: Head, index: number, { slurs, tiedInto }: NoteContext): XmlNode | null {
  const first = index === 0;
  const decorations = first ? (note.decorations ?? []) : [];
  const pick = (group: string) =>
    SIGNS.filter((row) => row.group === group && decorations.includes(row.sign)).map(({ xml, text }) =>
      text === undefined ? el(xml) : el(xml, {}, text),
    );
  const ornaments = pick('ornaments');
  const articulations = pick('articulations');
  const technical = [...(first && note.bow ? [el(`${note.bow}-bow`)] : []), ...pick('technical'), ...fingered(head)];
  const content = [
    ...(head.tied ? [el('tied', { type: 'start' })] : []),
    ...(tiedInto.has(headId(note.id, index)) ? [el('tied', { type: 'stop' })] : []),
    ...(first ? (slurs.get(note.id) ?? []).map(({ type, number }) => el('slur', { type, number })) : []),
    ...(first && note.tuplet?.edge ? [el('tuplet', { type: note.tuplet.edge, bracket: 'no' })] : []),
    ...(ornaments.length > 0 ? [el('ornaments', {}, ornaments)] : []),
    ...(technical.length > 0 ? [el('technical', {}, technical)] : []),
    ...(articulations.length > 0 ? [el('articulations', {}, articulations)] : []),
    ...pick('plain'),
  ];
  return content.length > 0 ? el('notations', {}, content) : null;
}

/** Finger, other fingers and string, as the format puts them. */
function fingered({ finger, otherFingers = [], string }: Pick<Head, 'finger' | 'otherFingers' | 'string'>) {
  return [
    ...(finger === 'T' ? [el('thumb-position')] : finger !== undefined ? [el('fingering', {}, finger)] : []),
    ...otherFingers.map((other) => el('fingering', { alternate: 'yes' }, other)),
    ...(string !== undefined ? [el('string', {}, string)] : []),
  ];
}

function lyrics(note: Note, { innerSyllables }: NoteContext): readonly XmlNode[] {
  return (note.words ?? []).flatMap((word, verse) => {
    if (!word) return [];
    const inner = innerSyllables.has(`${note.id}/${verse}`);
    const syllabic = word.hyphen ? (inner ? 'middle' : 'begin') : inner ? 'end' : 'single';
    return [
      el(
        'lyric',
        { number: verse + 1 },
        el('syllabic', {}, syllabic),
        el('text', {}, word.text),
        word.extend ? el('extend') : null,
      ),
    ];
  });
}

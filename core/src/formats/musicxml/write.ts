/**
 * MusicXML 4.0 out: the tune with its fingers, strings, bows, slurs and words.
 * The engraver reads the same text that the user downloads.
 */
import {
  LETTERS,
  TICKS_PER_QUARTER,
  barLength,
  isStandard,
  midi,
  nearestFifths,
  sameKey,
  signatureAlter,
  valueOf,
  type Alter,
  type Bar,
  type Head,
  type Key,
  type Metre,
  type Note,
  type Pitch,
  type Tempo,
  type Tune,
  type TuneEvent,
} from '../../music/index.ts';
import { beamsOf, type Beam } from './beams.ts';
import { harmony } from './harmony.ts';
import { el, printXml, type XmlNode } from './xml.ts';

export interface MusicXmlOptions {
  readonly partName?: string;
  readonly clef?: { readonly sign: 'G' | 'C' | 'F'; readonly line: number };
  /** Octaves that the written note lies above the sounding one: 1 for bass. */
  readonly writtenOctave?: number;
  /** A later line of the same tune: the metre is not printed again. */
  readonly continued?: boolean;
}

const DOCTYPE =
  '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">';

/** The id that a head has in the document; the first head of a note keeps the note's own. */
export function headId(noteId: string, head: number): string {
  return head === 0 ? noteId : `${noteId}-${head + 1}`;
}

/** @returns a complete `score-partwise` document */
export function writeMusicXml(tune: Tune, options: MusicXmlOptions = {}): string {
  const context: Context = { options, slurs: numberSlurs(tune), endings: endingsOver(tune.bars), ...joins(tune) };
  const root = el(
    'score-partwise',
    { version: '4.0' },
    el('work', {}, el('work-title', {}, tune.title)),
    el(
      'identification',
      {},
      tune.composer ? el('creator', { type: 'composer' }, tune.composer) : null,
      el('encoding', {}, el('software', {}, 'Nokta')),
    ),
    el('part-list', {}, el('score-part', { id: 'P1' }, el('part-name', {}, options.partName ?? ''))),
    el(
      'part',
      { id: 'P1' },
      tune.bars.map((bar, index) => measure(tune, bar, index, context)),
    ),
  );
  return printXml(root, DOCTYPE);
}

/** What a note needs to know about its neighbours. */
interface Context {
  readonly options: MusicXmlOptions;
  readonly slurs: SlurMarks;
  /** Numbers of the ending bracket over each bar, where there is one. */
  readonly endings: readonly (readonly number[] | null)[];
  /** Head ids that a tie leads into. */
  readonly tiedInto: ReadonlySet<string>;
  /** `note/verse` whose syllable goes on with a word begun before. */
  readonly innerSyllables: ReadonlySet<string>;
}

function joins(tune: Tune): Pick<Context, 'tiedInto' | 'innerSyllables'> {
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

/** A bracket runs on from the bar that opens it until it is closed, a repeat ends it, or the next one opens. */
function endingsOver(bars: readonly Bar[]): readonly (readonly number[] | null)[] {
  let open: readonly number[] | null = null;
  return bars.map((bar) => {
    open = bar.endings ?? open;
    const over = open;
    if (bar.endingStop || bar.repeatEnd) open = null;
    return over;
  });
}

type SlurMarks = ReadonlyMap<string, readonly { readonly type: 'start' | 'stop'; readonly number: number }[]>;

/** Slurs that overlap get different numbers, 1 to 6 as the format asks. */
function numberSlurs(tune: Tune): SlurMarks {
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
    add(slur.to, 'stop', number + 1);
  }
  // A slur that ends on a note is closed before the next one opens there.
  for (const list of marks.values()) list.sort((a, b) => (a.type === b.type ? 0 : a.type === 'stop' ? -1 : 1));
  return marks;
}

function measure(tune: Tune, bar: Bar, index: number, context: Context): XmlNode {
  const { options } = context;
  const before = tune.bars[index - 1];
  const beams = beamsOf(bar);
  const implicit = bar.offset > 0 || bar.length < barLength(bar.metre);
  const printed = accidentalPrinter(bar);
  return el(
    'measure',
    { number: index + 1, ...(implicit && { implicit: 'yes' }) },
    attributes(bar, before, options),
    leftBarline(bar),
    index === 0 && tune.tempo && !options.continued ? tempoDirection(tune.tempo) : null,
    bar.tempo ? tempoDirection(bar.tempo) : null,
    bar.label ? direction('above', el('rehearsal', {}, bar.label)) : null,
    bar.segno ? direction('above', el('segno')) : null,
    bar.coda ? direction('above', el('coda')) : null,
    bar.events.flatMap((event) => [
      event.chordSymbol ? harmony(event.chordSymbol) : null,
      event.annotation ? direction('above', el('words', {}, event.annotation)) : null,
      event.kind === 'note' && event.dynamic ? direction('below', el('dynamics', {}, el(event.dynamic))) : null,
      ...noteNodes(event, beams.get(event.id) ?? [], printed, context),
    ]),
    endDirections(bar),
    rightBarline(bar, context.endings[index] ?? null, tune.bars[index + 1]),
  );
}

function attributes(bar: Bar, before: Bar | undefined, options: MusicXmlOptions): XmlNode | null {
  const first = !before;
  const key = first || !sameKey(bar.key, before.key) ? keyNode(bar.key) : null;
  const metreChanged = first || before.metre.beats !== bar.metre.beats || before.metre.unit !== bar.metre.unit;
  const time = metreChanged ? timeNode(bar.metre, first && options.continued === true) : null;
  if (!first && !key && !time) return null;
  const clef = options.clef ?? { sign: 'G', line: 2 };
  const octave = options.writtenOctave ?? 0;
  return el(
    'attributes',
    {},
    first ? el('divisions', {}, TICKS_PER_QUARTER) : null,
    key,
    time,
    first ? el('clef', {}, el('sign', {}, clef.sign), el('line', {}, clef.line)) : null,
    first && octave ? el('transpose', {}, el('chromatic', {}, 0), el('octave-change', {}, -octave)) : null,
  );
}

function keyNode(key: Key): XmlNode {
  if (isStandard(key)) return el('key', {}, el('fifths', {}, nearestFifths(key)), el('mode', {}, key.mode));
  const altered = LETTERS.filter((letter) => signatureAlter(key, letter) !== 0);
  if (altered.length === 0) return el('key', {}, el('fifths', {}, 0));
  return el(
    'key',
    {},
    altered.flatMap((letter) => [el('key-step', {}, letter), el('key-alter', {}, signatureAlter(key, letter))]),
  );
}

function timeNode({ beats, unit, symbol }: Metre, hidden: boolean): XmlNode {
  return el(
    'time',
    { symbol, ...(hidden && { 'print-object': 'no' }) },
    el('beats', {}, beats),
    el('beat-type', {}, unit),
  );
}

function direction(placement: 'above' | 'below', content: XmlNode, sound?: XmlNode): XmlNode {
  return el('direction', { placement }, el('direction-type', {}, content), sound);
}

function tempoDirection({ beat, bpm, text }: Tempo): XmlNode {
  const value = valueOf(beat) ?? { type: 'quarter', dots: 0 };
  const dots = Array.from({ length: value.dots }, () => el('beat-unit-dot'));
  return el(
    'direction',
    { placement: 'above' },
    text ? el('direction-type', {}, el('words', {}, text)) : null,
    el('direction-type', {}, el('metronome', {}, el('beat-unit', {}, value.type), dots, el('per-minute', {}, bpm))),
    el('sound', { tempo: (bpm * beat) / TICKS_PER_QUARTER }),
  );
}

function endDirections(bar: Bar): readonly (XmlNode | null)[] {
  const jump = bar.jump;
  const words = jump
    ? `D.${jump.back === 'segno' ? 'S' : 'C'}.${jump.until === 'end' ? '' : ` al ${jump.until === 'fine' ? 'Fine' : 'Coda'}`}`
    : '';
  return [
    bar.toCoda ? direction('above', el('words', {}, 'To Coda'), el('sound', { tocoda: 'coda' })) : null,
    bar.fine ? direction('above', el('words', {}, 'Fine'), el('sound', { fine: 'yes' })) : null,
    jump
      ? direction(
          'above',
          el('words', {}, words),
          el('sound', jump.back === 'segno' ? { dalsegno: 'segno' } : { dacapo: 'yes' }),
        )
      : null,
  ];
}

function leftBarline(bar: Bar): XmlNode | null {
  if (!bar.repeatStart && !bar.endings) return null;
  return el(
    'barline',
    { location: 'left' },
    bar.repeatStart ? el('bar-style', {}, 'heavy-light') : null,
    bar.endings ? el('ending', { number: bar.endings.join(','), type: 'start' }, `${bar.endings.join(', ')}.`) : null,
    bar.repeatStart ? el('repeat', { direction: 'forward' }) : null,
  );
}

function rightBarline(bar: Bar, ending: readonly number[] | null, next: Bar | undefined): XmlNode | null {
  const style = { single: null, double: 'light-light', final: 'light-heavy', invisible: 'none' }[bar.barline];
  const closes =
    ending !== null && (bar.endingStop || bar.repeatEnd || next === undefined || next.endings !== undefined);
  if (!style && !bar.repeatEnd && !closes) return null;
  const barStyle = bar.repeatEnd ? 'light-heavy' : style;
  return el(
    'barline',
    { location: 'right' },
    barStyle ? el('bar-style', {}, barStyle) : null,
    closes ? el('ending', { number: ending.join(','), type: 'stop' }) : null,
    bar.repeatEnd ? el('repeat', { direction: 'backward', ...(bar.repeatEnd > 2 && { times: bar.repeatEnd }) }) : null,
  );
}

type AccidentalPrinter = (pitch: Pitch, tied: boolean) => XmlNode | null;

/** A sign where the bar so far, or another octave of it, would make the reader expect something else. */
function accidentalPrinter(bar: Bar): AccidentalPrinter {
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

function noteNodes(
  event: TuneEvent,
  beams: readonly Beam[],
  printed: AccidentalPrinter,
  context: Context,
): readonly XmlNode[] {
  const { options } = context;
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
      pitchNode(grace.pitch, options),
      el('voice', {}, 1),
      el('type', {}, 'eighth'),
      printed(grace.pitch, false),
    ),
  );
  const heads = event.heads.map((head, index) => {
    const id = headId(event.id, index);
    const held = context.tiedInto.has(id);
    return el(
      'note',
      { id },
      index > 0 ? el('chord') : null,
      pitchNode(head.pitch, options),
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

function pitchNode(pitch: Pitch, options: MusicXmlOptions): XmlNode {
  return el(
    'pitch',
    {},
    el('step', {}, pitch.letter),
    pitch.alter ? el('alter', {}, pitch.alter) : null,
    el('octave', {}, pitch.octave + (options.writtenOctave ?? 0)),
  );
}

const ORNAMENT: Readonly<Record<string, string>> = {
  trill: 'trill-mark',
  turn: 'turn',
  mordent: 'mordent',
  'inverted-mordent': 'inverted-mordent',
};
const ARTICULATION: Readonly<Record<string, string>> = {
  staccato: 'staccato',
  tenuto: 'tenuto',
  accent: 'accent',
  marcato: 'strong-accent',
  breath: 'breath-mark',
  slide: 'scoop',
};
const TECHNICAL: Readonly<Record<string, string>> = { harmonic: 'harmonic', 'snap-pizzicato': 'snap-pizzicato' };

function notations(note: Note, head: Head, index: number, { slurs, tiedInto }: Context): XmlNode | null {
  const first = index === 0;
  const decorations = first ? (note.decorations ?? []) : [];
  const pick = (table: Readonly<Record<string, string>>) =>
    decorations.flatMap((sign) => (table[sign] ? [el(table[sign])] : []));
  const ornaments = [...pick(ORNAMENT), ...(decorations.includes('roll') ? [el('other-ornament', {}, 'roll')] : [])];
  const articulations = pick(ARTICULATION);
  const technical = [
    ...(first && note.bow ? [el(`${note.bow}-bow`)] : []),
    ...pick(TECHNICAL),
    ...(decorations.includes('pizzicato') ? [el('other-technical', {}, 'left-hand pizzicato')] : []),
    ...(head.finger === 'T'
      ? [el('thumb-position')]
      : head.finger !== undefined
        ? [el('fingering', {}, head.finger)]
        : []),
    ...(head.string !== undefined ? [el('string', {}, head.string)] : []),
  ];
  const content = [
    ...(head.tied ? [el('tied', { type: 'start' })] : []),
    ...(tiedInto.has(headId(note.id, index)) ? [el('tied', { type: 'stop' })] : []),
    ...(first ? (slurs.get(note.id) ?? []).map(({ type, number }) => el('slur', { type, number })) : []),
    ...(first && note.tuplet?.edge ? [el('tuplet', { type: note.tuplet.edge, bracket: 'no' })] : []),
    ...(ornaments.length > 0 ? [el('ornaments', {}, ornaments)] : []),
    ...(technical.length > 0 ? [el('technical', {}, technical)] : []),
    ...(articulations.length > 0 ? [el('articulations', {}, articulations)] : []),
    ...(decorations.includes('fermata') ? [el('fermata')] : []),
  ];
  return content.length > 0 ? el('notations', {}, content) : null;
}

function lyrics(note: Note, { innerSyllables }: Context): readonly XmlNode[] {
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

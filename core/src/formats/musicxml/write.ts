/**
 * MusicXML 4.0 out: the tune with its fingers, strings, bows, slurs and words.
 * The engraver reads the same text that the user downloads.
 */
import {
  LETTERS,
  TICKS_PER_QUARTER,
  barLength,
  isSameMetre,
  isStandard,
  nearestFifths,
  sameKey,
  signatureAlter,
  valueOf,
  type Bar,
  type EventId,
  type Key,
  type Metre,
  type Pitch,
  type Tempo,
  type Tune,
  type TuneEvent,
} from '../../music/index.ts';
import { beamsOf } from './beams.ts';
import { harmony } from './harmony.ts';
import { TAB_CLEF, staffDetails, tabWriter } from './tabStaff.ts';
import { accidentalPrinter, joins, noteNodes, numberSlurs, type NoteContext } from './writeNote.ts';
import { el, printXml, type XmlNode } from './xml.ts';

interface ClefSign {
  readonly sign: 'G' | 'C' | 'F';
  readonly line: number;
}

export interface MusicXmlOptions {
  readonly partName?: string;
  readonly clef?: ClefSign;
  /** Clefs that begin at a note. */
  readonly clefs?: ReadonlyMap<EventId, ClefSign>;
  /** Octaves that the written note lies above the sounding one: 1 for bass. */
  readonly writtenOctave?: number;
  /** A later line of the same tune: the metre is not printed again. */
  readonly continued?: boolean;
  /** Open strings from low to high where they are retuned: told at the start. */
  readonly scordatura?: readonly Pitch[];
  /** Open strings from low to high: adds a staff of finger tablature below. */
  readonly tabStrings?: readonly Pitch[];
  /** Words above a note: the position that the hand moves to. */
  readonly positions?: ReadonlyMap<EventId, string>;
}

interface Context extends NoteContext {
  readonly options: MusicXmlOptions;
  /** Numbers of the ending bracket over each bar, where there is one. */
  readonly endings: readonly (readonly number[] | null)[];
  /** The bars once more as tablature, one after the other; null where none is wanted. */
  readonly tab: ReturnType<typeof tabWriter> | null;
  /** Another clef that begins at an event; null where it is the one before. */
  readonly newClef: (event: TuneEvent) => XmlNode | null;
}

const DOCTYPE =
  '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">';

/** One voice of a score: what it plays, and how it is written. */
export interface ScoreVoice extends MusicXmlOptions {
  readonly tune: Tune;
}

/**
 * @returns a complete `score-partwise` document
 * @example writeMusicXml(reel).includes('<score-partwise') // true
 */
export const writeMusicXml = (tune: Tune, options: MusicXmlOptions = {}): string => writeScore([{ tune, ...options }]);

/**
 * Several voices under each other, the first on top; title and what else is said of the tune are the first one's. Ids of
 * notes are those of their tune in the first voice, and begin with the part's in the others: `P2-n1`.
 * @returns a complete `score-partwise` document
 * @example writeScore([{ tune: reel }, { tune: reel, partName: 'Cello' }]).split('<part id=').length // 3
 */
export function writeScore(voices: readonly [ScoreVoice, ...ScoreVoice[]]): string {
  const [{ tune }] = voices;
  const parts = voices.map((voice, index) => ({
    id: `P${index + 1}`,
    ...(index === 0 ? voice : renamed(voice, index)),
  }));
  const root = el(
    'score-partwise',
    { version: '4.0' },
    el('work', {}, el('work-title', {}, tune.title)),
    el(
      'identification',
      {},
      tune.composer ? el('creator', { type: 'composer' }, tune.composer) : null,
      el('encoding', {}, el('software', {}, 'Nokta')),
      miscellaneous(tune),
    ),
    el(
      'part-list',
      {},
      parts.map(({ id, partName }) => el('score-part', { id }, el('part-name', {}, partName ?? ''))),
    ),
    parts.map((voice) => part(voice)),
  );
  return printXml(root, DOCTYPE);
}

/** The same with ids of its own, so that no two notes of a score have one. */
function renamed({ tune, clefs, positions, ...rest }: ScoreVoice, index: number): ScoreVoice {
  const own = (id: EventId): EventId => `P${index + 1}-${id}`;
  const keyed = <Value>(by: ReadonlyMap<EventId, Value>) => new Map([...by].map(([id, value]) => [own(id), value]));
  return {
    ...rest,
    ...(clefs && { clefs: keyed(clefs) }),
    ...(positions && { positions: keyed(positions) }),
    tune: withIds(tune, own),
  };
}

function withIds(tune: Tune, own: (id: EventId) => EventId): Tune {
  return {
    ...tune,
    bars: tune.bars.map((bar) => ({
      ...bar,
      events: bar.events.map((event) => ({
        ...event,
        id: own(event.id),
        ...(event.kind === 'note' &&
          event.graces && { graces: event.graces.map((grace) => ({ ...grace, id: own(grace.id) })) }),
      })),
    })),
    slurs: tune.slurs.map(({ from, to }) => ({ from: own(from), to: own(to) })),
  };
}

function part({ id, tune, ...options }: ScoreVoice & { readonly id: string }): XmlNode {
  const context: Context = {
    options,
    writtenOctave: options.writtenOctave ?? 0,
    slurs: numberSlurs(tune),
    endings: endingsOver(tune.bars),
    tab: options.tabStrings ? tabWriter(options.tabStrings, options.writtenOctave ?? 0) : null,
    newClef: clefWriter(options),
    ...joins(tune),
  };
  return el(
    'part',
    { id },
    tune.bars.map((bar, index) => measure(tune, bar, index, context)),
  );
}

/** What the format has no place of its own for. */
function miscellaneous(tune: Tune): XmlNode | null {
  const fields: readonly (readonly [string, string])[] = [
    ['style', tune.style],
    ['origin', tune.origin],
    ...tune.alsoKnownAs.map((title) => ['also-known-as', title] as const),
    ...tune.notes.map((note) => ['note', note] as const),
  ];
  const given = fields.filter(([, text]) => text !== '');
  return given.length === 0
    ? null
    : el(
        'miscellaneous',
        {},
        given.map(([name, text]) => el('miscellaneous-field', { name }, text)),
      );
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

function measure(tune: Tune, bar: Bar, index: number, context: Context): XmlNode {
  const { options } = context;
  const before = tune.bars[index - 1];
  const beams = beamsOf(bar);
  const implicit = bar.offset > 0 || bar.length < barLength(bar.metre);
  const printed = accidentalPrinter(bar);
  const newLine = before?.events.findLast((event) => event.kind === 'note')?.lineEnd;
  return el(
    'measure',
    { number: index + 1, ...(implicit && { implicit: 'yes' }) },
    newLine ? el('print', { 'new-system': 'yes' }) : null,
    attributes(bar, before, options),
    leftBarline(bar),
    index === 0 && options.scordatura ? scordatura(options.scordatura) : null,
    index === 0 && tune.tempo && !options.continued ? tempoDirection(tune.tempo) : null,
    bar.tempo ? tempoDirection(bar.tempo) : null,
    bar.label ? direction('above', el('rehearsal', {}, bar.label)) : null,
    bar.segno ? direction('above', el('segno')) : null,
    bar.coda ? direction('above', el('coda'), el('sound', { coda: 'coda' })) : null,
    bar.events.flatMap((event) => [
      context.newClef(event),
      ...textNodes(event, options.positions?.get(event.id)),
      ...noteNodes(event, beams.get(event.id) ?? [], printed, context),
    ]),
    context.tab ? context.tab(bar) : null,
    endDirections(bar),
    rightBarline(bar, context.endings[index] ?? null, tune.bars[index + 1]),
  );
}

/** Chord symbol, words and dynamic, which stand before their note. */
function textNodes(event: TuneEvent, position: string | undefined): readonly (XmlNode | null)[] {
  return [
    event.chordSymbol ? harmony(event.chordSymbol) : null,
    event.annotation ? direction('above', el('words', {}, event.annotation)) : null,
    position ? direction('above', el('words', { 'font-weight': 'bold' }, position)) : null,
    event.kind === 'note' && event.dynamic ? direction('below', el('dynamics', {}, el(event.dynamic))) : null,
  ];
}

/** Strings are numbered from the highest, their tunings stated for each. */
function scordatura(strings: readonly Pitch[]): XmlNode {
  const accords = strings.map((pitch, index) =>
    el(
      'accord',
      { string: strings.length - index },
      el('tuning-step', {}, pitch.letter),
      pitch.alter ? el('tuning-alter', {}, pitch.alter) : null,
      el('tuning-octave', {}, pitch.octave),
    ),
  );
  return direction('above', el('scordatura', {}, accords.reverse()));
}

const USUAL_CLEF: ClefSign = { sign: 'G', line: 2 };

const clefNode = ({ sign, line }: ClefSign, { tabStrings }: Pick<MusicXmlOptions, 'tabStrings'>): XmlNode =>
  el('clef', tabStrings ? { number: 1 } : {}, el('sign', {}, sign), el('line', {}, line));

/** Events are to come in their order. */
function clefWriter(options: MusicXmlOptions): Context['newClef'] {
  let now = options.clef ?? USUAL_CLEF;
  return ({ id }) => {
    const own = options.clefs?.get(id);
    if (!own || (own.sign === now.sign && own.line === now.line)) return null;
    now = own;
    return el('attributes', {}, clefNode(own, options));
  };
}

function attributes(bar: Bar, before: Bar | undefined, options: MusicXmlOptions): XmlNode | null {
  const first = !before;
  const key = first || !sameKey(bar.key, before.key) ? keyNode(bar.key) : null;
  const metreChanged = first || !isSameMetre(before.metre, bar.metre);
  const time = metreChanged ? timeNode(bar.metre, first && options.continued === true) : null;
  if (!first && !key && !time) return null;
  const octave = options.writtenOctave ?? 0;
  return el(
    'attributes',
    {},
    first ? el('divisions', {}, TICKS_PER_QUARTER) : null,
    key,
    time,
    first && options.tabStrings ? el('staves', {}, 2) : null,
    first ? clefNode(options.clef ?? USUAL_CLEF, options) : null,
    first && options.tabStrings ? TAB_CLEF : null,
    first && options.tabStrings ? staffDetails(options.tabStrings) : null,
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
  if (symbol === 'free') return el('time', { 'print-object': 'no' }, el('senza-misura'));
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
  // A beat that is no single note counts as its quarters.
  const value = valueOf(beat) ?? { type: 'quarter', dots: 0 };
  const quarters = Math.round(((bpm * beat) / TICKS_PER_QUARTER) * 1000) / 1000;
  const dots = Array.from({ length: value.dots }, () => el('beat-unit-dot'));
  return el(
    'direction',
    { placement: 'above' },
    text ? el('direction-type', {}, el('words', {}, text)) : null,
    el(
      'direction-type',
      {},
      el('metronome', {}, el('beat-unit', {}, value.type), dots, el('per-minute', {}, valueOf(beat) ? bpm : quarters)),
    ),
    el('sound', { tempo: quarters }),
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

/** One voice of the parsed ABC, bar by bar, as bars, slurs and notices. */
import {
  LIMITS,
  TICKS_PER_WHOLE,
  LETTERS,
  LONGEST_NOTE,
  barLength,
  freeMetre,
  isCompound,
  isPickup,
  signatureAlter,
  step,
  valueOf,
  writeDuration,
  type Alter,
  type Bar,
  type Barline,
  type Head,
  type Key,
  type Letter,
  type Metre,
  type Note,
  type NoteValue,
  type Pitch,
  type Place,
  type Slur,
  type Ticks,
  type TuneEvent,
} from '../../music/index.ts';
import type { Problem } from '../problem.ts';
import { LEFT_OF, RIGHT_OF, chordText, readEndings, realLength, tieOn } from './elements.ts';
import { alterOf, isFree, readKey, readMetre } from './keys.ts';
import type { ParsedBar, ParsedElement, ParsedKey, ParsedMeter, ParsedNote, ParsedTempo } from './parsed.ts';
import { readSign, signNames } from './signs.ts';
import { readTempo } from './tempo.ts';

/** Tuplets whose time depends on the metre. */
const ODD_TUPLETS: ReadonlySet<number> = new Set([5, 7, 9]);
/** Bars of rest that one sign can stand for. */
const MOST_BAR_RESTS = 500;

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
type OpenBar = Mutable<Bar> & { events: TuneEvent[] };

export interface VoiceContext {
  readonly key: Key;
  readonly metre: Metre;
  /** There is no metre: bars are as long as their notes. */
  readonly free: boolean;
  /** The signs say where to leave for the coda by a sign of its own. */
  readonly daCoda: boolean;
  /** Times that the section which ends at this place is played, where that is not twice. */
  times(at: number): number | undefined;
  /** How far an accidental reaches within its bar: `%%propagate-accidentals`. */
  readonly accidentals: 'pitch' | 'octave' | 'not';
  /** Text between two places of the source. */
  text(from: number, to: number): string;
  place(at: number): Place;
}

export interface ReadVoice {
  readonly bars: readonly Bar[];
  readonly slurs: readonly Slur[];
  readonly notices: readonly Problem[];
}

/** Reads the elements of one voice; lines of the source stay apart so that line ends are known. */
export function readVoice(lines: readonly (readonly ParsedElement[])[], context: VoiceContext): ReadVoice {
  const reader = new VoiceReader(context);
  for (const line of lines) {
    for (const element of line) reader.read(element);
    reader.endLine();
  }
  return reader.finish();
}

/** More bars than a tune can have: reading ends there. */
export class TooMuch extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

class VoiceReader {
  private readonly bars: OpenBar[] = [];
  private readonly slurs: Slur[] = [];
  private readonly notices: Problem[] = [];
  private readonly openSlurs = new Map<number, string>();
  private bar: OpenBar;
  private key: Key;
  private nextKey: Key | null = null;
  private metre: Metre;
  private time: Ticks = 0;
  private tuplet: { actual: number; normal: number; first: boolean } | null = null;
  private accidentals = new Map<number, Alter>();
  private lastNote: Note | null = null;
  private codas = 0;
  private free: boolean;
  private noteCount = 0;

  constructor(private readonly context: VoiceContext) {
    this.key = context.key;
    this.metre = context.metre;
    this.free = context.free;
    this.bar = this.newBar();
  }

  read(element: ParsedElement): void {
    switch (element.el_type) {
      case 'note':
        return this.readNote(element);
      case 'bar':
        return this.readBar(element);
      case 'key':
        return this.readKey(element);
      case 'meter':
        return this.readMeter(element);
      case 'tempo':
        return this.readTempo(element);
      case 'part':
        this.bar.label = element.title.trim();
        return;
      default:
        return;
    }
  }

  endLine(): void {
    const note =
      this.bar.events.findLast((event) => event.kind === 'note') ??
      this.bars.at(-1)?.events.findLast((event) => event.kind === 'note');
    if (note) this.replace(note.id, { lineEnd: true });
  }

  finish(): ReadVoice {
    if (this.bar.events.length > 0) this.closeBar('single');
    const bars = this.bars.map((bar) => ({ ...bar, length: realLength(bar) }));
    const placed = bars.map((bar, index) =>
      isPickup(bars, index) ? { ...bar, offset: barLength(bar.metre) - bar.length } : bar,
    );
    // A slur that never ends is kept open, so that the desk can show and mend it.
    const open = [...this.openSlurs.values()].map((id) => ({ from: id, to: id }));
    return { bars: placed, slurs: [...this.slurs, ...open], notices: [...this.notices, ...this.unclosedSlurs()] };
  }

  private unclosedSlurs(): Problem[] {
    return [...this.openSlurs.values()].map((id) => {
      const source = this.bars.flatMap((bar) => bar.events).find((event) => event.id === id)?.source;
      return {
        severity: 'notice',
        message: 'A slur that begins here never ends.',
        remedy: 'Put ) after its last note.',
        ...source,
      };
    });
  }

  private newBar(): OpenBar {
    return {
      id: `b${this.bars.length + 1}`,
      metre: this.metre,
      key: this.key,
      events: [],
      length: 0,
      offset: 0,
      barline: 'single',
    };
  }

  private notice(at: number, message: string, remedy?: string): void {
    this.notices.push({ severity: 'notice', message, ...(remedy && { remedy }), ...this.context.place(at) });
  }

  private readKey(element: ParsedKey): void {
    const source = this.context.text(element.startChar ?? 0, element.endChar ?? 0);
    const key = readKey(element, source);
    if (this.bar.events.length === 0) {
      this.key = key;
      this.bar.key = key;
    } else {
      // Signatures stand at bar lines; the notes up to there keep their pitch by accidentals.
      this.nextKey = key;
      this.notice(
        element.startChar ?? 0,
        'The key changes inside a bar; its signature is shown from the next bar on. The notes are right.',
      );
    }
  }

  private readMeter(element: ParsedMeter): void {
    const metre = readMetre(element);
    this.free = isFree(element);
    if (!metre) return;
    this.metre = metre;
    if (this.bar.events.length === 0) this.bar.metre = metre;
  }

  private readTempo(element: ParsedTempo): void {
    const tempo = readTempo(element);
    if (tempo) this.bar.tempo = tempo;
  }

  private readBar(element: ParsedBar): void {
    let right = RIGHT_OF[element.type] ?? {};
    const left = LEFT_OF[element.type] ?? {};
    for (const name of element.decoration ?? []) this.readNavigation(name);
    const { way, annotation, chordSymbol } = chordText(element);
    const closes = this.bar.events.length > 0;
    Object.assign(closes ? this.bar : (this.bars.at(-1) ?? this.bar), way);
    if (chordSymbol)
      this.notice(element.startChar, `The chord symbol “${chordSymbol}” was left out: no note begins there for it.`);
    if (annotation)
      this.notice(element.startChar, `The text “${annotation}” was left out: no note begins there for it.`);
    if (closes) this.closeBar(right.barline ?? 'single');
    // A bracket that opens a line comes with a bar line of its own that nobody sees.
    else if (right.barline === 'invisible') right = {};
    const last = this.bars.at(-1);
    if (last) {
      if (right.barline && right.barline !== 'single' && last.barline === 'single') last.barline = right.barline;
      if (right.repeat) last.repeatEnd = this.timesAt(element) ?? right.repeat;
      if (element.endEnding) last.endingStop = true;
    }
    if (left.repeat) this.bar.repeatStart = true;
    if (element.startEnding) this.startEnding(element);
  }

  private startEnding(element: ParsedBar): void {
    const numbers = readEndings(element.startEnding!);
    if (numbers.length === 0) {
      this.notice(element.startChar, `The ending “${element.startEnding}” has no number and is shown as a plain bar.`);
      return;
    }
    this.bar.endings = numbers;
    const before = this.bars.at(-1);
    // The first ending's repeat is played once for each further ending.
    if (before?.repeatEnd) {
      const opening = this.bars.findLast((bar) => bar.endings);
      if (opening) before.repeatEnd = Math.max(before.repeatEnd, Math.max(...opening.endings!) + 1);
    }
  }

  private closeBar(barline: Barline): void {
    if (this.bars.length >= LIMITS.bars) {
      throw new TooMuch({
        severity: 'error',
        message: `The tune has more than ${LIMITS.bars.toLocaleString('en')} bars.`,
        remedy: 'Check the rests (Z) in it.',
        ...this.bar.events[0]?.source,
      });
    }
    this.bar.barline = barline;
    if (this.free) this.bar.metre = freeMetre(realLength(this.bar));
    this.bars.push(this.bar);
    this.key = this.nextKey ?? this.key;
    this.nextKey = null;
    this.time = 0;
    this.accidentals = new Map();
    this.bar = this.newBar();
  }

  private readNote(element: ParsedNote): void {
    if (element.rest?.type === 'spacer') return;
    if (element.startTriplet) {
      const actual = element.startTriplet;
      this.tuplet = { actual, normal: this.normalOf(element, actual), first: true };
    }
    if (element.rest?.type === 'multimeasure' || element.rest?.type === 'whole') this.readBarRests(element);
    else this.addEvent(element);
    if (element.endTriplet) this.tuplet = null;
  }

  /** Of odd tuplets without a second figure: three in the time of compound metres, two in others (ABC 2.1, 4.13). */
  private normalOf(element: ParsedNote, actual: number): number {
    const parsed = Math.round(actual * (element.tripletMultiplier ?? 1));
    const source = this.context.text(element.startChar, element.endChar);
    if (!ODD_TUPLETS.has(actual) || !/\(\d+(?![:\d])/.test(source)) return parsed;
    return isCompound(this.metre) ? 3 : 2;
  }

  private timesAt({ startChar }: ParsedBar): number | undefined {
    for (let at = startChar - 1; at <= startChar + 2; at += 1) {
      const times = this.context.times(at);
      if (times !== undefined) return times;
    }
    return undefined;
  }

  /** Z: whole bars of rest. */
  private readBarRests(element: ParsedNote): void {
    const count = element.rest?.type === 'multimeasure' ? Math.min(element.rest.text ?? 1, MOST_BAR_RESTS) : 1;
    const length = barLength(this.metre);
    // Whole bars begin at a bar line; where there is none in the text, it is set.
    if (this.bar.events.length > 0) {
      this.notice(element.startChar, 'Whole bars of rest begin inside a bar; a bar line was set before them.');
      this.closeBar('single');
    }
    for (let bar = 0; bar < count; bar += 1) {
      if (bar > 0) this.closeBar('single');
      for (const { at, duration, value } of writeDuration(0, length, this.metre)) {
        this.bar.events.push({
          kind: 'rest',
          id: this.nextId(),
          at,
          duration,
          value,
          source: this.context.place(element.startChar),
        });
      }
      this.time = length;
    }
  }

  private nextId(): string {
    this.noteCount += 1;
    return `n${this.noteCount}`;
  }

  private addEvent(element: ParsedNote): void {
    const asked = Math.round(element.duration * TICKS_PER_WHOLE);
    const notated = Math.min(asked, LONGEST_NOTE);
    if (asked > notated) this.notice(element.startChar, 'This note is longer than 32 whole notes; it was shortened.');
    const scale = this.tuplet ? this.tuplet.normal / this.tuplet.actual : 1;
    const duration = Math.round(notated * scale);
    if (duration <= 0) return;
    const value = valueOf(notated);
    if (!value) return this.addSplit(element, notated, scale);
    this.push(element, duration, value);
  }

  /** A length such as five eighths needs a tie to be written. */
  private addSplit(element: ParsedNote, notated: Ticks, scale: number): void {
    const pieces = writeDuration(this.time, notated, this.metre);
    if (pieces.reduce((sum, piece) => sum + piece.duration, 0) !== notated) {
      this.notice(element.startChar, 'This note’s length cannot be written in ordinary note values; it was shortened.');
    }
    pieces.forEach((piece, index) => {
      const first = index === 0;
      const last = index === pieces.length - 1;
      const note: ParsedNote = first
        ? { ...element, endSlur: last ? element.endSlur : undefined }
        : { ...element, gracenotes: [], decoration: [], chord: [], lyric: [], startSlur: [] };
      this.push(last ? note : tieOn(note), Math.round(piece.duration * scale), piece.value, first ? 'head' : 'tied');
    });
  }

  private push(element: ParsedNote, duration: Ticks, value: NoteValue, role: 'head' | 'tied' = 'head'): void {
    const { signs, fingers } = this.readSigns(element);
    const { annotation, lost, way, ...texts } = chordText(element);
    for (const text of lost)
      this.notice(element.startChar, `The chord symbol “${text}” was left out: no note begins there for it.`);
    Object.assign(this.bar, way);
    const base = {
      id: this.nextId(),
      at: this.time,
      duration,
      value,
      ...(this.tuplet && { tuplet: this.tupletMark(element) }),
      ...texts,
      ...(annotation && { annotation }),
      source: this.context.place(element.startChar),
    };
    this.time += duration;
    if (this.bar.events.length >= LIMITS.inBar) {
      throw new TooMuch({
        severity: 'error',
        message: `There are more than ${LIMITS.inBar.toLocaleString('en')} notes without a bar line.`,
        remedy: 'Set bar lines with |.',
        ...base.source,
      });
    }
    if (!element.pitches || element.pitches.length === 0) {
      const invisible = element.rest?.type === 'invisible';
      this.bar.events.push({ kind: 'rest', ...base, ...(invisible && { invisible }) });
      this.lastNote = null;
      return;
    }
    const graces = (element.gracenotes ?? []).map((grace, index) => ({
      id: `${base.id}g${index + 1}`,
      pitch: this.pitchOf(grace.pitch, grace.accidental, element.startChar, false),
      ...(grace.acciaccatura && { slash: true }),
    }));
    const heads = element.pitches.map((parsed, index): Head => ({
      pitch: this.pitchOf(
        parsed.pitch,
        parsed.accidental,
        element.startChar,
        Boolean(parsed.endTie) || role === 'tied',
      ),
      ...(parsed.startTie && { tied: true }),
      ...(fingers[index] !== undefined && { finger: fingers[index] }),
      // A single note has one finger; what else stands there is another way.
      ...(element.pitches!.length === 1 && fingers.length > 1 && { otherFingers: fingers.slice(1) }),
    }));
    const note: Note = {
      kind: 'note',
      ...base,
      heads: [...heads].sort((a, b) => step(a.pitch) - step(b.pitch) || a.pitch.alter - b.pitch.alter),
      ...(graces.length > 0 && { graces }),
      ...signs,
    };
    this.bar.events.push(note);
    this.lastNote = note;
    this.readSlurs(element, note.id);
  }

  private tupletMark(element: ParsedNote): NonNullable<TuneEvent['tuplet']> {
    const { actual, normal, first } = this.tuplet!;
    this.tuplet!.first = false;
    const edge = first ? 'start' : element.endTriplet ? 'stop' : null;
    return { actual, normal, ...(edge && { edge }) };
  }

  private readSlurs(element: ParsedNote, id: string): void {
    const pitches = element.pitches ?? [];
    for (const label of [...(element.endSlur ?? []), ...pitches.flatMap((parsed) => parsed.endSlur ?? [])]) {
      const from = this.openSlurs.get(label);
      this.openSlurs.delete(label);
      if (from && from !== id) this.slurs.push({ from, to: id });
    }
    for (const { label } of [...(element.startSlur ?? []), ...pitches.flatMap((parsed) => parsed.startSlur ?? [])]) {
      this.openSlurs.set(label, id);
    }
  }

  private readSigns(element: ParsedNote): {
    signs: Pick<Note, 'bow' | 'decorations' | 'dynamic'>;
    fingers: readonly string[];
  } {
    const signs: { -readonly [K in keyof Pick<Note, 'bow' | 'decorations' | 'dynamic'>]: Note[K] } = {};
    const fingers: string[] = [];
    for (const name of element.decoration ?? []) {
      const sign = readSign(name);
      if (sign.kind === 'decoration') signs.decorations = [...(signs.decorations ?? []), sign.sign];
      else if (sign.kind === 'bow') signs.bow = sign.bow;
      else if (sign.kind === 'dynamic') signs.dynamic = sign.dynamic;
      else if (sign.kind === 'finger') fingers.push(sign.finger);
      else if (sign.kind === 'navigation') this.readNavigation(name);
      else
        this.notice(
          element.startChar,
          `The sign ${signNames(name)} was left out; it says nothing to the fingers or the bow here.`,
        );
    }
    return { signs, fingers };
  }

  private readNavigation(name: string): void {
    const sign = readSign(name);
    if (sign.kind !== 'navigation') return;
    if (name === 'coda') {
      // The first coda sign says where to leave, the second where to go on.
      this.codas += 1;
      Object.assign(this.bar, this.codas === 1 && !this.context.daCoda ? { toCoda: true } : { coda: true });
    } else {
      Object.assign(this.bar, sign.bar);
    }
  }

  /** @param diatonic staff steps above C4 */
  private pitchOf(diatonic: number, accidental: string | undefined, at: number, tied: boolean): Pitch {
    const letter = LETTERS[((diatonic % 7) + 7) % 7] as Letter;
    const octave = 4 + Math.floor(diatonic / 7);
    const reach = this.context.accidentals === 'octave' ? diatonic : ((diatonic % 7) + 7) % 7;
    if (accidental) {
      const alter = alterOf(accidental);
      if (alter === null) this.notice(at, 'Quarter tones are not carried over; the note was taken without.');
      else if (this.context.accidentals !== 'not') this.accidentals.set(reach, alter);
      return { letter, alter: alter ?? signatureAlter(this.key, letter), octave };
    }
    const held = tied
      ? this.lastNote?.heads.find((head) => head.pitch.letter === letter && head.pitch.octave === octave)
      : undefined;
    const key = this.nextKey ?? this.key;
    return { letter, alter: held?.pitch.alter ?? this.accidentals.get(reach) ?? signatureAlter(key, letter), octave };
  }

  private replace(id: string, change: Partial<Note>): void {
    for (const bar of [this.bar, this.bars.at(-1)]) {
      const index = bar?.events.findIndex((event) => event.id === id) ?? -1;
      if (bar && index >= 0) bar.events[index] = { ...bar.events[index]!, ...change } as TuneEvent;
    }
  }
}

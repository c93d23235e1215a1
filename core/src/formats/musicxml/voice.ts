/** One voice of a part, measure by measure, as bars and slurs. */
import {
  C_MAJOR,
  LONGEST_NOTE,
  TICKS_PER_QUARTER,
  barLength,
  freeMetre,
  isPickup,
  markTupletEdges,
  midi,
  transposeKey,
  valueOf,
  writeDuration,
  type Bar,
  type Barline,
  type Grace,
  type Head,
  type Key,
  type Metre,
  type Note,
  type Pitch,
  type Slur,
  type Tempo,
  type Ticks,
  type TuneEvent,
} from '../../music/index.ts';
import { readEndings } from '../abc/elements.ts';
import { readDirection, readSoundTempo, readWay, type Direction } from './directions.ts';
import { readHarmony } from './harmony.ts';
import {
  exactLength,
  readHead,
  readLyrics,
  readPitch,
  readRatio,
  readSigns,
  readValue,
  type NoteContext,
  type Transposition,
} from './note.ts';
import { readKey, readTime, readTranspose } from './attributes.ts';
import { MeasureWalk, SAME_PLACE, type RawEvent } from './walk.ts';
import { voiceOf, type ScorePart } from './score.ts';
import { child, children, numberOf, textOf, type XmlElement } from './tree.ts';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

export interface VoiceContext extends NoteContext {
  /** The file is our own: note ids are taken over. */
  readonly keepIds: boolean;
}

export interface ReadVoice {
  readonly bars: readonly Bar[];
  readonly slurs: readonly Slur[];
  readonly tempo: Tempo | null;
}

const AS_WRITTEN: Transposition = { steps: 0, semitones: 0 };
export function readVoice(part: ScorePart, voice: string, context: VoiceContext): ReadVoice {
  const reader = new VoiceReader(voice, context);
  part.measures.forEach((measure, index) => reader.readMeasure(measure, part.measures[index + 1]));
  return reader.finish();
}

class VoiceReader {
  private readonly bars: Mutable<Bar>[] = [];
  private readonly slurs: Slur[] = [];
  /** By the file's slur number; null where the slur began on a grace note. */
  private readonly openSlurs = new Map<string, string | null>();
  private readonly verses = new Map<string, number>();
  private readonly usedIds = new Set<string>();
  private divisions = 1;
  private key: Key = C_MAJOR;
  private writtenKey: Key = C_MAJOR;
  private metre: Metre = { beats: 4, unit: 4 };
  private transposition = AS_WRITTEN;
  private tempo: Tempo | null = null;
  private counter = 0;
  private graces: XmlElement[] = [];
  /** The bar that follows begins with a segno. */
  private segnoNext = false;
  /** There is no metre: bars are as long as their notes. */
  private free = false;

  constructor(
    private readonly voice: string,
    private readonly context: VoiceContext,
  ) {}

  readMeasure(measure: XmlElement, next: XmlElement | undefined): void {
    const walk = new MeasureWalk();
    const bar: Mutable<Bar> = {
      id: `b${this.bars.length + 1}`,
      metre: this.metre,
      key: this.key,
      events: [],
      length: 0,
      offset: 0,
      barline: 'single',
    };
    if (this.segnoNext) bar.segno = true;
    this.segnoNext = false;
    let nextKey: Key | null = null;
    for (const element of measure.children) {
      switch (element.name) {
        case 'attributes': {
          const late = this.readAttributes(element, walk.time > 0);
          nextKey = late ?? nextKey;
          Object.assign(bar, walk.time > 0 ? {} : { metre: this.metre, key: this.key });
          break;
        }
        case 'note':
          this.readNote(element, walk);
          break;
        case 'backup':
          walk.move(-this.ticks(element));
          break;
        case 'forward':
          walk.move(this.ticks(element));
          break;
        case 'direction':
          this.readDirection(element, walk, bar);
          break;
        case 'harmony':
          this.readHarmony(element, walk);
          break;
        case 'sound':
          this.readSound(element, walk, bar);
          break;
        case 'barline':
          this.readBarline(element, bar);
          break;
        default:
      }
    }
    bar.events = markTupletEdges(this.eventsOf(bar, walk));
    const last = bar.events.at(-1);
    bar.length = last ? last.at + last.duration : 0;
    if (this.free && bar.length > 0) bar.metre = freeMetre(bar.length);
    this.tellLeft(walk);
    if (next && child(next, 'print')?.attributes['new-system'] === 'yes') this.endLine(bar);
    if (bar.length > 0) this.bars.push(bar);
    if (nextKey) this.key = nextKey;
  }

  finish(): ReadVoice {
    for (const [, from] of this.openSlurs) {
      // A slur that never ends is kept open, so that the desk can show and mend it.
      if (from) this.slurs.push({ from, to: from });
    }
    const bars = this.bars.map((bar, index) =>
      isPickup(this.bars, index) ? { ...bar, offset: barLength(bar.metre) - bar.length } : bar,
    );
    return { bars, slurs: this.slurs, tempo: this.tempo };
  }

  private ticks(element: XmlElement): number {
    const duration = numberOf(element, 'duration') ?? 0;
    return duration > 0 ? Math.min((duration * TICKS_PER_QUARTER) / this.divisions, LONGEST_NOTE) : 0;
  }

  /** @returns a key that changes inside the measure, to hold from the next one on */
  private readAttributes(element: XmlElement, inside: boolean): Key | null {
    const divisions = numberOf(element, 'divisions');
    if (divisions !== undefined && divisions > 0) this.divisions = divisions;
    const transpose = child(element, 'transpose');
    if (transpose) this.transposition = readTranspose(transpose);
    const time = child(element, 'time');
    if (time) {
      this.free = child(time, 'senza-misura') !== undefined;
      this.metre = readTime(time) ?? this.metre;
    }
    const key = child(element, 'key');
    if (!key && !transpose) return null;
    if (key) this.writtenKey = readKey(key);
    const { semitones } = this.transposition;
    const sounding = semitones % 12 === 0 ? this.writtenKey : transposeKey(this.writtenKey, semitones).key;
    if (inside) {
      this.context.notices.add(
        'The key changes inside a bar; its signature is shown from the next bar on. The notes are right.',
        this.context.place(element.at),
      );
      return sounding;
    }
    this.key = sounding;
    return null;
  }

  private readNote(note: XmlElement, walk: MeasureWalk): void {
    const own = voiceOf(note) === this.voice;
    if (child(note, 'cue')) {
      if (own && !child(note, 'rest'))
        this.context.notices.add(
          'Small notes, which are played by others, were left out.',
          this.context.place(note.at),
        );
      // Their time passes all the same.
      if (!child(note, 'grace') && !child(note, 'chord')) walk.move(this.ticks(note));
      return;
    }
    if (child(note, 'grace')) {
      if (own) this.graces.push(note);
      return;
    }
    if (child(note, 'chord')) {
      if (own) walk.addHead(note);
      return;
    }
    const whole = child(note, 'rest')?.attributes['measure'] === 'yes';
    const value = whole ? null : readValue(note);
    const ratio = readRatio(note);
    const duration = this.ticks(note);
    const exact = exactLength(duration, value, ratio);
    // Where our ticks do not divide it, each note takes what the places leave, so that the bar adds up.
    const length = Math.round(walk.time + exact) - Math.round(walk.time);
    if (own) {
      const fits = value !== null && Math.abs(exactLength(0, value, ratio) - exact) < SAME_PLACE;
      walk.add({ length, value: fits || ratio ? value : null, ratio, elements: [note], graces: this.takeGraces(note) });
    }
    walk.move(duration);
  }

  private takeGraces(note: XmlElement): readonly XmlElement[] {
    if (!child(note, 'pitch')) return [];
    const taken = this.graces;
    this.graces = [];
    return taken;
  }

  private readDirection(element: XmlElement, walk: MeasureWalk, bar: Mutable<Bar>): void {
    const found: Direction = readDirection(element);
    const at = walk.time + this.offset(element);
    Object.assign(bar, this.inPlace(found.bar, at, bar));
    if (found.label) bar.label ??= found.label;
    const source = element.at;
    if (found.dynamic) walk.dynamics.push({ at, source, value: found.dynamic });
    // Positions over our own notes are worked out anew.
    const position = this.context.keepIds && POSITION.test(found.words ?? '');
    if (found.words && !position)
      (NO_CHORD.test(found.words) ? walk.chords : walk.words).push({ at, source, value: found.words });
    if (found.tempo) this.setTempo(found.tempo, bar);
    for (const name of found.unknown) {
      this.context.notices.add(
        `The sign “${name.replaceAll('-', ' ')}” was left out; it says nothing to the fingers or the bow here.`,
        this.context.place(element.at),
      );
    }
  }

  /** A coda sign at the end of a bar says where to leave, at its start where to go on. */
  private inPlace(way: Partial<Bar>, at: Ticks, bar: Bar): Partial<Bar> {
    if (!way.coda || at < barLength(bar.metre) / 2) return way;
    const { coda: _, ...rest } = way;
    return { ...rest, toCoda: true };
  }

  private readSound(element: XmlElement, walk: MeasureWalk, bar: Mutable<Bar>): void {
    Object.assign(bar, this.inPlace(readWay(element, ''), walk.time, bar));
    const tempo = readSoundTempo(element);
    if (tempo) this.setTempo(tempo, bar);
  }

  private setTempo(tempo: Tempo, bar: Mutable<Bar>): void {
    if (this.bars.length === 0 && !this.tempo) this.tempo = tempo;
    else if (this.bars.length > 0) bar.tempo ??= tempo;
  }

  private offset(element: XmlElement): number {
    return ((numberOf(element, 'offset') ?? 0) * TICKS_PER_QUARTER) / this.divisions;
  }

  private readHarmony(element: XmlElement, walk: MeasureWalk): void {
    const symbol = readHarmony(element);
    if (symbol) walk.chords.push({ at: walk.time + this.offset(element), source: element.at, value: symbol });
  }

  private readBarline(element: XmlElement, bar: Mutable<Bar>): void {
    const style = textOf(element, 'bar-style');
    const repeat = child(element, 'repeat');
    const ending = child(element, 'ending');
    const before = this.bars.at(-1);
    if (element.attributes['location'] === 'left') {
      if (child(element, 'segno')) bar.segno = true;
      if (child(element, 'coda')) bar.coda = true;
      if (repeat?.attributes['direction'] === 'forward') bar.repeatStart = true;
      if (ending?.attributes['type'] === 'start') this.startEnding(ending, bar);
      if (!repeat && before?.barline === 'single') before.barline = BARLINES[style] ?? 'single';
      return;
    }
    if (element.attributes['location'] === 'middle') return;
    // At the end of a bar a segno belongs to the next one, and a coda says where to leave.
    if (child(element, 'segno')) this.segnoNext = true;
    if (child(element, 'coda')) bar.toCoda = true;
    if (repeat?.attributes['direction'] === 'backward') {
      const times = Number(repeat.attributes['times']);
      bar.repeatEnd = Number.isInteger(times) && times >= 2 && times <= 20 ? times : 2;
    } else bar.barline = BARLINES[style] ?? 'single';
    if (ending && ending.attributes['type'] !== 'start') bar.endingStop = true;
    if (bar.repeatEnd && bar.endingStop) this.raiseRepeat(bar);
  }

  private startEnding(ending: XmlElement, bar: Mutable<Bar>): void {
    const numbers = readEndings(ending.attributes['number'] || ending.text);
    if (numbers.length > 0) bar.endings = numbers;
    else this.context.notices.add('An ending without a number is shown as a plain bar.', this.context.place(ending.at));
  }

  /** A section with endings 1 to 3 is played once for each, whatever its repeat sign says. */
  private raiseRepeat(bar: Mutable<Bar>): void {
    const opening = bar.endings ? bar : this.bars.findLast((other) => other.endings);
    if (opening?.endings) bar.repeatEnd = Math.max(bar.repeatEnd ?? 2, Math.max(...opening.endings) + 1);
  }

  private endLine(bar: Mutable<Bar>): void {
    const index = bar.events.findLastIndex((event) => event.kind === 'note');
    const events = [...bar.events];
    if (index < 0) return;
    events[index] = { ...(events[index] as Note), lineEnd: true };
    bar.events = events;
  }

  /** What stands after the last note of a bar has nothing to stand at. */
  private tellLeft(walk: MeasureWalk): void {
    const left = [
      ...walk.chords.map(({ value, source }) => ({ what: `The chord symbol “${value}”`, source })),
      ...walk.words.map(({ value, source }) => ({ what: `The words “${value}”`, source })),
      ...walk.dynamics.map(({ value, source }) => ({ what: `The sign “${value}”`, source })),
    ];
    for (const { what, source } of left)
      this.context.notices.add(`${what} after the last note of a bar was left out.`, this.context.place(source));
  }

  /** The voice's events in order, gaps filled with rests that are not printed. */
  private eventsOf(bar: Bar, walk: MeasureWalk): readonly TuneEvent[] {
    const events: TuneEvent[] = [];
    let time: Ticks = 0;
    const fill = (until: Ticks, invisible: boolean) => {
      for (const { at, duration, value } of writeDuration(time, until - time, bar.metre)) {
        events.push({ kind: 'rest', id: this.nextId(), at, duration, value, ...(invisible && { invisible }) });
        time = at + duration;
      }
    };
    for (const raw of [...walk.events].sort((a, b) => a.at - b.at)) {
      const at = Math.abs(raw.at - time) < SAME_PLACE ? time : raw.at;
      if (at < time) {
        this.context.notices.add(
          'A note begins before the one before it in its voice has ended; it was left out.',
          this.context.place(raw.elements[0]!.at),
          'Give it a voice of its own in the program it comes from.',
        );
        continue;
      }
      fill(at, true);
      for (const event of this.build(raw, time, bar, walk)) {
        events.push(event);
        time = event.at + event.duration;
      }
    }
    const end = Math.abs(walk.end - time) < SAME_PLACE ? time : Math.round(walk.end);
    if (events.length === 0) fill(end > 0 ? end : barLength(bar.metre), false);
    else if (end > time) fill(end, true);
    return events;
  }

  private build(raw: RawEvent, at: Ticks, bar: Bar, walk: MeasureWalk): readonly TuneEvent[] {
    const [first] = raw.elements;
    const heads = raw.elements.flatMap((element) => {
      const pitch = readPitch(element, this.transposition, this.context);
      return pitch ? [readHead(element, pitch)] : [];
    });
    if (raw.length <= 0) return [];
    if (heads.length === 0 && child(first, 'unpitched')) {
      this.context.notices.add('Notes without a pitch were read as rests.', this.context.place(first!.at));
    }
    const end = at + raw.length;
    const chords = walk.takeAll(walk.chords, end);
    const annotation = walk
      .takeAll(walk.words, end)
      .map(({ value }) => value)
      .join(' ');
    const base = {
      ...(raw.ratio && { tuplet: { ...raw.ratio, ...tupletEdge(first!) } }),
      source: this.context.place(first!.at),
    };
    // A chord that comes while a note is held needs a note to stand at: the note is tied to itself there.
    const later = chords.filter((chord) => chord.at > at + SAME_PLACE).map((chord) => Math.round(chord.at));
    const splits = raw.ratio ? [] : [...new Set(later)];
    const pieces =
      raw.value && splits.length === 0
        ? [{ at, duration: raw.length, value: raw.value }]
        : [at, ...splits].flatMap((from, index, all) => piecesOf(from, (all[index + 1] ?? end) - from, bar.metre));
    const symbols = new Map(
      pieces.map((piece) => [
        piece.at,
        chords.find((chord) => Math.abs(Math.max(chord.at, at) - piece.at) <= SAME_PLACE),
      ]),
    );
    const standing = new Set(symbols.values());
    for (const { value, source } of chords.filter((chord) => !standing.has(chord)))
      this.context.notices.add(
        `The chord symbol “${value}” was left out: no note begins there for it.`,
        this.context.place(source),
      );
    return pieces.map((piece, index): TuneEvent => {
      const start = index === 0;
      const id = this.nextId(start ? first!.attributes['id'] : undefined);
      const chordSymbol = symbols.get(piece.at)?.value;
      const own = {
        ...piece,
        id,
        ...base,
        ...(chordSymbol && { chordSymbol }),
        ...(start && annotation && { annotation }),
      };
      if (heads.length === 0) {
        const invisible = first!.attributes['print-object'] === 'no';
        return { kind: 'rest', ...own, ...(invisible && { invisible }) };
      }
      return this.note(own, heads, raw, index, pieces.length, walk);
    });
  }

  private note(
    own: Omit<Note, 'kind' | 'heads'>,
    heads: readonly Head[],
    raw: RawEvent,
    index: number,
    count: number,
    walk: MeasureWalk,
  ): Note {
    const start = index === 0;
    const last = index === count - 1;
    const sorted = [...heads].sort((a, b) => midi(a.pitch) - midi(b.pitch));
    const signs = start ? readSigns(raw.elements[0]!, this.context) : {};
    const [first, ...others] = walk.takeAll(walk.dynamics, own.at + own.duration);
    for (const { value, source } of others)
      this.context.notices.add(
        `The sign “${value}” was left out: the note has another one.`,
        this.context.place(source),
      );
    const dynamic = first?.value ?? (start ? signs.dynamic : undefined);
    const words = start ? readLyrics(raw.elements[0]!, this.verses) : undefined;
    const graces = start ? this.readGraces(raw.graces, own.id) : [];
    if (start) this.readSlurs(raw, own.id);
    return {
      kind: 'note',
      ...own,
      heads: last ? sorted : sorted.map((head) => ({ ...head, tied: true })),
      ...(graces.length > 0 && { graces }),
      ...signs,
      ...(dynamic && { dynamic }),
      ...(words && { words }),
    };
  }

  private readGraces(elements: readonly XmlElement[], id: string): readonly Grace[] {
    return elements.flatMap((element, index) => {
      const pitch: Pitch | null = readPitch(element, this.transposition, this.context);
      const slash = child(element, 'grace')?.attributes['slash'] === 'yes';
      if (!pitch) return [];
      const { finger, string } = readHead(element, pitch);
      return [
        {
          id: `${id}g${index + 1}`,
          pitch,
          ...(slash && { slash }),
          ...(finger !== undefined && { finger }),
          ...(string !== undefined && { string }),
        },
      ];
    });
  }

  private readSlurs(raw: RawEvent, id: string): void {
    const marks = (elements: readonly XmlElement[]) =>
      elements.flatMap((note) => children(note, 'notations')).flatMap((notations) => children(notations, 'slur'));
    for (const { attributes } of marks(raw.graces)) {
      if (attributes['type'] === 'start') this.openSlurs.set(attributes['number'] ?? '1', null);
    }
    for (const { attributes } of marks(raw.elements)) {
      const number = attributes['number'] ?? '1';
      const open = this.openSlurs.get(number);
      if (attributes['type'] === 'start') this.openSlurs.set(number, id);
      else if (attributes['type'] === 'stop') {
        this.openSlurs.delete(number);
        if (open && open !== id) this.slurs.push({ from: open, to: id });
      }
    }
  }

  /** Ids of our own files are kept, so that decisions made for them still find their notes. */
  private nextId(wanted?: string): string {
    if (this.context.keepIds && wanted && /^n[\w.]{1,40}$/.test(wanted) && !this.usedIds.has(wanted)) {
      this.usedIds.add(wanted);
      return wanted;
    }
    do this.counter += 1;
    while (this.usedIds.has(`n${this.counter}`));
    this.usedIds.add(`n${this.counter}`);
    return `n${this.counter}`;
  }
}

/** "No chord" has no root to be written with, so it comes as words. */
const NO_CHORD = /^N\.? ?C\.?$/;

const POSITION = /^(½|I{1,3}|IV|VI{0,3})$/;

const BARLINES: Readonly<Record<string, Barline>> = {
  'light-light': 'double',
  'light-heavy': 'final',
  'heavy-light': 'double',
  'heavy-heavy': 'final',
  none: 'invisible',
};

function tupletEdge(note: XmlElement): { edge?: 'start' | 'stop' } {
  const marks = children(note, 'notations').flatMap((notations) => children(notations, 'tuplet'));
  const type = marks[0]?.attributes['type'];
  return type === 'start' || type === 'stop' ? { edge: type } : {};
}

function piecesOf(at: Ticks, length: Ticks, metre: Metre) {
  const whole = valueOf(length);
  return whole ? [{ at, duration: length, value: whole }] : writeDuration(at, length, metre);
}

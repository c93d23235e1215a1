/** One voice of a part, measure by measure, as bars and slurs. */
import {
  C_MAJOR,
  LONGEST_NOTE,
  TICKS_PER_QUARTER,
  barLength,
  freeMetre,
  isPickup,
  markTupletEdges,
  transposeKey,
  type Bar,
  type Barline,
  type Key,
  type Metre,
  type Note,
  type Slur,
  type Tempo,
  type Ticks,
} from '../../music/index.ts';
import { readEndings } from '../abc/elements.ts';
import { EventBuilder, type VoiceContext } from './events.ts';
import { readDirection, readSoundTempo, readWay, type Direction } from './directions.ts';
import { readHarmony } from './harmony.ts';
import { exactLength, readRatio, readValue } from './note.ts';
import { readKey, readTime, readTranspose } from './attributes.ts';
import { MeasureWalk, SAME_PLACE } from './walk.ts';
import { voiceOf, type ScorePart } from './score.ts';
import { child, numberOf, textOf, type XmlElement } from './tree.ts';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

export interface ReadVoice {
  readonly bars: readonly Bar[];
  readonly slurs: readonly Slur[];
  readonly tempo: Tempo | null;
}

export function readVoice(part: ScorePart, voice: string, context: VoiceContext): ReadVoice {
  const reader = new VoiceReader(voice, context);
  part.measures.forEach((measure, index) => reader.readMeasure(measure, part.measures[index + 1]));
  return reader.finish();
}

class VoiceReader {
  private readonly bars: Mutable<Bar>[] = [];
  private divisions = 1;
  private key: Key = C_MAJOR;
  private writtenKey: Key = C_MAJOR;
  private metre: Metre = { beats: 4, unit: 4 };
  private tempo: Tempo | null = null;
  private graces: XmlElement[] = [];
  /** The bar that follows begins with a segno. */
  private segnoNext = false;
  /** There is no metre: bars are as long as their notes. */
  private free = false;

  private readonly events: EventBuilder;

  constructor(
    private readonly voice: string,
    private readonly context: VoiceContext,
  ) {
    this.events = new EventBuilder(context);
  }

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
    bar.events = markTupletEdges(this.events.eventsOf(bar, walk));
    const last = bar.events.at(-1);
    bar.length = last ? last.at + last.duration : 0;
    if (this.free && bar.length > 0) bar.metre = freeMetre(bar.length);
    this.tellLeft(walk);
    if (next && child(next, 'print')?.attributes['new-system'] === 'yes') this.endLine(bar);
    if (bar.length > 0) this.bars.push(bar);
    if (nextKey) this.key = nextKey;
  }

  finish(): ReadVoice {
    const bars = this.bars.map((bar, index) =>
      isPickup(this.bars, index) ? { ...bar, offset: barLength(bar.metre) - bar.length } : bar,
    );
    return { bars, slurs: this.events.allSlurs(), tempo: this.tempo };
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
    if (transpose) this.events.transposition = readTranspose(transpose);
    const time = child(element, 'time');
    if (time) {
      this.free = child(time, 'senza-misura') !== undefined;
      this.metre = readTime(time) ?? this.metre;
    }
    const key = child(element, 'key');
    if (!key && !transpose) return null;
    if (key) this.writtenKey = readKey(key);
    const { semitones } = this.events.transposition;
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

/** The notes and rests of a voice: chords of notes, graces, ties, words, slurs, and rests where nothing is written. */
import {
  barLength,
  midi,
  valueOf,
  writeDuration,
  type Bar,
  type Grace,
  type Head,
  type Metre,
  type Note,
  type Pitch,
  type Slur,
  type Ticks,
  type TuneEvent,
} from '../../music/index.ts';
import { readHead, readLyrics, readPitch, readSigns, type NoteContext, type Transposition } from './note.ts';
import { SAME_PLACE, type MeasureWalk, type RawEvent } from './walk.ts';
import { child, children, type XmlElement } from './tree.ts';

export interface VoiceContext extends NoteContext {
  /** The file is our own: note ids are taken over. */
  readonly keepIds: boolean;
}

const AS_WRITTEN: Transposition = { steps: 0, semitones: 0 };

export class EventBuilder {
  /** What the part sounds beside what is written; measures may change it. */
  transposition = AS_WRITTEN;
  private readonly slurs: Slur[] = [];
  /** By the file's slur number; null where the slur began on a grace note. */
  private readonly openSlurs = new Map<string, string | null>();
  private readonly verses = new Map<string, number>();
  private readonly usedIds = new Set<string>();
  private counter = 0;

  constructor(private readonly context: VoiceContext) {}

  /** The voice's events in order, gaps filled with rests that are not printed. */
  eventsOf(bar: Bar, walk: MeasureWalk): readonly TuneEvent[] {
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

  /** A slur that never ends is kept open, so that the desk can show and mend it. */
  allSlurs(): readonly Slur[] {
    return [...this.slurs, ...[...this.openSlurs.values()].flatMap((from) => (from ? [{ from, to: from }] : []))];
  }
}

function tupletEdge(note: XmlElement): { edge?: 'start' | 'stop' } {
  const marks = children(note, 'notations').flatMap((notations) => children(notations, 'tuplet'));
  const type = marks[0]?.attributes['type'];
  return type === 'start' || type === 'stop' ? { edge: type } : {};
}

function piecesOf(at: Ticks, length: Ticks, metre: Metre) {
  const whole = valueOf(length);
  return whole ? [{ at, duration: length, value: whole }] : writeDuration(at, length, metre);
}

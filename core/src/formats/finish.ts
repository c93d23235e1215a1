/**
 * How every reader ends: what it made is brought into what the store takes. Texts are cleaned, what is larger than
 * music can be is cut with a notice, and a tune that is still not sound is refused, alone and with its place.
 */
import {
  LIMITS,
  barNumbers,
  isNote,
  soundnessFault,
  type Bar,
  type Fault,
  type Note,
  type Place,
  type Syllable,
  type Tempo,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import type { Problem, ReadResult } from './problem.ts';
import { Notices } from './notices.ts';

/**
 * @param tune as a reader made it, in any state
 * @param notices what the reader had to say already
 * @example finished({ ...reel, title: 'Tar\u0000 Barrel' }, []).value.title // 'Tar Barrel'
 */
export function finished(tune: Tune, notices: readonly Problem[]): ReadResult<Tune> {
  const own = new Notices();
  const whole = new Finishing(own).tune(tune);
  const fault = soundnessFault(whole);
  if (fault) return { ok: false, problems: [...notices, ...own.all(), refusal(whole, fault)] };
  return { ok: true, value: whole, notices: [...notices, ...own.all()] };
}

function refusal(tune: Tune, { message, path }: Fault): Problem {
  const index = path[0] === 'bars' && typeof path[1] === 'number' ? path[1] : null;
  const bar = index === null ? undefined : tune.bars[index];
  const where = index === null ? `${path.join('.') || 'the tune'}` : `bar ${barNumbers(tune.bars)[index] ?? index + 1}`;
  return {
    severity: 'error',
    message: `This tune does not add up in ${where}: ${message}`,
    remedy: 'Mend it in the program it comes from, or leave this bar out and type it in on the Tune pass.',
    ...bar?.events.find(({ source }) => source)?.source,
  };
}

/** Control signs of old programs, zero among them, but for line breaks. */
// oxlint-disable-next-line no-control-regex -- such signs are what is looked for
const CONTROL = /[\u0000-\u0009\u000B-\u001F\u007F]/g;

/**
 * Text as it can be stored: without control signs, and no half of a pair of signs.
 * @example keepable('Tar\u0000') // 'Tar'
 */
export const keepable = (text: string): string => text.toWellFormed().replace(CONTROL, '');

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

class Finishing {
  constructor(private readonly notices: Notices) {}

  tune(tune: Tune): Tune {
    return {
      ...tune,
      title: this.line(tune.title, LIMITS.title, 'The title') || 'Untitled',
      alsoKnownAs: this.list(tune.alsoKnownAs, LIMITS.names, 'further titles').map((name) =>
        this.line(name, LIMITS.field, 'A further title'),
      ),
      composer: this.line(tune.composer, LIMITS.field, 'The composer’s name'),
      origin: this.line(tune.origin, LIMITS.field, 'The origin'),
      style: this.line(tune.style, LIMITS.style, 'The rhythm'),
      notes: this.list(tune.notes, LIMITS.notes, 'remarks').map((note) => this.text(note, LIMITS.note, 'A remark')),
      tempo: tune.tempo && this.tempo(tune.tempo),
      bars: tune.bars.map((bar) => this.bar(bar)),
      slurs: this.slurs(tune),
    };
  }

  /** Text of one line: between two words there is one space, whatever the file has. */
  private line(text: string, most: number, what: string): string {
    return this.text(text.replace(/\s+/gu, ' '), most, what).trim();
  }

  private text(text: string, most: number, what: string, place: Partial<Place> = {}): string {
    const clean = keepable(text);
    if (clean.length <= most) return clean;
    this.notices.add(`${what} is longer than ${most} letters and was cut.`, place);
    // A pair of signs that the cut would part goes as a whole.
    return clean.slice(0, most).replace(/[\uD800-\uDBFF]$/, '');
  }

  private list<T>(list: readonly T[], most: number, what: string, place: Partial<Place> = {}): readonly T[] {
    if (list.length > most) this.notices.add(`There are more than ${most} ${what}; the rest was left out.`, place);
    return list.slice(0, most);
  }

  private tempo({ beat, bpm, text }: Tempo): Tempo | null {
    const fits = Number.isInteger(beat) && beat > 0 && bpm >= LIMITS.slowest && bpm <= LIMITS.fastest;
    if (!fits) {
      this.notices.add('The tempo was not understood and was left out.', {}, 'Set it on the Tune pass.');
      return null;
    }
    return { beat, bpm, ...(text && { text: this.text(text, LIMITS.tempoText, 'The word for the tempo') }) };
  }

  private bar({ endings, tempo, label, ...bar }: Bar): Bar {
    const place = bar.events.find(({ source }) => source)?.source ?? {};
    const numbers = endings?.filter((number) => Number.isInteger(number) && number >= 1 && number <= LIMITS.times);
    if (numbers && numbers.length < endings!.length) {
      this.notices.add(`An ending has a number that is not from 1 to ${LIMITS.times}; it was left out.`, place);
    }
    const speed = tempo && this.tempo(tempo);
    const words = label && this.text(label, LIMITS.label, 'A part’s name', place).trim();
    return {
      ...bar,
      events: bar.events.map((event) => this.event(event)),
      ...(numbers && numbers.length > 0 && { endings: numbers.slice(0, LIMITS.times) }),
      ...(speed && { tempo: speed }),
      ...(words && { label: words }),
    };
  }

  private event({ chordSymbol, annotation, ...event }: TuneEvent): TuneEvent {
    const place = event.source ?? {};
    const chord = chordSymbol && this.text(chordSymbol, LIMITS.chordSymbol, 'A chord’s name', place);
    const said = annotation && this.text(annotation, LIMITS.annotation, 'A text over the notes', place);
    const texts = { ...(chord && { chordSymbol: chord }), ...(said && { annotation: said }) };
    const whole = { ...event, ...texts } as TuneEvent;
    return isNote(whole) ? this.note(whole, place) : whole;
  }

  private note({ words, graces, decorations, ...note }: Note, place: Partial<Place>): Note {
    const rest: Mutable<Partial<Note>> = {};
    if (words) {
      rest.words = this.list(words, LIMITS.verses, 'verses', place).map((word) => word && this.syllable(word, place));
    }
    if (graces) {
      // The nearest to the note are the ones that are heard as its own.
      if (graces.length > LIMITS.graces) this.list(graces, LIMITS.graces, 'grace notes before one note', place);
      rest.graces = graces.slice(-LIMITS.graces);
    }
    if (decorations) rest.decorations = [...new Set(decorations)].slice(0, LIMITS.decorations);
    if (note.heads.length > LIMITS.heads) {
      this.notices.add(`A chord has more than ${LIMITS.heads} notes; its highest were taken.`, place);
    }
    const heads = note.heads.slice(-LIMITS.heads).map(({ otherFingers, ...head }) => ({
      ...head,
      ...(otherFingers && { otherFingers: otherFingers.slice(0, LIMITS.otherFingers) }),
    }));
    return { ...note, heads, ...rest };
  }

  private syllable({ text, ...word }: Syllable, place: Partial<Place>): Syllable {
    return { text: this.text(text, LIMITS.syllable, 'A syllable', place), ...word };
  }

  /** Slurs between notes that are there. */
  private slurs({ bars, slurs }: Tune): Tune['slurs'] {
    const ids = new Set(bars.flatMap(({ events }) => events.map(({ id }) => id)));
    return slurs.filter(({ from, to }) => ids.has(from) && ids.has(to));
  }
}
